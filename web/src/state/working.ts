import type { LeafBook, Working } from '@alluvium/core';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';

/** The computed number whose working is open beside the page, and where focus goes when it closes. */
export const useWorking = defineStore('working', () => {
  const open = ref(false);
  const working = shallowRef<Working>();
  /** What it rests on, where that is known: its uncertainty and budget are read from it. */
  const book = shallowRef<LeafBook>();
  let opener: HTMLElement | null = null;
  function show(next: Working, leaves?: LeafBook): void {
    opener = document.activeElement as HTMLElement | null;
    working.value = next;
    book.value = leaves;
    open.value = true;
  }
  function close(): void {
    open.value = false;
    opener?.focus();
  }
  /** Another view is shown: what is explained here does not stand there, and the focus is where it was led. */
  function leave(): void {
    open.value = false;
    opener = null;
  }
  return { open, working, book, show, close, leave };
});
