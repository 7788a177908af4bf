<script setup lang="ts">
import { COST_KINDS } from '@alluvium/core';
import { addition, removal, replacement, type Build, type ListPrice } from '@alluvium/records';
import { computed, ref } from 'vue';
import { standingOf, useListOf } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import TextField from '../parts/TextField.vue';
import QuantityField from '../parts/QuantityField.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { blankLine, inOrder, setsOf } from './lines.js';
import WideFrame from '../parts/WideFrame.vue';

/** The shop's price list: what it usually charges or pays, and the sets by which several lines are taken at once. */
const props = defineProps<{ build: Build }>();
defineEmits<{ close: [] }>();
const query = useListOf('listprice');
const { loading, error } = standingOf(query);
const change = useChange();
const prices = computed(() => query.data.value ?? []);
const shown = ref('');
const sets = computed(() => setsOf(prices.value));
const list = computed(() => inOrder(prices.value).filter((p) => shown.value === '' || p.sets.includes(shown.value)));
const add = () =>
  change.make(
    [addition('listprice', { line: blankLine('other', { currency: props.build.currency }), sets: [] })],
    'A line is on the price list.',
  );
const put = (p: ListPrice, line: Partial<ListPrice['line']>) =>
  change.make([replacement('listprice', { ...p, line: { ...p.line, ...line } })], 'The price list is changed.');
const setsTo = (p: ListPrice, names: readonly string[]) =>
  change.make(
    [replacement('listprice', { ...p, sets: [...new Set(names.map((n) => n.trim()).filter(Boolean))] })],
    'The price list is changed.',
  );
const drop = (p: ListPrice) =>
  change.make([removal('listprice', p.id)], `${p.line.text || p.line.kind} is off the price list.`);
</script>

<template>
  <el-dialog :model-value="true" title="Price list of the shop" width="min(1040px, 96vw)" @close="$emit('close')">
    <p class="note">
      Lines are taken into a way one by one, or a whole set at a time. A price taken stays as it was when the list
      changes later.
    </p>
    <WaitingNote v-if="!query.data.value" :loading="loading" :error="error" />
    <template v-else>
      <div class="tools">
        <ChoiceField
          v-if="sets.length"
          v-model="shown"
          label="Show"
          :options="[['', 'the whole list'] as const, ...sets.map((s) => [s, s] as const)]"
        />
        <el-button size="small" @click="add">Add a line</el-button>
      </div>
      <p v-if="list.length === 0" class="reading">
        Nothing stands here yet. Add a line, or keep the lines of a way as a set in its form.
      </p>
      <WideFrame>
        <div v-for="p in list" :key="p.id" class="line">
          <ChoiceField
            :model-value="p.line.kind"
            label="For"
            :options="COST_KINDS.map((k) => [k, k] as const)"
            @update:model-value="put(p, { kind: $event })"
          />
          <TextField
            :model-value="p.line.text"
            label="What"
            @change="put(p, { text: ($event.target as HTMLInputElement).value })"
          />
          <QuantityField
            :model-value="p.line.price"
            kind="money"
            label="Price of one"
            @update:model-value="put(p, { price: $event })"
          />
          <TextField
            :model-value="p.line.supplier"
            label="From whom"
            @change="put(p, { supplier: ($event.target as HTMLInputElement).value })"
          />
          <div class="field">
            <span class="field-label">Sets</span>
            <el-select
              :model-value="p.sets"
              multiple
              filterable
              allow-create
              default-first-option
              size="small"
              :aria-label="`Sets of ${p.line.text || p.line.kind}`"
              placeholder="core rework"
              @change="setsTo(p, $event as string[])"
            >
              <el-option v-for="s in sets" :key="s" :value="s" :label="s" />
            </el-select>
          </div>
          <el-button link :aria-label="`Remove ${p.line.text || p.line.kind}`" @click="drop(p)">Remove</el-button>
        </div>
      </WideFrame>
    </template>
  </el-dialog>
</template>

<style scoped>
.tools {
  display: flex;
  gap: 16px;
  align-items: end;
}
.line {
  display: grid;
  grid-template-columns: 1.2fr 1.6fr 1fr 1fr 1.6fr auto;
  gap: 4px 12px;
  align-items: end;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
@media (width < 800px) {
  .line {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
