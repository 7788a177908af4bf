<script setup lang="ts">
import {
  believing,
  portName,
  replacement,
  testedTwice,
  type Sheet,
  type TestedTwice,
  type WholeHead,
} from '@alluvium/records';
import { computed, reactive } from 'vue';
import { useChange } from '../data/useChange.js';
import TextField from '../parts/TextField.vue';
import { useSettings } from '../state/settings.js';

// t.sheets[]!: two at least.
// reasons[]!: made for each when it is listed.

/** Ports tested more than once in the same way: read as one, or one of them believed; decided here, read everywhere. */
const props = defineProps<{ whole: WholeHead; stageId: string }>();
const settings = useSettings();
const change = useChange('here');
const twice = computed(() => testedTwice(props.whole, props.stageId));
const reasons = reactive<Record<string, string>>({});
const keyOf = (t: TestedTwice) => t.sheets.map((s) => s.id).join();
const nameOf = (t: TestedTwice) => portName(props.whole.ports, t.sheets[0]!.intakePortId) ?? t.sheets[0]!.title;
const words = (t: TestedTwice) =>
  t.believed.length === t.sheets.length
    ? `${nameOf(t)} was tested ${t.sheets.length} times in the same way; the mean of them is read.`
    : t.believed.length === 0
      ? `${nameOf(t)}: every test of it is set aside.`
      : `${nameOf(t)}: ${t.believed.map((s) => `“${s.title}”`).join(' and ')} ${t.believed.length === 1 ? 'is' : 'are'} believed.`;
async function believe(t: TestedTwice, only: Sheet | null): Promise<void> {
  const changed = believing(t, only, reasons[keyOf(t)] ?? '');
  if (changed.length === 0) return;
  await change.make(
    changed.map((s) => replacement('sheet', s)),
    only ? `“${only.title}” is believed.` : 'They are read as one.',
  );
}
</script>

<template>
  <section v-if="twice.length" aria-label="Tested more than once">
    <h2>Tested more than once</h2>
    <div v-for="t in twice" :key="keyOf(t)" class="twice">
      <p class="reading">{{ words(t) }}</p>
      <ul>
        <li v-for="s in t.sheets" :key="s.id">
          {{ s.title }}
          <span class="note">{{ settings.say.day(s.date ?? '') }}</span>
          <span v-if="s.setAside" class="caution">set aside: {{ s.setAside }}</span>
          <el-button
            link
            :aria-label="`Believe ${s.title}${s.date ? ` of ${settings.say.day(s.date)}` : ''} alone`"
            @click="believe(t, s)"
          >
            Trust this one
          </el-button>
        </li>
      </ul>
      <div class="why">
        <TextField v-model="reasons[keyOf(t)]!" label="Why the others are set aside" placeholder="the plate leaked" />
        <el-button link @click="believe(t, null)">Read them as one</el-button>
      </div>
    </div>
    <p v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</p>
  </section>
</template>

<style scoped>
ul {
  margin: 2px 0;
  padding-left: 18px;
}
li button,
li span {
  margin-left: 10px;
}
.why {
  display: flex;
  gap: 14px;
  align-items: end;
  max-width: 460px;
}
.why > :first-child {
  flex: 1;
}
</style>
