<script setup lang="ts">
import { removal, type Attachment } from '@alluvium/records';
import { ref } from 'vue';
import PhotoMark from './PhotoMark.vue';
import PhotoViewer from './PhotoViewer.vue';
import FilePick from '../parts/FilePick.vue';
import PressArea from '../parts/PressArea.vue';
import { addPhoto } from '../data/client.js';
import { PICTURES, pictureProblem } from '../parts/picture.js';
import { useChange } from '../data/useChange.js';

/** Photos of one finding, one line of the checklist, one set-up, or scans of a source: chosen, dropped or pasted; opened large; removed. */
const props = defineProps<{
  headId?: string;
  sourceId?: string;
  findingId?: string;
  inspectionId?: string;
  sessionId?: string;
  stageId?: string;
  photos: readonly Attachment[];
}>();
const change = useChange('here');
const removing = useChange();
const problem = ref('');
const busy = ref(false);
const large = ref<Attachment>();

async function take(files: Iterable<File>): Promise<void> {
  problem.value = '';
  for (const file of files) {
    problem.value = pictureProblem(file);
    if (problem.value) return;
    busy.value = true;
    const kept = await change.run(
      () =>
        addPhoto(file, {
          head: props.headId,
          source: props.sourceId,
          finding: props.findingId,
          inspection: props.inspectionId,
          session: props.sessionId,
          stage: props.stageId,
        }),
      `Photo “${file.name}” kept.`,
    );
    busy.value = false;
    if (!kept) return void (problem.value = `${file.name}: ${change.refusal.value}`);
  }
}
function dropped(event: DragEvent): void {
  void take([...(event.dataTransfer?.files ?? [])]);
}
const remove = (photo: Attachment) =>
  removing.make([removal('attachment', photo.id)], `Photo “${photo.name}” removed.`);
</script>

<template>
  <div class="photos" @dragover.prevent @drop.prevent.stop="dropped" @paste="take($event.clipboardData?.files ?? [])">
    <figure v-for="p in photos" :key="p.id">
      <PressArea :aria-label="`Open photo ${p.name}`" @click="large = p">
        <PhotoMark
          class="small"
          :src="`/api/attachment/${p.id}/thumbnail`"
          :alt="p.region ? `${p.name}, the place marked` : p.name"
          :region="p.region"
          :marking="false"
        />
      </PressArea>
      <figcaption>
        <el-button link :aria-label="`Remove photo ${p.name}`" @click="remove(p)">Remove</el-button>
      </figcaption>
    </figure>
    <FilePick class="add" multiple :accept="PICTURES" :disabled="busy" @files="take">
      {{ busy ? 'Saving …' : '+ photo' }}
    </FilePick>
    <FilePick class="add camera" camera :accept="PICTURES" :disabled="busy" @files="take">Take a photo</FilePick>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
    <PhotoViewer v-if="large" :photos="photos" :first="large.id" :head-id="headId" @close="large = undefined" />
  </div>
</template>

<style scoped>
.photos {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: flex-end;
}
figure {
  margin: 0;
  font-size: 13px;
}
/* The whole picture, so that a mark lies where it was drawn. */
.small :deep(img) {
  height: 72px;
  border: 1px solid var(--rule);
}
/* Only where there is one in the hand. */
@media not (pointer: coarse) {
  .camera {
    display: none !important;
  }
}
.add {
  display: block;
  padding: 6px 12px;
  border: 1px dashed var(--el-border-color);
  color: var(--slate);
  cursor: pointer;
}
p {
  flex-basis: 100%;
  margin: 0;
}
</style>
