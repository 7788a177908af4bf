<script setup lang="ts">
import { replacement, type Attachment, type PhotoRegion } from '@alluvium/records';
import { computed, ref } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import { useWholeHead } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import PhotoMark from './PhotoMark.vue';

// pictures.value[]!: it opens only with a photo.

/** A photo large, turned over by the arrows, and another of the same head beside it: before and after, one port and the next. */
const props = defineProps<{ photos: readonly Attachment[]; first: string; headId?: string | undefined }>();
defineEmits<{ close: [] }>();
const shown = ref(props.first);
const beside = ref('');
const whole = useWholeHead(() => props.headId ?? '');
/** All there is to set beside: the head's own photos, else those of the strip. */
const all = computed(() => {
  const ofHead = whole.data.value?.attachments.filter((a) => a.width > 0) ?? [];
  return ofHead.length > 0 ? ofHead : props.photos;
});
const nameOf = (photo: Attachment) => {
  const stage = whole.data.value?.stages.find((s) => s.id === photo.stageId)?.name;
  return stage ? `${photo.name}, ${stage}` : photo.name;
};
const pictures = computed(() =>
  [shown.value, beside.value]
    .map((id) => [...props.photos, ...all.value].find((p) => p.id === id))
    .filter((p) => p !== undefined),
);
/** The part that shows what was found, marked on the photo that is shown. */
const change = useChange('here');
const marking = ref(false);
const drawn = ref<PhotoRegion>();
function beginMark(): void {
  drawn.value = undefined;
  marking.value = true;
}
async function saveMark(region: PhotoRegion | null): Promise<void> {
  const photo = pictures.value[0]!;
  const made = await change.make(
    [replacement('attachment', { ...photo, region })],
    region ? `The place is marked on “${photo.name}”.` : `The mark on “${photo.name}” is removed.`,
  );
  if (made) marking.value = false;
}
function turn(by: number): void {
  marking.value = false;
  const at = props.photos.findIndex((p) => p.id === shown.value);
  const next = props.photos[(at + by + props.photos.length) % props.photos.length];
  if (next) shown.value = next.id;
}
function onKey(event: KeyboardEvent): void {
  if ((event.target as Element).closest('.el-select')) return;
  if (marking.value && event.key === 'Escape') {
    event.stopPropagation();
    marking.value = false;
    return;
  }
  if (event.key === 'ArrowRight') turn(1);
  else if (event.key === 'ArrowLeft') turn(-1);
}
</script>

<template>
  <el-dialog
    :model-value="true"
    :title="pictures[0] ? nameOf(pictures[0]) : 'Photo'"
    width="min(1240px, 96vw)"
    @close="$emit('close')"
    @keydown="onKey"
  >
    <div class="beside" :class="{ two: pictures.length > 1 }">
      <figure v-for="(p, i) in pictures" :key="`${i}${p.id}`">
        <PhotoMark
          :src="`/api/attachment/${p.id}/picture`"
          :alt="nameOf(p)"
          :region="p.region"
          :marking="marking && i === 0"
          @mark="drawn = $event"
        />
        <figcaption v-if="pictures.length > 1" class="note">{{ nameOf(p) }}</figcaption>
      </figure>
    </div>
    <div class="acts">
      <template v-if="marking">
        <span class="note">Drag over the part that shows it.</span>
        <el-button type="primary" :loading="change.busy.value" @click="saveMark(drawn ?? pictures[0]?.region ?? null)">
          Save mark
        </el-button>
        <el-button link @click="marking = false">Cancel</el-button>
      </template>
      <template v-else-if="pictures[0]?.headId">
        <el-button link @click="beginMark">{{ pictures[0].region ? 'Move the mark' : 'Mark the place' }}</el-button>
        <el-button v-if="pictures[0].region" link @click="saveMark(null)">Remove the mark</el-button>
      </template>
      <p v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</p>
      <template v-if="photos.length > 1 && !marking">
        <el-button link @click="turn(-1)">Previous</el-button>
        <el-button link @click="turn(1)">Next</el-button>
      </template>
      <ChoiceField
        v-if="all.length > 1"
        v-model="beside"
        label="Beside it"
        :options="[
          ['', 'nothing'] as const,
          ...all.filter((p) => p.id !== shown).map((p) => [p.id, nameOf(p)] as const),
        ]"
      />
    </div>
  </el-dialog>
</template>

<style scoped>
.beside {
  display: grid;
  gap: 10px;
}
.two {
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
}
figure {
  margin: 0;
  text-align: center;
}
.acts {
  display: flex;
  align-items: flex-end;
  gap: 18px;
  margin-top: 10px;
}
.acts .field {
  width: 260px;
}
</style>
