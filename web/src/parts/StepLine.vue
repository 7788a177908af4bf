<script setup lang="ts">
/** How far a work of several steps has come; `at` counts those that are done. */
defineProps<{ steps: readonly string[]; at: number }>();
</script>

<template>
  <el-steps class="steps" :active="at" finish-status="success" simple>
    <el-step v-for="s in steps" :key="s" :title="s" />
  </el-steps>
</template>

<style scoped>
.steps {
  padding: 6px 12px;
}
.steps :deep(.el-step__title) {
  font-size: 14px;
}
</style>
