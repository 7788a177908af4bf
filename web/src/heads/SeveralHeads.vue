<script setup lang="ts">
import { removal, replacement, type HeadSummary } from '@alluvium/records';
import { computed, ref } from 'vue';
import { download } from '../charts/save.js';
import { useAddToLineup } from '../data/comparison.js';
import { useActiveBuild } from '../data/build.js';
import { missingPhotosWords } from '../care/words.js';
import { saveLibrary } from '../data/library.js';
import { useUndo } from '../data/undo.js';
import { useChange } from '../data/useChange.js';
import TextField from '../parts/TextField.vue';

// props.heads[]!, active.value!: one at least is chosen, with a build at hand.

/** What can be done with several heads at once; each act is one change, undone as one. */
const props = defineProps<{ heads: readonly HeadSummary[] }>();
const emit = defineEmits<{ done: [] }>();
const change = useChange();
const { active } = useActiveBuild();
const add = useAddToLineup();
const tag = ref('');
const many = computed(() => (props.heads.length === 1 ? props.heads[0]!.head.name : `${props.heads.length} heads`));
const archived = computed(() => props.heads.every((h) => h.head.archived));

async function act(done: Promise<unknown>): Promise<void> {
  if (await done) emit('done');
}
const addToLineup = () =>
  act(
    change.run(
      () =>
        add(
          active.value!.build.id,
          props.heads.flatMap((h) => (h.latestStage ? [{ stageId: h.latestStage.id, sheetId: null }] : [])),
        ),
      `In the lineup: ${many.value}.`,
    ),
  );
const addTag = () =>
  act(
    change.make(
      props.heads.map(({ head }) =>
        replacement('head', { ...head, tags: [...new Set([...head.tags, tag.value.trim()])] }),
      ),
      `Tagged “${tag.value.trim()}”: ${many.value}.`,
    ),
  );
const archive = () =>
  act(
    change.make(
      props.heads.map(({ head }) => replacement('head', { ...head, archived: !archived.value })),
      archived.value ? `Back in the library: ${many.value}.` : `Archived: ${many.value}.`,
    ),
  );
const undo = useUndo();
/** A file that another shop can import; without photos where they are more than one file carries. */
async function takeAway(): Promise<void> {
  const ids = props.heads.map(({ head }) => head.id);
  const whole = await saveLibrary('yes', ids);
  const { file, refusal, missingPhotos } = whole.tooLarge ? await saveLibrary('no', ids) : whole;
  if (!file) return undo.refused(refusal);
  download(`${many.value}.json`, file, 'application/json');
  if (missingPhotos > 0) undo.announce(missingPhotosWords(missingPhotos));
  if (whole.tooLarge) undo.announce('Exported without photos: they are more than one file carries.');
}
const remove = () =>
  act(
    change.make(
      props.heads.map(({ head }) => removal('head', head.id)),
      `Removed: ${many.value}, with all they have.`,
    ),
  );
</script>

<template>
  <div class="several" role="group" aria-label="With the heads chosen">
    <b>{{ many }}</b>
    <el-button v-if="active" link @click="addToLineup">Add to the lineup</el-button>
    <form @submit.prevent="tag.trim() && addTag()">
      <TextField v-model="tag" label="Tag" hide-label placeholder="tag" />
      <el-button link native-type="submit" :disabled="!tag.trim()">Add the tag</el-button>
    </form>
    <el-button link @click="archive">{{ archived ? 'Restore from the archive' : 'Archive' }}</el-button>
    <el-button link @click="takeAway">Export</el-button>
    <el-button link @click="remove">Remove</el-button>
    <el-button link @click="emit('done')">Choose none</el-button>
    <span v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</span>
  </div>
</template>

<style scoped>
.several {
  position: sticky;
  top: -12px;
  z-index: 2;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 20px;
  padding: 6px 8px;
  background: var(--paper-deep);
  border-bottom: 1px solid var(--rule-strong);
}
form {
  display: flex;
  align-items: center;
  gap: 10px;
}
</style>
