<script setup lang="ts">
import type { StageGain } from '@alluvium/records';
import { computed } from 'vue';
import DepositChart from '../charts/DepositChart.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import RowNote from './RowNote.vue';

/** One side before and after a stage: each lift with what it gained, how sure that is, and what was noted there. */
const props = defineProps<{ gain: StageGain }>();
const settings = useSettings();
const notes = computed(() => props.gain.lifts.filter((l) => l.note).map((l) => ({ lift: l.lift, text: l.note })));
const curves = computed(() => {
  const { before, after } = props.gain;
  return before.result.curve && after.result.curve
    ? { base: before.result.curve, other: after.result.curve }
    : undefined;
});
const tone = (value: number, counts: boolean) => (!counts ? 'quiet' : value > 0 ? 'gain' : 'loss');
</script>

<template>
  <div>
    <p class="note said">
      {{ gain.port ? `${gain.port}: ` : '' }}“{{ gain.before.sheet.title }}” before, “{{ gain.after.sheet.title }}”
      after. {{ gain.comparison.sentence }}
    </p>
    <ul v-if="!gain.credited" class="refused">
      <li v-for="a in gain.comparison.aspects.filter((x) => x.state === 'differs')" :key="a.what" class="loss">
        No credit: {{ a.sentence }}
      </li>
    </ul>
    <DepositChart
      v-if="curves && gain.credited"
      :base="curves.base"
      :others="[{ letter: '', index: 0, curve: curves.other }]"
      :top-lift="Math.max(curves.base.last.lift, curves.other.last.lift)"
      :height="150"
      :side="gain.side"
      :notes="notes"
    />
    <table class="ruled">
      <thead>
        <tr>
          <th>lift</th>
          <th class="num">before</th>
          <th class="num">after</th>
          <th v-if="gain.credited" class="num">gain</th>
          <th v-if="gain.credited" class="num">share</th>
          <th>noted</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in gain.lifts" :key="l.lift" :class="{ between: l.interpolated }">
          <td>{{ settings.say.of(l.lift, 'lift') }}</td>
          <td class="num"><WorkedNumber :working="l.before" :book="gain.book" terse bare :digits="1" /></td>
          <td class="num"><WorkedNumber :working="l.after" :book="gain.book" terse bare :digits="1" /></td>
          <td v-if="gain.credited" class="num" :class="tone(l.gain.value, l.counts)">
            <WorkedNumber :working="l.gain" :book="gain.book" bare signed :digits="1" />
          </td>
          <td v-if="gain.credited" class="num" :class="tone(l.gain.value, l.counts)">
            <WorkedNumber :working="l.share" :book="gain.book" terse signed :digits="1" />
          </td>
          <td><RowNote :sheet="gain.after.sheet" :lift="l.lift" :at="settings.say.of(l.lift, 'lift')" /></td>
        </tr>
        <tr v-if="gain.gain" class="first">
          <td>{{ gain.window?.own ? 'over this cam' : 'over a usual cam' }}</td>
          <td />
          <td />
          <td class="num" :class="tone(gain.gain.value, gain.counts)">
            <WorkedNumber :working="gain.gain" :book="gain.book" bare signed :digits="1" />
          </td>
          <td class="num"><WorkedNumber :working="gain.share" :book="gain.book" terse signed :digits="1" /></td>
          <td class="note">{{ gain.counts ? '' : 'not told apart from two set-ups of one port' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.said {
  margin: 2px 0 6px;
}
.refused {
  margin: 4px 0;
  padding-left: 18px;
}
.between td {
  font-style: italic;
}
</style>
