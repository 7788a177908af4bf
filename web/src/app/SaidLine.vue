<script setup lang="ts">
import { useUndo } from '../data/undo.js';

/** What was done, with its way back; what was refused stays until it is read. */
const undo = useUndo();
</script>

<template>
  <div class="said no-print" role="status" aria-live="polite">
    <p v-if="undo.message" :class="{ failed: undo.failed }" :role="undo.failed ? 'alert' : undefined">
      {{ undo.message }}
      <el-button v-if="undo.offer" link @click="undo.undo()">Undo</el-button>
      <el-button link class="plain away" aria-label="Dismiss" @click="undo.dismiss()">×</el-button>
    </p>
  </div>
</template>

<style scoped>
.said p {
  position: fixed;
  z-index: 3000;
  left: 50%;
  bottom: 74px;
  transform: translateX(-50%);
  margin: 0;
  padding: 8px 14px;
  background: var(--ink);
  color: var(--paper);
  max-width: 80vw;
}
.said .failed {
  border-left: 6px solid var(--loss);
}
.said .el-button {
  --el-button-hover-link-text-color: inherit;
  margin-left: 10px;
  border-bottom-color: currentcolor;
  font-weight: 600;
}
.said .el-button + .el-button {
  margin-left: 16px;
}
.said .away {
  border-bottom-color: transparent;
}
</style>
