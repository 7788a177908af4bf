import { sayIn, type DayOrder, type Figures, type System } from '@alluvium/core';
import { useStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, watchEffect } from 'vue';

/** How large everything is drawn. */
export const TEXT_SIZES = [
  [1, 'as drawn'],
  [1.12, 'larger'],
  [1.25, 'largest'],
] as const;

/** How a number is written: decimal sign and what parts the thousands, shown as an example. */
export const NUMBERS = [
  ['12000.5', '.', ''],
  ['12,000.5', '.', ','],
  ['12\u202f000.5', '.', '\u202f'],
  ['12000,5', ',', ''],
  ['12.000,5', ',', '.'],
  ['12\u202f000,5', ',', '\u202f'],
] as const;
export type NumberStyle = (typeof NUMBERS)[number][0];

/** Orders of a day, each with the pattern of a date field. */
export const DAY_PATTERNS: Readonly<Record<DayOrder, string>> = {
  'year first': 'YYYY-MM-DD',
  'day first': 'D MMM YYYY',
  'month first': 'MMM D, YYYY',
};

/** What is the user's own and stays in this browser: units, how figures and days are written, theme, the build at hand. */
export const useSettings = defineStore('settings', () => {
  const system = useStorage<System>('alluvium.system', 'inch');
  const numbers = useStorage<NumberStyle>('alluvium.numbers', '12000.5');
  const days = useStorage<DayOrder>('alluvium.days', 'year first');
  /** Currency a new engine begins with. */
  const currency = useStorage('alluvium.currency', '');
  const theme = useStorage<'light' | 'night'>('alluvium.theme', 'light');
  const textSize = useStorage<number>('alluvium.textSize', 1);
  /** Whether the bench is heard: a tone when the air is steady, when a reading is taken, when something is wrong. */
  const sound = useStorage('alluvium.bench.sound', false);
  const buildId = useStorage<string>('alluvium.build', '');
  /** The head last worked on, for the steps that work on one. */
  const headId = useStorage<string>('alluvium.head', '');
  const figures = computed((): Figures => {
    const [, decimal, group] = NUMBERS.find(([name]) => name === numbers.value) ?? NUMBERS[0];
    return { system: system.value, decimal, group, days: days.value };
  });
  const say = computed(() => sayIn(figures.value));
  watchEffect(() => document.documentElement.setAttribute('data-theme', theme.value));
  watchEffect(() => document.documentElement.style.setProperty('zoom', String(textSize.value)));
  return { system, numbers, days, currency, figures, theme, textSize, sound, buildId, headId, say };
});
