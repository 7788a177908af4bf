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
  <el-dialog :model-value="true" title="Glossary" width="560" @close="$emit('close')">
    <el-input v-model="search" placeholder="find a word" aria-label="Find a word" autofocus />
    <dl>
      <template v-for="[term, meaning] in found" :key="term">
        <dt>{{ term }}</dt>
        <dd class="note">{{ meaning }}</dd>
      </template>
    </dl>
    <p v-if="found.length === 0" class="note">No such word here.</p>
  </el-dialog>
</template>

<style scoped>
dl {
  max-height: 56vh;
  overflow: auto;
  margin: 12px 0 0;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0 0 8px;
}
</style>
