<script setup lang="ts">
import { inDemo, leaveDemo, useWay } from '../data/around.js';

/** Whoever looks around in the demo is told so on every page, with the way out. */
const shown = inDemo();
const { going, problem, go } = useWay(leaveDemo);
</script>

<template>
  <p v-if="shown" class="demo no-print" role="status">
    This is the demo: an invented shop, kept apart from your own. What you change here goes when the program stops.
    <el-button link :loading="going" @click="go">Leave the demo</el-button>
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
