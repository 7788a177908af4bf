<script setup lang="ts">
import {
  chamberForRatio,
  chamberOverhang,
  compressionRatio,
  joined,
  millingFor,
  millingRateFromPairs,
  noted,
  sunkVolume,
  targetBook,
  topCutLeft,
  work,
  workIf,
  type Quantity,
} from '@alluvium/core';
import {
  measuresAt,
  sizeBook,
  sizeOf,
  statedAgainstFound,
  type MeasureItem,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed, reactive } from 'vue';
import { useListOf } from '../data/queries.js';
import SizeRows from '../parts/SizeRows.vue';
import QuantityField from '../parts/QuantityField.vue';
import { tried } from '../parts/tried.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useJudging } from '../data/judging.js';
import { useActiveBuild } from '../data/build.js';
import WideFrame from '../parts/WideFrame.vue';
import { useSettings } from '../state/settings.js';
import ChamberDrawing from './ChamberDrawing.vue';

/** Chamber and compression from all its parts, against the bore, and how much to mill for what is wanted. */
const props = defineProps<{ whole: WholeHead; stage: Stage }>();
const settings = useSettings();
const { active } = useActiveBuild();
const tolerances = useListOf('tolerance');
const ITEMS: readonly MeasureItem[] = [
  'chamber volume',
  'chamber width',
  'gasket volume',
  'deck volume',
  'piston dish',
];
const holding = computed(() => measuresAt(props.whole, props.stage.id));
const size = (item: MeasureItem, side: 'intake' | 'exhaust' | null = null) => sizeOf(holding.value, item, side);
const judging = useJudging();
const book = computed(() => {
  const sizes = sizeBook(holding.value, undefined, judging.value.assumptions);
  const { core, target: wantedOf } = active.value ?? {};
  return core && wantedOf ? joined(sizes, targetBook(core, wantedOf, judging.value.assumptions)) : sizes;
});
const foundHere = (item: MeasureItem) =>
  props.whole.measures.some((m) => m.stageId === props.stage.id && m.item === item && m.sourceId === null);

const plan = reactive<
  Record<'wantedVolume' | 'wantedRatio' | 'before' | 'after' | 'taken' | 'face' | 'sink', Quantity | null>
>({
  wantedVolume: null,
  wantedRatio: null,
  before: null,
  after: null,
  taken: null,
  face: null,
  sink: null,
});
const unreadable = reactive<Record<string, string>>({});

const parts = computed(() => ({
  cylinderVolume: active.value?.target?.cylinderVolume,
  gasket: size('gasket volume') ?? noted(0, 'not measured; taken as none'),
  deck: size('deck volume') ?? noted(0, 'not measured; taken as flush'),
  piston: size('piston dish') ?? noted(0, 'not measured; taken as flat'),
}));
const compression = computed(() => workIf(compressionRatio, { ...parts.value, chamber: size('chamber volume') }));

/** Against the build's bore and every bore a sheet was taken in. */
const overhangs = computed(() => {
  const bores = new Map<string, { name: string; bore: number }>();
  const put = (name: string, bore: number) =>
    void (bores.has(bore.toFixed(5)) || bores.set(bore.toFixed(5), { name, bore }));
  const bore = active.value?.build.bore;
  if (bore) put(bore.typed, bore.si);
  for (const s of props.whole.sheets) if (s.setup.bore) put(s.setup.bore.typed, s.setup.bore.si);
  return [...bores.values()].flatMap(({ name, bore }) => {
    const working = workIf(chamberOverhang, { chamber: size('chamber width'), bore });
    return working ? [{ name, working }] : [];
  });
});
const claimed = computed(() =>
  statedAgainstFound(props.whole, props.stage.id, tolerances.data.value ?? []).find(
    (i) => i.item === 'chamber volume' && i.difference,
  ),
);

const face = computed(() =>
  tried(() =>
    plan.face
      ? undefined
      : workIf(millingRateFromPairs, { before: plan.before?.si, after: plan.after?.si, taken: plan.taken?.si }),
  ),
);
const faceArea = computed(() => (plan.face ? noted(plan.face.si, 'face area as typed') : face.value.working));
const wanted = computed(() =>
  tried(() =>
    plan.wantedVolume ? undefined : workIf(chamberForRatio, { ...parts.value, compression: plan.wantedRatio?.si }),
  ),
);
const target = computed(() => (plan.wantedVolume ? noted(plan.wantedVolume.si, 'as typed') : wanted.value.working));
const sunk = computed(() => {
  const depth = plan.sink?.si;
  if (depth === undefined) return undefined;
  const { intakeValves, exhaustValves } = props.whole.head;
  const of = (side: 'intake' | 'exhaust', valves: number) => {
    const diameter = size('valve diameter', side);
    return diameter === undefined ? 0 : work(sunkVolume, { diameter: diameter.value, depth, valves }).value;
  };
  return of('intake', intakeValves) + of('exhaust', exhaustValves);
});
const now = computed(() => {
  const chamber = size('chamber volume');
  if (chamber === undefined) return undefined;
  return sunk.value === undefined
    ? chamber
    : noted(
        chamber.value + sunk.value,
        `chamber found plus ${settings.say.number(sunk.value * 1e6, 2)} cc by sinking the valves`,
      );
});
const milling = computed(() => workIf(millingFor, { now: now.value, wanted: target.value, face: faceArea.value }));
const cut = computed(() =>
  (['intake', 'exhaust'] as const).map((side) => ({
    side,
    working: workIf(topCutLeft, {
      width: size('top cut width', side),
      milled: milling.value,
      angle: size('top cut angle', side),
    }),
  })),
);
const after = computed(() =>
  target.value && milling.value ? workIf(compressionRatio, { ...parts.value, chamber: target.value }) : undefined,
);
const FIELDS = [
  ['wantedRatio', 'compression wanted', 'compression'],
  ['wantedVolume', 'or chamber wanted', 'volume'],
  ['face', 'face area of the chamber', 'area'],
  ['before', 'or measured: chamber before', 'volume'],
  ['after', 'chamber after', 'volume'],
  ['taken', 'milled off between', 'length'],
  ['sink', 'sink the valves first by', 'length'],
] as const;
</script>

<template>
  <div class="chamber">
    <div>
      <h2>Chamber, {{ stage.name }}</h2>
      <SizeRows
        :whole="whole"
        :stage="stage"
        :side="null"
        :items="ITEMS"
        :notes="(item) => (!foundHere(item) && size(item) !== undefined ? 'handed down or stated' : '')"
      />
      <h2>What follows{{ active ? ` on ${active.build.name}` : '' }}</h2>
      <WideFrame>
        <table class="ruled">
          <tbody>
            <tr>
              <td>compression ratio</td>
              <td class="num"><WorkedNumber :working="compression" :book="book" /></td>
            </tr>
            <tr v-for="o in overhangs" :key="o.name">
              <td>chamber over the edge of a {{ o.name }} bore</td>
              <td class="num" :class="{ loss: o.working.value > 0 }">
                <WorkedNumber :working="o.working" :book="book" signed />
              </td>
            </tr>
            <tr v-if="claimed">
              <td>chamber found less claimed</td>
              <td class="num" :class="{ loss: claimed.matters }">
                <WorkedNumber :working="claimed.difference" signed />
              </td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p v-if="overhangs.some((o) => o.working.value > 0)" class="caution">
        The chamber hangs over the bore: its edge glows and holes the gasket. Relieve the edge or choose another gasket.
      </p>
    </div>
    <div>
      <ChamberDrawing
        :width="size('chamber width')?.value"
        :bore="active?.build.bore?.si ?? whole.sheets.find((s) => s.setup.bore)?.setup.bore?.si"
        :volume="size('chamber volume')?.value"
        :milled="milling && milling.value > 0 ? milling.value : undefined"
        :sunk="plan.sink?.si"
        :valves="[size('valve diameter', 'intake')?.value, size('valve diameter', 'exhaust')?.value]"
      />
      <h2>Milling planner</h2>
      <div class="plan">
        <QuantityField
          v-for="[key, label, kind] in FIELDS"
          :key="key"
          v-model="plan[key]"
          :kind="kind"
          :label="label"
          @update:problem="unreadable[key] = $event"
        />
      </div>
      <p v-if="face.problem || wanted.problem" class="loss" role="alert">{{ face.problem ?? wanted.problem }}</p>
      <WideFrame>
        <table class="ruled">
          <tbody>
            <tr v-if="face.working">
              <td>face area the cut sees</td>
              <td class="num"><WorkedNumber :working="face.working" /></td>
            </tr>
            <tr v-if="wanted.working">
              <td>chamber wanted</td>
              <td class="num"><WorkedNumber :working="wanted.working" :book="book" /></td>
            </tr>
            <tr>
              <td><b>to mill off</b></td>
              <td class="num">
                <b><WorkedNumber :working="milling" :book="book" :digits="3" /></b>
              </td>
            </tr>
            <tr v-for="c in cut" :key="c.side">
              <td>top cut left, {{ c.side }}</td>
              <td class="num" :class="{ loss: (c.working?.value ?? 1) <= 0 }">
                <WorkedNumber :working="c.working" :book="book" :digits="3" />
              </td>
            </tr>
            <tr v-if="after">
              <td>compression then</td>
              <td class="num"><WorkedNumber :working="after" :book="book" /></td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p v-if="milling && milling.value < 0" class="caution">
        The chamber is smaller than wanted already: it must be opened, not milled.
      </p>
      <p v-if="cut.some((c) => (c.working?.value ?? 1) <= 0)" class="caution">
        Nothing of the top cut is left: sink the seats first, then mill more.
      </p>
      <p class="caution">
        Manifold, pushrods and valve-to-piston clearance move with the deck. Leave milling to a licensed machine shop.
      </p>
    </div>
  </div>
</template>

<style scoped>
.chamber {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 44px;
}
@media (width < 760px) {
  .chamber {
    grid-template-columns: minmax(0, 1fr);
  }
}
.plan {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(max(120px, 30%), 1fr));
  gap: 8px 22px;
  margin: 8px 0 12px;
}
h2:not(:first-child) {
  margin-top: 18px;
}
</style>
