<script setup lang="ts">
import type { Side } from '@alluvium/core';
import { addition, removal, replacement, type Sheet, type Source, type Stage, type WholeHead } from '@alluvium/records';
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import FilePick from '../parts/FilePick.vue';
import { addPhoto } from '../data/client.js';
import ChoiceRow from '../parts/ChoiceRow.vue';
import SourceField from '../parts/SourceField.vue';
import StepLine from '../parts/StepLine.vue';
import TextField from '../parts/TextField.vue';
import { idsToMake, isNew, sourceOf } from '../parts/newNamed.js';
import { PICTURES, pictureProblem } from '../parts/picture.js';
import { useSettings } from '../state/settings.js';
import { useChange } from '../data/useChange.js';
import { blankSheet } from '../heads/blankSheet.js';
import ChartPicture from './ChartPicture.vue';
import ReadPoints from './ReadPoints.vue';
import { MARKS, MARK_NAMES, chartOf, rowsOf } from './chartReading.js';
import { useChartReading } from './useChartReading.js';

/**
 * Reads a published chart: the picture is laid down, two points of each axis are set, the curve is clicked. What is read
 * becomes a sheet of kind claim that keeps its picture, so that it can be opened and moved again.
 */
const props = defineProps<{ whole: WholeHead; stage: Stage; sources: readonly Source[]; sheet?: Sheet; side: Side }>();
const emit = defineEmits<{ close: [] }>();
const settings = useSettings();
const writing = useChange('here');
const tidying = useChange();

const right = useTemplateRef<HTMLElement>('right');
const chart = useChartReading(props, (mark) => {
  void nextTick(() => right.value?.querySelector<HTMLInputElement>(`[data-mark=${mark}] input`)?.focus());
});
const {
  before,
  photo,
  kept,
  state,
  past,
  forget,
  side: curve,
  round,
  chosen,
  anew,
  placing,
  reader,
  points,
  says,
  stands,
} = chart;
const { back, place, move, takeOut, value, valueProblem } = chart;
const problem = ref(before && !photo ? 'The picture it was read off is no longer there: choose it again.' : '');
const { busy } = writing;
async function take(file: File | undefined): Promise<void> {
  if (!file) return;
  problem.value = pictureProblem(file);
  if (problem.value) return;
  const loose = looseStep();
  const added = await writing.run(
    () =>
      addPhoto(file, {
        head: props.whole.head.id,
        source: isNew(sourceId.value) ? undefined : (sourceId.value ?? undefined),
      }),
    'The picture is kept.',
  );
  const photo = added?.record;
  problem.value = writing.refusal.value;
  if (!photo) return;
  kept.value = { ...kept.value, picture: { id: photo.id, width: photo.width, height: photo.height } };
  if (loose) await tidying.make([loose], 'The picture before it is removed.');
}
/** A picture that no sheet came of is not left behind. */
function looseStep() {
  const { picture } = kept.value;
  return picture && picture.id !== before?.attachmentId ? removal('attachment', picture.id) : undefined;
}

const STEPS = ['Picture', 'Axes', 'Points'];
const step = computed(() => {
  if (!kept.value.picture) return 0;
  if (placing.value || typeof reader.value === 'string') return 1;
  return stands.value ? 2 : 3;
});

const sourceId = ref<string | null>(props.sheet?.sourceId ?? null);
const idToMake = idsToMake();
const title = ref(props.sheet?.title ?? 'Chart');
async function save(): Promise<void> {
  if (!kept.value.picture || stands.value) return;
  const source = sourceOf(sourceId.value, idToMake, 'maker');
  const read = {
    title: title.value,
    sourceId: source.id,
    rows: rowsOf(points.value, settings.system),
    chart: chartOf(state.value, kept.value.picture.id, settings.system),
  };
  const { id: _, ...blank } = blankSheet(props.stage.id, undefined, 'claim');
  const made = await writing.make(
    [
      ...source.first,
      props.sheet ? replacement('sheet', { ...props.sheet, ...read }) : addition('sheet', { ...blank, ...read }),
    ],
    `${title.value}: ${read.rows.length} lifts read off the chart.`,
  );
  problem.value = writing.refusal.value;
  if (!made) return;
  forget();
  emit('close');
}
async function giveUp(): Promise<void> {
  const loose = looseStep();
  forget();
  emit('close');
  if (loose) await tidying.make([loose], 'The chart is given up, its picture removed.');
}
</script>

<template>
  <el-dialog
    :model-value="true"
    title="Read a chart"
    width="min(1180px, 96vw)"
    top="3vh"
    :close-on-click-modal="false"
    @close="$emit('close')"
  >
    <div class="chart" @dragover.prevent @drop.prevent.stop="take($event.dataTransfer?.files[0])">
      <div class="left">
        <StepLine :steps="STEPS" :at="step" />
        <p class="bar">
          <FilePick :accept="PICTURES" :disabled="busy" @files="take($event[0])">
            {{ busy ? 'Saving …' : kept.picture ? 'another picture …' : 'picture …' }}
          </FilePick>
          <el-button link :disabled="past.length === 0" @click="back">Undo</el-button>
        </p>
        <p class="note says" aria-live="polite">{{ says }}</p>
        <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
        <ChartPicture
          v-if="kept.picture"
          :picture="kept.picture"
          :state="state"
          :chosen="chosen"
          @place="place"
          @move="move"
          @choose="chosen = $event"
          @out="takeOut"
          @back="back"
        />
        <div v-else class="empty" />
      </div>
      <div ref="right" class="right">
        <div v-for="m in MARKS" :key="m" class="axis" :data-mark="m">
          <TextField
            :model-value="state.values[m] ?? ''"
            :label="`${MARK_NAMES[m]} printed`"
            :placeholder="
              m.startsWith('lift')
                ? settings.system === 'inch'
                  ? '.100'
                  : '2 mm'
                : settings.system === 'inch'
                  ? '50'
                  : '20 L/s'
            "
            :problem="valueProblem(m)"
            @update:model-value="value(m, $event ?? '')"
          />
          <el-button link :disabled="!state.at[m]" :aria-label="`Set the ${MARK_NAMES[m]} anew`" @click="anew = m">
            {{ anew === m ? 'click it' : 'anew' }}
          </el-button>
        </div>
        <ChoiceRow
          v-model="curve"
          label="Curve"
          :options="[
            ['intake', 'intake curve'],
            ['exhaust', 'exhaust curve'],
          ]"
        />
        <el-checkbox v-model="round">
          lifts close to a line are that line’s ({{ settings.system === 'inch' ? '.050' : '1 mm' }})
        </el-checkbox>
        <ReadPoints v-model="chosen" :points="points" @remove="takeOut" />
        <SourceField v-model="sourceId" label="Published by" :sources="sources" none="unknown" />
        <TextField v-model="title" label="Title" />
        <p class="note">How it was tested stays unknown until somebody states it: on its table.</p>
      </div>
    </div>
    <template #footer>
      <span v-if="stands && kept.picture && !placing" class="caution stands">{{ stands }}</span>
      <el-button link @click="giveUp">Discard the chart</el-button>
      <el-button link @click="$emit('close')">Close for now</el-button>
      <el-button type="primary" :disabled="Boolean(stands) || !kept.picture || busy || !title.trim()" @click="save">
        {{ sheet ? 'Read it again' : 'Take these figures' }}
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.chart {
  display: grid;
  grid-template-columns: 1fr 270px;
  gap: 22px;
}
@media (width < 760px) {
  .chart {
    grid-template-columns: minmax(0, 1fr);
  }
}
.left {
  min-width: 0;
}
.bar {
  display: flex;
  gap: 24px;
  align-items: baseline;
  margin: 0;
}
.says {
  min-height: 42px;
  margin: 4px 0;
}
.empty {
  height: 380px;
  background: var(--paper-deep);
}
.right {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.axis {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 12px;
  align-items: center;
}
.stands {
  margin-right: 18px;
}
.el-button {
  margin-right: 18px;
}
</style>
