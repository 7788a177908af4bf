<script setup lang="ts">
import { format, oddsWords } from '@alluvium/core';
import { sameOrNot, type Specimen, type Stage, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useListOf, useWholeHead } from '../data/queries.js';
import FlowChart from '../charts/FlowChart.vue';
import HeadPicker from '../parts/HeadPicker.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import type { Claims } from './useClaims.js';
import WideFrame from '../parts/WideFrame.vue';

// pair.value!, find()!: shown with a pair, whose stages are of its heads.

/** Two heads, two stages or two ports: are they the same? Each difference against what measuring twice would give. */
const props = defineProps<{ claims: Claims; whole: WholeHead; stage: Stage }>();
const route = useRoute();
const router = useRouter();
const settings = useSettings();
const tolerances = useListOf('tolerance');
const text = (v: unknown) => (typeof v === 'string' ? v : '');
const put = (change: Record<string, string | undefined>) =>
  void router.replace({ query: { ...route.query, ...change } });

const otherId = computed(() => text(route.query.other) || props.whole.head.id);
const otherQuery = useWholeHead(otherId);
const other = computed(() => (otherId.value === props.whole.head.id ? props.whole : otherQuery.data.value));
const otherStage = computed(
  () =>
    other.value?.stages.find((s) => s.id === route.query.otherStage) ??
    (other.value === props.whole
      ? (props.whole.stages.find((s) => s.id !== props.stage.id) ?? props.stage)
      : other.value?.stages[0]),
);
const cylinderOf = (v: unknown) => (/^\d+$/.test(text(v)) ? Number(v) : null);
const cylinder = computed(() => cylinderOf(route.query.port));
const otherCylinder = computed(() => cylinderOf(route.query.otherPort));
const cylinders = (whole: WholeHead) => [
  [null, 'best available sheet'] as const,
  ...[...new Set(whole.ports.map((p) => p.number))].sort((a, b) => a - b).map((n) => [n, `port ${n}`] as const),
];

const nameOf = (whole: WholeHead, stage: Stage, port: number | null) =>
  `${whole.head.name}, ${stage.name}${port === null ? '' : `, port ${port}`}`;
const pair = computed<{ a: Specimen; b: Specimen; names: { a: string; b: string } } | undefined>(() => {
  if (!other.value || !otherStage.value) return undefined;
  return {
    a: { whole: props.whole, stageId: props.stage.id, cylinder: cylinder.value },
    b: { whole: other.value, stageId: otherStage.value.id, cylinder: otherCylinder.value },
    names: {
      a: nameOf(props.whole, props.stage, cylinder.value),
      b: nameOf(other.value, otherStage.value, otherCylinder.value),
    },
  };
});
const itself = computed(
  () =>
    pair.value !== undefined &&
    pair.value.a.stageId === pair.value.b.stageId &&
    pair.value.a.cylinder === pair.value.b.cylinder,
);
const result = computed(() => {
  if (!pair.value || itself.value) return undefined;
  const { repeatability, own, say } = props.claims.facts.value;
  const { a, b, names } = pair.value;
  return sameOrNot(a, b, { tolerances: tolerances.data.value ?? [], repeatability, own, names, say });
});
/** Everything looked at on both, what stands furthest apart first. */
const likenesses = computed(() =>
  result.value
    ? [
        ...result.value.sizes,
        ...(result.value.flow.intake?.points ?? []),
        ...(result.value.flow.exhaust?.points ?? []),
      ].sort((x, y) => y.times.value - x.times.value)
    : [],
);
/** What tells the two apart by name, and no more. */
const short = computed(() => {
  const { a, b } = pair.value!;
  const name = ({ whole, stageId, cylinder }: Specimen) =>
    a.whole !== b.whole
      ? whole.head.name
      : a.stageId !== b.stageId
        ? whole.stages.find((s) => s.id === stageId)!.name
        : cylinder === null
          ? 'the whole'
          : `port ${cylinder}`;
  return { a: name(a), b: name(b) };
});
const drawn = computed(() =>
  (result.value?.curves ?? []).map(({ side, a, b }) => ({
    side,
    series: [
      { letter: '', name: short.value.a, index: 0, curve: a },
      { letter: '', name: short.value.b, index: 1, curve: b },
    ],
  })),
);
</script>

<template>
  <div>
    <div class="pick no-print">
      <p class="one">
        {{ whole.head.name }}
        <small>{{ stage.name }}</small>
      </p>
      <ChoiceField
        :model-value="cylinder"
        label="its port"
        :options="cylinders(whole)"
        @update:model-value="put({ port: $event === null ? undefined : String($event) })"
      />
      <p class="against">against</p>
      <HeadPicker
        :model-value="otherId"
        label="the other"
        @update:model-value="put({ other: $event, otherStage: undefined, otherPort: undefined })"
      />
      <ChoiceField
        v-if="other && otherStage"
        :model-value="otherStage.id"
        label="at stage"
        :options="other.stages.map((s) => [s.id, s.name] as const)"
        @update:model-value="put({ otherStage: $event })"
      />
      <ChoiceField
        v-if="other"
        :model-value="otherCylinder"
        label="its port, the other"
        :options="cylinders(other)"
        @update:model-value="put({ otherPort: $event === null ? undefined : String($event) })"
      />
    </div>
    <p v-if="itself" class="reading">
      These are one and the same: choose another head, stage or port to hold it against.
    </p>
    <template v-else-if="result && pair">
      <p class="reading">{{ result.words }}</p>
      <p v-if="result.crossings.length" class="note">
        {{
          result.crossings
            .map((c) => `The ${c.side} curves cross at ${settings.say.of(c.lift, 'lift')} (${oddsWords(c.odds)}).`)
            .join(' ')
        }}
      </p>
      <p v-for="t in result.leftOut" :key="t" class="note">{{ t }}</p>
      <p v-if="result.settles.length">
        <b>next</b>
        {{ result.settles.join(' ') }}
      </p>
      <div class="two">
        <WideFrame v-if="likenesses.length">
          <table class="ruled">
            <thead>
              <tr>
                <th>what</th>
                <th class="num">{{ short.a }}</th>
                <th class="num">{{ short.b }}</th>
                <th class="num">multiple of repeatability</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="s in result.seen" :key="s.what" :class="{ counts: !s.same }">
                <td>{{ s.what }}</td>
                <td class="num">{{ s.a }}</td>
                <td class="num">{{ s.b }}</td>
                <td class="num">{{ s.same ? 'the same' : 'differs' }}</td>
              </tr>
              <tr v-for="l in likenesses" :key="l.what" :class="{ counts: l.counts }">
                <td>{{ l.what }}</td>
                <td class="num">{{ format(l.a, l.kind, settings.figures) }}</td>
                <td class="num">{{ format(l.b, l.kind, settings.figures) }}</td>
                <td class="num"><WorkedNumber :working="l.times" :digits="1" bare /></td>
              </tr>
            </tbody>
          </table>
        </WideFrame>
        <div class="curves">
          <FlowChart
            v-for="s in drawn"
            :key="s.side"
            :series="s.series"
            :side="s.side"
            :height="250"
            :label="`${s.side} curves of both`"
          />
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.pick {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: end;
  margin-bottom: 10px;
}
.pick :deep(.field) {
  width: 190px;
}
.pick p {
  margin: 0 0 6px;
}
.one {
  font-weight: 600;
}
.one small {
  display: block;
  font-weight: 400;
  color: var(--slate);
}
.against {
  font: italic 16px var(--serif);
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 480px);
  gap: 26px;
  align-items: start;
  margin-top: 10px;
}
@media (width < 1160px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
.curves :deep(svg) {
  max-width: 100%;
  height: auto;
}
.counts td {
  font-weight: 600;
}
td:first-child {
  white-space: nowrap;
}
.reading {
  margin: 4px 0;
}
</style>
