<script setup lang="ts">
import type { Kind, SimulationSetup } from '@alluvium/core';
import { computed } from 'vue';
import { useSettings } from '../state/settings.js';
import WideFrame from '../parts/WideFrame.vue';

// h.setup.assumed[]!: every head is asked the same.

/** Everything the simulation takes of a head and an engine that was not measured, with how far it may be off. */
const props = defineProps<{
  heads: readonly { readonly id: string; readonly letter: string; readonly setup: SimulationSetup }[];
}>();
const settings = useSettings();
/** Figures that say no more than is known. */
const DIGITS: Partial<Record<Kind, number>> = { length: 1, ratio: 2, volume: 0, temperature: 0, angle: 0, percent: 0 };
const value = (v: number, kind: Kind) => {
  const digits = DIGITS[kind];
  return settings.say.of(v, kind, digits === undefined ? {} : { digits });
};
/** A range of temperature is a difference: it has no zero to add. */
const range = (half: number, kind: Kind) =>
  half === 0
    ? '–'
    : kind === 'temperature'
      ? settings.system === 'inch'
        ? `${Math.round(half * 1.8)}\u00a0°F`
        : `${Math.round(half)}\u00a0K`
      : value(half, kind);
/** Sentences, with the heads they are of where not all. */
const said = computed(() => {
  const all = new Map<string, string[]>();
  for (const h of props.heads) for (const s of h.setup.said) all.set(s, [...(all.get(s) ?? []), h.letter]);
  return [...all].map(([s, of]) => (of.length === props.heads.length ? s : `${of.join(', ')}: ${s}`));
});
</script>

<template>
  <div>
    <WideFrame v-if="heads[0]">
      <table class="ruled">
        <thead>
          <tr>
            <th>assumed</th>
            <th v-for="h in heads" :key="h.id" class="num">{{ h.letter }}</th>
            <th class="num">within ±</th>
            <th>from</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(a, i) in heads[0].setup.assumed" :key="a.id">
            <td>{{ a.label }}</td>
            <td v-for="h in heads" :key="h.id" class="num">{{ value(h.setup.assumed[i]!.value, a.kind) }}</td>
            <td class="num">{{ range(a.half, a.kind) }}</td>
            <td class="note">{{ a.note }}</td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <ul class="note">
      <li v-for="s in said" :key="s">{{ s }}</li>
    </ul>
  </div>
</template>

<style scoped>
ul {
  margin: 8px 0 0;
  padding-left: 18px;
}
</style>
