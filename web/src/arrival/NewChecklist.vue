<script setup lang="ts">
import {
  BERYLLIUM_CAUTION,
  CHECKLIST_KINDS,
  checklistFor,
  likelyKind,
  type ChecklistKind,
  type ChecklistMake,
  type WholeHead,
} from '@alluvium/records';
import { computed, ref } from 'vue';
import { makeChecklist } from '../data/client.js';
import { useListOf } from '../data/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import TextField from '../parts/TextField.vue';
import { useActiveBuild } from '../data/build.js';
import { useChange } from '../data/useChange.js';

/** The head has no checklist yet: which one, and how many cylinders it covers. */
const props = defineProps<{ whole: WholeHead }>();
const change = useChange('here');
const { active } = useActiveBuild();
const templates = useListOf('checklist');
const list = ref<string>(likelyKind(props.whole.head));
const cylinders = ref(String(props.whole.head.cylinders ?? active.value?.build.cylinders ?? ''));
const problem = ref('');
const { busy } = change;

const isKind = (value: string): value is ChecklistKind => (CHECKLIST_KINDS as readonly string[]).includes(value);
const own = computed(() => templates.data.value ?? []);
const lines = computed(() =>
  isKind(list.value)
    ? checklistFor(list.value, props.whole.head)
    : (own.value.find((t) => t.id === list.value)?.lines ?? []),
);
async function make(): Promise<void> {
  const count = Number(cylinders.value);
  if (!Number.isInteger(count) || count < 1 || count > 24) {
    problem.value = 'Say how many cylinders this casting covers: a whole number from 1 to 24.';
    return;
  }
  const made: ChecklistMake = isKind(list.value)
    ? { kind: list.value, cylinders: count }
    : { checklistId: list.value, cylinders: count };
  await change.run(() => makeChecklist(props.whole.head.id, made), `Checklist made: ${lines.value.length} lines.`);
  problem.value = change.refusal.value;
}
</script>

<template>
  <form class="make" @submit.prevent="make">
    <p class="reading">
      Nothing was looked at yet. Choose what came in: the checklist is made for it, and lines can be added, skipped with
      a reason, and kept as your own.
    </p>
    <div class="fields">
      <ChoiceField
        v-model="list"
        label="What came in"
        :options="[
          ...CHECKLIST_KINDS.map((k) => [k as string, k as string] as const),
          ...own.map((t) => [t.id as string, `our own: ${t.name}`] as const),
        ]"
      />
      <TextField v-model="cylinders" label="Cylinders it covers" :problem="problem" />
      <el-button type="primary" native-type="submit" :loading="busy">Make the checklist</el-button>
    </div>
    <p class="note">{{ lines.length }} lines: {{ [...new Set(lines.map((l) => l.group))].join(', ') }}.</p>
    <p class="caution">{{ BERYLLIUM_CAUTION }}</p>
  </form>
</template>

<style scoped>
.make {
  max-width: 760px;
  margin-top: 14px;
}
.fields {
  display: grid;
  grid-template-columns: 1.4fr 1fr auto;
  gap: 20px;
  align-items: start;
}
.fields .el-button {
  margin-top: 20px;
}
</style>
