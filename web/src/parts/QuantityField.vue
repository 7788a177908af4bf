<script setup lang="ts">
import { formatNumber, readTyped, unitFor, type Kind, type Quantity } from '@alluvium/core';
import { computed, nextTick, ref, useId, watch } from 'vue';
import { readInstrument } from '../data/client.js';
import { useSettings } from '../state/settings.js';
import FieldRow from './FieldRow.vue';

/**
 * A field that takes what people type and shows what was understood. The unit typed is kept. An unusable text stays in
 * the field with a sentence under it; `v-model` is then left as it was and `update:problem` tells the form.
 */
const props = defineProps<{
  modelValue: Quantity | null;
  kind: Kind;
  label: string;
  placeholder?: string;
  required?: boolean;
  problem?: string;
  hideLabel?: boolean;
  /** What a share typed as `90.3 %` is of, SI; left out where a share means nothing. */
  shareOf?: number | undefined;
}>();
const emit = defineEmits<{ 'update:modelValue': [Quantity | null]; 'update:problem': [string] }>();
const settings = useSettings();
const id = useId();
const text = ref('');
const own = ref('');
const typing = ref(false);

const shown = (q: Quantity | null): string => q?.typed ?? '';
watch(
  () => props.modelValue,
  (q) => {
    // Emptied from outside, as after noting it: the field is free again, even with the cursor in it.
    if (own.value === '' && (!typing.value || q === null)) text.value = shown(q);
  },
  { immediate: true },
);

const unit = computed(() => unitFor(props.kind, settings.system).symbol);
const understood = computed(() => {
  const q = props.modelValue;
  if (!q || own.value) return '';
  const now = formatNumber(q.si, props.kind, settings.system);
  const plain = q.typed.replace(/^\+/, '').replace(/,(?=\d{3}\b)/g, '');
  return plain === `${now} ${unit.value}`.trim() ||
    plain === now ||
    (Number.parseFloat(plain) === Number.parseFloat(now) && plain.endsWith(unit.value))
    ? ''
    : `${formatNumber(q.si, props.kind, settings.figures)} ${unit.value}`.trim();
});
const sentence = computed(() => own.value || props.problem || '');

/** `90.3 %` of what it is of, written as a size; anything else as it was typed. */
function asSize(value: string): string {
  const share = /^\s*(\d+(?:[.,]\d+)?)\s*%\s*$/.exec(value)?.[1];
  if (share === undefined || props.shareOf === undefined) return value;
  const si = (Number(share.replace(',', '.')) / 100) * props.shareOf;
  return `${formatNumber(si, props.kind, settings.system, props.kind === 'length' && settings.system === 'metric' ? { digits: 2 } : {})} ${unit.value}`;
}

function read(value: string): void {
  text.value = value;
  typing.value = true;
  if (value.trim() === '') {
    own.value = props.required ? `${props.label}: type a value.` : '';
    emit('update:problem', own.value);
    emit('update:modelValue', null);
    return;
  }
  const parsed = readTyped(asSize(value), props.kind, settings.system);
  own.value = parsed.ok ? '' : parsed.problem;
  emit('update:problem', own.value);
  if (parsed.ok) emit('update:modelValue', parsed.quantity);
}

/** F8 types what the instrument of this kind shows, as a hand would. */
const INSTRUMENTS: Partial<Record<Kind, string>> = {
  length: 'length',
  lift: 'lift',
  volume: 'volume',
  pressure: 'pressure',
};
async function fromInstrument(): Promise<void> {
  const name = INSTRUMENTS[props.kind];
  if (!name) return;
  try {
    const near = props.modelValue?.si;
    const value = await readInstrument(name, near);
    const typed = unit.value === 'mm' || props.kind === 'lift' ? { digits: 3 } : {};
    own.value = '';
    read(`${formatNumber(value, props.kind, settings.system, typed).replace('−', '-')} ${unit.value}`.trim());
  } catch (error) {
    own.value = (error as Error).message;
    emit('update:problem', own.value);
  }
}

async function leave(): Promise<void> {
  typing.value = false;
  await nextTick();
  if (!own.value) text.value = shown(props.modelValue);
}
</script>

<template>
  <FieldRow :id="id" :label="label" :hide-label="hideLabel" :required="required" :problem="sentence">
    <el-input
      :id="id"
      :model-value="text"
      :placeholder="placeholder ?? unit"
      autocomplete="off"
      spellcheck="false"
      :aria-invalid="sentence !== ''"
      :aria-describedby="sentence || understood ? `${id}-says` : undefined"
      @update:model-value="read"
      @blur="leave"
      @keydown.f8.prevent="fromInstrument"
    />
    <p v-if="!sentence && understood" :id="`${id}-says`" class="says">{{ understood }}</p>
  </FieldRow>
</template>

<style scoped>
.field {
  min-width: 0;
}
.says {
  margin: 1px 2px 0;
  font-size: 13px;
  line-height: 1.4;
  color: var(--slate);
}
</style>
