<script setup lang="ts">
import { format } from '@alluvium/core';
import { replacement, withScales, type Source } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import RangesTable from '../heads/RangesTable.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import { useSettings } from '../state/settings.js';

/** What a bench measures with: its meter, its known error, and its full scales, each set from a day on. */
const props = defineProps<{ bench: Source }>();
const settings = useSettings();
const change = useChange('here');
const form = useRecordForm(
  'source',
  () => props.bench,
  () => props.bench as Draft<'source'>,
  (s) => `${s.name} saved.`,
);
const { draft, problems } = form;
const sets = computed(() => props.bench.scales.toSorted((a, b) => b.since.localeCompare(a.since)));
const since = ref('');
const ranges = ref<Source['scales'][number]['ranges']>([]);
const unreadable = ref<Record<string, string>>({});
const problem = ref('');
/** New figures begin as the last ones were: mostly one of them moved. */
const begin = () => {
  since.value = today();
  ranges.value = sets.value[0]?.ranges ?? [];
  problem.value = '';
};
watch(() => props.bench.id, begin, { immediate: true });
const said = (q: (typeof ranges.value)[number]['intake']) => (q ? format(q.si, 'flow', settings.figures) : '–');

async function keep(): Promise<void> {
  problem.value =
    Object.values(unreadable.value).find(Boolean) ??
    (since.value === ''
      ? 'Say from which day these full scales hold.'
      : ranges.value.length
        ? ''
        : 'Name at least one range.');
  if (problem.value) return;
  const made = await change.make(
    [replacement('source', withScales(props.bench, since.value, ranges.value))],
    `${props.bench.name} has these full scales from ${since.value}. Sheets of before keep theirs.`,
  );
  problem.value = change.refusal.value;
  if (made) begin();
}
async function remove(day: string): Promise<void> {
  await change.make(
    [replacement('source', { ...props.bench, scales: props.bench.scales.filter((s) => s.since !== day) })],
    `The full scales from ${settings.say.day(day)} are removed; sheets read by them keep them as their own.`,
  );
  problem.value = change.refusal.value;
}
</script>

<template>
  <section class="scales">
    <h2>What {{ bench.name }} measures with</h2>
    <form class="bench" data-own-keys @submit.prevent="form.save()">
      <TextField
        v-model="draft.meter"
        label="Meter"
        placeholder="orifice plates, slanted gauge"
        :problem="problems.meter"
      />
      <FormQuantity :form="form" field="knownError" kind="percent" label="Known error" placeholder="+1.5 %" />
      <FormFoot class="wide" :form="form" save-word="Save the bench" />
    </form>
    <h2>Full scales</h2>
    <table v-if="sets.length" class="ruled">
      <thead>
        <tr>
          <th>from</th>
          <th>range</th>
          <th class="num">intake</th>
          <th class="num">exhaust</th>
          <th></th>
        </tr>
      </thead>
      <tbody v-for="s in sets" :key="s.since">
        <tr v-for="(r, i) in s.ranges" :key="r.name">
          <td>{{ i === 0 ? settings.say.day(s.since) : '' }}</td>
          <td>{{ r.name }}</td>
          <td class="num">{{ said(r.intake) }}</td>
          <td class="num">{{ said(r.exhaust) }}</td>
          <td>
            <el-button
              v-if="i === 0"
              link
              :aria-label="`Remove the full scales from ${settings.say.day(s.since)}`"
              @click="remove(s.since)"
            >
              Remove
            </el-button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="note">No full scales are kept with this bench: a bench that reads flow needs none.</p>
    <h3>New full scales</h3>
    <form data-own-keys @submit.prevent="keep">
      <TextField v-model="since" class="since" label="They hold from" type="date" />
      <RangesTable v-model="ranges" @typing="(path, p) => (unreadable[path] = p)" />
      <p>
        <el-button native-type="submit" :loading="change.busy.value">Save these full scales</el-button>
        <span class="note">A sheet is read by those of its own day.</span>
      </p>
      <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
    </form>
  </section>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 8px 22px;
  max-width: 620px;
}
.wide {
  grid-column: 1 / -1;
}
.since {
  max-width: 180px;
}
h2,
h3 {
  margin: 18px 0 4px;
}
p .note {
  margin-left: 14px;
}
</style>
