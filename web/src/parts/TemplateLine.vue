<script setup lang="ts" generic="T extends TemplateOf">
import { addition, removal, templatesOf, type TemplateContent, type TemplateOf } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useListOf } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from './ChoiceField.vue';
import TextField from './TextField.vue';

// chosen.value!, template.id!: the shop's own are removed, and have an id.

/** What a form begins from: a template of the shop or the program's; what stands in the form is kept as one. */
const props = defineProps<{
  of: T;
  /** What the form holds now, to be kept as a template; undefined where it cannot be read. */
  content: () => TemplateContent<T> | undefined;
}>();
const emit = defineEmits<{ take: [TemplateContent<T>] }>();
const stored = useListOf('template');
const offered = computed(() => templatesOf(props.of, stored.data.value ?? []));
const at = ref('');
const chosen = computed(() => (at.value === '' ? undefined : offered.value[Number(at.value)]));
function choose(index: string): void {
  at.value = index;
  if (index !== '' && chosen.value) emit('take', chosen.value.content);
}

const change = useChange('here');
const naming = ref(false);
const name = ref('');
const problem = ref('');
async function keep(): Promise<void> {
  const content = props.content();
  problem.value = !name.value.trim()
    ? 'Give it a name.'
    : offered.value.some((t) => t.id && t.name === name.value.trim())
      ? 'There is a template of this name: remove it first, or choose another name.'
      : content
        ? ''
        : 'Something in the form cannot be read yet.';
  if (problem.value || !content) return;
  const made = await change.make(
    [addition('template', { name: name.value, of: props.of, content })],
    `Template “${name.value.trim()}” saved.`,
  );
  problem.value = change.refusal.value;
  if (!made) return;
  naming.value = false;
  name.value = '';
}
async function remove(): Promise<void> {
  const template = chosen.value!;
  if (await change.make([removal('template', template.id!)], `Template “${template.name}” removed.`)) at.value = '';
}
</script>

<template>
  <div class="template no-print">
    <ChoiceField
      :model-value="at"
      label="Start from a template"
      :options="[
        ['', 'none'] as const,
        ...offered.map((t, i) => [String(i), t.id ? `ours: ${t.name}` : t.name] as const),
      ]"
      @update:model-value="choose"
    />
    <template v-if="naming">
      <TextField v-model="name" label="Name of the template" :problem="problem" @keydown.enter.prevent="keep" />
      <el-button :loading="change.busy.value" @click="keep">Save template</el-button>
      <el-button link @click="naming = false">Cancel</el-button>
    </template>
    <el-button v-else link @click="naming = true">Save these as a template</el-button>
    <el-button v-if="chosen?.id && !naming" link @click="remove">Remove this template</el-button>
  </div>
</template>

<style scoped>
.template {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 4px 16px;
  margin: 6px 0 10px;
}
.template > .field {
  width: 280px;
}
</style>
