<script setup lang="ts">
import { capital } from '@alluvium/core';
import { pickSheet, removal, replacement, type Sheet, type Stage, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { useActiveBuild } from '../data/build.js';
import { useAddToLineup } from '../data/comparison.js';
import { useLooked } from '../data/looked.js';
import { useLineup } from '../data/queries.js';
import { useChange } from '../data/useChange.js';

// active.value!: a head is added to the build at hand.

/** What can be done with a head, and the steps of the work it is taken to. */
const props = defineProps<{ whole: WholeHead; stage: Stage; sheet: Sheet | undefined; editing: boolean }>();
const emit = defineEmits<{ edit: [] }>();
const router = useRouter();
const change = useChange();
const looked = useLooked();
const add = useAddToLineup();
const { active } = useActiveBuild();
const lineup = useLineup(() => active.value?.build.id ?? '');
const STEPS = ['arrival', 'measure', 'bench', 'claims', 'change'] as const;

/** This sheet, or this stage, is compared already. Any two sheets of one head may stand side by side. */
const inLineup = computed(() =>
  (lineup.data.value?.entries ?? []).some(({ entry }) => {
    if (entry.stageId !== props.stage.id) return false;
    if (!props.sheet) return true;
    const best = pickSheet(props.whole, entry.stageId, active.value?.build);
    return (entry.sheetId ?? best?.id) === props.sheet.id;
  }),
);
const addToLineup = () =>
  change.run(
    () => add(active.value!.build.id, [{ stageId: props.stage.id, sheetId: props.sheet?.id ?? null }]),
    `${props.whole.head.name} is in the lineup.`,
  );
async function archive(): Promise<void> {
  const { head } = props.whole;
  await change.make(
    [replacement('head', { ...head, archived: !head.archived })],
    head.archived ? `${head.name} is back in the library.` : `${head.name} is archived.`,
  );
}
async function remove(): Promise<void> {
  if (await change.make([removal('head', props.whole.head.id)], `${props.whole.head.name} removed, with its sheets.`)) {
    looked.forget(props.whole.head.id);
    await router.push({ name: 'heads' });
  }
}
</script>

<template>
  <span class="actions">
    <el-button v-if="active" link :disabled="inLineup" @click="addToLineup">
      {{ inLineup ? 'In the lineup' : 'Add to the lineup' }}
    </el-button>
    <RouterLink
      v-for="step in STEPS"
      :key="step"
      :to="{ name: step, params: { id: whole.head.id }, query: { stage: stage.id } }"
    >
      {{ capital(step) }}
    </RouterLink>
    <RouterLink v-if="active" :to="{ name: 'compare', query: { build: active.build.id } }">Compare</RouterLink>
    <RouterLink v-if="active" :to="{ name: 'match', query: { build: active.build.id } }">Match</RouterLink>
    <el-button link :aria-pressed="looked.isPinned(whole.head.id)" @click="looked.pin(whole.head.id)">
      {{ looked.isPinned(whole.head.id) ? 'Unpin' : 'Pin' }}
    </el-button>
    <el-button link :aria-expanded="editing" @click="emit('edit')">Edit</el-button>
    <el-button link @click="archive">{{ whole.head.archived ? 'Restore from the archive' : 'Archive' }}</el-button>
    <el-button link @click="remove">Remove</el-button>
  </span>
</template>

<style scoped>
.actions {
  margin-left: auto;
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: flex-end;
  gap: 6px 16px;
}
.actions :deep(.el-button) {
  margin: 0;
}
@media (max-width: 800px) {
  .actions {
    justify-content: flex-start;
  }
}
</style>
