<script setup lang="ts">
import { camLiftOf, flowCurve, type FlowCurve, type Side } from '@alluvium/core';
import { pairSheet, evaluateSheetOf } from '@alluvium/records';
import { computed, useTemplateRef } from 'vue';
import DepositChart from '../charts/DepositChart.vue';
import FlowChart, { type Series } from '../charts/FlowChart.vue';
import { useActiveBuild } from '../data/build.js';
import type { CompareHead } from '../data/comparison.js';
import type { Show } from './view.js';

// h.sheet!, h.result!: what is drawn was flowed.
// fair[]!: the first of what is drawn is always fair.

/** The heads side by side: flow, coefficients or the exhaust's share over lift; gain and loss against the first. */
export type Flowed = CompareHead & { readonly curve: FlowCurve };
const props = defineProps<{
  flowed: readonly Flowed[];
  /** Those whose tests may be held against each other. */
  fair: readonly Flowed[];
  side: Side;
  show: Show;
  fill: boolean;
}>();
const chart = useTemplateRef<InstanceType<typeof FlowChart>>('chart');
defineExpose({ svg: () => chart.value?.svg });
const { active } = useActiveBuild();
const camLift = computed(() => {
  const cam = active.value?.core.cam;
  return cam && camLiftOf(cam, props.side);
});
const profile = computed(() =>
  props.side === 'intake' ? active.value?.target?.intakeCam : active.value?.target?.exhaustCam,
);
const demand = computed(() => (props.side === 'intake' ? active.value?.target?.demand?.value : undefined));
const topLift = computed(() => Math.max(camLift.value ?? 0, ...props.flowed.map((h) => h.curve.last.lift)) * 1.03);
const height = computed(() => (props.fill ? 620 : 392));

const drawn = (h: Flowed, curve: FlowCurve): Series => ({
  letter: h.letter,
  name: h.name,
  index: h.index,
  curve,
  // Without a mark a single row would not be seen.
  claim: h.sheet!.kind === 'claim' && curve.points.length > 1,
});
/** The other head of an engine stands beside the one it is judged with, thin like a claim. */
const pairOf = (h: Flowed): Series[] => {
  const found = pairSheet(h.whole, active.value?.build);
  const curve = found && evaluateSheetOf(found.pair, found.sheet)[props.side].curve;
  return curve ? [{ letter: `${h.letter}′`, name: found.pair.head.name, index: h.index, curve, claim: true }] : [];
};
const notesOf = (h: Flowed) =>
  h.sheet!.rows.flatMap((r) => (r.note && r[props.side] ? [{ lift: r.lift.si, text: r.note }] : []));
const flows = computed(() => props.flowed.flatMap((h) => [{ ...drawn(h, h.curve), notes: notesOf(h) }, ...pairOf(h)]));
/** A curve of something other than flow, point by point; too few points draw nothing. */
const derived = (points: (head: Flowed) => { lift: number; flow: number }[]): Series[] =>
  props.flowed.flatMap((h) => {
    const found = points(h);
    const curve = found.length > 1 ? flowCurve(found) : undefined;
    return curve ? [drawn(h, curve)] : [];
  });
const coefficients = computed(() =>
  derived((h) =>
    h.result![props.side].points.flatMap((p) =>
      p.liftRatio !== undefined && p.coefficients.curtain
        ? [{ lift: p.liftRatio, flow: p.coefficients.curtain.value }]
        : [],
    ),
  ),
);
const ratios = computed(() => derived((h) => h.result!.ratios.map((r) => ({ lift: r.lift, flow: r.ratio.value }))));
const piped = computed(() => {
  const pipes = new Set(props.flowed.map((h) => h.sheet!.setup.exhaustPipe));
  return pipes.size > 1 ? props.flowed.filter((h) => h.sheet!.setup.exhaustPipe === 'piped').map((h) => h.letter) : [];
});
</script>

<template>
  <div class="drawings">
    <FlowChart
      v-if="show === 'flow'"
      ref="chart"
      :series="flows"
      :side="side"
      :demand="demand"
      :cam-lift="camLift"
      :cam="profile"
      :height="height"
    />
    <FlowChart
      v-else-if="show === 'coefficients' && coefficients.length"
      ref="chart"
      :series="coefficients"
      :side="side"
      kind="ratio"
      x-kind="ratio"
      label="discharge coefficient over L/D"
      :height="height"
    />
    <FlowChart
      v-else-if="show === 'ratio' && ratios.length"
      ref="chart"
      :series="ratios"
      :side="side"
      kind="percent"
      :cam-lift="camLift"
      label="exhaust over intake at each lift"
      :height="height"
    />
    <p v-else-if="show === 'ratio'" class="reading">No head here was flowed on both sides at the same lifts.</p>
    <p v-else class="reading">
      No valve diameter is known for these heads: note it under their sizes, and the coefficients appear.
    </p>
    <p v-if="show === 'ratio' && piped.length" class="caution">
      {{ piped.join(' ') }} had a pipe on the exhaust, others not: those ratios are different quantities.
    </p>
    <template v-if="fair.length > 1 && show === 'flow' && !fill">
      <h2>Gain and loss against {{ fair[0]!.letter }}</h2>
      <DepositChart :base="fair[0]!.curve" :others="fair.slice(1)" :top-lift="topLift" :side="side" :height="176" />
    </template>
  </div>
</template>

<style scoped>
.drawings {
  min-width: 0;
}
</style>
