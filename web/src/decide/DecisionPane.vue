<script setup lang="ts">
import { format, type Ranked } from '@alluvium/core';
import {
  addition,
  decisionContent,
  removal,
  standingToday,
  type Build,
  type Decision,
  type WayRead,
} from '@alluvium/records';
import { computed, reactive, ref } from 'vue';
import { today } from '../data/today.js';
import { useListOf } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import TextField from '../parts/TextField.vue';
import { useSettings } from '../state/settings.js';

/** What was decided: the way, who, why, why not the others, what stays open. Kept with its figures as they stood. */
const props = defineProps<{ build: Build; ways: readonly WayRead[]; ranked: Ranked; words: readonly string[] }>();
const settings = useSettings();
const change = useChange('here');
const removing = useChange();
const query = useListOf('decision');
const decisions = computed(() => (query.data.value ?? []).filter((d) => d.buildId === props.build.id));
const said = reactive({ wayId: '', by: '', reasons: '', rejected: '', risks: '' });
const problem = ref('');

async function keep(): Promise<void> {
  const chosen = props.ways.find((w) => w.way.id === said.wayId);
  problem.value = !chosen ? 'Say which way is chosen.' : said.reasons.trim() === '' ? 'Say why.' : '';
  if (!chosen || problem.value) return;
  const { by, reasons, rejected, risks } = said;
  const made = await change.make(
    [
      addition('decision', {
        buildId: props.build.id,
        made: today(),
        by,
        reasons,
        rejected,
        risks,
        content: decisionContent(props.ways, props.build, props.ranked, chosen.way.name, props.words),
      }),
    ],
    `Decided: ${chosen.way.name}.`,
  );
  problem.value = change.refusal.value;
  if (made) Object.assign(said, { wayId: '', reasons: '', rejected: '', risks: '' });
}
const now = (d: Decision) => standingToday(d, props.ways, props.build, props.ranked).said;
const money = (v: number) => `${format(v, 'money', settings.figures)} ${props.build.currency}`.trim();
const power = (v: number | null) => (v === null ? '–' : format(v, 'power', settings.figures, { digits: 0 }));
const remove = (d: Decision) => removing.make([removal('decision', d.id)], `The decision of ${d.made} is removed.`);
</script>

<template>
  <div>
    <h2>Decision</h2>
    <form class="keep no-print" @submit.prevent="keep">
      <ChoiceField
        v-model="said.wayId"
        label="The way chosen"
        :options="[['', 'not yet'] as const, ...ways.map((w) => [w.way.id, w.way.name] as const)]"
      />
      <TextField v-model="said.by" label="Who decides" />
      <TextField v-model="said.reasons" class="wide" type="textarea" label="Why" />
      <TextField v-model="said.rejected" type="textarea" label="Why not the others" />
      <TextField v-model="said.risks" type="textarea" label="What stays open" />
      <p class="wide">
        <el-button type="primary" native-type="submit">Decide</el-button>
        <span v-if="problem" class="loss" role="alert">{{ problem }}</span>
      </p>
    </form>
    <article v-for="d in decisions" :key="d.id" class="made">
      <h3>
        {{ d.content.chosen }}
        <span class="note">{{ settings.say.day(d.made) }}{{ d.by ? `, ${d.by}` : '' }}</span>
        <el-button link class="no-print" :aria-label="`Remove the decision of ${d.made}`" @click="remove(d)">
          Remove
        </el-button>
      </h3>
      <p v-if="d.reasons">{{ d.reasons }}</p>
      <p v-if="d.rejected" class="note">Not the others: {{ d.rejected }}</p>
      <p v-if="d.risks" class="caution">Open: {{ d.risks }}</p>
      <table class="ruled">
        <tbody>
          <tr v-for="w in d.content.ways" :key="w.name">
            <td>{{ w.name }}</td>
            <td class="num">{{ money(w.cost) }}</td>
            <td class="num">{{ power(w.power) }}</td>
            <td>{{ w.degree }}</td>
            <td class="num">{{ settings.say.of(w.wins, 'percent', { digits: 0 }) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-for="n in now(d)" :key="n" class="note">{{ n }}</p>
    </article>
  </div>
</template>

<style scoped>
.keep {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px 20px;
}
.wide {
  grid-column: 1 / -1;
  margin: 0;
}
.made {
  margin-top: 14px;
  border-left: 3px solid var(--ink);
  padding-left: 14px;
}
.made p {
  margin: 2px 0;
}
</style>
