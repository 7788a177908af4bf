import type { Working } from '@alluvium/core';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';

/** The computed number whose working is open beside the page, and where focus goes when it closes. */
export const useWorking = defineStore('working', () => {
  const open = ref(false);
  const working = shallowRef<Working>();
  let opener: HTMLElement | null = null;
  function show(next: Working): void {
    opener = document.activeElement as HTMLElement | null;
    working.value = next;
    open.value = true;
  }
  function close(): void {
    open.value = false;
    opener?.focus();
  }
  return { open, working, show, close };
});
