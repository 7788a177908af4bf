<script setup lang="ts">
import { nextTick, useTemplateRef, watch } from 'vue';
import { X } from '@lucide/vue';
import { useWorking } from '../state/working.js';
import UncertaintyBudget from './UncertaintyBudget.vue';
import WorkingTree from './WorkingTree.vue';

const panel = useWorking();
const box = useTemplateRef<HTMLElement>('box');
watch(
  () => panel.working,
  async () => {
    await nextTick();
    box.value?.focus();
  },
);
</script>

<template>
  <aside
    v-if="panel.open && panel.working"
    ref="box"
    class="working no-print"
    tabindex="-1"
    role="dialog"
    aria-label="The working"
    @keydown.esc.stop="panel.close()"
  >
    <header>
      <h2>The working</h2>
      <el-button link class="plain close" aria-label="Close the working" @click="panel.close()">
        <X :size="18" />
      </el-button>
    </header>
    <UncertaintyBudget :working="panel.working" :book="panel.book" />
    <WorkingTree :working="panel.working" />
  </aside>
</template>

<style scoped>
.working {
  position: fixed;
  z-index: 1500;
  right: 0;
  top: 50px;
  bottom: 62px;
  width: 430px;
  max-width: 100vw;
  overflow: auto;
  padding: 14px 20px 24px;
  background: var(--paper-raised);
  border-left: 1px solid var(--rule-strong);
}
header {
  display: flex;
  justify-content: space-between;
  margin-bottom: 12px;
}
header h2 {
  font-weight: 400;
  font-family: var(--serif);
  font-style: italic;
  color: var(--slate);
}
.close {
  padding: 2px;
}
</style>
