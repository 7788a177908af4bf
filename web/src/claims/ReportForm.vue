<script setup lang="ts">
import { POWER_TAKEN, type RecordOf, type Source, type Stage, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import { useListOf } from '../data/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import SourceField from '../parts/SourceField.vue';
import TextField from '../parts/TextField.vue';
import { withSource } from '../parts/newNamed.js';
import { useRecordForm, type Draft } from '../data/form.js';
import { useActiveBuild } from '../data/build.js';

/** A power somebody claims of an engine with this head. */
const props = defineProps<{ whole: WholeHead; stage: Stage; sources: readonly Source[] }>();
const emit = defineEmits<{ done: [] }>();
const builds = useListOf('build');
const { active } = useActiveBuild();
const form = useRecordForm(
  'report',
  () => undefined,
  (): Draft<'report'> => ({
    id: 'new',
    version: 1,
    stageId: props.stage.id,
    sourceId: null,
    buildId: active.value?.build.id ?? null,
    displacement: null,
    cylinders: null,
    power: null,
    speed: null,
    taken: 'unknown',
    date: null,
    note: '',
  }),
  (r: RecordOf<'report'>) => `${r.power.typed} at ${r.speed.typed} noted.`,
  { scope: `.${props.stage.id}`, resolve: withSource('maker') },
);
const { draft, problems } = form;
const engines = computed(() => [
  ...(builds.data.value ?? []).map((b) => [b.id, b.name] as const),
  [null, 'another engine'] as const,
]);
async function save(): Promise<void> {
  if (await form.save()) emit('done');
}
</script>

<template>
  <form class="report" data-own-keys @submit.prevent="save" @keydown.esc="$emit('done')">
    <FormQuantity :form="form" field="power" kind="power" label="Power claimed" required />
    <FormQuantity :form="form" field="speed" kind="rotation" label="at" required />
    <ChoiceField v-model="draft.buildId" label="Of which engine" :options="engines" />
    <SourceField v-model="draft.sourceId" label="Said by" :sources="sources" none="unknown" />
    <template v-if="draft.buildId === null">
      <FormQuantity :form="form" field="displacement" kind="displacement" label="Displacement" required />
      <ChoiceField
        v-model="draft.cylinders"
        label="Cylinders"
        :options="Array.from({ length: 16 }, (_, i) => [i + 1, `${i + 1}`] as const)"
        :problem="problems.cylinders"
      />
    </template>
    <ChoiceField v-model="draft.taken" label="How it was taken" :options="POWER_TAKEN.map((t) => [t, t] as const)" />
    <TextField v-model="draft.date" type="date" label="Date" :problem="problems.date" />
    <TextField v-model="draft.note" label="Note" :problem="problems.note" class="wide" />
    <FormFoot class="wide" :form="form" save-word="Add it" />
    <el-button link class="out" @click="$emit('done')">Cancel</el-button>
  </form>
</template>

<style scoped>
.report {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(max(120px, 22%), 1fr));
  gap: 6px 20px;
  max-width: 900px;
  border-left: 3px solid var(--intake);
  padding: 4px 0 8px 14px;
  margin: 8px 0 18px;
}
.wide {
  grid-column: 1 / -1;
}
.out {
  justify-self: start;
}
</style>
