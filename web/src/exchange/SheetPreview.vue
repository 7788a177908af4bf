<script setup lang="ts">
import { unitFor } from '@alluvium/core';
import { writeCells, type SheetFile } from '@alluvium/records';
import { computed } from 'vue';
import { useSettings } from '../state/settings.js';

/** A sheet as it was read from a file, its units in the headings; a cell in another unit says so itself. */
const props = defineProps<{ file: SheetFile }>();
const settings = useSettings();
const rows = computed(() => writeCells(props.file.sheet.rows, settings.system, props.file.sheet.valveOut));
const reads = computed(() => props.file.sheet.setup.reads);
const liftUnit = computed(() => unitFor('lift', settings.system).symbol);
const flowUnit = computed(() =>
  reads.value === 'percent' || reads.value === 'differential' ? '%' : unitFor('flow', settings.system).symbol,
);
</script>

<template>
  <div class="preview">
    <table v-if="rows.length" class="ruled">
      <caption class="unseen">The rows as they were read</caption>
      <thead>
        <tr>
          <th class="num" scope="col">
            Lift
            <small>{{ liftUnit }}</small>
          </th>
          <th class="num" scope="col">
            Intake
            <small>{{ flowUnit }}</small>
          </th>
          <th class="num" scope="col">
            Exhaust
            <small>{{ flowUnit }}</small>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(c, i) in rows" :key="i">
          <td class="num">{{ c.lift }}</td>
          <td class="num">{{ c.intake }}</td>
          <td class="num">{{ c.exhaust }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else class="note">No row could be read.</p>
  </div>
</template>

<style scoped>
.preview {
  max-height: 60vh;
  overflow: auto;
}
</style>
