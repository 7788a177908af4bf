<script setup lang="ts">
import { differenceWords, measureNext } from '@alluvium/core';
import { computed, ref } from 'vue';
import { useSettings } from '../state/settings.js';
import HeadPick from './HeadPick.vue';
import type { ReadyHead } from './ready.js';
import SweepChart, { type Line } from './SweepChart.vue';
import { useDifferences } from './useDifferences.js';
import type { Curve } from './useSweep.js';

// props.heads[]!, heads[]!, own[]!: differences are against the first.
// d.torque[]!, d.band[]!: lists by speed.

/** Every other head against the first: by how much, where they are told apart, what would settle it. */
const props = defineProps<{
  heads: readonly ReadyHead[];
  curves: ReadonlyMap<string, Curve>;
  target: number;
  working: readonly [number, number];
}>();
const settings = useSettings();
const made = useDifferences(
  () => props.heads,
  () => props.curves,
  () => props.working,
);
const differences = computed(() =>
  made.value.map((one) => ({
    ...one,
    words: differenceWords(props.heads[0]!.letter, one.head.letter, one.d, one.speeds, props.target, settings.say),
  })),
);
const lines = computed((): Line[] =>
  differences.value.map(({ head, d, speeds }) => ({
    name: head.letter,
    index: head.index,
    points: speeds.map((speed, k) => ({ speed, value: d.torque[k]!, low: d.band[k]!.low, high: d.band[k]!.high })),
  })),
);
const chosen = ref('');
const one = computed(() => differences.value.find((d) => d.head.id === chosen.value) ?? differences.value[0]);
const headOf = (leaf: string) => {
  const own = props.heads.filter((h) =>
    h.setup.assumed.some((a) => leaf === `simulation:${a.leaf}` || leaf === `simulation:solution:${a.leaf}`),
  );
  return own.length === 1 ? own[0]!.letter : undefined;
};
const drivers = computed(() =>
  (one.value?.d.of ?? [])
    .slice(0, 4)
    .map(
      (x) =>
        `${[x.label, headOf(x.id)].filter(Boolean).join(' of ')} (${settings.say.of(Math.abs(x.change), 'torque', { digits: 1 })})`,
    )
    .join(', '),
);
const next = computed(() => (one.value ? measureNext(one.value.d, headOf) : []));
</script>

<template>
  <div>
    <h2>Against {{ heads[0]!.letter }} {{ heads[0]!.name }}</h2>
    <template v-if="one">
      <p v-for="d in differences" :key="d.head.id" class="reading">{{ d.words }}</p>
      <HeadPick
        v-if="differences.length > 1"
        v-model="chosen"
        :heads="differences.map((d) => d.head)"
        words="range of"
        :usual="one.head.letter"
        label="Which difference’s range is drawn"
      />
      <SweepChart
        :lines="lines"
        kind="torque"
        label="Difference of torque"
        :target="{ speed: target }"
        :working="working"
        :band="one.head.index"
        :digits="0"
        zero
      />
      <p class="note">What {{ one.head.letter }}’s difference depends on most: {{ drivers }}.</p>
      <template v-if="next.length">
        <h3>What to measure next</h3>
        <ul class="note">
          <li v-for="n in next" :key="n.act">
            {{ n.act }}: leaves ±{{ settings.say.of(n.left, 'torque', { digits: 1 }) }} of ±{{
              settings.say.of(one.d.u, 'torque', { digits: 1 })
            }}
          </li>
        </ul>
      </template>
    </template>
    <p v-else class="note">
      {{
        heads.length < 2
          ? 'Add a second head to the lineup to compare.'
          : 'Differences are read once the assumptions have been run.'
      }}
    </p>
  </div>
</template>

<style scoped>
h2 {
  margin: 0 0 6px;
}
h3 {
  margin: 8px 0 2px;
  font-size: 15px;
}
ul {
  margin: 0;
  padding-left: 18px;
}
.reading {
  margin: 4px 0 8px;
  font-size: 16px;
}
</style>
