<script setup lang="ts">
import type { AssumedId, Quantity, SimulationSetup } from '@alluvium/core';
import { degrees, type Kind, type SpeedResult } from '@alluvium/core';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import QuantityField from '../parts/QuantityField.vue';
import { useSettings } from '../state/settings.js';
import { Cancelled, Pool } from './pool.js';
import SweepChart, { type Line } from './SweepChart.vue';

/** One head with something else about the engine, beside itself as it is. Nothing stored changes. */
const props = defineProps<{
  heads: readonly {
    readonly id: string;
    readonly letter: string;
    readonly name: string;
    readonly index: number;
    readonly setup: SimulationSetup;
  }[];
  speeds: readonly number[];
  target: number;
}>();
const settings = useSettings();
const chosen = ref('');
const head = computed(() => props.heads.find((h) => h.id === chosen.value) ?? props.heads[0]!);

interface Change {
  readonly key: string;
  readonly label: string;
  readonly kind: Kind;
  /** Value as it is, and what a new one makes of the setup. @throws RangeError with a sentence. */
  readonly now: (s: SimulationSetup) => number;
  readonly apply: (s: SimulationSetup, v: number) => SimulationSetup;
}
const within = (v: number, low: number, high: number, sentence: string): number => {
  if (!(v >= low && v <= high)) throw new RangeError(sentence);
  return v;
};
const plain = (
  key: 'bore' | 'stroke' | 'compression',
  label: string,
  kind: Kind,
  low: number,
  high: number,
  sentence: string,
): Change => ({
  key,
  label,
  kind,
  now: (s) => s[key],
  apply: (s, v) => ({
    ...s,
    [key]: within(v, low, high, sentence),
    ...(key === 'stroke' ? { rod: Math.max(s.rod, 0.8 * v) } : {}),
  }),
});
const assumed = (id: AssumedId, label: string, kind: Kind): Change => ({
  key: id,
  label,
  kind,
  now: (s) => s.assumed.find((a) => a.id === id)!.value,
  apply: (s, v) => ({
    ...s,
    assumed: s.assumed.map((a) => {
      if (a.id !== id) return a;
      return {
        ...a,
        value: within(v, a.value / 8, a.value * 8, `${label} must lie within eight times what it is now.`),
        half: 0,
      };
    }),
  }),
});
const cam = (key: 'lobeSeparation' | 'intakeCentreline', label: string): Change => ({
  key,
  label,
  kind: 'angle',
  now: (s) => s.cam[key],
  apply: (s, v) => ({
    ...s,
    cam: { ...s.cam, [key]: within(v, degrees(80), degrees(140), `${label} must lie between 80° and 140°.`) },
  }),
});
const lift: Change = {
  key: 'lift',
  label: 'Lift, intake and exhaust alike',
  kind: 'lift',
  now: (s) => s.cam.intake.maxLift,
  apply: (s, v) => {
    const by = within(v, 0.002, 0.05, 'Lift must lie between 2 and 50 mm.') / s.cam.intake.maxLift;
    const of = (l: typeof s.cam.intake) => ({ ...l, maxLift: l.maxLift * by });
    return { ...s, cam: { ...s.cam, intake: of(s.cam.intake), exhaust: of(s.cam.exhaust) } };
  },
};
const duration: Change = {
  key: 'duration',
  label: 'Seat-to-seat duration, intake',
  kind: 'angle',
  now: (s) => 2 * s.cam.intake.halfDuration,
  apply: (s, v) => {
    within(v, degrees(180), degrees(360), 'Seat-to-seat duration must lie between 180° and 360°.');
    return { ...s, cam: { ...s.cam, intake: { ...s.cam.intake, halfDuration: v / 2 } } };
  },
};
const area: Change = {
  key: 'area',
  label: 'Port area, all along, ×',
  kind: 'ratio',
  now: () => 1,
  apply: (s, v) => {
    within(v, 0.7, 1.5, 'The port’s area can be taken from 0.7 to 1.5 times.');
    return {
      ...s,
      ports: s.ports.map((p) => ({ ...p, intakePort: p.intakePort.map((q) => ({ x: q.x, area: q.area * v })) })),
    };
  },
};
const pressure: Change = {
  key: 'pressure',
  label: 'Pressure of the air around',
  kind: 'pressure',
  now: (s) => s.around.p,
  apply: (s, v) => ({
    ...s,
    around: { ...s.around, p: within(v, 4e4, 1.1e5, 'The air around must lie between 0.4 and 1.1 bar.') },
  }),
};
const air: Change = {
  key: 'air',
  label: 'Temperature of the air around',
  kind: 'temperature',
  now: (s) => s.around.T,
  apply: (s, v) => ({
    ...s,
    around: { ...s.around, T: within(v, 230, 330, 'The air around must lie between −43 and 57 °C.') },
  }),
};
/** Charge of a compressor of 65 %, not cooled (common practice, no source). */
const heated = (T: number, ratio: number) => T * (1 + (ratio ** (0.4 / 1.4) - 1) / 0.65);
const boost: Change = {
  key: 'boost',
  label: 'Pressure ratio, absolute',
  kind: 'ratio',
  now: (s) => (s.induction.kind === 'boosted' ? s.induction.pressureRatio : 1),
  apply: (s, v) => {
    within(v, 1, 4, 'The pressure ratio must lie between 1 and 4.');
    return {
      ...s,
      induction: {
        kind: 'boosted',
        pressureRatio: v,
        chargeTemperature: s.induction.kind === 'boosted' ? s.induction.chargeTemperature : heated(s.around.T, v),
        ambientTemperature: s.around.T,
      },
    };
  },
};
const charge: Change = {
  key: 'charge',
  label: 'Charge temperature',
  kind: 'temperature',
  now: (s) => (s.induction.kind === 'boosted' ? s.induction.chargeTemperature : s.around.T),
  apply: (s, v) => {
    within(v, 250, 450, 'The charge must lie between −23 and 177 °C.');
    if (s.induction.kind !== 'boosted')
      throw new RangeError('Give a pressure ratio first: without boost the charge is the air around.');
    return { ...s, induction: { ...s.induction, chargeTemperature: v } };
  },
};
const CHANGES: readonly Change[] = [
  plain('bore', 'Bore', 'length', 0.03, 0.6, 'The bore must lie between 30 and 600 mm.'),
  plain('stroke', 'Stroke', 'length', 0.03, 0.8, 'The stroke must lie between 30 and 800 mm.'),
  plain('compression', 'Compression', 'compression', 5, 25, 'Compression must lie between 5:1 and 25:1.'),
  lift,
  duration,
  cam('lobeSeparation', 'Lobe separation'),
  cam('intakeCentreline', 'Intake centreline'),
  assumed('runnerLength', 'Runner length', 'length'),
  assumed('runnerArea', 'Runner area', 'area'),
  assumed('plenumVolume', 'Plenum volume', 'displacement'),
  assumed('inletArea', 'Throttle area', 'area'),
  assumed('primaryLength', 'Exhaust pipe length', 'length'),
  assumed('backPressure', 'Back pressure', 'pressure'),
  area,
  pressure,
  air,
  boost,
  charge,
];
const typed = ref<Record<string, Quantity | null>>({});
const problems = ref<Record<string, string>>({});
const changes = computed(() => CHANGES.filter((c) => typed.value[c.key]));
const known = (setup: SimulationSetup): SimulationSetup => ({
  ...setup,
  assumed: setup.assumed.map((a) => (a.id === 'runnerLength' ? { ...a, half: 0 } : a)),
});
/** As it is and as it would be, both at one runner length, so that only what was changed differs. */
const both = computed(() => {
  const now = known(head.value.setup);
  let then = now;
  const wrong: Record<string, string> = {};
  for (const c of changes.value) {
    try {
      then = c.apply(then, typed.value[c.key]!.si);
    } catch (e) {
      wrong[c.key] = (e as Error).message;
    }
  }
  return { now, then, wrong };
});
const pool = new Pool();
onScopeDispose(() => pool.close());
const before = shallowRef<readonly SpeedResult[]>([]);
const after = shallowRef<readonly SpeedResult[]>([]);
const failed = ref<readonly string[]>([]);
const trouble = ref('');
const byTarget = computed(() =>
  [...props.speeds].sort((a, b) => Math.abs(a - props.target) - Math.abs(b - props.target)),
);
let round = 0;
async function run(): Promise<void> {
  const own = ++round;
  pool.cancel();
  after.value = [];
  failed.value = [];
  trouble.value = '';
  if (changes.value.length === 0 || Object.keys(both.value.wrong).length > 0) return;
  const { now, then } = both.value;
  const one = async (setup: SimulationSetup, to: typeof before, speed: number) => {
    const point = await pool.ask<'single'>({ kind: 'single', setup, speed });
    if (own !== round) return;
    if (point.ok) to.value = [...to.value, point].sort((a, b) => a.speed - b.speed);
    else failed.value = [...failed.value, `${settings.say.of(speed, 'rotation')}: ${point.reason}`];
  };
  const kept = before.value.length > 0 && keyNow === JSON.stringify(now);
  if (!kept) before.value = [];
  keyNow = JSON.stringify(now);
  try {
    await Promise.all(
      byTarget.value.flatMap((speed) => [
        one(then, after, speed),
        ...(before.value.some((p) => p.speed === speed) ? [] : [one(now, before, speed)]),
      ]),
    );
  } catch (e) {
    if (own === round && !(e instanceof Cancelled)) trouble.value = (e as Error).message;
  }
}
let keyNow = '';
watch(
  () => JSON.stringify([both.value.now, both.value.then, both.value.wrong]),
  () => void run(),
);
const lines = computed((): Line[] => [
  { name: 'as it is', index: 0, points: before.value.map((p) => ({ speed: p.speed, value: p.power })) },
  { name: 'changed', index: 1, points: after.value.map((p) => ({ speed: p.speed, value: p.power })) },
]);
const gain = computed(() => {
  const at = (list: readonly SpeedResult[]) => list.find((p) => Math.abs(p.speed - props.target) < 1e-6);
  const [a, b] = [at(before.value), at(after.value)];
  return a && b
    ? `At ${settings.say.of(props.target, 'rotation')}: ${settings.say.of(b.power - a.power, 'power', { digits: 0, signed: true })}, ${settings.say.of(b.torque - a.torque, 'torque', { digits: 0, signed: true })}.`
    : '';
});
function clear(): void {
  typed.value = {};
  problems.value = {};
}
</script>

<template>
  <div class="what">
    <div class="fields">
      <label class="which">
        <span class="note">head</span>
        <el-select v-model="chosen" size="small" :placeholder="head.letter" aria-label="Head to change">
          <el-option v-for="h in heads" :key="h.id" :value="h.id" :label="`${h.letter} ${h.name}`" />
        </el-select>
      </label>
      <QuantityField
        v-for="c in CHANGES"
        :key="c.key"
        :model-value="typed[c.key] ?? null"
        :kind="c.kind"
        :label="c.label"
        :placeholder="settings.say.of(c.now(head.setup), c.kind)"
        :problem="both.wrong[c.key] ?? problems[c.key]"
        @update:model-value="typed = { ...typed, [c.key]: $event }"
        @update:problem="problems = { ...problems, [c.key]: $event }"
      />
      <el-button size="small" class="clear" :disabled="changes.length === 0" @click="clear">Clear changes</el-button>
    </div>
    <div>
      <template v-if="changes.length">
        <p class="reading" aria-live="polite">{{ gain || 'Running …' }}</p>
        <SweepChart
          :lines="lines"
          kind="power"
          label="Power as it is and changed"
          :target="{ speed: target }"
          :digits="0"
        />
        <p v-for="f in failed" :key="f" class="caution">{{ f }}</p>
        <p v-if="trouble" class="loss" role="alert">{{ trouble }}</p>
        <p class="note">
          One runner length, no ranges. The valve’s effective area is found anew through the virtual bench when the port
          changes, so that the sheet stays what it is. Nothing is stored.
        </p>
      </template>
      <p v-else class="note">Type what would be different: the curve is drawn beside the engine as it is.</p>
    </div>
  </div>
</template>

<style scoped>
.what {
  display: grid;
  grid-template-columns: minmax(260px, 2fr) minmax(0, 3fr);
  gap: 30px;
}
@media (max-width: 900px) {
  .what {
    grid-template-columns: minmax(0, 1fr);
  }
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 20px;
  align-content: start;
}
.which {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 8px;
}
.which .el-select {
  width: 200px;
}
.clear {
  align-self: end;
}
.reading {
  margin: 0 0 6px;
  font-size: 16px;
}
</style>
