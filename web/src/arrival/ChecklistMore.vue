<script setup lang="ts">
import { INSPECTION_GROUPS, addition, type InspectionGroup, type WholeHead } from '@alluvium/records';
import { ref } from 'vue';
import { newId } from '../data/ids.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import TextField from '../parts/TextField.vue';

/** What is seldom done with a checklist: a line of one's own, and keeping it for the shop. */
const props = defineProps<{ whole: WholeHead }>();
const emit = defineEmits<{ added: [id: string] }>();
const change = useChange();
const more = ref(false);
const title = ref('');
const group = ref<InspectionGroup>('own');
const templateName = ref('');
async function addLine(): Promise<void> {
  const { inspections, head } = props.whole;
  // A line added to a group stands at its end.
  const last = Math.max(-1, ...inspections.filter((i) => i.group === group.value).map((i) => i.position));
  const position = last < 0 ? Math.max(0, ...inspections.map((i) => i.position)) + 1 : last;
  const id = newId();
  const line = { id, headId: head.id, title: title.value, group: group.value, position };
  const made = await change.make([addition('inspection', line)], `“${title.value}” added to the checklist.`);
  if (!made) return;
  title.value = '';
  emit('added', id);
}
async function keepTemplate(): Promise<void> {
  const lines = props.whole.inspections
    .filter((i) => i.state !== 'skipped')
    .map(({ group: g, title: t, hint, sizes }) => ({ group: g, title: t, hint, sizes }));
  const made = await change.make(
    [addition('checklist', { name: templateName.value, lines })],
    `Kept as our own checklist “${templateName.value}”, ${lines.length} lines.`,
  );
  if (made) templateName.value = '';
}
</script>

<template>
  <el-button link class="more" :aria-expanded="more" @click="more = !more">Add a line, save as our own …</el-button>
  <div v-if="more">
    <form class="line" @submit.prevent="addLine">
      <TextField v-model="title" label="New line" />
      <ChoiceField v-model="group" label="Under" :options="INSPECTION_GROUPS.map((g) => [g, g] as const)" />
      <el-button native-type="submit" :disabled="title.trim() === ''">Add</el-button>
    </form>
    <form class="line" @submit.prevent="keepTemplate">
      <TextField v-model="templateName" label="Save this checklist as" placeholder="our name for it" />
      <el-button native-type="submit" :disabled="templateName.trim() === ''">Save</el-button>
    </form>
  </div>
</template>

<style scoped>
.more {
  align-self: flex-start;
}
.line {
  display: flex;
  gap: 10px;
  align-items: end;
  margin-top: 6px;
}
.line > :first-child {
  flex: 1;
}
</style>
