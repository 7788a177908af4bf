<script setup lang="ts">
import { computed, ref } from 'vue';
import { GLOSSARY } from './glossary.js';

const props = defineProps<{ word?: string }>();
defineEmits<{ close: [] }>();
const search = ref(props.word ?? '');
const found = computed(() =>
  GLOSSARY.filter(([term, meaning]) => `${term} ${meaning}`.toLowerCase().includes(search.value.toLowerCase())),
);
</script>

<template>
  <el-drawer :model-value="true" title="Glossary" size="min(480px, 100vw)" @close="$emit('close')">
    <el-input v-model="search" placeholder="find a word" aria-label="Find a word" autofocus />
    <dl>
      <template v-for="[term, meaning] in found" :key="term">
        <dt>{{ term }}</dt>
        <dd class="note">{{ meaning }}</dd>
      </template>
    </dl>
    <p v-if="found.length === 0" class="note">No such word here.</p>
  </el-drawer>
</template>

<style scoped>
dl {
  margin: 12px 0 0;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0 0 8px;
}
</style>
