<script setup lang="ts">
import HoverNote from '../HoverNote.vue';
import type { History } from './history.js';

/** What can be done with the rows and cells of a grid by mouse; each has its key. */
defineProps<{
  history: Pick<History, 'canUndo' | 'canRedo' | 'undo' | 'redo'>;
  /** Rows chosen; 0 where the rows are fixed. */
  rows: number;
}>();
defineEmits<{ insert: []; remove: []; fill: [] }>();
</script>

<template>
  <p class="acts">
    <template v-if="rows > 0">
      <HoverNote says="Ctrl Insert"><el-button link @click="$emit('insert')">Insert row</el-button></HoverNote>
      <HoverNote says="Ctrl Delete">
        <el-button link @click="$emit('remove')">Remove {{ rows > 1 ? 'rows' : 'row' }}</el-button>
      </HoverNote>
    </template>
    <HoverNote says="Ctrl D"><el-button link @click="$emit('fill')">Fill down</el-button></HoverNote>
    <HoverNote says="Ctrl Z">
      <el-button link :disabled="!history.canUndo.value" @click="history.undo">Undo</el-button>
    </HoverNote>
    <HoverNote says="Ctrl Y">
      <el-button link :disabled="!history.canRedo.value" @click="history.redo">Redo</el-button>
    </HoverNote>
    <slot />
  </p>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin: 6px 0 0;
}
.acts :deep(.el-button + .el-button) {
  margin-left: 0;
}
@media print {
  .acts {
    display: none;
  }
}
</style>
