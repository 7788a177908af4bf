<script setup lang="ts">
import { pickSheet, repeatsOf, sheetName, touchedPorts } from '@alluvium/records';
import { computed } from 'vue';
import { useActiveBuild } from '../data/build.js';
import { useWriteLineup, type CompareHead } from '../data/comparison.js';
import { useListOf } from '../data/queries.js';
import { useChange } from '../data/useChange.js';

// name()!: sheets of the head itself.
// active.value!: the page is shown only with a build at hand.

/** Which sheet of a head is read: one of them, or the best available of a stage with all of its port that were taken alike. */
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
    const best = pickSheet(whole.sheets, stage.id, active.value?.build, touchedPorts(whole.ports));
    const count = best ? repeatsOf(whole, best).length : 0;
    const read = count > 1 ? `Mean of the ${count} sheets of its port, with` : 'Best available:';
    return {
      stage,
      options: [
        [`${BEST}${stage.id}`, best ? `${read} ${name(best.id)}` : 'Nothing flowed'] as const,
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
    `${props.head.letter} is read from ${sheet ? name(sheet.id) : 'the best available sheet'} now.`,
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
