<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core';
import { ref, useTemplateRef } from 'vue';

/** A frame in which what is wider than the page scrolls, also by keys; on paper it opens. */
defineProps<{ label?: string }>();
const frame = useTemplateRef<HTMLElement>('frame');
const wider = ref(false);
const look = () => (wider.value = (frame.value?.scrollWidth ?? 0) > (frame.value?.clientWidth ?? 0) + 1);
useResizeObserver(frame, look);
useResizeObserver(() => frame.value?.firstElementChild as HTMLElement | undefined, look);
</script>

<template>
  <div
    ref="frame"
    class="wide-frame"
    :tabindex="wider ? 0 : undefined"
    :role="wider ? 'region' : undefined"
    :aria-label="wider ? (label ?? 'Wide table') : undefined"
  >
    <slot />
  </div>
</template>

<style scoped>
.wide-frame {
  overflow: auto;
  max-width: 100%;
}
</style>
