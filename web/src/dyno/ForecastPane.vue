<script setup lang="ts">
import { outsideWords, powerAt, powerFromTorque, torqueFromPower } from '@alluvium/core';
import { computed, ref } from 'vue';
import { useComparison } from '../data/comparison.js';
import ChoiceField from '../parts/ChoiceField.vue';
import type { ActiveBuild } from '../data/build.js';
import { useSettings } from '../state/settings.js';
import EstimateRows from './EstimateRows.vue';
import PowerChart from './PowerChart.vue';
import PullSheet from './PullSheet.vue';
import { COMMON, estimatesOf, type PullRead } from './useDyno.js';
import { pointsOf, tiedOf, type usePullCurve } from './usePullCurve.js';
import WideFrame from '../parts/WideFrame.vue';

// c.speeds[]!, found.values[]!, found.u[]!: lists by speed, and by what is tied.
// find()!: one of the list is chosen.
// tie.value!: the forecast stands on what was tied.

/** Each estimate beside the pull: the rules at one speed, the simulation over all of them, and where the pull left its range. */
const props = defineProps<{
  active: ActiveBuild;
  read: PullRead;
  sim: ReturnType<typeof usePullCurve>;
}>();
const settings = useSettings();
const held = computed(() => estimatesOf(props.read));
const simulated = computed(() => {
  const c = props.sim.curve.value;
  if (!c) return undefined;
  return {
    points: pointsOf(c.speeds, c.torque),
    band: c.band?.map((b, i) => {
      const power = (torque: number) => powerFromTorque.compute({ torque, speed: c.speeds[i]! });
      return { speed: c.speeds[i]!, low: power(b.low), high: power(b.high) };
    }),
  };
});
/** Where the pull lies against the simulation's range, at the speeds it was run at. */
const outside = computed(() => {
  const band = simulated.value?.band;
  if (!band) return '';
  return outsideWords(
    band.flatMap((b) => {
      const made = powerAt(props.read.points, b.speed);
      if (made === undefined) return [];
      const side = made < b.low ? 'below' : made > b.high ? 'above' : 'within';
      return [{ speed: b.speed, side } as const];
    }),
    settings.say,
  );
});
const madeTorque = computed(() =>
  props.sim.curve.value?.speeds.map((s) => {
    const p = powerAt(props.read.points, s);
    return p === undefined ? undefined : torqueFromPower.compute({ power: p, speed: s });
  }),
);
const mayTie = computed(() => madeTorque.value?.every((t) => t !== undefined) ?? false);
const tied = computed(() => {
  const [found, c] = [props.sim.tie.value, props.sim.curve.value];
  if (!found || !c) return undefined;
  return tiedOf(c.setup).map((t, i) => ({ ...t, now: found.values[i]!, after: found.u[i]! }));
});
/** Further off than this no friction and no combustion explain it. */
const FAR = 0.03;
const tieWords = computed(() => {
  const list = (tied.value ?? []).map((t) => {
    const say = (v: number) => settings.say.of(v, t.id === 'friction' ? 'ratio' : 'percent');
    return `${t.label} ${say(t.now)} (believed ${say(t.value)})`;
  });
  const left = props.sim.tie.value?.left ?? 0;
  return left > FAR
    ? `It cannot be tied within what is believed: it still lies ${share(left)} off, so something else differs: the cam’s card, the pipes, or the dyno. Nearest with ${list.join(', ')}.`
    : `The simulation lies on the pull to ${share(left)} with ${list.join(', ')}.`;
});
/** Another head of the lineup in this engine, with what was tied. */
const { heads } = useComparison();
const others = computed(() => heads.value.filter((h) => h.stage.id !== props.read.pull.stageId));
const otherId = ref('');
const message = ref('');
async function forecastOther(): Promise<void> {
  const h = others.value.find((x) => x.id === otherId.value)!;
  const torque = await props.sim.forecastHead(h.whole, h.stage.id);
  const c = props.sim.curve.value;
  if (!torque || !c) return;
  const { power: most, speed: at } = pointsOf(c.speeds, torque).reduce((a, b) => (b.power > a.power ? b : a));
  const u = props.sim.tie.value!.left * most;
  message.value = `${h.name} would make about ${settings.say.of(most, 'power', { digits: 0 })} ± ${settings.say.of(2 * u, 'power', { digits: 0 })} at ${settings.say.of(at, 'rotation')} in this engine, on this cam.`;
}
const print = () => window.print();
const share = (v: number) => settings.say.of(v, 'percent', { digits: 1 });
</script>

<template>
  <div>
    <PullSheet :read="read" part="facts" />
    <h2>
      Power
      <span class="note">
        {{ typeof read.common === 'string' ? 'as the sheet states it' : `by ${COMMON}` }}; dotted: what was forecast;
        shaded: the simulation’s range, 95 %
      </span>
    </h2>
    <PowerChart
      :series="[{ name: read.pull.title, points: read.points, here: true }]"
      :estimates="held"
      :target="active.core"
      :forecast="simulated"
    />
    <p v-if="outside" class="reading">{{ outside }}</p>
    <WideFrame>
      <table class="ruled">
        <tbody>
          <EstimateRows :read="read" />
        </tbody>
      </table>
    </WideFrame>
    <p v-if="!read.evaluation" class="note">
      Say which head was on the engine: then what was forecast of it stands here beside the pull.
    </p>
    <p v-else class="tools no-print">
      <el-button v-if="sim.busy.value" size="small" @click="sim.stop()">Stop</el-button>
      <template v-else>
        <el-button size="small" type="primary" @click="sim.run()">Simulate it</el-button>
        <el-button v-if="mayTie" size="small" @click="sim.tieIt(madeTorque as number[])">
          Tie the simulation to this pull
        </el-button>
      </template>
      <span v-if="sim.busy.value" class="note" role="status">{{ sim.busy.value }}</span>
    </p>
    <p v-if="sim.problem.value" class="loss" role="alert">{{ sim.problem.value }}</p>
    <template v-if="tied">
      <p class="reading">{{ tieWords }}</p>
      <p class="note">
        The two stand in for one another: correlation {{ settings.say.number(sim.tie.value!.correlation, 2) }}. What is
        left over is how far another head’s forecast may be trusted in this engine.
      </p>
      <div class="tools no-print">
        <ChoiceField
          v-model="otherId"
          label="With what was tied, forecast"
          :options="[['', 'choose a head'] as const, ...others.map((h) => [h.id, `${h.letter} ${h.name}`] as const)]"
        />
        <el-button v-if="otherId" size="small" :loading="Boolean(sim.busy.value)" @click="forecastOther">
          Forecast it
        </el-button>
      </div>
      <p v-if="message" class="reading" role="status">{{ message }}</p>
    </template>
    <PullSheet :read="read" part="rows" />
    <p class="note no-print">
      Rules speak at one speed. The simulation runs the head with cam and compression as the pull notes them; where it
      notes none, as the build has them.
    </p>
    <p class="tools no-print"><el-button size="small" @click="print">Print pull and forecast</el-button></p>
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
}
.tools :deep(.el-button) {
  margin: 0;
}
</style>
