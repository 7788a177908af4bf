<script setup lang="ts">
import { format, type Side } from '@alluvium/core';
import { useSettings } from '../state/settings.js';

/** The points read off a chart; one may be chosen, or removed. */
defineProps<{
  points: readonly { readonly index: number; readonly side: Side; readonly lift: number; readonly flow: number }[];
}>();
const emit = defineEmits<{ remove: [index: number] }>();
const chosen = defineModel<number>({ required: true });
const settings = useSettings();
</script>

<template>
  <div class="list">
    <table v-if="points.length" class="ruled">
      <tbody>
        <tr v-for="p in points" :key="p.index" :class="{ on: p.index === chosen }" @click="chosen = p.index">
          <td>{{ p.side }}</td>
          <td class="num">{{ format(p.lift, 'lift', settings.figures) }}</td>
          <td class="num">{{ format(p.flow, 'flow', settings.figures) }}</td>
          <td class="num">
            <el-button
              link
              :aria-label="`Remove the ${p.side} point at ${format(p.lift, 'lift', settings.figures)}`"
              @click.stop="emit('remove', p.index)"
            >
              Remove
            </el-button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.list {
  max-height: 190px;
  overflow: auto;
}
.on td {
  background: var(--paper-deep);
}
</style>
