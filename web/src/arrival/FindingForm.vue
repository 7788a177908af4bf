<script setup lang="ts">
import { PARTS, SEVERITIES, removal, type Finding, type RecordOf, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { useActiveBuild } from '../data/build.js';
import { useChange } from '../data/useChange.js';
import { today } from '../data/today.js';

// props.finding!: only what is there is removed.

/** One finding: where, how bad, what it costs to mend, whether it was mended. */
const props = defineProps<{ whole: WholeHead; stageId: string; inspectionId: string | null; finding?: Finding }>();
const emit = defineEmits<{ done: [Finding | undefined] }>();
const change = useChange();
const { active } = useActiveBuild();
const form = useRecordForm(
  'finding',
  () => props.finding,
  (): Draft<'finding'> => ({
    id: 'new',
    version: 1,
    headId: props.whole.head.id,
    stageId: props.stageId,
    inspectionId: props.inspectionId,
    buildId: null,
    cylinder: null,
    side: null,
    part: 'casting',
    severity: 'fix before use',
    text: '',
    cost: null,
    mendedStageId: null,
    date: today(),
  }),
  (f: RecordOf<'finding'>) => `Finding noted: ${f.text.slice(0, 60)}`,
  { scope: `.${props.inspectionId ?? props.whole.head.id}` },
);
const { draft, problems } = form;
const pick = <T extends string>(list: readonly T[]) => list.map((v) => [v, v] as const);
const cylinders = computed(() => props.whole.head.cylinders ?? 12);
const SEVERITY_WORDS = {
  note: 'note',
  'fix before use': 'to mend before use',
  reject: 'reason to reject',
} as const;
async function save(): Promise<void> {
  const saved = await form.save();
  if (saved) emit('done', saved);
}
async function remove(): Promise<void> {
  if (await change.make([removal('finding', props.finding!.id)], 'Finding removed.')) emit('done', undefined);
}
</script>

<template>
  <form class="finding" data-own-keys @submit.prevent="save" @keydown.esc="$emit('done', undefined)">
    <TextField
      v-model="draft.text"
      type="textarea"
      label="What is wrong"
      required
      :problem="problems.text"
      class="wide"
    />
    <ChoiceField
      v-model="draft.severity"
      label="How bad"
      :options="SEVERITIES.map((s) => [s, SEVERITY_WORDS[s]] as const)"
    />
    <ChoiceField
      v-model="draft.cylinder"
      label="Cylinder"
      :options="[
        [null, 'whole head'] as const,
        ...Array.from({ length: cylinders }, (_, i) => [i + 1, `${i + 1}`] as const),
      ]"
    />
    <ChoiceField
      v-model="draft.side"
      label="Side"
      :options="[
        [null, 'neither'],
        ['intake', 'intake'],
        ['exhaust', 'exhaust'],
      ]"
    />
    <ChoiceField v-model="draft.part" label="Part" :options="pick(PARTS)" />
    <FormQuantity :form="form" field="cost" kind="money" label="Cost to mend" />
    <ChoiceField
      v-model="draft.buildId"
      label="Matters for"
      :options="
        active
          ? [[null, 'every build'] as const, [active.build.id, `${active.build.name} only`] as const]
          : [[null, 'every build'] as const]
      "
    />
    <ChoiceField
      v-model="draft.mendedStageId"
      label="Mended"
      :options="[[null, 'it stands'] as const, ...whole.stages.map((s) => [s.id, `at “${s.name}”`] as const)]"
    />
    <TextField v-model="draft.date" type="date" label="Found on" :problem="problems.date" />
    <FormFoot class="wide" :form="form" :save-word="finding ? 'Save' : 'Add it'" />
    <el-button v-if="finding" link class="out" @click="remove">Remove this finding</el-button>
  </form>
</template>

<style scoped>
.finding {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px 20px;
  border-left: 3px solid var(--loss);
  padding: 4px 0 8px 14px;
  margin: 8px 0;
}
.wide {
  grid-column: 1 / -1;
}
.out {
  justify-self: start;
  grid-column: span 2;
}
</style>
