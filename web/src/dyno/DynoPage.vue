<script setup lang="ts">
import {
  cameOutWords,
  format,
  formatNumber,
  numberOf,
  peakWords,
  pullDoubtWords,
  uncertaintyOf,
  unknownStandardWords,
  type Working,
} from '@alluvium/core';
import {
  alike,
  heldAgainst,
  learntOf,
  meanOfAlike,
  peakBy,
  powerPerFlowOf,
  pullRowsOf,
  readPullOf,
  removal,
  type AssumptionName,
  type Held,
  type Pull,
} from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { useComparison } from '../data/comparison.js';
import { usePulls, useAssumptions, standingOf } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import NoBuild from '../parts/NoBuild.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import PowerChart from './PowerChart.vue';
import PullForm from './PullForm.vue';
import { factorSteps } from './ownFactor.js';

/** What the engine made on the dyno, beside what was forecast of it, and what that teaches. */
const settings = useSettings();
const change = useChange();
const { active, heads, loading, error } = useComparison();
const query = usePulls();
const standing = standingOf(query);
const assumptions = useAssumptions();
const all = computed(() => query.data.value ?? []);
const pulls = computed(() => all.value.filter((p) => p.buildId === active.value?.build.id));
const chosen = ref<string>('new');
watch(
  () => [active.value?.build.id, standing.loading.value] as const,
  () => (chosen.value = pulls.value.at(-1)?.id ?? 'new'),
  { immediate: true },
);
const pull = computed(() => pulls.value.find((p) => p.id === chosen.value));
const read = computed(() => pull.value && readPullOf(pull.value));
const headOf = (p: Pull) => heads.value.find((h) => h.stage.id === p.stageId);
const head = computed(() => pull.value && headOf(pull.value));

/** Estimates are made for the air of a standard: J1349, which the power per flow of the trade is nearest to. */
const COMMON = 'SAE J1349';
const common = computed(() => pull.value && active.value && peakBy(pull.value, COMMON, active.value.build));
const made = (p: Pull): number | undefined => {
  const by = active.value && peakBy(p, COMMON, active.value.build);
  return by === undefined || typeof by === 'string' ? readPullOf(p).peakPower?.power : by.value;
};
const held = computed(() => {
  const power = pull.value && made(pull.value);
  return power === undefined || !head.value || pull.value!.dyno !== 'engine dyno' ? [] : heldAgainst(power, head.value);
});
const factorOf = (p: Pull): Working | undefined => {
  const h = headOf(p);
  const power = made(p);
  const { target, build } = active.value ?? {};
  return h && power !== undefined && target && build
    ? powerPerFlowOf(p, power, build, h, numberOf(target.charge))
    : undefined;
};
const factor = computed(() => pull.value && factorOf(pull.value));
const learnt = computed(() =>
  learntOf(
    pulls.value.flatMap((p) => {
      const k = factorOf(p);
      return k ? [{ pull: p, factor: k.value }] : [];
    }),
  ),
);
async function useOwn(): Promise<void> {
  const { factor: k, u } = learnt.value!;
  const spread = Math.sqrt(6) * u;
  const values: [AssumptionName, number][] = [
    ['leastPowerPerFlow', k.value - spread],
    ['likelyPowerPerFlow', k.value],
    ['mostPowerPerFlow', k.value + spread],
  ];
  await change.make(
    factorSteps(values, assumptions.data.value ?? [], settings.system),
    `Power per flow is the shop’s own now: ${format(k.value, 'powerPerFlow', settings.system)}.`,
  );
}

/** Pulls of one head, dyno and standard, which may be laid on one another. */
const group = computed(() => (pull.value ? pulls.value.filter((p) => alike(p, pull.value!)) : []));
const mean = computed(() => meanOfAlike(group.value));
/** Curves by the common standard, as the estimates beside them are, where that can be said. */
const series = computed(() =>
  group.value.map((p) => {
    const { points, peakPower } = readPullOf(p);
    const by = peakPower ? (made(p) ?? peakPower.power) / peakPower.power : 1;
    const drawn = points.map((x) => ({ ...x, power: x.power * by, torque: x.torque * by }));
    return { name: p.title, points: drawn, here: p.id === chosen.value };
  }),
);
const drawnBy = computed(() => (typeof common.value === 'string' ? 'as the sheet states it' : `by ${COMMON}`));
const unknown = computed(() =>
  pull.value?.correction === null && read.value?.peakPower
    ? unknownStandardWords(read.value.peakPower.power, settings.say)
    : '',
);
const cameOut = (h: Held) =>
  cameOutWords(
    h.off,
    h.estimate.value,
    uncertaintyOf(h.estimate, head.value?.verdict.book, settings.say)?.budget.u,
    settings.say,
  );
async function remove(): Promise<void> {
  const { id, title } = pull.value!;
  if (await change.make([removal('pull', id)], `${title} removed.`)) chosen.value = pulls.value.at(-1)?.id ?? 'new';
}
</script>

<template>
  <section v-if="active && !loading && !error && query.data.value">
    <header>
      <h1>Dyno</h1>
      <span class="note">what the engine made, beside what was forecast of it</span>
    </header>
    <nav aria-label="Pulls of this build" class="pulls">
      <button
        v-for="p in pulls"
        :key="p.id"
        type="button"
        class="worded"
        :aria-current="p.id === chosen ? 'true' : undefined"
        @click="chosen = p.id"
      >
        {{ p.title }}
        <span class="note">{{ p.date ?? '' }}</span>
      </button>
      <button
        type="button"
        class="worded"
        :aria-current="chosen === 'new' ? 'true' : undefined"
        @click="chosen = 'new'"
      >
        + new pull
      </button>
    </nav>
    <p v-if="pulls.length === 0" class="reading first">
      No pull of this engine yet. Paste one below, or choose its file: power or torque by rpm, any headings.
    </p>
    <div class="two">
      <PullForm
        :key="pull?.id ?? 'new'"
        :pull="pull"
        :build="active.build"
        :heads="heads"
        @saved="chosen = $event.id"
        @remove="remove"
      />
      <div v-if="pull && read">
        <h2>
          Power
          <span class="note">{{ drawnBy }}; dotted: what was forecast of this head</span>
        </h2>
        <PowerChart :series="series" :estimates="held" :target="active.core" />
        <p class="reading">
          {{ peakWords(read, pull.correction, settings.say) }}
        </p>
        <p v-for="a in pullDoubtWords(read, pullRowsOf(pull), settings.say)" :key="a" class="caution">{{ a }}</p>
        <p v-if="unknown" class="note">{{ unknown }}</p>
        <p v-if="pull.dyno === 'chassis dyno'" class="note">
          Power at the wheels is another quantity than power at the crank: it is held against nothing here.
        </p>
        <table class="ruled">
          <tbody>
            <tr v-if="common && typeof common !== 'string'">
              <td>peak by {{ COMMON }}</td>
              <td class="num"><WorkedNumber :working="common" /></td>
              <td />
            </tr>
            <tr v-else-if="common">
              <td colspan="3" class="note">By {{ COMMON }} it cannot be said. {{ common }}</td>
            </tr>
            <tr v-for="h in held" :key="h.id">
              <td>{{ h.title }}</td>
              <td class="num"><WorkedNumber :working="h.estimate" :book="head!.verdict.book" /></td>
              <td class="num">{{ cameOut(h) }}</td>
            </tr>
            <tr v-if="group.length > 1">
              <td>mean of {{ group.length }} pulls alike, and one against the next</td>
              <td class="num">{{ settings.say.of(Math.max(...mean.points.map((p) => p.power)), 'power') }}</td>
              <td class="num">
                {{
                  mean.repeatability === undefined
                    ? ''
                    : `± ${settings.say.of(mean.repeatability, 'percent', { digits: 1 })}`
                }}
              </td>
            </tr>
            <tr v-if="factor">
              <td>power each cfm made</td>
              <td class="num"><WorkedNumber :working="factor" /></td>
              <td />
            </tr>
            <tr v-if="learnt">
              <td>
                the shop’s own power per flow, from {{ learnt.count }}
                {{ learnt.count === 1 ? 'engine' : 'engines' }} of this build
              </td>
              <td class="num">
                <WorkedNumber :working="learnt.factor" />
                <small>± {{ formatNumber(learnt.u, 'powerPerFlow', settings.system, { digits: 3 }) }}</small>
              </td>
              <td class="num">
                <el-button size="small" class="no-print" @click="useOwn">Use it in every verdict</el-button>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="!head" class="note">
          Say which head of the lineup was on the engine: then what was forecast of it stands here beside the pull.
        </p>
        <p class="note">
          A dyno is as sure as its brake and its air. Pulls of different standards are brought to one before they are
          compared; crank and wheels never.
        </p>
      </div>
    </div>
  </section>
  <NoBuild v-else-if="!active" :loading="loading" :error="error" />
  <WaitingNote v-else :loading="loading || standing.loading.value" :error="error || standing.error.value" />
</template>

<style scoped>
header {
  display: flex;
  gap: 20px;
  align-items: baseline;
}
.pulls {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  margin: 4px 0 12px;
}
.pulls [aria-current] {
  font-weight: 600;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
  gap: 32px;
}
@media (width < 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
small {
  margin-left: 3px;
  color: var(--slate);
}
</style>
