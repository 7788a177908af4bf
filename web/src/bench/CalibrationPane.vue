<script setup lang="ts">
import { formatNumber } from '@alluvium/core';
import { calibrationDoubts, checksOf, expectedOf, factorOf, type Calibration } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { useListOf } from '../data/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';
import { tried } from '../parts/tried.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { today } from '../data/today.js';
import { useSettings } from '../state/settings.js';
import CheckTable from './CheckTable.vue';
import ControlHead from './ControlHead.vue';
import ScalesForm from './ScalesForm.vue';
import DriftChart from './DriftChart.vue';
import RangeCorrection from './RangeCorrection.vue';

/** Checks of a bench against plates and control heads, and how its factor drifts. */
const props = defineProps<{ calibrations: readonly Calibration[] }>();
const settings = useSettings();
const sources = useListOf('source');
const benches = computed(() =>
  (sources.data.value ?? []).filter(
    (s) => s.kind === 'own bench' || props.calibrations.some((c) => c.sourceId === s.id),
  ),
);
const bench = ref('');
watch(benches, (list) => (bench.value ||= list[0]?.id ?? ''), { immediate: true });

const checks = computed(() =>
  checksOf(props.calibrations, bench.value).map((c) => ({ check: c, factor: factorOf(c), expected: expected(c) })),
);
function expected(c: Calibration) {
  try {
    return expectedOf(c);
  } catch {
    return undefined;
  }
}
const drawn = computed(() =>
  checks.value.flatMap(({ check, factor }) =>
    factor ? [{ date: check.date, factor: factor.value, plate: check.against === 'plate' }] : [],
  ),
);
const says = computed(() => {
  const last = checks.value.at(-1);
  if (!last) return ['This bench was never checked here. Put a plate of known size on it, and note what it reads.'];
  const doubts = calibrationDoubts(
    checks.value.map((c) => c.check),
    last.check.id,
    today(),
    settings.say,
  );
  return doubts.length ? doubts : ['The last check is recent, and within one in a hundred.'];
});

const form = useRecordForm(
  'calibration',
  () => undefined,
  (): Draft<'calibration'> => ({
    id: 'new',
    version: 1,
    sourceId: bench.value,
    date: today(),
    against: 'plate',
    diameter: null,
    bore: null,
    depression: null,
    expected: null,
    measured: null,
    points: [],
    note: '',
  }),
  () => 'The check is kept.',
);
const { draft, problems } = form;
watch(bench, (id) => form.set('sourceId', id));
/** A head flowed lift by lift is written down by its dearest lift too. */
function takePoints(points: Calibration['points']): void {
  const dearest = points.reduce<Calibration['points'][number] | undefined>(
    (best, p) => (best && best.expected.si >= p.expected.si ? best : p),
    undefined,
  );
  form.set('points', points);
  form.set('expected', dearest?.expected ?? null);
  form.set('measured', dearest?.measured ?? null);
}
const benchRecord = computed(() => benches.value.find((b) => b.id === bench.value));
/** What the check being typed comes to. */
const trial = computed(() => {
  const d = draft.value;
  if (!d.measured || d.measured.si <= 0) return undefined;
  if (!d.expected && !(d.against === 'plate' && d.diameter && d.depression)) return undefined;
  return factorOf(d as Calibration);
});
const trialExpected = computed(() => {
  const d = draft.value;
  if (d.expected || d.against !== 'plate' || !d.diameter || !d.depression) return undefined;
  return tried(() => {
    const flow = expectedOf(d as Calibration);
    return typeof flow === 'number' ? undefined : flow;
  });
});
</script>

<template>
  <div class="checks">
    <p class="pick">
      <ChoiceField v-model="bench" label="Bench" :options="benches.map((b) => [b.id, b.name] as const)" />
    </p>
    <p v-for="s in says" :key="s" class="reading">{{ s }}</p>
    <DriftChart v-if="drawn.length > 1" :checks="drawn" />
    <CheckTable v-if="checks.length" :checks="checks" />

    <h2>A new check</h2>
    <form data-own-keys @submit.prevent="form.save()">
      <div class="fields">
        <TextField v-model="draft.date" label="Date" type="date" required :problem="problems.date" />
        <ChoiceField
          v-model="draft.against"
          label="Against"
          :options="[
            ['plate', 'a plate'],
            ['control head', 'a control head'],
          ]"
        />
        <template v-if="draft.against === 'plate'">
          <QuantityField
            v-for="[field, kind, label] in [
              ['diameter', 'length', 'Hole of the plate'],
              ['bore', 'length', 'Pipe before it, if any'],
              ['depression', 'depression', 'Depression'],
            ] as const"
            :key="field"
            v-model="draft[field]"
            :kind="kind"
            :label="label"
            :problem="problems[field]"
            @update:problem="form.typing(field, $event)"
          />
        </template>
        <ControlHead
          v-if="draft.against === 'control head'"
          :model-value="draft.points"
          @update:model-value="takePoints"
          @typing="form.typing"
        />
        <QuantityField
          v-model="draft.expected"
          kind="flow"
          :label="draft.against === 'plate' ? 'Certified flow, if any' : 'Agreed flow'"
          :placeholder="
            trialExpected?.working ? formatNumber(trialExpected.working.value, 'flow', settings.figures) : undefined
          "
          :problem="problems.expected"
          @update:problem="form.typing('expected', $event)"
        />
        <FormQuantity :form="form" field="measured" kind="flow" label="Measured" />
        <TextField v-model="draft.note" label="Note" :problem="problems.note" />
      </div>
      <p v-if="trialExpected?.problem" class="loss" role="alert">{{ trialExpected.problem }}</p>
      <p v-if="trialExpected?.working" class="note">
        {{ draft.bore ? 'By the orifice standard' : 'As an opening in a wall, with the room before it,' }} this plate
        flows
        <WorkedNumber :working="trialExpected.working" />
        .
        <template v-if="trial">
          The factor is
          <WorkedNumber :working="trial" :digits="4" />
          .
        </template>
      </p>
      <p v-else-if="trial" class="note">
        The factor is
        <WorkedNumber :working="trial" :digits="4" />
        .
      </p>
      <FormFoot :form="form" save-word="Save the check" />
    </form>
    <ScalesForm v-if="benchRecord" :bench="benchRecord" />
    <RangeCorrection v-if="bench" :bench="bench" :name="benches.find((b) => b.id === bench)?.name ?? ''" />
  </div>
</template>

<style scoped>
.checks {
  max-width: 900px;
}
.pick {
  max-width: 240px;
  margin: 0;
}
h2 {
  margin-top: 18px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 8px 22px;
  margin: 8px 0;
}
</style>
