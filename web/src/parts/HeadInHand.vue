<script setup lang="ts">
import type { Stage, WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { useComparison } from '../state/comparison.js';

/** Which head and which stage a step works on, and the way to another one. */
const props = defineProps<{ step: string; whole: WholeHead; stage: Stage }>();
defineEmits<{ stage: [string] }>();
const router = useRouter();
const { heads } = useComparison();

const choices = computed(() => {
  const lined = heads.value.map((h) => ({ id: h.whole.head.id, name: `${h.letter}  ${h.name}` }));
  const { head } = props.whole;
  return lined.some((c) => c.id === head.id) ? lined : [{ id: head.id, name: head.name }, ...lined];
});
const LIBRARY = '+';
function pick(event: Event): void {
  const { value } = event.target as HTMLSelectElement;
  void router.push(value === LIBRARY ? { name: 'heads' } : { name: props.step, params: { id: value } });
}
</script>

<template>
  <span class="hand">
    <select :value="whole.head.id" aria-label="Head in hand" class="head" @change="pick">
      <option v-for="c in choices" :key="c.id" :value="c.id">{{ c.name }}</option>
      <option :value="LIBRARY">another head …</option>
    </select>
    <select
      :value="stage.id"
      aria-label="Stage in hand"
      class="stage"
      @change="$emit('stage', ($event.target as HTMLSelectElement).value)"
    >
      <option v-for="s in whole.stages" :key="s.id" :value="s.id">{{ s.name }}</option>
    </select>
  </span>
</template>

<style scoped>
.hand {
  display: inline-flex;
  gap: 14px;
  align-items: baseline;
}
select {
  background: transparent;
  color: inherit;
  border: 0;
  border-bottom: 1px solid var(--el-border-color);
  padding: 1px 0;
  font: inherit;
}
select option {
  background: var(--paper-raised);
  color: var(--ink);
}
.head {
  font-size: 21px;
  font-weight: 600;
  max-width: 300px;
}
.stage {
  color: var(--slate);
}
</style>
