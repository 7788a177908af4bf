<script setup lang="ts">
import {
  DEGREES,
  bestWords,
  betterWords,
  degreeWords,
  disagreementWords,
  flipWords,
  matchWords,
  oddsBetter,
  oddsWords,
  openWords,
  targetWords,
  type Degree,
  type SchoolId,
  type Working,
} from '@alluvium/core';
import { ElCollapse, ElCollapseItem } from 'element-plus';
import { computed, ref } from 'vue';
import ArrivalNote from '../arrival/ArrivalNote.vue';
import NoBuild from '../parts/NoBuild.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useComparison, type CompareHead } from '../data/comparison.js';
import { useSettings } from '../state/settings.js';
import AssumptionsDialog from './AssumptionsDialog.vue';
import KeptVerdicts from './KeptVerdicts.vue';
import LadderChart from './LadderChart.vue';
import SettleList from './SettleList.vue';
import WideFrame from '../parts/WideFrame.vue';

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
const tone = (degree: Degree): string => ['short', 'short', 'open', 'carries', 'carries'][DEGREES.indexOf(degree)]!;
const wordsOf = (h: CompareHead) =>
  matchWords(h.match, h.verdict, target.value!, speed.value, active.value!.core.cam?.lobeSeparation, settings.say);
const SCHOOLS: readonly SchoolId[] = ['area', 'valve', 'peak-flow', 'ratio-derated'];
const schools = computed(() =>
  SCHOOLS.flatMap((id) => {
    const found = shown.value.map((h) => h.match.schools.find((s) => s.id === id));
    const any = found.find(Boolean);
    return any
      ? [{ id, title: any.title, assumes: any.assumes, notHere: any.notHere, powers: found.map((s) => s?.power) }]
      : [];
  }),
);
/** Power the air has to make: what every estimate is held against. */
const wanted = computed(() => target.value!.airPower);
/** Flow of head and manifold together, where anything is known of the manifold. */
const behindManifold = computed(() =>
  shown.value.map((h) =>
    h.match.flow && typeof h.match.flow === 'object' && 'method' in h.match.flow ? h.match.flow : undefined,
  ),
);
const figures = computed<[string, (Working | undefined)[], number?][]>(() => [
  ...(behindManifold.value.some(Boolean)
    ? [['best flow of head and manifold', behindManifold.value, 0] as [string, (Working | undefined)[], number]]
    : []),
  ['peak port velocity at the target', shown.value.map((h) => h.match.portVelocity)],
  ['mean inlet Mach index at the target', shown.value.map((h) => h.match.machIndex), 2],
  ['mean flow over this cam', shown.value.map((h) => h.match.intake?.mean)],
  // The rule is no finer than a few degrees, which the sizes it reads do not tell.
  ['lobe separation wanted', shown.value.map((h) => h.match.lobeSeparation), 0],
  ['flow the window rule expects', shown.value.map((h) => h.match.windowFlow), 0],
  ['best flow against that', shown.value.map((h) => h.match.againstWindow), 0],
  ['bench speed at the least area', shown.value.map((h) => h.match.benchSpeed)],
  ['bench speed over the short turn', shown.value.map((h) => h.match.windowSpeed)],
  ['bench speed in the throat', shown.value.map((h) => h.match.throatSpeed)],
  ['money per horsepower', shown.value.map((h) => h.match.cost), 2],
]);
/** Power by the simulation, of the heads it was run with. */
const simulated = computed(() =>
  shown.value.map((h) => h.verdict.evidence.flatMap((e) => (e.code === 'simulated' ? [e] : []))[0]),
);
const apart = computed(() => disagreementWords(shown.value));
/** Every two heads that can be told apart or not, best first. */
const pairs = computed(() => {
  const judged = shown.value
    .filter((h) => h.verdict.margin)
    .sort((a, b) => b.verdict.margin!.mean - a.verdict.margin!.mean);
  return judged
    .slice(1)
    .map((h, i) => betterWords(judged[i]!.letter, h.letter, oddsBetter(judged[i]!.verdict, h.verdict)!));
});
const more = (h: CompareHead) => h.verdict.open.length + h.verdict.flips.length > 0;
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
          <WideFrame>
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
                    <span class="note assumes">{{ s.notHere ?? s.assumes }}</span>
                  </td>
                  <td v-for="(p, i) in s.powers" :key="i" class="num" :class="{ loss: p && p.value < wanted * 0.995 }">
                    <WorkedNumber :working="p" :book="shown[i]!.verdict.book" bare />
                  </td>
                </tr>
                <tr v-if="simulated.some(Boolean)">
                  <td>
                    the simulation, at the speed wanted
                    <span class="note assumes">decides the verdict of a head it was run with</span>
                  </td>
                  <td
                    v-for="(e, i) in simulated"
                    :key="i"
                    class="num"
                    :class="{ loss: e && e.power < active.core.power * 0.995 }"
                  >
                    <template v-if="e">
                      <RouterLink
                        :to="{ name: 'simulate', query: { build: active.build.id } }"
                        title="How it came about: Simulate"
                      >
                        {{ settings.say.of(e.power, 'power', { digits: 0 }) }}
                        <span class="note">± {{ settings.say.of(e.u, 'power', { digits: 0 }) }}</span>
                      </RouterLink>
                    </template>
                    <RouterLink v-else class="no-print" :to="{ name: 'simulate', query: { build: active.build.id } }">
                      run it
                    </RouterLink>
                  </td>
                </tr>
                <tr v-for="[name, workings, digits] in figures" :key="name">
                  <td>{{ name }}</td>
                  <td v-for="(w, i) in workings" :key="i" class="num">
                    <WorkedNumber
                      :working="w"
                      :digits="digits"
                      :signed="w?.method.id === 'against-window'"
                      :book="digits === 0 ? undefined : shown[i]!.verdict.book"
                      bare
                    />
                  </td>
                </tr>
              </tbody>
            </table>
          </WideFrame>
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
          <article v-for="h in shown" :key="h.id" class="verdict" :aria-label="`Verdict on ${h.letter} ${h.name}`">
            <h2>
              <span class="letter">{{ h.letter }}</span>
              {{ h.name }}
              <small>{{ h.stage.name }}</small>
              <span class="word" :class="tone(h.verdict.degree)">{{ degreeWords(h.verdict) }}</span>
            </h2>
            <p class="reading">{{ wordsOf(h).join(' ') }}</p>
            <ArrivalNote :head="h" />
            <p v-for="q in h.verdict.open" :key="q.question + q.runner" class="note open">{{ openWords(q) }}</p>
            <ElCollapse v-if="more(h)" class="more">
              <ElCollapseItem v-if="h.verdict.flips.length" title="What would flip it">
                <ul>
                  <li v-for="f in h.verdict.flips" :key="f.leaf.id">{{ flipWords(f, settings.say) }}</li>
                </ul>
                <p class="note">
                  The smallest change of each alone that turns the verdict; found by evaluating it again.
                </p>
              </ElCollapseItem>
              <ElCollapseItem v-if="h.verdict.limits.length > 1" title="Each limit’s own odds">
                <ul>
                  <li v-for="l in h.verdict.limits" :key="l.runner + l.id">
                    {{ l.runner || 'the head' }}, {{ l.id === 'flow' ? 'flow' : 'least port area' }}:
                    {{ oddsWords(l.odds) }}
                  </li>
                </ul>
              </ElCollapseItem>
            </ElCollapse>
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
.open {
  margin: 2px 0 6px;
  color: var(--caution);
}
.more {
  margin-bottom: 6px;
}
.more ul,
.pairs {
  margin: 0;
  padding-left: 18px;
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
.word.open {
  margin: 0;
  color: var(--caution);
}
</style>
