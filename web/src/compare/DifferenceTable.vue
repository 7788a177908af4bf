<script setup lang="ts">
import { camLiftOf, joined, meanOf, overCam, uncertaintyOf, type Side, type Working } from '@alluvium/core';
import { booksOf, flowDigits } from '@alluvium/records';
import { computed } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { useSettings } from '../state/settings.js';
import type { CompareHead } from '../data/comparison.js';
import { sameExhaust } from './facts.js';
import { liftRows, type Cell } from './rows.js';
import type { Difference } from './view.js';

// h.sheet!, heads[]!, heads[].sheet!, props.heads[]!, digits[]!, digits.value[]!: the heads here were flowed, and everything is listed head by head.
// gain()!: a credited comparison has one.

const props = defineProps<{ heads: readonly CompareHead[]; side: Side; difference: Difference }>();
const settings = useSettings();
const { active } = useActiveBuild();
const camLift = computed(() => {
  const cam = active.value?.core.cam;
  return cam && camLiftOf(cam, props.side);
});
const profile = computed(() =>
  props.side === 'intake' ? active.value?.target?.intakeCam : active.value?.target?.exhaustCam,
);
const watch = computed(() => (active.value?.build.watchLifts ?? []).map((w) => w.si));
const rows = computed(() => liftRows(props.heads, props.side, watch.value, camLift.value));
/** The mean of a side over the cam, under the name its book knows it by. */
const meanOver = (h: CompareHead): Working | undefined => {
  const curve = h.result?.[props.side].curve;
  const mean = curve && camLift.value !== undefined ? overCam(curve, camLift.value, profile.value).mean : undefined;
  return mean && { ...mean, leaf: meanOf(h.sheet!.id, props.side) };
};
const summaries = computed(() =>
  props.heads.map((h) => {
    const r = h.result?.[props.side];
    return {
      r,
      mean: meanOver(h),
      ratio: h.result?.peakRatio,
      piped: !sameExhaust(h, props.heads[0]!),
    };
  }),
);
const judging = useJudging();
const books = computed(() =>
  props.heads.map((h) => {
    const [sheet, ...again] = h.pooled;
    if (!sheet) return undefined;
    const lifts = rows.value.map((r) => r.lift);
    return booksOf(h.whole, [sheet, ...again], judging.value, { [props.side]: { lifts, cam: profile.value } }).flow;
  }),
);
/** A difference rests on both heads; what they share cancels. */
const pairs = computed(() => books.value.map((b) => (b && books.value[0] ? joined(books.value[0], b) : undefined)));
const lift = (l: number) => settings.say.of(l, 'lift').split('\u00a0')[0];
const flow = (q: number, digits: number) => settings.say.of(q, 'flow', { digits }).split('\u00a0')[0];
/** One decimal where the bench gave one: of a column, and of its difference from the baseline. */
const digits = computed(() => props.heads.map((h) => flowDigits(h.sheet!)));
const gainDigits = (i: number) =>
  props.difference === 'percent' ? 1 : Math.max(digits.value[i]!, digits.value[0] ?? 0);
const gain = (c: Cell) => (props.difference === 'cfm' ? c.gain : c.share);
/** A difference counts beyond twice its uncertainty; within it, it is written quietly. */
const tone = (c: Cell, i: number) => {
  const working = gain(c)!;
  const u = uncertaintyOf(working, pairs.value[i], settings.say)?.budget.u ?? 0;
  return Math.abs(working.value) <= 2 * u ? 'quiet' : working.value > 0 ? 'gain' : 'loss';
};
</script>

<template>
  <table class="ruled">
    <thead>
      <tr>
        <th>lift</th>
        <th v-for="h in heads" :key="h.id" class="num">{{ h.letter }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.lift" :class="{ watched: row.watched, cam: row.isCam, beyond: row.beyondCam }">
        <td>
          {{ lift(row.lift) }}
          <span v-if="row.isCam" class="note">cam</span>
        </td>
        <td v-for="(c, i) in row.cells" :key="i" class="num" :class="{ between: c.interpolated }">
          <WorkedNumber v-if="c.flow" :working="c.flow" :book="books[i]" terse bare :digits="digits[i]" />
          <span v-if="c.gain" class="diff" :class="tone(c, i)">
            <WorkedNumber :working="gain(c)" :book="pairs[i]" terse bare signed :digits="gainDigits(i)" />
          </span>
          <span v-else-if="c.apart" class="diff note">{{ c.apart }}</span>
        </td>
      </tr>
      <tr class="first">
        <td>peak</td>
        <td v-for="(s, i) in summaries" :key="i" class="num">
          <template v-if="s.r?.peak">
            {{ flow(s.r.peak.flow, digits[i]!) }}
            <small>{{ lift(s.r.peak.lift) }}</small>
          </template>
        </td>
      </tr>
      <tr>
        <td>knee</td>
        <td v-for="(s, i) in summaries" :key="i" class="num">
          {{ s.r?.knee === undefined ? (s.r?.curve ? 'climbs' : '') : lift(s.r.knee) }}
        </td>
      </tr>
      <tr v-if="camLift !== undefined">
        <td>over this cam</td>
        <td v-for="(s, i) in summaries" :key="i" class="num">
          <WorkedNumber :working="s.mean" :book="books[i]" terse bare :digits="0" />
        </td>
      </tr>
      <tr>
        <td>stability</td>
        <td v-for="(s, i) in summaries" :key="i" class="num">
          <WorkedNumber :working="s.r?.stability" :book="books[i]" terse :digits="0" />
        </td>
      </tr>
      <tr>
        <td>exhaust / intake</td>
        <td v-for="(s, i) in summaries" :key="i" class="num">
          <WorkedNumber :working="s.ratio" :book="books[i]" terse :digits="0" />
          <span v-if="s.piped && s.ratio" class="note diff">{{ heads[i]!.sheet!.setup.exhaustPipe }}</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
td {
  white-space: nowrap;
}
.ruled td,
.ruled th {
  padding: 2.5px 2px;
}
.watched td {
  background: var(--paper-deep);
  font-weight: 600;
}
.cam td,
.between {
  font-family: var(--serif);
  font-style: italic;
}
.beyond td {
  color: var(--slate);
}
.diff {
  display: inline-block;
  min-width: 24px;
  font-size: 12px;
  margin-left: 2px;
  font-weight: 500;
}
small {
  color: var(--slate);
}
.first td {
  border-top: 1px solid var(--slate);
}
</style>
