<script setup lang="ts">
import {
  CAUSES,
  CAUSE_TESTS,
  CAUSE_WORDS,
  causesOf,
  causesWords,
  fellShort,
  madeMore,
  nextTest,
  signWords,
  uncertaintyOf,
  type Cause,
} from '@alluvium/core';
import { factsOf, replacement } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import type { ActiveBuild } from '../data/build.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import TextField from '../parts/TextField.vue';
import { useSettings } from '../state/settings.js';
import { estimatesOf, type PullRead } from './useDyno.js';
import { pointsOf, type usePullCurve } from './usePullCurve.js';

// c.torque[]!: a place of the list.

/** Why it fell short: causes in the order of evidence, the next test, and later what it was. */
const props = defineProps<{ active: ActiveBuild; read: PullRead; sim: ReturnType<typeof usePullCurve> }>();
const settings = useSettings();
const change = useChange();
/** What it fell short of: the simulation itself, or one of the estimates with the simulation's shape over speed. */
const heldTo = ref('peak-flow');
const against = computed(() => [
  ['simulation', 'the simulation as it is'] as const,
  ...estimatesOf(props.read).map((h) => [h.id, h.title] as const),
]);
const facts = computed(() => {
  const { curve, camOff } = props.sim;
  const { pull, points, whole, evaluation } = props.read;
  const { build, core, target } = props.active;
  if (!curve.value || !whole || !evaluation || !target) return undefined;
  const c = curve.value;
  const middle = Math.floor(c.speeds.length / 2);
  const band = c.band?.[middle];
  const powers = pointsOf(c.speeds, c.torque);
  const estimate = estimatesOf(props.read).find((h) => h.id === heldTo.value)?.estimate;
  // An estimate speaks at one speed: over the others it has the simulation's shape.
  const level = estimate ? estimate.value / Math.max(...powers.map((p) => p.power)) : 1;
  const spread = estimate
    ? (uncertaintyOf(estimate, evaluation.verdict.book, settings.say)?.budget.u ?? 0.04 * estimate.value) /
      estimate.value
    : band
      ? (band.high - band.low) / (4 * c.torque[middle]!)
      : 0.04;
  return factsOf(
    pull,
    points,
    {
      points: powers.map((p) => ({ ...p, power: p.power * level })),
      u: spread,
    },
    build,
    core,
    target,
    whole,
    evaluation,
    camOff(),
  );
});
const causes = computed(() => (facts.value ? causesOf(facts.value) : []));
const short = computed(() => facts.value !== undefined && fellShort(facts.value));
const next = computed(() => (short.value ? nextTest(causes.value) : undefined));
const off = (v: number) => settings.say.of(v, 'percent', { digits: 1, signed: true });
const said = ref({ cause: props.read.pull.cause, note: props.read.pull.causeNote });
watch(
  () => props.read.pull.version,
  () => (said.value = { cause: props.read.pull.cause, note: props.read.pull.causeNote }),
);
const save = () =>
  change.make(
    [replacement('pull', { ...props.read.pull, cause: said.value.cause, causeNote: said.value.note })],
    said.value.cause ? `It was this: ${CAUSE_WORDS[said.value.cause]}.` : 'Why it fell short is open again.',
  );
const options = [[null, 'not found yet'] as const, ...CAUSES.map((c) => [c as Cause | null, CAUSE_WORDS[c]] as const)];
</script>

<template>
  <div>
    <h2>Why it fell short</h2>
    <template v-if="!facts">
      <p class="reading">
        Causes are told apart by where over the speeds the power is missing: run the head in the engine first.
      </p>
      <p class="no-print">
        <el-button v-if="sim.busy.value" size="small" @click="sim.stop()">Stop</el-button>
        <el-button v-else-if="read.evaluation" size="small" type="primary" @click="sim.run()">Simulate it</el-button>
        <span v-if="sim.busy.value" class="note" role="status">{{ sim.busy.value }}</span>
      </p>
      <p v-if="!read.evaluation" class="note">Say which head was on the engine.</p>
    </template>
    <template v-else>
      <ChoiceField v-model="heldTo" class="against" label="Held against" :options="against" />
      <p class="reading">{{ causesWords(causes, short, madeMore(facts), settings.say) }}</p>
      <p class="note">
        Made against forecast: {{ off(facts.off.low) }} low down, {{ off(facts.off.middle) }} in the middle,
        {{ off(facts.off.high) }} at the top; the forecast’s own level is known to
        {{ settings.say.of(2 * facts.u, 'percent', { digits: 1 }) }}.
      </p>
      <p v-if="next" class="next">
        Next:
        <b>{{ next.act }}</b>
        <span class="note">about {{ next.minutes }} minutes; it speaks of: {{ CAUSE_WORDS[next.cause] }}</span>
      </p>
      <p class="no-print">
        <el-button v-if="sim.busy.value" size="small" @click="sim.stop()">Stop</el-button>
        <el-button v-else-if="!sim.cam.value" size="small" @click="sim.seekCam()">
          Find the cam this head wants
        </el-button>
        <span v-if="sim.busy.value" class="note" role="status">{{ sim.busy.value }}</span>
      </p>
      <ol v-if="short" class="causes">
        <li v-for="c in causes" :key="c.cause">
          <b>{{ CAUSE_WORDS[c.cause] }}</b>
          <span class="num">{{ settings.say.of(c.share, 'percent', { digits: 0 }) }}</span>
          <span v-for="s in c.for" :key="s.code" class="gain">for it: {{ signWords(s, settings.say) }}</span>
          <span v-for="s in c.against" :key="s.code" class="loss">against it: {{ signWords(s, settings.say) }}</span>
          <span v-if="c.untested" class="note">nothing of it was measured: {{ CAUSE_TESTS[c.cause].act }}</span>
        </li>
      </ol>
      <p class="note">
        Weights are common practice, no source: they order what to look at, they prove nothing. Change ignition and
        mixture in small steps, watch for knock, and keep within what the engine’s maker allows.
      </p>
    </template>
    <p v-if="sim.problem.value" class="loss" role="alert">{{ sim.problem.value }}</p>
    <form class="found no-print" @submit.prevent="save">
      <ChoiceField v-model="said.cause" label="What it was" :options="options" />
      <TextField v-model="said.note" label="How it was found" />
      <el-button size="small" native-type="submit">Save it</el-button>
    </form>
  </div>
</template>

<style scoped>
.against {
  max-width: 320px;
}
.causes {
  margin: 6px 0;
  padding-left: 24px;
}
.causes li {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.causes .num {
  margin-left: 10px;
}
.causes .gain,
.causes .loss,
.causes .note,
.next .note {
  display: block;
}
.found {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 6px 18px;
  align-items: end;
  margin-top: 12px;
}
@media (width < 700px) {
  .found {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
