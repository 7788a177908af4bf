<script setup lang="ts">
import { leastPort, sheetName } from '@alluvium/records';
import { computed } from 'vue';
import { useActiveBuild } from '../data/build.js';
import { useWriteLineup, type CompareHead } from '../data/comparison.js';
import { useListOf } from '../data/queries.js';
import { useChange } from '../data/useChange.js';

// name()!: sheets of the head itself.
// active.value!: the page is shown only with a build at hand.

/** Which sheet of a head is read: one of them, or all that speak for the port of a stage that decides. */
const props = defineProps<{ head: CompareHead; all: readonly CompareHead[] }>();
const { active } = useActiveBuild();
const sources = useListOf('source');
const write = useWriteLineup();
const change = useChange();

const BEST = 'best:';
const name = (id: string | undefined) => {
  const { whole } = props.head;
  const sheet = whole.sheets.find((s) => s.id === id);
  return sheet && sheetName(sheet, whole.ports, sources.data.value ?? []);
};
const groups = computed(() => {
  const { whole } = props.head;
  return whole.stages.map((stage) => {
    const build = active.value?.build;
    // The port shown is the one that decides; where this stage is not the one judged, the one that flows least.
    const judged = stage.id === props.head.stage.id && !props.head.chosenSheetId ? props.head.pooled : undefined;
    const read = judged ?? leastPort(whole, stage.id, 'intake', build)?.sheets ?? [];
    const [best] = read;
    const words = read.length > 1 ? `All ${read.length} tests of its least port, with` : 'Its least port:';
    return {
      stage,
      options: [
        [`${BEST}${stage.id}`, best ? `${words} ${name(best.id)}` : 'Nothing flowed'] as const,
        ...whole.sheets
          .filter((s) => s.stageId === stage.id && s.setup.reads !== 'difference')
          .map((s) => [s.id, name(s.id)!] as const),
      ],
    };
  });
});
const value = computed(() => props.head.chosenSheetId ?? `${BEST}${props.head.stage.id}`);
async function pick(chosen: string): Promise<void> {
  const sheet = props.head.whole.sheets.find((s) => s.id === chosen);
  const stageId = sheet?.stageId ?? chosen.slice(BEST.length);
  const entries = props.all.map((h) =>
    h.id === props.head.id
      ? { id: h.id, stageId, sheetId: sheet?.id ?? null }
      : { id: h.id, stageId: h.stage.id, sheetId: h.chosenSheetId },
  );
  await change.run(
    () => write(active.value!.build.id, { entries }),
    `${props.head.letter} is read from ${sheet ? name(sheet.id) : 'all tests of its least port'} now.`,
  );
}
</script>

<template>
  <el-select
    :model-value="value"
    size="small"
    filterable
    :aria-label="`Sheet read for ${head.letter} ${head.name}`"
    @change="pick"
  >
    <el-option-group v-for="g in groups" :key="g.stage.id" :label="g.stage.name">
      <el-option v-for="[id, text] in g.options" :key="id" :value="id" :label="text" />
    </el-option-group>
  </el-select>
</template>
