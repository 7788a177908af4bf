<script setup lang="ts">
import { OPERATION_KINDS } from '@alluvium/core';
import { removal, type Operation, type RecordOf, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import { portChoices } from '../parts/portChoices.js';

// props.operation!: only what is there is removed.

/** One thing done at a stage: what, where, by whom, how long, for how much. */
const props = defineProps<{ whole: WholeHead; stageId: string; operation?: Operation | undefined }>();
const emit = defineEmits<{ done: [] }>();
const change = useChange();
const form = useRecordForm(
  'operation',
  () => props.operation,
  (): Draft<'operation'> => ({
    id: 'new',
    version: 1,
    stageId: props.stageId,
    kind: null,
    side: 'intake',
    portId: null,
    place: '',
    date: null,
    by: '',
    time: null,
    parts: null,
    position: props.whole.operations.filter((o) => o.stageId === props.stageId).length,
    note: '',
  }),
  (o: RecordOf<'operation'>) => `Noted: ${o.kind}.`,
  { scope: `.${props.stageId}` },
);
const { draft, problems } = form;
const ports = computed(() => portChoices(props.whole.ports, draft.value.side));
function sideTo(side: 'intake' | 'exhaust' | null): void {
  draft.value.side = side;
  draft.value.portId = null;
}
async function save(): Promise<void> {
  if (await form.save()) emit('done');
}
async function remove(): Promise<void> {
  if (await change.make([removal('operation', props.operation!.id)], `${props.operation!.kind} removed.`)) emit('done');
}
</script>

<template>
  <form class="operation" data-own-keys @submit.prevent="save" @keydown.esc="emit('done')">
    <ChoiceField
      v-model="draft.kind"
      label="What was done"
      :options="OPERATION_KINDS.map((k) => [k, k] as const)"
      :problem="problems.kind"
    />
    <ChoiceField
      :model-value="draft.side"
      label="Side"
      :options="[
        ['intake', 'intake'],
        ['exhaust', 'exhaust'],
        [null, 'neither'],
      ]"
      :problem="problems.side"
      @update:model-value="sideTo"
    />
    <ChoiceField v-model="draft.portId" label="Port" :options="ports" :problem="problems.portId" />
    <TextField v-model="draft.date" type="date" label="Done on" :problem="problems.date" />
    <TextField v-model="draft.by" label="By" :problem="problems.by" />
    <FormQuantity :form="form" field="time" kind="time" label="Hours" placeholder="2.5 or 90 min" />
    <FormQuantity :form="form" field="parts" kind="money" label="Parts and outside work" />
    <TextField v-model="draft.place" class="two" label="Where and how" :problem="problems.place" />
    <TextField v-model="draft.note" class="wide" type="textarea" label="Note" :problem="problems.note" />
    <FormFoot class="wide" :form="form" :save-word="operation ? 'Save' : 'Add it'" />
    <p class="wide">
      <el-button link @click="emit('done')">Close</el-button>
      <el-button v-if="operation" link type="danger" @click="remove">Remove this work</el-button>
    </p>
  </form>
</template>

<style scoped>
.operation {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 6px 20px;
  margin: 8px 0;
  padding: 4px 0 8px 14px;
  border-left: 3px solid var(--intake);
}
.two {
  grid-column: span 2;
}
.wide {
  grid-column: 1 / -1;
  margin: 0;
}
@media (width < 700px) {
  .operation {
    grid-template-columns: minmax(0, 1fr);
  }
  .two {
    grid-column: auto;
  }
}
</style>
