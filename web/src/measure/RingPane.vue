<script setup lang="ts">
import {
  BORE_GAP,
  RING_MARGIN,
  VALVE_GAP,
  largestForBore,
  largestForRing,
  largestForSpacing,
  evaluateSurvey,
  format,
  noted,
  openingShare,
  ringWall,
  throatRatio,
  bowlRatio,
  mean,
  workIf,
  type Working,
} from '@alluvium/core';
import {
  MEASURE_ITEMS,
  measuresAt,
  sizeBook,
  sizeOf,
  surveyAt,
  toCoreSections,
  type MeasureItem,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed, reactive, watch } from 'vue';
import SizeRows from '../parts/SizeRows.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { useSettings } from '../state/settings.js';
import RingDrawing from './RingDrawing.vue';
import WideFrame from '../parts/WideFrame.vue';

/** The sizes round the valve, typed beside the drawing they make; and the largest valve ring, bore and spacing take. */
const props = defineProps<{
  whole: WholeHead;
  stage: Stage;
  side: 'intake' | 'exhaust';
  portId: string | null;
}>();
const { active } = useActiveBuild();
const settings = useSettings();
const ITEMS: readonly MeasureItem[] = [
  'valve diameter',
  'stem diameter',
  'guide diameter',
  'seat width',
  'seat angle',
  'back-cut angle',
  'top cut width',
  'top cut angle',
  'ring outside diameter',
  'ring inside diameter',
  'throat',
  'bowl',
  'bowl depth',
  'port length',
  'opening',
  'gasket opening',
  'pinch',
  'window',
  'port volume',
];
const holding = computed(() => measuresAt(props.whole, props.stage.id));
const handed = (item: MeasureItem) => {
  const all = holding.value.filter((m) => m.item === item && m.side === props.side);
  // The one in the field is the last found at this stage for the stage as a whole.
  const inField = all.filter((m) => m.stageId === props.stage.id && m.sourceId === null && m.portId === null).at(-1);
  const other = all.filter((m) => m !== inField);
  if (other.length === 0) return '';
  const stageName = (id: string) => props.whole.stages.find((s) => s.id === id)?.name;
  const values = all.map((m) => m.value.si);
  const level =
    all.length > 1
      ? ` · mean ${format(mean(values), MEASURE_ITEMS[item].kind, settings.figures)}, spread ${format(Math.max(...values) - Math.min(...values), MEASURE_ITEMS[item].kind, settings.figures)}`
      : '';
  const texts = other
    .map((m) =>
      [
        m.value.typed,
        m.sourceId ? 'stated' : m.stageId === props.stage.id ? (m.date ?? 'again') : stageName(m.stageId),
        m.instrument,
      ]
        .filter(Boolean)
        .join(', '),
    )
    .join('; ');
  return texts + level;
};
const size = (item: MeasureItem, side: 'intake' | 'exhaust' | null = props.side) =>
  sizeOf(holding.value, item, side, side === null ? null : props.portId);
const judging = useJudging();
const book = computed(() => sizeBook(holding.value, props.portId, judging.value.assumptions));
const other = computed(() => (props.side === 'intake' ? 'exhaust' : 'intake') as 'intake' | 'exhaust');
/** The drawing follows each key: what is typed stands before what is kept. */
const live = reactive<Partial<Record<MeasureItem, number | undefined>>>({});
watch([() => props.side, () => props.stage.id], () => Object.keys(live).forEach((k) => delete live[k as MeasureItem]));
const DRAWN = {
  valve: 'valve diameter',
  stem: 'stem diameter',
  seatWidth: 'seat width',
  seatAngle: 'seat angle',
  topCutWidth: 'top cut width',
  topCutAngle: 'top cut angle',
  throat: 'throat',
  bowl: 'bowl',
  ringOutside: 'ring outside diameter',
  ringInside: 'ring inside diameter',
  backCut: 'back-cut angle',
  guide: 'guide diameter',
} as const;
const drawn = computed(() => {
  const sizes = Object.fromEntries(Object.entries(DRAWN).map(([k, item]) => [k, live[item] ?? size(item)?.value]));
  return sizes.valve === undefined ? undefined : (sizes as { valve: number });
});
const offset = computed(() => {
  const [a, b] = [size('valve offset, along'), size('valve offset, across')];
  return a === undefined || b === undefined
    ? undefined
    : noted(Math.hypot(a.value, b.value), 'from its offsets along and across');
});
const surveyed = computed(() => {
  const survey = surveyAt(props.whole, props.stage.id, props.side, props.portId);
  const stations = survey ? evaluateSurvey(toCoreSections(survey)).stations : [];
  return stations.find((s) => s.sections.some((x) => x.section.place === 'opening'))?.area;
});
const follows = computed<[string, Working | undefined][]>(() => [
  ['throat of valve', workIf(throatRatio, { throat: size('throat'), valve: size('valve diameter') })],
  ['bowl of valve', workIf(bowlRatio, { bowl: size('bowl'), valve: size('valve diameter') })],
  [
    'opening of the gasket’s',
    workIf(openingShare, { opening: size('opening') ?? surveyed.value, gasket: size('gasket opening') }),
  ],
  [
    'metal left in the ring',
    workIf(ringWall, { outside: size('ring outside diameter'), inside: size('ring inside diameter') }),
  ],
  [
    'largest valve for the ring',
    workIf(largestForRing, { outside: size('ring outside diameter'), margin: noted(RING_MARGIN, 'usual') }),
  ],
  [
    `largest valve for the ${active.value?.build.name ?? ''} bore`,
    workIf(largestForBore, { bore: active.value?.core.bore, offset: offset.value, gap: noted(BORE_GAP, 'usual') }),
  ],
  [
    'largest valve for the spacing',
    workIf(largestForSpacing, {
      spacing: size('valve spacing', null),
      other: size('valve diameter', other.value),
      gap: noted(VALVE_GAP, 'usual'),
    }),
  ],
]);
/** The least of the three rules. */
const holds = computed(() => {
  const known = follows.value
    .filter(([name]) => name.startsWith('largest valve'))
    .flatMap(([name, w]) => (w ? [{ name, w }] : []));
  return known.sort((a, b) => a.w.value - b.w.value)[0];
});
</script>

<template>
  <div class="ring">
    <div>
      <h2>Sizes, {{ side }}, {{ stage.name }}</h2>
      <SizeRows
        :whole="whole"
        :stage="stage"
        :side="side"
        :items="ITEMS"
        :notes="handed"
        @typed="(item, si) => (live[item] = si)"
      />
    </div>
    <div>
      <RingDrawing v-if="drawn" v-bind="drawn" />
      <p v-else class="reading">Type the valve’s diameter, and the ring is drawn here as its sizes come.</p>
      <h2>What follows</h2>
      <WideFrame>
        <table class="ruled">
          <tbody>
            <tr v-for="[name, working] in follows" :key="name">
              <td>{{ name }}</td>
              <td class="num"><WorkedNumber :working="working" :label="name" :book="book" /></td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p v-if="holds" class="reading">
        It is the {{ holds.name.replace('largest valve for the ', '') }} that sets the limit.
      </p>
      <p class="caution">
        Copper-beryllium rings: no dry grinding; extraction, respirator, the supplier’s safety sheet and local rules.
      </p>
    </div>
  </div>
</template>

<style scoped>
.ring {
  display: grid;
  grid-template-columns: 3fr 2fr;
  gap: 40px;
}
@media (width < 760px) {
  .ring {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
