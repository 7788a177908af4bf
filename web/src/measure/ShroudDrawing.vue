<script setup lang="ts">
import { shroudAt, valveCentreAt, type Bore, type ShroudAtLift, type ShroudedValve, type Side } from '@alluvium/core';
import { computed } from 'vue';
import { vLegible } from '../charts/legible.js';

/** The valves in their bore from above, to scale, at one lift; what the wall crowds of the edge is marked. */
const props = defineProps<{
  valve: ShroudedValve;
  other: ShroudedValve | undefined;
  bore: Bore;
  /** The bore as it is, m, drawn dotted. */
  nominal: number | undefined;
  /** m */
  lift: number;
  side: Side;
}>();
/** None where the valve does not stand in the bore. */
const shown = computed((): ShroudAtLift | undefined => {
  try {
    return shroudAt(props.valve, props.bore, props.lift);
  } catch {
    return undefined;
  }
});
const SIZE = 330;
const scale = computed(() => (SIZE - 30) / (props.bore.diameter + 2 * 0.004));
const c = (v: number) => SIZE / 2 + v * scale.value;
const moved = computed(() => valveCentreAt(props.valve, props.lift));
/** The stretch of the valve's edge that the wall crowds, as an arc of short strokes. */
const crowded = computed(() => {
  const s = shown.value;
  if (!s) return '';
  const r = props.valve.diameter / 2;
  return s.gaps
    .flatMap((g, i) => {
      if (g >= s.lift) return [];
      const t = (2 * Math.PI * i) / s.gaps.length;
      const p = (q: number) =>
        `${c(moved.value.x + q * Math.cos(t)).toFixed(1)} ${c(-(moved.value.y + q * Math.sin(t))).toFixed(1)}`;
      return [`M${p(r)}L${p(r + Math.max(0.0006, Math.min(g, 0.02)))}`];
    })
    .join('');
});
</script>

<template>
  <svg v-legible :viewBox="`0 0 ${SIZE} ${SIZE}`" role="img" aria-label="The valves in the bore, from above, to scale">
    <circle
      v-if="bore.relief > 0"
      class="relief"
      :cx="c(bore.x)"
      :cy="c(0)"
      :r="(bore.diameter / 2 + bore.relief) * scale"
    />
    <circle class="bore" :cx="c(bore.x)" :cy="c(0)" :r="(bore.diameter / 2) * scale" />
    <circle v-if="nominal" class="nominal" :cx="c(0)" :cy="c(0)" :r="(nominal / 2) * scale" />
    <circle v-if="other" class="other" :cx="c(other.x)" :cy="c(-other.y)" :r="(other.diameter / 2) * scale" />
    <path :d="crowded" class="crowd" />
    <circle class="valve" :cx="c(moved.x)" :cy="c(-moved.y)" :r="(valve.diameter / 2) * scale" />
    <text :x="c(moved.x)" :y="c(-moved.y) + 5">{{ side }}</text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
}
.bore {
  fill: var(--paper-deep);
  stroke: var(--ink);
  stroke-width: 2;
}
.nominal {
  fill: none;
  stroke: var(--slate);
  stroke-dasharray: 4 4;
}
.relief {
  fill: none;
  stroke: var(--caution-line);
  stroke-width: 1.6;
}
.valve {
  fill: var(--paper-raised);
  stroke: var(--intake);
  stroke-width: 2.4;
}
.other {
  fill: none;
  stroke: var(--slate);
}
.crowd {
  stroke: var(--loss);
  stroke-width: 1.4;
}
text {
  text-anchor: middle;
  fill: var(--ink);
}
</style>
