<script setup lang="ts">
import { ElMessage, type MessageHandler } from 'element-plus';
import 'element-plus/es/components/message/style/css';
import { getCurrentInstance, h, onBeforeUnmount, watch } from 'vue';
import { useUndo } from '../data/undo.js';
import SaidWords from './SaidWords.vue';

// getCurrentInstance()!: a component that is being set up.

/** What was done, with its way back; what was refused stays until it is read. One message, which takes the next words. */
const undo = useUndo();
const { appContext } = getCurrentInstance()!;
let open: MessageHandler | undefined;

watch(
  () => undo.message !== '',
  (said) => {
    open?.close();
    open = undefined;
    if (!said) return;
    const own = ElMessage(
      {
        message: () => h(SaidWords),
        // The store says when it goes.
        duration: 0,
        placement: 'bottom',
        offset: 74,
        customClass: 'said no-print',
        onClose: () => {
          if (open === own) undo.dismiss();
        },
      },
      appContext,
    );
    open = own;
  },
);
onBeforeUnmount(() => open?.close());
</script>

<template>
  <span hidden />
</template>

<style>
.said.el-message {
  --el-message-bg-color: var(--ink);
  --el-message-text-color: var(--paper);
  --el-message-border-color: var(--ink);
  --el-message-padding: 8px 14px;
  max-width: 80vw;
  color: var(--paper);
}
.said.el-message:has(.failed) {
  border-left: 6px solid var(--loss);
}
.said .el-message__content {
  color: inherit;
  font-size: inherit;
  line-height: inherit;
}
/* What goes is gone at once: the next words may come in its place. */
.said.el-message-fade-leave-active {
  transition: none;
}
</style>
