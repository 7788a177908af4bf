import { sayIn, type System } from '@alluvium/core';
import { useStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, watchEffect } from 'vue';

/** How large everything is drawn. */
export const TEXT_SIZES = [
  [1, 'as drawn'],
  [1.12, 'larger'],
  [1.25, 'largest'],
] as const;

/** What is the user's own and stays in this browser: units, theme, the build at hand. */
export const useSettings = defineStore('settings', () => {
  const system = useStorage<System>('alluvium.system', 'inch');
  const theme = useStorage<'light' | 'night'>('alluvium.theme', 'light');
  const textSize = useStorage<number>('alluvium.textSize', 1);
  /** Whether the bench is heard: a tone when the air is steady, when a reading is taken, when something is wrong. */
  const sound = useStorage('alluvium.bench.sound', false);
  const buildId = useStorage<string>('alluvium.build', '');
  /** The head last worked on, for the steps that work on one. */
  const headId = useStorage<string>('alluvium.head', '');
  const say = computed(() => sayIn(system.value));
  watchEffect(() => document.documentElement.setAttribute('data-theme', theme.value));
  watchEffect(() => document.documentElement.style.setProperty('zoom', String(textSize.value)));
  return { system, theme, textSize, sound, buildId, headId, say };
});
