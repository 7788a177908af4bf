<script setup lang="ts">
import { crankOf, cylinderVolume, displacement, meanTorque, work } from '@alluvium/core';
import { computed } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import type { ReadyHead } from './ready.js';
import type { Curve } from './useSweep.js';
import WideFrame from '../parts/WideFrame.vue';

// curve.points[]!, curve.band[]!: a band has one for each point.

/** Each head's curve in a few figures, beside the rule of thumb. */
const props = defineProps<{
  heads: readonly ReadyHead[];
  curves: ReadonlyMap<string, Curve>;
  target: number;
  /** Speeds the build works in. */
  working: readonly [number, number];
}>();
const settings = useSettings();
const curveOf = (h: ReadyHead) => props.curves.get(h.id);
function sumUp(h: ReadyHead) {
  const points = curveOf(h)?.points ?? [];
  if (points.length === 0) return undefined;
  const peak = points.reduce((a, b) => (b.power > a.power ? b : a));
  const at = points.find((p) => Math.abs(p.speed - props.target) < 1e-6);
  const { bore, stroke, cylinders } = h.setup;
  const volume = work(displacement, { cylinderVolume: work(cylinderVolume, { bore, stroke }), cylinders });
  return {
    mean: meanTorque(points, ...props.working),
    peak,
    peakPower: crankOf(peak, volume).power,
    at: at && crankOf(at, volume).power,
  };
}
/** The rule of thumb beside the simulation, and whether it lies outside its range at the peak. */
const ruleOf = (h: ReadyHead) => {
  const power = h.match.schools.find((s) => s.id === 'peak-flow')?.power;
  const curve = curveOf(h);
  if (!power || !curve?.band || curve.points.length === 0) return power ? { power, word: '' } : undefined;
  const k = curve.points.reduce((best, p, i) => (p.power > curve.points[best]!.power ? i : best), 0);
  const scale = 2 * Math.PI * curve.points[k]!.speed;
  const { low, high } = curve.band[k]!;
  const word = power.value > high * scale ? 'above its range' : power.value < low * scale ? 'below its range' : '';
  return { power, word };
};
const rows = computed(() => props.heads.map((h) => ({ h, sum: sumUp(h), rule: ruleOf(h) })));
</script>

<template>
  <div>
    <WideFrame>
      <table class="ruled">
        <thead>
          <tr>
            <th>head</th>
            <th class="num">at the target</th>
            <th class="num">peak</th>
            <th class="num">at</th>
            <th class="num">mean torque over the working speeds</th>
            <th class="num">rule of thumb</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ h, sum, rule } in rows" :key="h.id">
            <td>{{ h.letter }} {{ h.name }}</td>
            <template v-if="sum">
              <td class="num"><WorkedNumber :working="sum.at" :digits="0" /></td>
              <td class="num"><WorkedNumber :working="sum.peakPower" :digits="0" /></td>
              <td class="num">{{ settings.say.of(sum.peak.speed, 'rotation') }}</td>
              <td class="num"><WorkedNumber :working="sum.mean" :digits="0" /></td>
              <td class="num">
                <WorkedNumber :working="rule?.power" terse :book="h.verdict.book" />
                <span v-if="rule?.word" class="note rule">{{ rule.word }}</span>
              </td>
            </template>
            <td v-else colspan="5" class="note">not run yet</td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <p v-if="rows.some((r) => r.rule?.word)" class="note">
      The rule of thumb takes the peak flow alone for the power; it knows neither this cam nor the exhaust, and is a
      ceiling of the breathing.
    </p>
  </div>
</template>

<style scoped>
.rule {
  display: block;
}
</style>
