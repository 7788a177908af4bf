<script setup lang="ts">
import { KINDS } from '@alluvium/core';
import { PULL_COLUMNS, PULL_KINDS, type PullColumn } from '@alluvium/records';
import { computed } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import WideFrame from '../parts/WideFrame.vue';
import type { PastedPull } from './usePullTable.js';

// table.value!: columns are named of a table that was pasted.

/** The columns of a pasted table: what each was taken for, and by hand what it is. */
const props = defineProps<{ pasted: PastedPull }>();
const { laid, preview, layDown, remember } = props.pasted;
const table = computed(() => props.pasted.table.value!);
const columnChoices = [[null, 'left out'] as const, ...PULL_COLUMNS.map((c) => [c as PullColumn | null, c] as const)];
const unitsOf = (column: PullColumn | null) =>
  column && column !== 'run' ? KINDS[PULL_KINDS[column]].units.map((u) => [u.symbol, u.symbol || 'none'] as const) : [];
</script>

<template>
  <details :open="table.rows.length === 0 || laid.length > 0">
    <summary>Its columns</summary>
    <WideFrame>
      <table class="ruled">
        <thead>
          <tr>
            <th v-for="(c, i) in table.columns" :key="i">
              {{ c.text || `column ${i + 1}` }}
              <ChoiceField
                :model-value="c.column"
                hide-label
                :label="`Column ${i + 1} is`"
                :options="columnChoices"
                @update:model-value="layDown(i, $event)"
              />
              <ChoiceField
                v-if="unitsOf(c.column).length > 1"
                :model-value="c.unit"
                hide-label
                :label="`Unit of column ${i + 1}`"
                :options="unitsOf(c.column)"
                @update:model-value="layDown(i, c.column, $event)"
              />
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, r) in preview" :key="r">
            <td v-for="(_, i) in table.columns" :key="i" class="num">{{ row[i] }}</td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <el-button v-if="laid.length && table.rows.length" size="small" @click="remember">
      Read files with these headings this way
    </el-button>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  color: var(--slate);
}
</style>
