<script setup lang="ts">
import { format, type Side } from '@alluvium/core';
import {
  addition,
  removal,
  replacement,
  type Attachment,
  type Sheet,
  type Source,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed, nextTick, ref, useTemplateRef, watch, type Ref } from 'vue';
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
import {
  MARKS,
  chartOf,
  chartProblem,
  chartWords,
  emptyChart,
  markValue,
  pointsOf,
  readerOf,
  rowsOf,
  stateOf,
  type ChartState,
  type MarkName,
} from './chartReading.js';

/**
 * Reads a published chart: the picture is laid down, two points of each axis are set, the curve is clicked. What is read
 * becomes a sheet of kind claim that keeps its picture, so that it can be opened and moved again.
 */
const props = defineProps<{ whole: WholeHead; stage: Stage; sources: readonly Source[]; sheet?: Sheet; side: Side }>();
const emit = defineEmits<{ close: [] }>();
const settings = useSettings();
const writing = useChange('here');
const tidying = useChange();

interface Kept {
  picture: Pick<Attachment, 'id' | 'width' | 'height'> | null;
  state: ChartState;
}
const before = props.sheet?.chart ?? undefined;
const photo = props.whole.attachments.find((a) => a.id === before?.attachmentId);
/** What is set stays in this browser until it is taken or given up. */
const key = `alluvium.chart.${props.sheet?.id ?? props.stage.id}`;
const left = localStorage.getItem(key);
const kept = ref<Kept>(
  left
    ? (JSON.parse(left) as Kept)
    : {
        picture: photo ? { id: photo.id, width: photo.width, height: photo.height } : null,
        state: before ? stateOf(before) : emptyChart,
      },
) as Ref<Kept>;
const unkeep = watch(kept, (now) => localStorage.setItem(key, JSON.stringify(now)));
function forget(): void {
  unkeep();
  localStorage.removeItem(key);
}
const state = computed({ get: () => kept.value.state, set: (s) => (kept.value = { ...kept.value, state: s }) });
const past = ref<ChartState[]>([]);
function change(next: ChartState): void {
  past.value.push(state.value);
  state.value = next;
}
function back(): void {
  const earlier = past.value.pop();
  if (earlier) state.value = earlier;
}

const right = useTemplateRef<HTMLElement>('right');
const side = ref<Side>(props.side);
const round = ref(true);
const chosen = ref(-1);
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

/** The mark that is set anew, else the first that is missing; undefined: a click puts a point. */
const anew = ref<MarkName>();
const placing = computed(() => anew.value ?? MARKS.find((m) => !state.value.at[m]));
const PLACES: Record<MarkName, string> = {
  lift1: 'a place on the lift axis whose value is printed, near its beginning',
  lift2: 'another place on the lift axis, far along it',
  flow1: 'a place on the flow axis whose value is printed, near its beginning',
  flow2: 'another place on the flow axis, far along it',
};
const NAMES: Record<MarkName, string> = {
  lift1: 'first lift',
  lift2: 'second lift',
  flow1: 'first flow',
  flow2: 'second flow',
};
function place(dot: [number, number]): void {
  const mark = placing.value;
  if (mark) {
    change({ ...state.value, at: { ...state.value.at, [mark]: dot } });
    anew.value = undefined;
    void nextTick(() => right.value?.querySelector<HTMLInputElement>(`[data-mark=${mark}] input`)?.focus());
  } else {
    change({ ...state.value, points: [...state.value.points, { side: side.value, dot }] });
    chosen.value = state.value.points.length - 1;
  }
}
function move(index: number, dot: [number, number], first: boolean): void {
  const next = { ...state.value, points: state.value.points.map((p, i) => (i === index ? { ...p, dot } : p)) };
  if (first) change(next);
  else state.value = next;
}
function takeOut(index: number): void {
  change({ ...state.value, points: state.value.points.filter((_, i) => i !== index) });
  chosen.value = Math.min(index, state.value.points.length - 1);
}
const value = (mark: MarkName, text: string) =>
  (state.value = { ...state.value, values: { ...state.value.values, [mark]: text } });
const valueProblem = (mark: MarkName) => {
  if (!state.value.at[mark] || !state.value.values[mark]) return '';
  const v = markValue(state.value, mark, settings.system);
  return typeof v === 'string' ? v : '';
};

const reader = computed(() => readerOf(state.value, settings.system));
const points = computed(() =>
  typeof reader.value === 'string' ? [] : pointsOf(state.value, reader.value, settings.system, round.value),
);
const says = computed(() => {
  if (!kept.value.picture) return 'Choose or drop a picture of the chart: a scan, a photo, a page of a catalogue.';
  if (placing.value) return `Click ${PLACES[placing.value]}.`;
  if (typeof reader.value === 'string') return reader.value;
  return `${chartWords(reader.value, (si, kind) => format(si, kind, settings.figures, kind === 'lift' ? { digits: 4 } : { digits: 2 }))} Click along the ${side.value} curve; drag points, arrows nudge, Delete takes one out.`;
});
const STEPS = ['Picture', 'Axes', 'Points'];
const step = computed(() => {
  if (!kept.value.picture) return 0;
  if (placing.value || typeof reader.value === 'string') return 1;
  return stands.value ? 2 : 3;
});

const sourceId = ref<string | null>(props.sheet?.sourceId ?? null);
const idToMake = idsToMake();
const title = ref(props.sheet?.title ?? 'Chart');
const stands = computed(() =>
  typeof reader.value === 'string'
    ? reader.value || 'Set both axes first.'
    : chartProblem(points.value, settings.system),
);
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
            :label="`${NAMES[m]} printed`"
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
          <el-button link :disabled="!state.at[m]" :aria-label="`Set the ${NAMES[m]} anew`" @click="anew = m">
            {{ anew === m ? 'click it' : 'anew' }}
          </el-button>
        </div>
        <ChoiceRow
          v-model="side"
          label="Curve"
          :options="[
            ['intake', 'intake curve'],
            ['exhaust', 'exhaust curve'],
          ]"
        />
        <el-checkbox v-model="round">
          lifts close to a line are that line’s ({{ settings.system === 'inch' ? '.050' : '1 mm' }})
        </el-checkbox>
        <div class="list">
          <table v-if="points.length" class="ruled">
            <tbody>
              <tr v-for="p in points" :key="p.index" :class="{ on: p.index === chosen }" @click="chosen = p.index">
                <td>{{ p.side }}</td>
                <td class="num">{{ format(p.lift, 'lift', settings.figures) }}</td>
                <td class="num">{{ format(p.flow, 'flow', settings.figures) }}</td>
                <td class="num">
                  <el-button
                    link
                    :aria-label="`Remove the ${p.side} point at ${format(p.lift, 'lift', settings.figures)}`"
                    @click.stop="takeOut(p.index)"
                  >
                    Remove
                  </el-button>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
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
.list {
  max-height: 190px;
  overflow: auto;
}
.on td {
  background: var(--paper-deep);
}
.stands {
  margin-right: 18px;
}
.el-button {
  margin-right: 18px;
}
</style>
