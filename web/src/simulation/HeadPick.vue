<script setup lang="ts">
/** One head of the lineup, by its letter. */
defineProps<{
  heads: readonly { readonly id: string; readonly letter: string }[];
  /** What stands before it: `range of`. */
  words: string;
  /** The one that is taken while none is chosen. */
  usual: string | undefined;
  label: string;
}>();
const chosen = defineModel<string>({ required: true });
</script>

<template>
  <label class="pick">
    <span class="note">{{ words }}</span>
    <el-select v-model="chosen" size="small" :placeholder="usual" :aria-label="label">
      <el-option v-for="h in heads" :key="h.id" :value="h.id" :label="h.letter" />
    </el-select>
  </label>
</template>

<style scoped>
.pick {
  display: flex;
  align-items: center;
  gap: 8px;
}
.el-select {
  width: 76px;
}
</style>
