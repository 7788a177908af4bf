<script setup lang="ts">
import { type Ranked } from '@alluvium/core';
import {
  budgetWords,
  edgeOf,
  headText,
  moneyText,
  priceToWin,
  mattersOf,
  type Build,
  type WayRead,
} from '@alluvium/records';
import { computed } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import WideFrame from '../parts/WideFrame.vue';

// f.measured!: shown where it was measured.
// cheaper[]!: looked for one line above.

/** The ways side by side: price, power, what money buys, odds, fit, and how often each comes first. */
const props = defineProps<{ ways: readonly WayRead[]; ranked: Ranked; build: Build; modelValue: string }>();
defineEmits<{ 'update:modelValue': [string] }>();
const settings = useSettings();
const edge = computed(() => edgeOf(props.ways));
const cheaper = computed(() => props.ways.map((_, i) => priceToWin(props.ways, mattersOf(props.build), i)));
const share = (v: number | undefined) => (v === undefined ? '–' : settings.say.of(v, 'percent', { digits: 0 }));
const money = (v: number) => moneyText(v, props.build, settings.say);
const torque = (w: WayRead) => {
  if (!w.torque) return '–';
  const u = Math.hypot(...w.torque.parts.map((p) => p.change));
  const text = (v: number) => settings.say.of(v, 'torque', { digits: 1 });
  return u > 0 ? `${text(w.torque.value)} ± ${text(2 * u)}` : text(w.torque.value);
};
const checked = (w: WayRead) => w.fit.filter((f) => f.state !== 'unknown').length;
const late = (w: WayRead) => {
  if (!props.build.due || w.way.days === null) return false;
  const there = new Date(Date.now() + w.way.days * 86_400_000);
  return there.toISOString().slice(0, 10) > props.build.due;
};
</script>

<template>
  <WideFrame>
    <table class="ruled">
      <thead>
        <tr>
          <th />
          <th v-for="w in ways" :key="w.way.id" :class="{ here: w.way.id === modelValue }">
            <el-button link :aria-pressed="w.way.id === modelValue" @click="$emit('update:modelValue', w.way.id)">
              {{ w.way.name }}
            </el-button>
            <small class="note">{{ w.way.kind }}</small>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td>head</td>
          <td v-for="w in ways" :key="w.way.id">
            {{ headText(w) }}
            <small v-if="w.way.gain" class="note">planned {{ w.way.gain.typed }} ± {{ w.way.gainBand?.typed }}</small>
          </td>
        </tr>
        <tr>
          <td>price</td>
          <td v-for="w in ways" :key="w.way.id">
            <WorkedNumber :working="w.cost.sum" :book="w.cost.book" />
            {{ build.currency }}
            <small v-if="budgetWords(w, build, settings.say)" class="caution">
              {{ budgetWords(w, build, settings.say) }}
            </small>
            <small v-for="o in w.open" :key="o" class="caution">{{ o }}</small>
          </td>
        </tr>
        <tr>
          <td>power at the target</td>
          <td v-for="w in ways" :key="w.way.id"><WorkedNumber :working="w.power" :book="w.book" /></td>
        </tr>
        <tr>
          <td>carries the target</td>
          <td v-for="w in ways" :key="w.way.id">
            {{ w.degree ?? 'nothing known' }}
            <small v-if="w.odds !== undefined" class="note">{{ share(w.odds) }}</small>
          </td>
        </tr>
        <tr>
          <td>money for a horsepower</td>
          <td v-for="w in ways" :key="w.way.id"><WorkedNumber :working="w.perPower" :digits="1" /></td>
        </tr>
        <tr>
          <td>for each gained over {{ ways[0]?.way.name }}</td>
          <td v-for="w in ways" :key="w.way.id"><WorkedNumber :working="w.perGain" :digits="1" /></td>
        </tr>
        <tr>
          <td>for each cfm gained</td>
          <td v-for="w in ways" :key="w.way.id"><WorkedNumber :working="w.perFlow" :digits="1" /></td>
        </tr>
        <tr v-if="ways.some((w) => w.torque)">
          <td>torque over the working speeds</td>
          <td v-for="w in ways" :key="w.way.id">{{ torque(w) }}</td>
        </tr>
        <tr v-if="ways.some((w) => w.torque)">
          <td>for each lb ft gained</td>
          <td v-for="w in ways" :key="w.way.id"><WorkedNumber :working="w.perTorque" :digits="1" /></td>
        </tr>
        <tr>
          <td>days</td>
          <td v-for="w in ways" :key="w.way.id">
            {{ w.way.days ?? '–' }}
            <small v-if="late(w)" class="loss">after {{ settings.say.day(build.due ?? '') }}</small>
          </td>
        </tr>
        <tr>
          <td>fit</td>
          <td v-for="w in ways" :key="w.way.id">
            <small v-for="s in w.stops" :key="s" class="loss">stops it: {{ s }}</small>
            <small v-for="a in w.adapters" :key="a" class="caution">{{ a }}</small>
            <small v-for="f in w.fit.filter((x) => x.contradicted)" :key="f.item" class="caution">
              {{ f.item }}: said to fit, but {{ f.measured!.text }}
            </small>
            <span class="note">{{ checked(w) }} of {{ w.fit.length }} items answered</span>
          </td>
        </tr>
        <tr>
          <td>price against power</td>
          <td v-for="(w, i) in ways" :key="w.way.id" class="note">
            {{ !w.power ? '' : edge[i] ? 'on the edge' : 'another is no dearer and makes no less' }}
          </td>
        </tr>
        <tr class="first">
          <td>comes first</td>
          <td v-for="(w, i) in ways" :key="w.way.id">
            <b>{{ share(ranked.wins[i]) }}</b>
            <small v-if="cheaper[i] !== undefined" class="note">would, if it fell by {{ money(cheaper[i]!) }}</small>
          </td>
        </tr>
      </tbody>
    </table>
  </WideFrame>
</template>

<style scoped>
small {
  display: block;
}
.here {
  box-shadow: inset 0 -2px 0 var(--ink);
}
td:first-child {
  color: var(--slate);
}
</style>
