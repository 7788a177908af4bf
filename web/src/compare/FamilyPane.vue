<script setup lang="ts">
import { inches, type Side } from '@alluvium/core';
import { familiesOf, flowDigits, mostCrowded, mostGained, type Family } from '@alluvium/records';
import { computed } from 'vue';
import FlowChart from '../charts/FlowChart.vue';
import type { CompareHead } from '../data/comparison.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import { onceAStage } from './view.js';

// family.members[]!, family.members.at()!, f.members[]!, most.share!: a family has two members at least, compared by share.

/** Sheets of one port that differ in one thing alone: two bores, two valves, a notch, a pipe; what it does at each lift. */
const props = defineProps<{
  /** Every head of the lineup: hiding one reads nothing again. */
  all: readonly CompareHead[];
  shown: readonly CompareHead[];
  side: Side;
  camLift?: number | undefined;
}>();
const settings = useSettings();
const read = computed(() =>
  onceAStage(props.all).flatMap((h) => {
    const families = familiesOf(h.whole, h.stage.id, props.side);
    return families.length ? [{ head: h, families, crowded: mostCrowded(families) }] : [];
  }),
);
const heads = computed(() =>
  read.value.filter((r) => props.shown.some((h) => h.whole === r.head.whole && h.stage.id === r.head.stage.id)),
);
const WORDS: Record<Family['kind'], string> = {
  bore: 'bores',
  valve: 'valve sizes',
  notch: 'notches',
  pipe: 'exhaust, bare and piped',
};
const lift = (l: number) => settings.say.of(l, 'lift').split('\u00a0')[0];
const series = (family: Family) =>
  family.members.map((m, index) => ({ letter: m.name, name: '', index, curve: m.curve }));
const digits = (family: Family) => Math.max(...family.members.map((m) => flowDigits(m.sheet)));
const flow = (q: number | undefined, family: Family) =>
  q === undefined ? '' : settings.say.of(q, 'flow', { digits: digits(family) }).split('\u00a0')[0];
const words = (family: Family) => {
  const most = mostGained(family);
  if (!most) return '';
  const [first, last] = [family.members[0]!, family.members.at(-1)!];
  const share = settings.say.of(Math.abs(most.share!.value), 'percent', { digits: 1 });
  return `${last.name} against ${first.name}: ${most.share!.value < 0 ? 'down' : 'up'} ${share} at ${settings.say.of(most.lift, 'lift')}, where it does most.`;
};
const top = (family: Family) => Math.max(inches(0.1), ...family.members.map((m) => m.curve.last.lift));
const beyond = (family: Family) => props.camLift !== undefined && props.camLift < top(family);
</script>

<template>
  <section v-if="heads.length" class="families" aria-label="Bores, valves, notches and pipes">
    <template v-for="{ head, families, crowded } in heads" :key="head.id">
      <h2>{{ head.letter }} {{ head.name }}: one thing changed</h2>
      <p v-if="crowded" class="reading">
        {{ crowded.port || 'One port' }} is crowded most by the wall: it gains most from the larger bore.
      </p>
      <div class="grid">
        <article v-for="f in families" :key="`${f.kind}${f.port}${f.members[0]!.sheet.id}`">
          <h3>{{ [f.port, WORDS[f.kind]].filter(Boolean).join(', ') }}</h3>
          <FlowChart
            :series="series(f)"
            :side="side"
            :height="220"
            :cam-lift="beyond(f) ? camLift : undefined"
            :label="`${f.port} ${WORDS[f.kind]}, ${side} flow`"
          />
          <p class="reading">{{ words(f) }}</p>
          <div class="framed">
            <table class="ruled">
              <thead>
                <tr>
                  <th>lift</th>
                  <th v-for="m in f.members" :key="m.sheet.id" class="num">{{ m.name }}</th>
                  <th class="num">effect</th>
                  <th class="num"></th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="s in f.steps" :key="s.lift">
                  <td>{{ lift(s.lift) }}</td>
                  <td v-for="(q, i) in s.flows" :key="i" class="num">{{ flow(q, f) }}</td>
                  <td class="num"><WorkedNumber :working="s.gain" bare signed :digits="digits(f)" /></td>
                  <td class="num"><WorkedNumber :working="s.share" signed :digits="1" /></td>
                </tr>
              </tbody>
            </table>
          </div>
        </article>
      </div>
    </template>
  </section>
</template>

<style scoped>
.families {
  margin-top: 22px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
  gap: 18px 34px;
}
h3 {
  margin: 6px 0 2px;
}
article {
  min-width: 0;
}
</style>
