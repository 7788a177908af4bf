<script setup lang="ts">
import type { Attachment } from '@alluvium/records';
import { computed, ref } from 'vue';
import FilePick from '../parts/FilePick.vue';
import { addPhoto } from '../data/client.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import { PICTURES, pictureProblem } from '../parts/picture.js';

// fresh.value!: looked for in front of it.

/** The picture of the page a sheet is typed from, beside the table; one of the head's photos, or one taken now. */
const props = defineProps<{ headId: string; photos: readonly Attachment[] }>();
const pageId = defineModel<string | null>({ required: true });
const change = useChange('here');
const problem = ref('');
const wide = ref(false);
/** A page that was just taken is shown before the head is read anew. */
const fresh = ref<Attachment>();
const all = computed(() =>
  fresh.value && !props.photos.some((p) => p.id === fresh.value!.id) ? [...props.photos, fresh.value] : props.photos,
);
const page = computed(() => all.value.find((p) => p.id === pageId.value));
const options = computed(() => [[null, 'no picture'] as const, ...all.value.map((p) => [p.id, p.name] as const)]);
async function take([file]: File[]): Promise<void> {
  if (!file) return;
  problem.value = pictureProblem(file);
  if (problem.value) return;
  const kept = await change.run(() => addPhoto(file, { head: props.headId }), `Picture “${file.name}” kept.`);
  if (!kept) return void (problem.value = `${file.name}: ${change.refusal.value}`);
  fresh.value = kept.record;
  pageId.value = kept.record.id;
}
</script>

<template>
  <div class="page">
    <p class="pick">
      <ChoiceField v-if="all.length" v-model="pageId" label="Picture of the page" :options="options" />
      <FilePick :accept="PICTURES" :disabled="change.busy.value" @files="take">
        {{ change.busy.value ? 'Saving …' : '+ picture of the page' }}
      </FilePick>
      <el-button v-if="page" link :aria-pressed="wide" @click="wide = !wide">
        {{ wide ? 'whole page' : 'larger' }}
      </el-button>
    </p>
    <div v-if="page" class="paper" :class="{ wide }" tabindex="0" role="group" :aria-label="`Page ${page.name}`">
      <img :src="`/api/attachment/${page.id}/picture`" :alt="`The page ${page.name}`" />
    </div>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.pick {
  display: flex;
  gap: 6px 18px;
  align-items: end;
  flex-wrap: wrap;
  margin: 0 0 6px;
}
.paper {
  max-height: 380px;
  overflow: auto;
  border: 1px solid var(--rule);
}
.paper img {
  display: block;
  width: 100%;
}
.paper.wide img {
  width: 200%;
}
</style>
