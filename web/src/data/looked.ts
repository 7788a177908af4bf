import { useStorage } from '@vueuse/core';
import { defineStore } from 'pinia';

/** When each head was last looked at in this browser, newest first. */
export const useLooked = defineStore('looked', () => {
  const at = useStorage<Record<string, string>>('alluvium.looked', {});
  const MOST = 200;
  return {
    at,
    look: (headId: string, now = new Date()) => {
      const { [headId]: _, ...others } = at.value;
      at.value = Object.fromEntries([[headId, now.toISOString()], ...Object.entries(others)].slice(0, MOST));
    },
  };
});
