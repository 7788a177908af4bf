<script setup lang="ts">
import { CAUTIONS, placeOf, type Finding, type Inspection, type Stage, type WholeHead } from '@alluvium/records';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import FindingForm from './FindingForm.vue';
import PhotoStrip from './PhotoStrip.vue';
import PlaceGrid from './PlaceGrid.vue';
import { MARKS } from './marks.js';
import type { Tick } from '../data/ticks.js';

/** One line of the checklist with all that is kept about it: the answer, a note, sizes, photos, findings. */
const props = defineProps<{ whole: WholeHead; stage: Stage; inspection: Inspection }>();
const emit = defineEmits<{ tick: [Inspection, Tick, string]; remove: [Inspection]; back: [] }>();
const noteField = useTemplateRef<{ focus: () => void }>('noteField');
const findingForm = useTemplateRef<HTMLElement>('findingForm');
const note = ref('');
const skipping = ref(false);
const problem = ref('');
const editing = ref<Finding | 'new'>();

watch(
  () => props.inspection.id,
  () => {
    skipping.value = false;
    problem.value = '';
    editing.value = undefined;
  },
);
watch(
  () => [props.inspection.id, props.inspection.note],
  () => (note.value = props.inspection.note),
  { immediate: true },
);

const findings = computed(() => props.whole.findings.filter((f) => f.inspectionId === props.inspection.id));
const photosOf = (f: Finding) => props.whole.attachments.filter((a) => a.findingId === f.id);
const photos = computed(() =>
  props.whole.attachments.filter((a) => a.inspectionId === props.inspection.id && a.findingId === null),
);
const STATES = ['fine', 'unsure', 'open'] as const;

function keepNote(): void {
  const text = note.value;
  if (skipping.value) {
    if (text.trim() === '') problem.value = 'Say why this is skipped.';
    else {
      skipping.value = false;
      problem.value = '';
      emit('tick', props.inspection, { state: 'skipped', note: text }, `Skipped: ${props.inspection.title}.`);
    }
    return;
  }
  if (text === props.inspection.note) return;
  if (props.inspection.state === 'skipped' && text.trim() === '') {
    problem.value = 'A skipped line keeps its reason; open it again to take the reason out.';
    return;
  }
  problem.value = '';
  emit('tick', props.inspection, { note: text }, `Note kept: ${props.inspection.title}.`);
}
/** Asks for the reason first: nothing is skipped without one. */
function skip(): void {
  if (note.value.trim() !== '') {
    emit('tick', props.inspection, { state: 'skipped', note: note.value }, `Skipped: ${props.inspection.title}.`);
    return;
  }
  skipping.value = true;
  void nextTick(() => noteField.value?.focus());
}
function found(): void {
  editing.value = 'new';
  void nextTick(() => findingForm.value?.querySelector<HTMLElement>('textarea')?.focus());
}
/** Goes to the first thing to fill in: a size where sizes are asked, else the note. */
const detail = useTemplateRef<HTMLElement>('detail');
function enter(): void {
  (detail.value?.querySelector<HTMLElement>('.sizes .field input') ?? noteField.value)?.focus();
}
function doneNote(event: KeyboardEvent | Event): void {
  event.preventDefault();
  keepNote();
  if (!problem.value) emit('back');
}
defineExpose({ skip, found, enter });
</script>

<template>
  <div ref="detail" class="detail" @keydown.esc="$emit('back')">
    <header>
      <h2>{{ inspection.title }}</h2>
      <el-button link @click="$emit('remove', inspection)">Remove this line</el-button>
    </header>
    <p v-if="CAUTIONS[inspection.group]" class="caution" role="note">{{ CAUTIONS[inspection.group] }}</p>
    <p v-if="inspection.hint" class="note hint">{{ inspection.hint }}</p>
    <p class="answers">
      <el-button
        v-for="s in STATES"
        :key="s"
        :type="inspection.state === s ? 'primary' : 'default'"
        :aria-pressed="inspection.state === s"
        @click="$emit('tick', inspection, { state: s }, `${inspection.title}: ${s}.`)"
      >
        <span class="sign" aria-hidden="true">{{ MARKS[s].sign }}</span>
        {{ s }}
      </el-button>
      <el-button
        :type="inspection.state === 'skipped' || skipping ? 'primary' : 'default'"
        :aria-pressed="inspection.state === 'skipped'"
        @click="skip"
      >
        <span class="sign" aria-hidden="true">–</span>
        skip …
      </el-button>
      <el-button @click="found">
        <span class="sign" aria-hidden="true">▲</span>
        found something …
      </el-button>
    </p>
    <div v-if="editing === 'new'" ref="findingForm">
      <FindingForm :whole="whole" :stage-id="stage.id" :inspection-id="inspection.id" @done="editing = undefined" />
    </div>
    <label :for="`note-${inspection.id}`" class="quiet">
      {{ skipping ? 'Why is this skipped?' : 'What was seen or read' }}
    </label>
    <el-input
      :id="`note-${inspection.id}`"
      ref="noteField"
      v-model="note"
      type="textarea"
      :rows="2"
      data-own-keys
      :aria-invalid="problem !== ''"
      @blur="note !== inspection.note && keepNote()"
      @keydown.enter.exact="doneNote"
    />
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
    <div v-if="inspection.sizes.length" class="sizes">
      <PlaceGrid :key="inspection.id" :whole="whole" :stage="stage" :sizes="inspection.sizes" />
    </div>
    <PhotoStrip :head-id="whole.head.id" :inspection-id="inspection.id" :photos="photos" class="strip" />
    <template v-for="f in findings" :key="f.id">
      <FindingForm
        v-if="editing !== 'new' && editing?.id === f.id"
        :whole="whole"
        :stage-id="f.stageId"
        :inspection-id="inspection.id"
        :finding="f"
        @done="editing = undefined"
      />
      <div v-else class="found" :class="{ mended: f.mendedStageId }">
        <p>
          <b>{{ placeOf(f) }}</b>
          <span class="severity" :class="{ loss: f.severity === 'reject' }">{{ f.severity }}</span>
          <span v-if="f.buildId" class="note">for one build</span>
          <span v-if="f.mendedStageId" class="note">
            mended at {{ whole.stages.find((s) => s.id === f.mendedStageId)?.name }}
          </span>
          <span v-if="f.cost" class="note">to mend: {{ f.cost.typed }}</span>
          <el-button link :aria-label="`Edit finding: ${f.text}`" @click="editing = f">Edit</el-button>
        </p>
        <p>{{ f.text }}</p>
        <PhotoStrip :head-id="whole.head.id" :finding-id="f.id" :photos="photosOf(f)" />
      </div>
    </template>
  </div>
</template>

<style scoped>
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
header .el-button {
  color: var(--slate);
  font-size: 14px;
}
.caution,
.hint {
  margin: 4px 0;
}
.sign {
  margin-right: 6px;
}
.answers {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 0;
  margin: 8px 0;
}
.sizes {
  margin-top: 8px;
}
.strip {
  margin-top: 10px;
}
.found {
  border-left: 3px solid var(--loss);
  padding: 2px 0 6px 14px;
  margin: 10px 0;
}
.found.mended {
  border-left-color: var(--gain);
}
.found p {
  margin: 2px 0 4px;
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.severity {
  color: var(--caution);
}
.found button {
  margin-left: auto;
}
.severity.loss {
  color: var(--loss);
}
</style>
