<script setup lang="ts">
import type { Kind, SpeedResult } from '@alluvium/core';
import { computed, ref } from 'vue';
import ChoiceRow from '../parts/ChoiceRow.vue';
import HeadPick from './HeadPick.vue';
import type { ReadyHead } from './ready.js';
import SweepChart, { type Line } from './SweepChart.vue';
import type { Curve } from './useSweep.js';

// curve.band[]!: a band has one for each point.
// find()!: one of the list is chosen.

/** One quantity of every head over speed, with the range of one of them. */
const props = defineProps<{
  heads: readonly ReadyHead[];
  curves: ReadonlyMap<string, Curve>;
  /** Wanted at the target's speed, W. */
  power: number;
  target: number;
  working: readonly [number, number];
  /** Why there is nothing to draw yet. */
  empty: string;
}>();
const QUANTITIES = [
  ['power', 'Power'],
  ['torque', 'Torque'],
  ['volumetricEfficiency', 'VE'],
  ['bmep', 'BMEP'],
  ['chokeMach', 'Mach at choke'],
  ['residual', 'Residuals'],
] as const;
type Shown = (typeof QUANTITIES)[number][0];
const KINDS: Readonly<Record<Shown, Kind>> = {
  power: 'power',
  torque: 'torque',
  volumetricEfficiency: 'percent',
  bmep: 'pressure',
  chokeMach: 'ratio',
  residual: 'percent',
};
const DIGITS: Readonly<Partial<Record<Shown, number>>> = {
  power: 0,
  torque: 0,
  volumetricEfficiency: 0,
  chokeMach: 2,
  residual: 1,
};
const what = ref<Shown>('power');
const bandFor = ref<string>('');
const turn = (p: { speed: number }) => 2 * Math.PI * p.speed;
const lines = computed((): Line[] =>
  props.heads.map((h) => {
    const curve = props.curves.get(h.id);
    const scale = (p: SpeedResult, torque: number) => (what.value === 'power' ? torque * turn(p) : torque);
    const banded = what.value === 'power' || what.value === 'torque';
    return {
      name: h.letter,
      index: h.index,
      points: (curve?.points ?? []).map((p, k) => ({
        speed: p.speed,
        value: p[what.value],
        ...(banded && curve?.band ? { low: scale(p, curve.band[k]!.low), high: scale(p, curve.band[k]!.high) } : {}),
      })),
      ...(banded && h.id === bandHead.value
        ? { ghost: (curve?.single ?? []).map((p) => ({ speed: p.speed, value: p[what.value] })) }
        : {}),
    };
  }),
);
/** Whose band is drawn: one at a time, else nothing could be told. */
const bandHead = computed(() =>
  props.heads.some((h) => h.id === bandFor.value) ? bandFor.value : (props.heads[0]?.id ?? ''),
);
const bandIndex = computed(() => props.heads.find((h) => h.id === bandHead.value)?.index);
const chart = ref<InstanceType<typeof SweepChart>>();
defineExpose({
  get svg() {
    return chart.value?.svg;
  },
});
</script>

<template>
  <div>
    <div class="bar">
      <ChoiceRow v-model="what" label="What is drawn" :options="QUANTITIES" />
      <HeadPick
        v-if="what === 'power' || what === 'torque'"
        v-model="bandFor"
        :heads="heads"
        words="range of"
        :usual="heads.find((h) => h.id === bandHead)?.letter"
        label="Whose range is drawn"
      />
    </div>
    <p v-if="empty" class="note">
      {{ empty }}
    </p>
    <SweepChart
      v-else
      ref="chart"
      :lines="lines"
      :kind="KINDS[what]"
      :label="QUANTITIES.find(([q]) => q === what)![1]"
      :target="{ speed: target, ...(what === 'power' ? { value: power } : {}) }"
      :working="working"
      :band="bandIndex"
      :digits="DIGITS[what]"
    />
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 22px;
  margin: 4px 0;
}
.bar :deep(.row) {
  flex-wrap: wrap;
  row-gap: 4px;
}
</style>
