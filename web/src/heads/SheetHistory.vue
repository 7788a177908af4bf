<script setup lang="ts">
import type { SheetRow } from '@alluvium/records';
import { ref } from 'vue';
import { get } from '../api/client.js';

/** Every earlier state of a sheet: which cell was corrected, from what to what, and when. */
const props = defineProps<{ id: string; version: number }>();
interface State {
  readonly rows: SheetRow[];
}
const open = ref(false);
const lines = ref<{ at: string; what: string }[]>([]);

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
async function show(): Promise<void> {
  open.value = true;
  const changes = await get<{ at: string; before: State | null; after: State | null }[]>(
    `/api/sheet/${props.id}/history`,
  );
  lines.value = changes.map((c) => ({
    at: new Date(c.at).toLocaleString(),
    what:
      c.before && c.after
        ? differences(c.before, c.after).join('; ') || 'set-up or notes changed'
        : c.after
          ? 'written'
          : 'deleted',
  }));
}
</script>

<template>
  <button class="worded" type="button" @click="show">history</button>
  <el-dialog
    v-if="open"
    :model-value="true"
    title="Corrections of this sheet"
    width="560"
    append-to-body
    @close="open = false"
  >
    <table class="ruled">
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
