<script setup lang="ts">
import type { LeafBook } from '@alluvium/core';
import QuantityField from '../parts/QuantityField.vue';
import WideFrame from '../parts/WideFrame.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import type { Milling } from './useMilling.js';

/** What is wanted of a chamber, and what must be milled for it. */
const props = defineProps<{ mill: Milling; book: LeafBook }>();
const { plan, face, wanted, milling, cut, after } = props.mill;
const FIELDS = [
  ['wantedRatio', 'compression wanted', 'compression'],
  ['wantedVolume', 'or chamber wanted', 'volume'],
  ['face', 'face area of the chamber', 'area'],
  ['before', 'or measured: chamber before', 'volume'],
  ['after', 'chamber after', 'volume'],
  ['taken', 'milled off between', 'length'],
  ['sink', 'sink the valves first by', 'length'],
] as const;
</script>

<template>
  <div>
    <h2>Milling planner</h2>
    <div class="plan">
      <QuantityField v-for="[key, label, kind] in FIELDS" :key="key" v-model="plan[key]" :kind="kind" :label="label" />
    </div>
    <p v-if="face.problem || wanted.problem" class="loss" role="alert">{{ face.problem ?? wanted.problem }}</p>
    <WideFrame>
      <table class="ruled">
        <tbody>
          <tr v-if="face.working">
            <td>face area the cut sees</td>
            <td class="num"><WorkedNumber :working="face.working" /></td>
          </tr>
          <tr v-if="wanted.working">
            <td>chamber wanted</td>
            <td class="num"><WorkedNumber :working="wanted.working" :book="book" /></td>
          </tr>
          <tr>
            <td><b>to mill off</b></td>
            <td class="num">
              <b><WorkedNumber :working="milling" :book="book" :digits="3" /></b>
            </td>
          </tr>
          <tr v-for="c in cut" :key="c.side">
            <td>top cut left, {{ c.side }}</td>
            <td class="num" :class="{ loss: (c.working?.value ?? 1) <= 0 }">
              <WorkedNumber :working="c.working" :book="book" :digits="3" />
            </td>
          </tr>
          <tr v-if="after">
            <td>compression then</td>
            <td class="num"><WorkedNumber :working="after" :book="book" /></td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <p v-if="milling && milling.value < 0" class="caution">
      The chamber is smaller than wanted already: it must be opened, not milled.
    </p>
    <p v-if="cut.some((c) => (c.working?.value ?? 1) <= 0)" class="caution">
      Nothing of the top cut is left: sink the seats first, then mill more.
    </p>
    <p class="caution">
      Manifold, pushrods and valve-to-piston clearance move with the deck. Leave milling to a licensed machine shop.
    </p>
  </div>
</template>

<style scoped>
h2 {
  margin-top: 18px;
}
.plan {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(max(120px, 30%), 1fr));
  gap: 8px 22px;
  margin: 8px 0 12px;
}
</style>
