<script setup lang="ts">
import { sheetName, type Sheet, type Source, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import type { RecordForm } from '../data/form.js';
import ChoiceField from '../parts/ChoiceField.vue';
import SourceField from '../parts/SourceField.vue';
import TextField from '../parts/TextField.vue';
import { portProblem, usePortText } from './useSheetNames.js';

/** What a sheet is: its title and day, whose it is, the ports it was read on, the sheet it belongs to. */
const props = defineProps<{
  form: RecordForm<'sheet'>;
  whole: WholeHead;
  sources: readonly Source[];
  sheet: Sheet | undefined;
}>();
// The form is the page's own, handed on; its refs are read here as they are there.
const { draft, problems, typing } = props.form;
const intakePort = usePortText(draft, () => props.whole, 'intake', typing);
const exhaustPort = usePortText(draft, () => props.whole, 'exhaust', typing);
const others = computed(() =>
  props.whole.sheets
    .filter((s) => s.id !== props.sheet?.id && s.setup.reads !== 'difference')
    .map((s) => {
      const stage = props.whole.stages.find((x) => x.id === s.stageId)?.name ?? '';
      return [s.id, `${stage}: ${sheetName(s, props.whole.ports, props.sources)}`] as const;
    }),
);
const siblings = computed(() => [
  [null, 'stands by itself'] as const,
  ...props.whole.sheets
    .filter((s) => s.id !== props.sheet?.id && s.stageId === draft.value.stageId && s.siblingOf === null)
    .map((s) => [s.id, sheetName(s, props.whole.ports, props.sources)] as const),
]);
</script>

<template>
  <div class="named">
    <div class="row">
      <TextField
        v-model="draft.title"
        label="Title of the sheet"
        :problem="problems.title"
        placeholder="made from source and port"
      />
      <TextField
        data-field="date"
        :model-value="draft.date"
        type="date"
        label="Date"
        :problem="problems.date"
        @update:model-value="draft.date = $event || null"
      />
    </div>
    <div class="row four">
      <ChoiceField
        v-model="draft.kind"
        label="What it is"
        :options="[
          ['measured', 'measured'],
          ['claim', 'a claim'],
        ]"
      />
      <SourceField v-model="draft.sourceId" data-field="source" label="Source" :sources="sources" none="unknown" />
      <TextField
        v-model="intakePort"
        data-field="intakePortId"
        label="Intake port"
        :problem="portProblem(intakePort)"
        placeholder="unknown"
      />
      <TextField
        v-model="exhaustPort"
        data-field="exhaustPortId"
        label="Exhaust port"
        :problem="portProblem(exhaustPort)"
        placeholder="unknown"
      />
    </div>
    <ChoiceField
      v-if="draft.setup.reads === 'difference'"
      v-model="draft.baselineId"
      data-field="baselineId"
      label="Differences from"
      :options="[[null, 'not said'] as const, ...others]"
      :problem="problems.baselineId"
    />
    <ChoiceField
      v-if="draft.kind === 'claim' && siblings.length > 1"
      v-model="draft.siblingOf"
      label="One more curve of the table"
      :options="siblings"
    />
    <TextField
      v-if="draft.setAside"
      v-model="draft.setAside"
      label="Set aside, because"
      :problem="problems.setAside"
      placeholder="empty: it counts again"
    />
  </div>
</template>

<style scoped>
.named {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.row {
  display: grid;
  grid-template-columns: 1fr 130px;
  gap: 18px;
}
.row.four {
  grid-template-columns: 1fr 1.4fr 0.8fr 0.8fr;
}
@media (max-width: 800px) {
  .row,
  .row.four {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
}
</style>
