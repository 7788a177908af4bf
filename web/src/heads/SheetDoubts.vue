<script lang="ts">
/** Something about a sheet that is asked, not changed. */
export interface Question {
  readonly key: string;
  readonly text: string;
  readonly mend?: string;
  readonly act?: () => void;
}
</script>

<script setup lang="ts">
defineProps<{ questions: readonly Question[] }>();
defineEmits<{ settled: [string] }>();
</script>

<template>
  <ul v-if="questions.length" class="doubts" role="status">
    <li v-for="q in questions" :key="q.key">
      {{ q.text }}
      <el-button v-if="q.mend" link @click="q.act?.()">{{ q.mend }}</el-button>
      <el-button link @click="$emit('settled', q.key)">It is right</el-button>
    </li>
  </ul>
</template>

<style scoped>
.doubts {
  list-style: none;
  margin: 0;
  padding: 4px 0 4px 12px;
  border-left: 3px solid var(--caution-line);
  color: var(--caution);
}
li + li {
  margin-top: 6px;
}
button {
  margin-left: 8px;
  color: var(--ink);
}
</style>
