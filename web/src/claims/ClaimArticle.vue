<script setup lang="ts">
import {
  coefficientOfPlace,
  flowDifference,
  formatNumber,
  sheetBook,
  tightest,
  unitFor,
  work,
  type BandView,
} from '@alluvium/core';
import { isGrave, toSheetFacts, type JudgedClaim } from '@alluvium/records';
import { useCloud } from '../data/claims.js';
import { useJudging } from '../data/judging.js';
import { useListOf } from '../data/queries.js';
import { computed } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import CoefficientChart from './CoefficientChart.vue';
import PairChart from './PairChart.vue';
import WideFrame from '../parts/WideFrame.vue';

// place.value!: points have a coefficient where the place is known.

/** One claimed table of flow: the verdict in words, why it may or may not be compared, both pictures, every point. */
const props = defineProps<{
  claim: JudgedClaim;
  source: string;
  /** The stage it speaks of, where a head has several. */
  stage: string;
  headId: string;
}>();
defineEmits<{ chart: [] }>();
const settings = useSettings();
const unit = computed(() => unitFor('flow', settings.system).symbol);
const reads = computed(() => props.claim.points.some((p) => p.through));
const judging = useJudging();
const sources = useListOf('source');
/** How sure the claimed figures are, as a sheet of somebody's. */
const book = computed(() => {
  const { sheet, claimed: points, side } = props.claim;
  const facts = toSheetFacts(sheet, [], { ...judging.value, sources: sources.data.value ?? [] });
  return sheetBook([{ name: sheet.title, points, facts }], side, {}, judging.value.assumptions);
});
const place = computed(() => tightest(props.claim.places));
/** The coefficient at which the air at the tightest place could go no faster, by lift ratio. */
const ceiling = computed(() =>
  place.value
    ? props.claim.claimed.flatMap((p) => {
        const area = p.coefficients.minimum?.given.area as { value: number } | undefined;
        return area && p.liftRatio !== undefined
          ? [{ liftRatio: p.liftRatio, coefficient: coefficientOfPlace(place.value!.area, area.value) }]
          : [];
      })
    : [],
);
const drawn = useCloud(
  () => props.claim.side,
  () =>
    props.claim.side === 'intake' || props.claim.sheet.setup.exhaustPipe === 'unknown'
      ? 'any'
      : props.claim.sheet.setup.exhaustPipe,
);
const cloud = computed(() => (drawn.data.value ?? []).map(([liftRatio, coefficient]) => ({ liftRatio, coefficient })));
/** The claim less what we measured, as a flow. */
const less = ({ flow, measured }: JudgedClaim['points'][number]) =>
  measured === undefined ? null : work(flowDifference, { other: flow, base: measured });
/** How many heads near that lift ratio stay below, and the best that was ever seen there. */
const seen = (band: BandView | undefined): string =>
  !band
    ? '–'
    : band.percentile === undefined
      ? `usual best ${settings.say.number(band.best, 3)}`
      : `${Math.round(band.percentile * 100)} % of ${band.heads}, best ${settings.say.number(band.best, 3)}`;
</script>

<template>
  <article>
    <h2>
      {{ source }}
      <span class="note">{{ claim.sheet.title }}{{ stage ? `, ${stage}` : '' }}</span>
      <span class="ways no-print">
        <el-button v-if="claim.sheet.chart" link @click="$emit('chart')">Its chart</el-button>
        <RouterLink
          :to="{
            name: 'head',
            params: { id: headId },
            query: { stage: claim.sheet.stageId, sheet: claim.sheet.id },
          }"
        >
          its table
        </RouterLink>
      </span>
    </h2>
    <p class="reading" :class="{ loss: isGrave(claim.verdict) }">{{ claim.words }}</p>
    <p v-if="claim.throughWords" class="reading">{{ claim.throughWords }}</p>
    <p v-for="q in claim.questions" :key="q" class="caution">{{ q }}</p>
    <p class="note">
      {{
        claim.against
          ? `Held against “${claim.against.title}”. ${claim.comparison?.sentence}`
          : 'No sheet of ours at this stage.'
      }}
      {{ claim.runner?.words }}
    </p>
    <p v-if="claim.next" class="next">
      <span>next</span>
      {{ claim.next }}
    </p>
    <details v-if="claim.comparison">
      <summary>What agrees and what does not</summary>
      <ul>
        <li v-for="a in claim.comparison.aspects" :key="a.what" :class="{ caution: a.state === 'differs' }">
          {{ a.sentence }}
        </li>
      </ul>
    </details>
    <div class="two">
      <PairChart
        :points="claim.points"
        :measured="claim.measured.map((p) => ({ lift: p.lift, flow: p.flow.value }))"
        :side="claim.side"
      />
      <CoefficientChart
        :claimed="claim.claimed"
        :measured="claim.measured"
        :library="cloud"
        :ceiling="ceiling"
        :place="place?.name"
        :side="claim.side"
      />
    </div>
    <WideFrame>
      <table class="ruled">
        <thead>
          <tr>
            <th>lift</th>
            <th class="num">claimed, {{ unit }} at 28</th>
            <th class="num">measured</th>
            <th class="num">difference</th>
            <th class="num">error, %</th>
            <th class="num">Uncertainty (±)</th>
            <th v-if="reads" class="num">read through its source</th>
            <th class="num">on minimum area</th>
            <th class="num">of heads seen, below</th>
            <th class="num">speed at the {{ place?.name ?? 'pinch' }}</th>
            <th>verdict</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(p, i) in claim.points" :key="p.lift">
            <td>{{ formatNumber(p.lift, 'lift', settings.figures) }}</td>
            <td class="num"><WorkedNumber :working="p.flow" :book="book" terse bare /></td>
            <td class="num">
              {{ p.measured === undefined ? '–' : formatNumber(p.measured, 'flow', settings.figures) }}
            </td>
            <td class="num"><WorkedNumber :working="less(p)" bare signed :digits="0" /></td>
            <td class="num"><WorkedNumber :working="p.error ?? null" :digits="1" signed /></td>
            <td class="num"><WorkedNumber :working="p.uncertainty" :digits="1" /></td>
            <td v-if="reads" class="num"><WorkedNumber :working="p.through?.error ?? null" :digits="1" signed /></td>
            <td class="num">
              <WorkedNumber :working="claim.claimed[i]?.coefficients.minimum ?? null" :book="book" terse :digits="3" />
            </td>
            <td class="num">{{ seen(p.band) }}</td>
            <td class="num"><WorkedNumber :working="p.speed ?? null" /></td>
            <td :class="{ loss: isGrave(p.verdict) }">{{ p.verdict }}</td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
  </article>
</template>

<style scoped>
article {
  margin-bottom: 26px;
}
h2 {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
h2 .note {
  font-weight: 400;
}
.ways {
  display: flex;
  gap: 14px;
  margin-left: auto;
  font-size: 14px;
  font-weight: 400;
}
.reading {
  margin: 6px 0;
}
.note,
.next {
  margin: 4px 0;
}
.next span {
  color: var(--slate);
  margin-right: 6px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
@media (width < 760px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
.two :deep(svg) {
  max-width: 100%;
  height: auto;
}
.ruled th.num {
  white-space: normal;
  vertical-align: bottom;
}
details {
  margin-bottom: 8px;
}
summary {
  cursor: pointer;
  color: var(--slate);
}
</style>
