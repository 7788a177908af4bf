<script setup lang="ts">
import type { Stage, WholeHead } from '@alluvium/records';
import { refDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useComparison } from '../data/comparison.js';
import { useLibrary } from '../data/queries.js';

/** Which head and which stage a step works on, and the way to another one: the lineup, or any head found by typing. */
const props = defineProps<{ step: string; whole: WholeHead; stage: Stage }>();
defineEmits<{ stage: [string] }>();
const router = useRouter();
const { heads } = useComparison();
const search = ref('');
const settled = refDebounced(search, 150);
const SIZE = 50;
const library = useLibrary(() => ({ search: settled.value, size: SIZE }));

const lined = computed(() => {
  const once = new Map(heads.value.map((h) => [h.whole.head.id, `${h.letter}  ${h.whole.head.name}`]));
  const { head } = props.whole;
  if (!once.has(head.id)) once.set(head.id, head.name);
  return [...once].map(([id, name]) => ({ id, name }));
});
const found = computed(() =>
  (library.data.value?.items ?? [])
    .filter(({ head }) => !lined.value.some((l) => l.id === head.id))
    .map(({ head }) => ({ id: head.id, name: head.name })),
);
const more = computed(() => Math.max(0, (library.data.value?.total ?? 0) - SIZE));
const pick = (id: string) => router.push({ name: props.step, params: { id } });
</script>

<template>
  <span class="hand">
    <el-select
      :model-value="whole.head.id"
      class="head"
      filterable
      remote
      :remote-method="(text: string) => (search = text)"
      aria-label="Head in hand"
      no-data-text="No head of that name"
      @change="pick"
    >
      <el-option-group v-if="!search" label="In the lineup">
        <el-option v-for="c in lined" :key="c.id" :value="c.id" :label="c.name" />
      </el-option-group>
      <el-option v-else v-show="false" :value="whole.head.id" :label="whole.head.name" />
      <el-option-group label="In the library">
        <el-option v-for="c in found" :key="c.id" :value="c.id" :label="c.name" />
      </el-option-group>
      <template v-if="more > 0" #footer>
        <span class="note">{{ more }} more: type part of the name</span>
      </template>
    </el-select>
    <el-select
      :model-value="stage.id"
      class="stage"
      aria-label="Stage in hand"
      @change="$emit('stage', $event as string)"
    >
      <el-option v-for="s in whole.stages" :key="s.id" :value="s.id" :label="s.name" />
    </el-select>
  </span>
</template>

<style scoped>
.hand {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 14px;
  align-items: center;
}
.head {
  width: 220px;
}
.head :deep(.el-select__selected-item) {
  font-size: 21px;
  font-weight: 600;
  color: var(--ink);
}
.stage {
  width: 170px;
}
</style>
