<script setup lang="ts">
import { format } from '@alluvium/core';
import { replacement, withScales, type Setup, type Source } from '@alluvium/records';
import { computed } from 'vue';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import { useSettings } from '../state/settings.js';
import RangesTable from './RangesTable.vue';

// props.bench!: scales are shown of a bench.

/** Full scales a test was read by: those of its bench from one of its days, or figures of the test's own. */
type Ranges = Setup['ranges'];
const props = defineProps<{
  ranges: Ranges;
  since: string | null;
  /** Where it was tested; undefined where nobody said. */
  bench: Source | undefined;
  /** The day of the test: figures kept with the bench hold from it on. */
  day: string;
}>();
const emit = defineEmits<{ change: [{ scales: string | null; ranges: Ranges }]; typing: [string, string] }>();
const settings = useSettings();
const change = useChange();
const scales = computed(() => (props.bench?.scales ?? []).toSorted((a, b) => b.since.localeCompare(a.since)));
const options = computed(() => [
  ...scales.value.map((s) => [s.since, `the bench’s, from ${settings.say.day(s.since)}`] as const),
  [null, 'typed here, for this test'] as const,
]);
const pick = (since: string | null) =>
  emit('change', { scales: since, ranges: scales.value.find((s) => s.since === since)?.ranges ?? props.ranges });
const said = (q: Ranges[number]['intake']) => (q ? format(q.si, 'flow', settings.figures) : '–');
/** The figures typed here become the bench's own, and this test points to them. */
async function keep(): Promise<void> {
  const bench = props.bench!;
  const made = await change.make(
    [replacement('source', withScales(bench, props.day, props.ranges))],
    `Kept with ${bench.name}, from ${settings.say.day(props.day)}.`,
  );
  if (made) emit('change', { scales: props.day, ranges: props.ranges });
}
</script>

<template>
  <div class="scales">
    <ChoiceField
      v-if="scales.length"
      :model-value="since"
      label="Full scales"
      :options="options"
      @update:model-value="pick"
    />
    <RangesTable
      v-if="since === null"
      :model-value="ranges"
      @update:model-value="emit('change', { scales: null, ranges: $event })"
      @typing="(path, p) => emit('typing', path, p)"
    />
    <p v-if="since === null && bench && ranges.length" class="note">
      <el-button link :disabled="change.busy.value" @click="keep">
        Save them with {{ bench.name }}, from {{ day }}
      </el-button>
    </p>
    <table v-if="since !== null" class="ruled" aria-label="Full scales of the bench">
      <thead>
        <tr>
          <th>range</th>
          <th class="num">intake</th>
          <th class="num">exhaust</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in ranges" :key="r.name">
          <td>{{ r.name }}</td>
          <td class="num">{{ said(r.intake) }}</td>
          <td class="num">{{ said(r.exhaust) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="since !== null" class="note">
      Kept with the bench: what is put right there is right here too.
      <RouterLink :to="{ name: 'bench', query: { pane: 'checks' } }">Bench, calibration</RouterLink>
    </p>
  </div>
</template>

<style scoped>
.scales {
  margin: 8px 0;
}
.note {
  margin: 3px 0 0;
}
</style>
