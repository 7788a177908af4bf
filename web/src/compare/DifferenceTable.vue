<script setup lang="ts">
import { overCam, camLiftOf, type Side } from '@alluvium/core';
import { computed } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useActiveBuild } from '../data/build.js';
import { useSettings } from '../state/settings.js';
import type { CompareHead } from '../data/comparison.js';
import { sameExhaust } from './facts.js';
import { liftRows, type Cell } from './rows.js';
import type { Difference } from './view.js';

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
const summaries = computed(() =>
  props.heads.map((h) => {
    const r = h.result?.[props.side];
    return {
      r,
      over: r?.curve && camLift.value !== undefined ? overCam(r.curve, camLift.value, profile.value) : undefined,
      ratio: h.result?.peakRatio,
      piped: !sameExhaust(h, props.heads[0]!),
    };
  }),
);
const lift = (l: number) => settings.say.of(l, 'lift').split('\u00a0')[0];
const flow = (q: number) => settings.say.of(q, 'flow', { digits: 0 }).split('\u00a0')[0];
const gain = (c: Cell) =>
  props.difference === 'cfm'
    ? settings.say.of(c.gain!, 'flow', { digits: 0, signed: true }).split('\u00a0')[0]
    : settings.say.of(c.share!, 'percent', { digits: 1, signed: true }).replace('\u00a0%', '');
const tone = (c: Cell) => (/^[+−]/.test(gain(c) ?? '') ? (c.gain! > 0 ? 'gain' : 'loss') : 'quiet');
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
        <td
          v-for="(c, i) in row.cells"
          :key="i"
          class="num"
          :class="{ between: c.interpolated }"
          :title="c.interpolated && c.flow !== undefined ? 'read between rows' : undefined"
        >
          <WorkedNumber v-if="c.working" :working="c.working" bare :digits="0" />
          <template v-else>{{ c.flow === undefined ? '' : flow(c.flow) }}</template>
          <span v-if="c.gain !== undefined" class="diff" :class="tone(c)">{{ gain(c) }}</span>
          <span v-else-if="c.apart" class="diff note">{{ c.apart }}</span>
        </td>
      </tr>
      <tr class="first">
        <td>peak</td>
        <td v-for="(s, i) in summaries" :key="i" class="num">
          <template v-if="s.r?.peak">
            {{ flow(s.r.peak.flow) }}
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
          <WorkedNumber :working="s.over?.mean" bare :digits="0" />
        </td>
      </tr>
      <tr>
        <td>stability</td>
        <td v-for="(s, i) in summaries" :key="i" class="num"><WorkedNumber :working="s.r?.stability" :digits="0" /></td>
      </tr>
      <tr>
        <td>exhaust / intake</td>
        <td v-for="(s, i) in summaries" :key="i" class="num">
          <WorkedNumber :working="s.ratio" :digits="0" />
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
  padding: 2.5px 3px;
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
  min-width: 27px;
  font-size: 13px;
  margin-left: 3px;
  font-weight: 500;
}
small {
  color: var(--slate);
}
.first td {
  border-top: 1px solid var(--slate);
}
</style>
