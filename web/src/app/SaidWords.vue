<script setup lang="ts">
import { ref, watch } from 'vue';
import { useUndo } from '../data/undo.js';

/** The words of the message: what was done, with its way back. They stay while the message goes. */
const undo = useUndo();
const text = ref(undo.message);
watch(
  () => undo.message,
  (now) => {
    if (now) text.value = now;
  },
);
</script>

<template>
  <span class="words" :class="{ failed: undo.failed }" role="status">
    {{ text }}
    <el-button v-if="undo.offer" link @click="undo.undo()">Undo</el-button>
    <el-button link class="plain" aria-label="Dismiss" @click="undo.dismiss()">×</el-button>
  </span>
</template>

<style scoped>
.words {
  display: flex;
  gap: 14px;
}
.words .el-button {
  --el-button-hover-link-text-color: inherit;
  margin: 0;
  border-bottom-color: currentcolor;
  font-size: inherit;
  font-weight: 600;
}
.words .plain {
  border-bottom-color: transparent;
}
</style>
