import { sayIn, type System } from '@alluvium/core';
import { useStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, watchEffect } from 'vue';

/** What is the user's own and stays in this browser: units, theme, the build at hand. */
export const useSettings = defineStore('settings', () => {
  const system = useStorage<System>('alluvium.system', 'inch');
  const theme = useStorage<'light' | 'night'>('alluvium.theme', 'light');
  const buildId = useStorage<string>('alluvium.build', '');
  /** The head last worked on, for the steps that work on one. */
  const headId = useStorage<string>('alluvium.head', '');
  const say = computed(() => sayIn(system.value));
  watchEffect(() => document.documentElement.setAttribute('data-theme', theme.value));
  return { system, theme, buildId, headId, say };
});
