<script setup lang="ts">
import type { SheetRow } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useHistory } from '../data/queries.js';
import WaitingNote from '../parts/WaitingNote.vue';
import { momentWords } from '../parts/moment.js';
import { useSettings } from '../state/settings.js';

/** Every earlier state of a sheet: which cell was corrected, from what to what, and when. */
const props = defineProps<{ id: string; version: number }>();
const settings = useSettings();
interface State {
  readonly rows: SheetRow[];
}
const open = ref(false);
const query = useHistory<State>('sheet', () => (open.value ? props.id : ''));
const reading = (r: SheetRow['intake'] | undefined) => r?.pulls.map((p) => p.typed).join(' / ') ?? '–';
function differences(before: State, after: State): string[] {
  const lifts = new Map([...before.rows, ...after.rows].map((r) => [r.lift.si.toFixed(6), r.lift.typed]));
  return [...lifts].flatMap(([key, typed]) => {
    const find = (s: State) => s.rows.find((r) => r.lift.si.toFixed(6) === key);
    return (['intake', 'exhaust'] as const).flatMap((side) => {
      const [was, is] = [reading(find(before)?.[side]), reading(find(after)?.[side])];
      return was === is ? [] : [`${typed} ${side}: ${was} → ${is}`];
    });
  });
}
const lines = computed(() =>
  (query.data.value ?? []).map((c) => ({
    at: momentWords(c.at, settings.say),
    what:
      c.before && c.after
        ? differences(c.before, c.after).join('; ') || 'set-up or notes changed'
        : c.after
          ? 'written'
          : 'removed',
  })),
);
</script>

<template>
  <el-button link @click="open = true">History</el-button>
  <el-dialog
    v-if="open"
    :model-value="true"
    title="Corrections of this sheet"
    width="560"
    append-to-body
    @close="open = false"
  >
    <WaitingNote v-if="!query.data.value" :loading="query.isPending.value" :error="query.error.value?.message ?? ''" />
    <table v-else class="ruled">
      <tbody>
        <tr v-for="(l, i) in lines" :key="i">
          <td class="at">{{ l.at }}</td>
          <td>{{ l.what }}</td>
        </tr>
      </tbody>
    </table>
  </el-dialog>
</template>

<style scoped>
.at {
  white-space: nowrap;
  color: var(--slate);
}
</style>
