<script setup lang="ts">
import { PAIRS, type Message, type MessageRow, type Pairs } from '@alluvium/records';
import { computed, ref } from 'vue';
import ChoiceRow from '../parts/ChoiceRow.vue';

/** What a pasted message was read as, shown before it goes into the sheet; what can be meant twice is asked. */
const props = defineProps<{ message: Message }>();
const emit = defineEmits<{ take: [MessageRow[]]; close: [] }>();
const pairs = ref<Pairs>(PAIRS[0]);
const rows = computed(() => props.message.rows(pairs.value));
</script>

<template>
  <el-dialog :model-value="true" title="Figures in this message" width="420" @close="emit('close')">
    <template v-if="!message.sure">
      <p class="note">Two figures with a stroke between them: what are they?</p>
      <ChoiceRow v-model="pairs" label="What the pairs are" :options="PAIRS.map((p) => [p, p] as const)" />
    </template>
    <table class="ruled" aria-label="Rows as they were read">
      <thead>
        <tr>
          <th class="num">lift</th>
          <th class="num">intake</th>
          <th class="num">exhaust</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, i) in rows" :key="i">
          <td class="num">{{ row.lift || 'next' }}</td>
          <td class="num">{{ row.intake || '–' }}</td>
          <td class="num">{{ row.exhaust || '–' }}</td>
        </tr>
      </tbody>
    </table>
    <template #footer>
      <el-button link @click="emit('close')">Cancel</el-button>
      <el-button type="primary" @click="emit('take', rows)">Put them in the sheet</el-button>
    </template>
  </el-dialog>
</template>
