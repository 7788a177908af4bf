<script setup lang="ts">
import { COST_KINDS, TAXES } from '@alluvium/core';
import type { CostLineRecord } from '@alluvium/records';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';

/** One line of a price: a row of its own where there is room. */
defineProps<{
  line: CostLineRecord;
  /** Its place in the list, from 0. */
  at: number;
  currencies: readonly (readonly [string, string])[];
  problems: Readonly<Record<string, string>>;
}>();
const emit = defineEmits<{
  set: [fields: Partial<CostLineRecord>];
  typing: [field: string, problem: string];
  remove: [];
}>();
const TAX_WORDS = { included: 'tax in it', added: 'plus tax', none: 'no tax' } as const;
</script>

<template>
  <li class="line">
    <ChoiceField
      :model-value="line.kind"
      label="For"
      :options="COST_KINDS.map((k) => [k, k] as const)"
      @update:model-value="emit('set', { kind: $event })"
    />
    <TextField :model-value="line.text" label="What" @update:model-value="emit('set', { text: $event })" />
    <div class="field">
      <span class="field-label">Pieces or hours</span>
      <el-input-number
        :model-value="line.quantity"
        :min="0"
        :max="100000"
        :controls="false"
        size="small"
        :aria-label="`Pieces or hours, line ${at + 1}`"
        @change="emit('set', { quantity: ($event as number | null | undefined) ?? 0 })"
      />
    </div>
    <QuantityField
      :model-value="line.price"
      kind="money"
      label="Price of one"
      :problem="problems[`lines.${at}.price`] ?? ''"
      @update:model-value="emit('set', { price: $event })"
      @update:problem="emit('typing', 'price', $event)"
    />
    <ChoiceField
      :model-value="line.currency"
      label="Currency"
      :options="currencies"
      @update:model-value="emit('set', { currency: $event })"
    />
    <ChoiceField
      :model-value="line.tax"
      label="Tax"
      :options="TAXES.map((t) => [t, TAX_WORDS[t]] as const)"
      @update:model-value="emit('set', { tax: $event })"
    />
    <QuantityField
      :model-value="line.guess"
      kind="percent"
      label="Guess (±)"
      placeholder="quoted"
      @update:model-value="emit('set', { guess: $event })"
      @update:problem="emit('typing', 'guess', $event)"
    />
    <TextField
      :model-value="line.date"
      type="date"
      label="Price of"
      :problem="problems[`lines.${at}.date`] ?? ''"
      @update:model-value="emit('set', { date: $event === '' ? null : $event })"
    />
    <TextField :model-value="line.supplier" label="From whom" @update:model-value="emit('set', { supplier: $event })" />
    <el-button link class="no-print out" :aria-label="`Remove line ${at + 1}`" @click="emit('remove')">
      Remove
    </el-button>
  </li>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 1.3fr 1.7fr 0.7fr 0.9fr 0.8fr 0.9fr 0.8fr 1.1fr 1fr auto;
  gap: 4px 12px;
  align-items: end;
  padding: 2px 0 4px;
  border-bottom: 1px solid var(--rule);
}
.field :deep(.el-input-number) {
  width: 100%;
}
/* Wide enough for one row a line, the headings stand once. */
@media (width >= 1000px) {
  .line + .line :deep(label),
  .line + .line .field-label {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
}
@media (width < 1000px) {
  .line {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
