<script setup lang="ts">
import { bestWords, matchWords, targetWords, type SchoolId, type Verdict, type Working } from '@alluvium/core';
import { computed } from 'vue';
import ArrivalNote from '../arrival/ArrivalNote.vue';
import NoBuild from '../parts/NoBuild.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useComparison, type CompareHead } from '../data/comparison.js';
import { useSettings } from '../state/settings.js';
import LadderChart from './LadderChart.vue';

/** Each head against the target: which one carries the engine, and why. */
const settings = useSettings();
const { active, heads, shown, loading, error } = useComparison();
const target = computed(() => active.value?.target);
const speed = computed(() => active.value!.core.speed);

const best = computed(() =>
  bestWords(
    shown.value.map((h) => ({
      letter: h.letter,
      name: h.name,
      match: h.match,
      arrival: h.arrival,
      ...(h.whole.head.price ? { price: h.whole.head.price.si } : {}),
    })),
    target.value!,
    speed.value,
    settings.say,
  ),
);
const belief = computed(() => targetWords(target.value!, settings.say));
const VERDICTS: Record<Verdict, string> = {
  carries: 'carries it',
  close: 'on the line',
  short: 'falls short',
  unknown: 'not known',
};
const wordsOf = (h: CompareHead) =>
  matchWords(h.match, target.value!, speed.value, active.value!.core.cam?.lobeSeparation, settings.say);
const SCHOOLS: readonly SchoolId[] = ['area', 'valve', 'peak-flow', 'ratio-derated'];
const schools = computed(() =>
  SCHOOLS.flatMap((id) => {
    const found = shown.value.map((h) => h.match.schools.find((s) => s.id === id));
    const any = found.find(Boolean);
    return any ? [{ id, title: any.title, assumes: any.assumes, powers: found.map((s) => s?.power) }] : [];
  }),
);
const figures = computed<[string, (Working | undefined)[], number?][]>(() => [
  ['peak port velocity at the target', shown.value.map((h) => h.match.portVelocity)],
  ['mean inlet Mach index at the target', shown.value.map((h) => h.match.machIndex), 2],
  ['mean flow over this cam', shown.value.map((h) => h.match.intake?.mean), 0],
  ['lobe separation wanted', shown.value.map((h) => h.match.lobeSeparation)],
  ['flow the window rule expects', shown.value.map((h) => h.match.windowFlow), 0],
  ['bench speed at the least area', shown.value.map((h) => h.match.benchSpeed)],
  ['money per horsepower', shown.value.map((h) => h.match.cost), 2],
]);
const margin = (h: CompareHead) =>
  h.match.margin === undefined ? '' : settings.say.of(h.match.margin, 'flow', { digits: 0, signed: true });
</script>

<template>
  <section v-if="active && target && !loading && !error">
    <header>
      <h1>Match</h1>
      <span class="note">
        what each head could carry, against {{ settings.say.of(active.build.power.si, 'power') }} at
        {{ settings.say.of(speed, 'rotation') }}
      </span>
    </header>
    <template v-if="shown.length">
      <p class="reading best" aria-live="polite">{{ best }}</p>
      <div class="two">
        <div>
          <h2>
            Where each runs out
            <span class="note">first limit thick, red below the target; dashed: filling begins to fall</span>
          </h2>
          <LadderChart :heads="shown" :speed="speed" />
          <h2>The schools, side by side</h2>
          <table class="ruled">
            <thead>
              <tr>
                <th>power each could carry</th>
                <th v-for="h in shown" :key="h.id" class="num">{{ h.letter }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="s in schools" :key="s.id">
                <td>
                  {{ s.title }}
                  <span class="note assumes">{{ s.assumes }}</span>
                </td>
                <td
                  v-for="(p, i) in s.powers"
                  :key="i"
                  class="num"
                  :class="{ loss: p && p.value < active.build.power.si * 0.995 }"
                >
                  <WorkedNumber :working="p" bare />
                </td>
              </tr>
              <tr v-for="[name, workings, digits] in figures" :key="name">
                <td>{{ name }}</td>
                <td v-for="(w, i) in workings" :key="i" class="num">
                  <WorkedNumber :working="w" :digits="digits" bare />
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <div>
          <article v-for="h in shown" :key="h.id" class="verdict">
            <h2>
              <span class="letter">{{ h.letter }}</span>
              {{ h.name }}
              <small>{{ h.stage.name }}</small>
              <span class="word" :class="h.match.verdict">
                {{ VERDICTS[h.match.verdict] }}
                <span class="margin">{{ margin(h) }}</span>
              </span>
            </h2>
            <p class="reading">{{ wordsOf(h).join(' ') }}</p>
            <ArrivalNote :head="h" />
          </article>
          <p class="reading">{{ belief }}</p>
          <p class="caution">
            Ceilings for the breathing, not forecasts. No figure here is a licence to cut: sonic-test walls before deep
            porting.
          </p>
        </div>
      </div>
    </template>
    <p v-else-if="heads.length === 0" class="reading">
      No head is in the lineup yet. Open one under
      <RouterLink to="/heads">Heads</RouterLink>
      and add it.
    </p>
    <p v-else class="reading">Every head is hidden. Press its digit to show it again.</p>
  </section>
  <p v-else-if="active && !target" class="reading">
    {{ active.problem }}
    <RouterLink :to="{ name: 'target', query: { build: active.build.id } }">Correct the target</RouterLink>
  </p>
  <NoBuild v-else :loading="loading" :error="error" />
</template>

<style scoped>
header {
  display: flex;
  align-items: baseline;
  gap: 22px;
}
.best {
  max-width: 900px;
  margin: 8px 0 14px;
  font-size: 20px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(300px, 2fr);
  gap: 34px;
}
h2 {
  margin: 0 0 6px;
}
.two > div > h2:not(:first-child) {
  margin-top: 14px;
}
.assumes {
  display: block;
  font-size: 14px;
  max-width: 430px;
}
.verdict {
  border-top: 1px solid var(--rule);
  padding: 8px 0 2px;
}
.verdict:first-child {
  border-top: 0;
  padding-top: 0;
}
.verdict .reading {
  margin: 4px 0 8px;
  font-size: 16px;
}
small {
  font-weight: 400;
  color: var(--slate);
}
.word {
  float: right;
  font-weight: 600;
}
.word.carries {
  color: var(--gain);
}
.word.short {
  color: var(--loss);
}
.word.close,
.word.unknown {
  color: var(--caution);
}
.margin {
  font-weight: 400;
}
</style>
