<script setup lang="ts">
/** One question that takes a while: a button, and what came of it, sentence by sentence. */
defineProps<{
  title: string;
  button: string;
  busy: boolean;
  problem: string;
  sentences: readonly string[];
  note?: string;
}>();
defineEmits<{ ask: [] }>();
</script>

<template>
  <div>
    <h2>{{ title }}</h2>
    <slot />
    <p v-for="s in sentences" :key="s" class="reading">{{ s }}</p>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
    <el-button class="no-print" size="small" :loading="busy" :disabled="busy" @click="$emit('ask')">
      {{ button }}
    </el-button>
    <p v-if="note" class="note">{{ note }}</p>
  </div>
</template>

<style scoped>
h2 {
  margin: 14px 0 6px;
}
.reading {
  margin: 4px 0 8px;
  font-size: 16px;
}
</style>
