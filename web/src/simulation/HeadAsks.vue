<script setup lang="ts">
import {
  MORE_LIFT,
  USUAL_ROOM,
  camWords,
  fairSwapWords,
  holdbackWords,
  moreCamWords,
  sizeWords,
  type BenchTest,
  type CamHold,
  type CamLimits,
  type Quantity,
} from '@alluvium/core';
import { measured, measuresAt, type MeasureItem } from '@alluvium/records';
import { computed, reactive, ref } from 'vue';
import QuantityField from '../parts/QuantityField.vue';
import ChoiceRow from '../parts/ChoiceRow.vue';
import { useSettings } from '../state/settings.js';
import AskPane from './AskPane.vue';
import type { Pool } from './pool.js';
import type { ReadyHead } from './ready.js';
import SizeChart from './SizeChart.vue';
import { useAsk } from './useAsk.js';

// some[]!, some.at()!, props.speeds[]!: a sweep has speeds.

/** What holds each head back, the cam it wants, the port size, and whether the model gives the sheets back. */
const props = defineProps<{
  heads: readonly ReadyHead[];
  pool: Pool;
  speeds: readonly number[];
  target: number;
  /** Speeds the build works in. */
  working: readonly [number, number];
}>();
const settings = useSettings();
const inside = computed(() => props.speeds.filter((s) => s >= props.working[0] - 1e-6 && s <= props.working[1] + 1e-6));
const heads = () => props.heads;
const hold = useAsk<'holdback'>(props.pool, heads, (h) => ({ kind: 'holdback', setup: h.setup, speed: props.target }));
/** What the cam is sought for. */
const AIMS = [
  ['torque', 'mean torque'],
  ['power', 'power at the target'],
  ['both', 'both'],
] as const;
const aim = ref<(typeof AIMS)[number][0]>('torque');
/** What stays as it is while the lobes move, and what a cam may not go beyond. */
const HOLDS = [
  ['nothing', 'both angles free'],
  ['centreline', 'centreline held'],
  ['advance', 'advance held'],
] as const;
const held = ref<CamHold>('nothing');
const room = reactive<Record<'intake' | 'exhaust', Quantity | null>>({ intake: null, exhaust: null });
const residual = ref<Quantity | null>(null);
const limits = computed((): CamLimits => {
  const of = (side: 'intake' | 'exhaust') =>
    room[side] ? { [side]: { now: room[side].si, least: USUAL_ROOM[side] } } : {};
  return {
    ...(room.intake || room.exhaust ? { room: { ...of('intake'), ...of('exhaust') } } : {}),
    ...(residual.value ? { residual: residual.value.si } : {}),
  };
});
const cam = useAsk<'cam'>(props.pool, heads, (h) => {
  const some = aim.value !== 'power' && inside.value.length > 0 ? inside.value : [props.target];
  const speeds = [some[0]!, some[Math.floor(some.length / 2)]!, some.at(-1)!];
  if (aim.value === 'both') speeds.push(props.target);
  return { kind: 'cam', setup: h.setup, speeds: [...new Set(speeds)], hold: held.value, limits: limits.value };
});
const more = useAsk<'more'>(props.pool, heads, (h) => ({
  kind: 'more',
  setup: h.setup,
  speeds: inside.value.length > 0 ? inside.value : [props.target],
}));
const size = useAsk<'size'>(props.pool, heads, (h) => ({
  kind: 'size',
  setup: h.setup,
  speeds: [props.target, inside.value[0] ?? props.speeds[0]!],
}));
const bench = useAsk<'bench'>(props.pool, heads, (h) => ({ kind: 'bench', setup: h.setup }));

/** Answers in the order of the heads; one that could not be given is a sentence already. */
function sentencesOf<A>(
  answers: ReadonlyMap<string, A | string>,
  say: (h: ReadyHead, answer: A) => string | string[],
): string[] {
  return props.heads.flatMap((h) => {
    const answer = answers.get(h.id);
    if (answer === undefined) return [];
    return typeof answer === 'string' ? [`${h.letter}: ${answer}`] : say(h, answer);
  });
}
const holds = computed(() => sentencesOf(hold.answers, (h, a) => `${h.letter}: ${holdbackWords(a, settings.say)}`));
const cams = computed(() => {
  const found = props.heads.flatMap((h) => {
    const a = cam.answers.get(h.id);
    return a && typeof a !== 'string' ? [{ letter: h.letter, cam: a, now: h.setup.cam }] : [];
  });
  const [first, ...others] = found;
  return [
    ...sentencesOf(cam.answers, (h, a) =>
      camWords(
        h.letter,
        a,
        h.setup.cam,
        {
          torque: 'over the working speeds',
          power: 'at the target',
          both: 'over the working speeds and at the target',
        }[aim.value],
        settings.say,
      ),
    ),
    ...(first ? others.map((b) => fairSwapWords(first, b, first.now, settings.say)) : []),
  ];
});
/** What springs, guides and the sheet say against more lift on this head. */
function against(h: ReadyHead): string[] {
  const measures = measuresAt(h.whole, h.stage.id);
  const then = h.setup.cam.intake.maxLift + MORE_LIFT;
  const left = (what: string, room: number | undefined) =>
    room === undefined ? [] : [`${settings.say.of(room, 'length')} left to ${what}`];
  const of = (item: MeasureItem) => measured(measures, item, 'intake');
  const [height, bind, seal, knee] = [
    of('spring installed height'),
    of('spring coil-bind height'),
    of('retainer to seal'),
    h.result?.intake.knee,
  ];
  return [
    ...left('coil bind', height !== undefined && bind !== undefined ? height - then - bind : undefined),
    ...left('the seal', seal === undefined ? undefined : seal - then),
    ...(knee !== undefined && knee < then ? [`the intake gains little above ${settings.say.of(knee, 'lift')}`] : []),
  ];
}
const mores = computed(() =>
  sentencesOf(more.answers, (h, a) =>
    a.map((m) => `${h.letter}: ${moreCamWords(m, m.what === 'lift' ? against(h) : [], settings.say)}`),
  ),
);
const sized = computed(() =>
  props.heads.flatMap((h) => {
    const a = size.answers.get(h.id);
    return a && typeof a !== 'string' ? [{ letter: h.letter, index: h.index, sizes: a }] : [];
  }),
);
const sizes = computed(() => sentencesOf(size.answers, (h, a) => a.map((s) => sizeWords(h.letter, s, settings.say))));
const benchWords = (h: ReadyHead, { rows, worst, full }: BenchTest): string => {
  const tight = full.length
    ? ` At ${full.map((l) => settings.say.of(l, 'lift')).join(', ')} the port as measured cannot pass what the sheet says: its sizes or the sheet are wrong.`
    : '';
  return `${h.letter}: ${rows} rows given back within ${settings.say.of(worst, 'percent', { digits: 2 })}.${tight}`;
};
const benches = computed(() => sentencesOf(bench.answers, benchWords));
</script>

<template>
  <div class="asks">
    <AskPane
      title="What holds it back"
      button="Make each part ideal in turn"
      :busy="hold.busy.value"
      :problem="hold.problem.value"
      :sentences="holds"
      note="At the target speed. The parts do not add up to the whole."
      @ask="hold.ask"
    />
    <AskPane
      title="Cam it wants"
      button="Find each head’s cam"
      :busy="cam.busy.value"
      :problem="cam.problem.value"
      :sentences="cams"
      :note="`Lobes as they are, moved, within 98° to 120° of lobe separation. Moving lobes asks nothing more of the springs. Valve-to-piston room is looked at where it is given, residuals where a most is: keep ${settings.say.of(USUAL_ROOM.intake, 'length')} to the intake and ${settings.say.of(USUAL_ROOM.exhaust, 'length')} to the exhaust at least (common practice, no source), and check it with clay or a dial on the engine itself.`"
      @ask="cam.ask"
    >
      <ChoiceRow v-model="aim" class="aim" label="What the cam is sought for" :options="AIMS" />
      <ChoiceRow v-model="held" class="aim" label="What stays as it is" :options="HOLDS" />
      <div class="limits no-print">
        <QuantityField v-model="room.intake" kind="length" label="Valve-to-piston room now, intake" />
        <QuantityField v-model="room.exhaust" kind="length" label="the same, exhaust" />
        <QuantityField v-model="residual" kind="percent" label="Residuals at the lowest speed, at most" />
      </div>
    </AskPane>
    <AskPane
      title="More lift, more duration"
      button="Try a little more of both"
      :busy="more.busy.value"
      :problem="more.problem.value"
      :sentences="mores"
      note="Lobes of the same kind, higher or longer, on 30 mm against 30 mm. What it asks of springs and guides is checked on the engine itself."
      @ask="more.ask"
    />
    <AskPane
      title="Port size"
      button="Try other port areas"
      :busy="size.busy.value"
      :problem="size.problem.value"
      :sentences="sizes"
      note="Port and runner scaled together, the flow sheet kept: what changes is the velocity and the waves."
      @ask="size.ask"
    >
      <SizeChart v-if="sized.length" :heads="sized" />
    </AskPane>
    <AskPane
      title="Self-test"
      button="Flow the model on the virtual bench"
      :busy="bench.busy.value"
      :problem="bench.problem.value"
      :sentences="benches"
      note="The port with its valve, run steady at 28 in of water, must give each row of the sheet back."
      @ask="bench.ask"
    />
  </div>
</template>

<style scoped>
.limits {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(130px, 1fr));
  gap: 4px 14px;
  align-items: end;
  margin-bottom: 6px;
}
/* Each row of choices on a line of its own. */
.aim {
  display: flex;
  margin-bottom: 6px;
}
.asks {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(400px, 100%), 1fr));
  gap: 0 34px;
}
</style>
