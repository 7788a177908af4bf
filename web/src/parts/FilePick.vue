<script setup lang="ts">
import type { UploadFile, UploadInstance } from 'element-plus';
import { nextTick, onMounted, useTemplateRef } from 'vue';

/** Files from this device; the words that can be pressed stand in the slot. */
const props = defineProps<{
  accept: string;
  multiple?: boolean;
  disabled?: boolean;
  /** Straight from the camera at the back of a phone. */
  camera?: boolean;
}>();
const emit = defineEmits<{ files: [files: File[]] }>();
const upload = useTemplateRef<UploadInstance>('upload');
let picked: File[] = [];
/** It tells each file by itself: those of one choice are taken together. */
async function take({ raw }: UploadFile): Promise<void> {
  if (!raw) return;
  picked.push(raw);
  if (picked.length > 1) return;
  await nextTick();
  const all = picked;
  picked = [];
  // Nothing is sent from here, and the same file may be chosen again, once it was put right.
  upload.value?.clearFiles();
  emit('files', all);
}
onMounted(() => {
  const box = upload.value?.$el as HTMLElement | undefined;
  if (props.camera) box?.querySelector('input')?.setAttribute('capture', 'environment');
});
</script>

<template>
  <el-upload
    ref="upload"
    class="pick"
    :accept="accept"
    :multiple="multiple"
    :disabled="disabled"
    :auto-upload="false"
    :show-file-list="false"
    @change="take"
  >
    <span class="words"><slot /></span>
  </el-upload>
</template>

<style scoped>
.pick {
  display: inline-block;
}
.pick :deep(.el-upload:focus-visible) {
  outline: 2px solid var(--focus);
  outline-offset: 2px;
}
.words {
  border-bottom: 1px solid var(--slate);
}
.words:hover {
  color: var(--intake);
}
</style>
