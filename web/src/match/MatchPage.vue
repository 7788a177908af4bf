<script setup lang="ts">
import { bestWords, betterWords, disagreementWords, lowOf, oddsBetter, targetWords } from '@alluvium/core';
import { computed, ref } from 'vue';
import NoBuild from '../parts/NoBuild.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useComparison } from '../data/comparison.js';
import { useSettings } from '../state/settings.js';
import AssumptionsDialog from './AssumptionsDialog.vue';
import KeptVerdicts from './KeptVerdicts.vue';
import HeadVerdict from './HeadVerdict.vue';
import LadderChart from './LadderChart.vue';
import MatchFigures from './MatchFigures.vue';
import SettleList from './SettleList.vue';

// active.value!, target.value!: shown with both.
// judged[]!, oddsBetter()!: of the heads that have a margin, in its order.

/** Each head against the target: which one carries the engine, how sure that is, and what would change it. */
const settings = useSettings();
const assuming = ref(false);
const { active, heads, shown, loading, error } = useComparison();
const target = computed(() => active.value?.target);
const speed = computed(() => active.value!.core.speed);

const best = computed(() =>
  bestWords(
    shown.value.map((h) => ({
      letter: h.letter,
      name: h.name,
      match: h.match,
      verdict: h.verdict,
      arrival: h.arrival,
      ...(h.whole.head.price ? { price: h.whole.head.price.si } : {}),
    })),
  ),
);
const belief = computed(() => targetWords(target.value!, settings.say));
/** Power the air has to make: what every estimate is held against. */
const wanted = computed(() => target.value!.airPower);
const apart = computed(() => disagreementWords(shown.value));
/** Every two heads that can be told apart or not, best first. */
const pairs = computed(() => {
  const judged = shown.value.filter((h) => h.verdict.margin).sort((a, b) => lowOf(b.verdict) - lowOf(a.verdict));
  return judged
    .slice(1)
    .map((h, i) => betterWords(judged[i]!.letter, h.letter, oddsBetter(judged[i]!.verdict, h.verdict)!));
});
</script>

<template>
  <section v-if="active && target && !loading && !error">
    <header>
      <h1>Match</h1>
      <span class="note">
        what each head could carry, against {{ settings.say.of(active.core.power, 'power') }} at
        {{ settings.say.of(speed, 'rotation') }}
        <template v-if="wanted !== active.core.power">
          , of which the air must make {{ settings.say.of(wanted, 'power') }}
        </template>
        ; displacement
        <WorkedNumber :working="target.displacement" />
        , air taken at that speed
        <WorkedNumber :working="target.airflow" />
      </span>
      <RouterLink class="no-print" :to="{ name: 'simulate', query: { build: active.build.id } }">
        Simulate each head
      </RouterLink>
      <el-button class="no-print assume" size="small" @click="assuming = true">Assumptions</el-button>
      <AssumptionsDialog v-if="assuming" @close="assuming = false" />
    </header>
    <template v-if="shown.length">
      <p class="reading best" aria-live="polite">{{ best }}</p>
      <div class="two">
        <div>
          <h2>
            RPM limits
            <span class="note">
              first limit thick, red below the target; dashed: VE starts to drop; thin bar: 95 % range
            </span>
          </h2>
          <LadderChart :heads="shown" :speed="speed" />
          <h2>Power estimates, by method</h2>
          <MatchFigures :active="active" :heads="shown" />
          <p v-if="apart" class="note">{{ apart }}</p>
          <template v-if="pairs.length">
            <h2>
              Which is better
              <span class="note">what the heads share, the bench and the factor, cancels</span>
            </h2>
            <ul class="pairs">
              <li v-for="p in pairs" :key="p">{{ p }}</li>
            </ul>
          </template>
          <SettleList :heads="shown" />
          <KeptVerdicts :active="active" :heads="shown" :best="best" />
        </div>
        <div>
          <HeadVerdict v-for="h in shown" :key="h.id" :head="h" :active="active" />
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
header {
  flex-wrap: wrap;
}
header .assume {
  margin-left: auto;
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
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
h2 {
  margin: 0 0 6px;
}
.two > div > h2:not(:first-child) {
  margin-top: 14px;
}
.pairs {
  margin: 0;
  padding-left: 18px;
}
</style>
