<script setup lang="ts">
import { fallOf, type SheetResult, type Side } from '@alluvium/core';
import type { SheetBooks } from '@alluvium/records';
import { computed } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import HoverNote from '../parts/HoverNote.vue';

// peak!: the line is written of a side that was flowed.

/** What the sheet says by itself: standard flow, coefficients, peak, knee, stability. */
const props = defineProps<{ result: SheetResult; books?: SheetBooks | undefined }>();
const settings = useSettings();
const sides = computed(() => (['intake', 'exhaust'] as const).filter((s: Side) => props.result[s].points.length > 0));
const lifts = computed(() =>
  [...new Set(sides.value.flatMap((s) => props.result[s].points.map((p) => p.lift)))].sort((a, b) => a - b),
);
const at = (side: Side, lift: number) => props.result[side].points.find((p) => p.lift === lift);
const ratio = (lift: number) => props.result.ratios.find((r) => r.lift === lift)?.ratio;
const falls = (side: Side) => {
  const { backsUp: b, curve } = props.result[side];
  if (b) return `backs up beyond ${settings.say.of(b.from, 'lift')} by ${settings.say.of(b.fall, 'percent')}`;
  const fall = curve ? fallOf(curve) : 0;
  return fall > 0.0005
    ? `falls ${settings.say.of(fall, 'percent', { digits: 1 })} beyond its peak, within repeatability`
    : 'does not fall';
};
/** The side in one line; its stability follows as a figure that can be pressed. */
const says = (side: Side) => {
  const { peak, knee } = props.result[side];
  const bend = knee === undefined ? 'still climbing' : `knee at ${settings.say.of(knee, 'lift')}`;
  return `${side}: peak ${settings.say.of(peak!.flow, 'flow')} at ${settings.say.of(peak!.lift, 'lift')}, ${bend}, ${falls(side)}, stability`;
};
</script>

<template>
  <details v-if="sides.length" open>
    <summary>At 28 in of water, and what it says</summary>
    <table class="ruled">
      <thead>
        <tr>
          <th class="num">lift</th>
          <template v-for="s in sides" :key="s">
            <th class="num">{{ s }}</th>
            <th class="num">
              <HoverNote :says="`coefficient on minimum area, ${s}`"><span>C min</span></HoverNote>
            </th>
          </template>
          <th v-if="result.ratios.length" class="num">E/I</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in lifts" :key="l">
          <td class="num">{{ settings.say.of(l, 'lift').split('\u00a0')[0] }}</td>
          <template v-for="s in sides" :key="s">
            <td class="num"><WorkedNumber :working="at(s, l)?.flow" :book="books?.flow" terse bare /></td>
            <td class="num" :class="{ loss: (at(s, l)?.coefficients.minimum?.value ?? 0) > 1 }">
              <WorkedNumber :working="at(s, l)?.coefficients.minimum" :book="books?.[s]" terse bare :digits="2" />
            </td>
          </template>
          <td v-if="result.ratios.length" class="num">
            <WorkedNumber :working="ratio(l)" :book="books?.flow" terse :digits="0" />
          </td>
        </tr>
      </tbody>
    </table>
    <p v-for="s in sides" :key="s" class="note">
      <template v-if="result[s].peak">
        {{ says(s) }}
        <WorkedNumber :working="result[s].stability" :book="books?.flow" />
      </template>
    </p>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  font-weight: 600;
}
.note {
  margin: 6px 0 0;
}
</style>
