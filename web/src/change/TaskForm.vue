<script setup lang="ts">
import { OPERATION_KINDS } from '@alluvium/core';
import { TASK_KINDS, TASK_SIZES, removal, taskKind, type RecordOf, type Task, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import { portChoices } from '../parts/portChoices.js';

// props.task!: only what is there is removed.

/** A line of the work list. */
const props = defineProps<{ whole: WholeHead; task?: Task | undefined }>();
const emit = defineEmits<{ done: [] }>();
const change = useChange();
const form = useRecordForm(
  'task',
  () => props.task,
  (): Draft<'task'> => ({
    id: 'new',
    version: 1,
    headId: props.whole.head.id,
    position: (props.whole.tasks.at(-1)?.position ?? -1) + 1,
    kind: 'cut',
    operation: null,
    side: 'intake',
    portId: null,
    place: '',
    size: 'wall',
    wanted: null,
    limit: null,
    found: null,
    pattern: false,
    within: null,
    tool: '',
    time: null,
    done: null,
    note: '',
  }),
  (t: RecordOf<'task'>) => `On the work list: ${t.place}`,
  { scope: `.${props.whole.head.id}` },
);
const { draft, problems } = form;
const kind = computed(() => taskKind(draft.value.size ?? 'diameter'));
const ports = computed(() => portChoices(props.whole.ports, draft.value.side));
function sideTo(side: 'intake' | 'exhaust' | null): void {
  draft.value.side = side;
  draft.value.portId = null;
}
/** What was typed as a length is no area. */
function sizeTo(size: (typeof TASK_SIZES)[number]): void {
  if (taskKind(size) !== kind.value)
    Object.assign(draft.value, { wanted: null, limit: null, found: null, within: null });
  draft.value.size = size;
}
const SIZE_WORDS = { wall: 'wall left', diameter: 'diameter or width', area: 'area' } as const;
const KIND_WORDS = { cut: 'cut', 'keep out': 'do not touch', check: 'check' } as const;
async function save(): Promise<void> {
  if (await form.save()) emit('done');
}
async function remove(): Promise<void> {
  if (await change.make([removal('task', props.task!.id)], 'Taken off the work list.')) emit('done');
}
</script>

<template>
  <form class="task" data-own-keys @submit.prevent="save" @keydown.esc="emit('done')">
    <ChoiceField v-model="draft.kind" label="Kind" :options="TASK_KINDS.map((k) => [k, KIND_WORDS[k]] as const)" />
    <ChoiceField
      v-model="draft.operation"
      label="What"
      :options="[[null, 'not said'] as const, ...OPERATION_KINDS.map((k) => [k, k] as const)]"
    />
    <ChoiceField
      :model-value="draft.side"
      label="Side"
      :options="[
        ['intake', 'intake'],
        ['exhaust', 'exhaust'],
        [null, 'neither'],
      ]"
      @update:model-value="sideTo"
    />
    <ChoiceField v-model="draft.portId" label="Port" :options="ports" :problem="problems.portId" />
    <TextField
      v-model="draft.place"
      class="two"
      label="Where"
      placeholder="floor of the short turn, both corners"
      :problem="problems.place"
    />
    <TextField v-model="draft.tool" class="two" label="Tools" :problem="problems.tool" />
    <ChoiceField
      :model-value="draft.size"
      label="Size that is watched"
      :options="TASK_SIZES.map((s) => [s, SIZE_WORDS[s]] as const)"
      @update:model-value="sizeTo"
    />
    <FormQuantity :key="`w${kind}`" :form="form" field="wanted" :kind="kind" label="To which size" />
    <FormQuantity :key="`l${kind}`" :form="form" field="limit" :kind="kind" label="Stop at" />
    <FormQuantity :key="`f${kind}`" :form="form" field="found" :kind="kind" label="Measured" />
    <FormQuantity :key="`n${kind}`" :form="form" field="within" :kind="kind" label="Others follow within" />
    <el-checkbox v-model="draft.pattern" class="box">pattern port</el-checkbox>
    <FormQuantity :form="form" field="time" kind="time" label="Hours" />
    <TextField
      :model-value="draft.done"
      type="date"
      label="Done on"
      :problem="problems.done"
      @update:model-value="draft.done = $event || null"
    />
    <TextField v-model="draft.note" class="wide" type="textarea" label="Note" />
    <FormFoot class="wide" :form="form" :save-word="task ? 'Save' : 'Add it'" />
    <p class="wide">
      <el-button link @click="emit('done')">Close</el-button>
      <el-button v-if="task" link type="danger" @click="remove">Remove from the list</el-button>
    </p>
  </form>
</template>

<style scoped>
.task {
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
.box {
  align-self: end;
}
.wide {
  grid-column: 1 / -1;
  margin: 0;
}
@media (width < 700px) {
  .task {
    grid-template-columns: minmax(0, 1fr);
  }
  .two {
    grid-column: auto;
  }
}
</style>
