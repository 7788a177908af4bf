<script setup lang="ts">
import { ref } from 'vue';
import { inDemo, leaveDemo } from '../data/around.js';

/** Whoever looks around in the demo is told so on every page, with the way out. */
const shown = inDemo();
const leaving = ref(false);
const problem = ref('');
async function leave(): Promise<void> {
  leaving.value = true;
  try {
    await leaveDemo();
  } catch (error) {
    leaving.value = false;
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <p v-if="shown" class="demo no-print" role="status">
    This is the demo: an invented shop, kept apart from your own. What you change here goes when the program stops.
    <el-button link :loading="leaving" @click="leave">Leave the demo</el-button>
    <span v-if="problem" class="loss" role="alert">{{ problem }}</span>
  </p>
</template>

<style scoped>
.demo {
  margin: 0 0 10px;
  padding: 3px 10px;
  border-left: 4px solid var(--caution-line);
  background: var(--paper-deep);
}
.demo .el-button {
  margin-left: 8px;
}
</style>
