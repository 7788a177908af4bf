import { useStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed } from 'vue';

/** A head as it is listed: by its name when it was last looked at. */
export interface LookedAt {
  readonly id: string;
  readonly name: string;
}

/** Which heads were last looked at in this browser, newest first, and which are pinned to the shop's page. */
export const useLooked = defineStore('looked', () => {
  const at = useStorage<Record<string, string>>('alluvium.looked', {});
  const names = useStorage<Record<string, string>>('alluvium.looked.names', {});
  const pins = useStorage<string[]>('alluvium.pinned', []);
  const MOST = 200;
  const RECENT = 6;
  const named = (ids: readonly string[]): LookedAt[] =>
    ids.flatMap((id) => (names.value[id] ? [{ id, name: names.value[id] }] : []));
  return {
    at,
    pinned: computed(() => named(pins.value)),
    recent: computed(() => named(Object.keys(at.value).filter((id) => !pins.value.includes(id))).slice(0, RECENT)),
    isPinned: (id: string) => pins.value.includes(id),
    pin: (id: string) =>
      (pins.value = pins.value.includes(id) ? pins.value.filter((p) => p !== id) : [...pins.value, id]),
    look: (headId: string, name: string, now = new Date()) => {
      const { [headId]: _, ...others } = at.value;
      at.value = Object.fromEntries([[headId, now.toISOString()], ...Object.entries(others)].slice(0, MOST));
      names.value = { ...names.value, [headId]: name };
    },
    /** A head that is gone is not offered. */
    forget: (headId: string) => {
      pins.value = pins.value.filter((id) => id !== headId);
      const { [headId]: _, ...others } = names.value;
      names.value = others;
    },
  };
});
