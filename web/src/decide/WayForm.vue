<script setup lang="ts">
import { USUAL_ASSUMPTIONS, type CostKind } from '@alluvium/core';
import {
  CostLine,
  FIT_ITEMS,
  FIT_STATES,
  WAY_KINDS,
  fitAnswers,
  removal,
  type FitAnswer,
  type Build,
  type CostLineRecord,
  type RecordOf,
  type Way,
  type WholeHead,
} from '@alluvium/records';
import { computed, ref } from 'vue';
import { refDebounced } from '@vueuse/core';
import { useJudging } from '../data/judging.js';
import { useLibrary, useWholeHead } from '../data/queries.js';
import { useRecordForm, type Draft } from '../data/form.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import { useSettings } from '../state/settings.js';
import CostLines from './CostLines.vue';

// props.way!: only what is there is removed.
// answerOf()!: shown where there is an answer.

/** One way to go: which head at which stage, what it costs, whether it fits. */
const props = defineProps<{ build: Build; way: Way | undefined; whole: WholeHead | undefined; position: number }>();
const emit = defineEmits<{ saved: [Way]; removed: [] }>();
const change = useChange();
const judging = useJudging();
const settings = useSettings();
const rate = computed(() => (judging.value.assumptions ?? USUAL_ASSUMPTIONS).hourRate);
const form = useRecordForm(
  'way',
  () => props.way,
  (): Draft<'way'> => ({
    id: 'new',
    version: 1,
    buildId: props.build.id,
    position: props.position,
    name: '',
    kind: 'an aftermarket head as it comes',
    stageId: null,
    gain: null,
    gainBand: null,
    lines: [],
    fit: [],
    days: null,
    marks: {},
    note: '',
  }),
  (w: RecordOf<'way'>) => `${w.name} saved.`,
  { scope: `.${props.build.id}`, saved: (w) => emit('saved', w) },
);
const { draft, problems } = form;

// The head is found by typing; its stages follow.
const search = ref('');
const settled = refDebounced(search, 150);
const library = useLibrary(() => ({ search: settled.value, size: 30 }));
const headId = ref(props.whole?.head.id ?? '');
const picked = useWholeHead(headId);
const head = computed(() => picked.data.value ?? (props.whole?.head.id === headId.value ? props.whole : undefined));
const heads = computed(() => (library.data.value?.items ?? []).map((i) => i.head));
const stages = computed(() => [
  [null, 'no head yet'] as const,
  ...(head.value?.stages ?? []).map((s) => [s.id, s.name] as const),
]);
function headTo(id: string): void {
  headId.value = id;
  draft.value.stageId = null;
}

// What the sizes and findings of the head answer by themselves.
const answers = computed(() =>
  head.value && draft.value.stageId ? fitAnswers(head.value, draft.value.stageId, props.build, settings.say) : [],
);
const answerOf = (item: (typeof FIT_ITEMS)[number]) => answers.value.find((a) => a.item === item);
const takeAnswer = (a: FitAnswer) => fitTo(a.item, { state: a.state, note: a.text.slice(0, 200) }, a.buys);
const fitOf = (item: (typeof FIT_ITEMS)[number]) =>
  draft.value.fit?.find((f) => f.item === item) ?? { item, state: 'unknown' as const, note: '' };
function fitTo(
  item: (typeof FIT_ITEMS)[number],
  fields: { state?: (typeof FIT_STATES)[number]; note?: string },
  kind: CostKind = 'adapter',
): void {
  const next = { ...fitOf(item), ...fields };
  const others = (draft.value.fit ?? []).filter((f) => f.item !== item);
  draft.value.fit = next.state === 'unknown' && next.note === '' ? others : [...others, next];
  // An adapter costs something: its line is there to be priced.
  const lines = draft.value.lines ?? [];
  const has = lines.some((l) => l.text === item);
  if (fields.state === 'needs an adapter' && !has) draft.value.lines = [...lines, CostLine.parse({ kind, text: item })];
}
async function remove(): Promise<void> {
  if (await change.make([removal('way', props.way!.id)], `${props.way!.name} removed.`)) emit('removed');
}
const linesTo = (lines: CostLineRecord[]) => (draft.value.lines = lines);
</script>

<template>
  <form class="way" data-own-keys @submit.prevent="form.save()">
    <TextField
      v-model="draft.name"
      label="Name of this way"
      required
      placeholder="Rework the 417"
      :problem="problems.name"
    />
    <ChoiceField v-model="draft.kind" label="Kind" :options="WAY_KINDS.map((k) => [k, k] as const)" />
    <div class="field">
      <span class="field-label">Head</span>
      <el-select
        :model-value="headId"
        filterable
        remote
        :remote-method="(text: string) => (search = text)"
        aria-label="Head of this way"
        placeholder="type part of its name"
        @change="headTo"
      >
        <el-option v-if="head && !heads.some((h) => h.id === headId)" :value="headId" :label="head.head.name" />
        <el-option v-for="h in heads" :key="h.id" :value="h.id" :label="h.name" />
      </el-select>
    </div>
    <ChoiceField v-model="draft.stageId" label="At the stage" :options="stages" />
    <FormQuantity :form="form" field="gain" kind="flow" label="Planned work adds" />
    <FormQuantity :form="form" field="gainBand" kind="flow" label="Uncertainty (±)" />
    <TextField
      :model-value="draft.days"
      type="number"
      label="Days until it is here"
      :problem="problems.days"
      @update:model-value="draft.days = $event === '' ? null : Number($event)"
    />
    <CostLines
      class="wide"
      :model-value="draft.lines ?? []"
      :way-id="way?.id ?? 'new'"
      :build="build"
      :whole="head"
      :rate="rate"
      :problems="problems"
      @update:model-value="linesTo"
      @typing="form.typing"
    />
    <fieldset class="wide items">
      <legend>Does it fit</legend>
      <div v-for="item in FIT_ITEMS" :key="item" class="fit">
        <ChoiceField
          :model-value="fitOf(item).state"
          :label="item"
          :options="FIT_STATES.map((s) => [s, s] as const)"
          @update:model-value="fitTo(item, { state: $event })"
        />
        <TextField
          :model-value="fitOf(item).note"
          :label="`Note on ${item}`"
          @update:model-value="fitTo(item, { note: $event })"
        />
        <p v-if="answerOf(item)" class="answer" :class="{ caution: answerOf(item)!.state !== 'fits' }">
          measured: {{ answerOf(item)!.state }}, {{ answerOf(item)!.text }}
          <el-button v-if="fitOf(item).state !== answerOf(item)!.state" link @click="takeAnswer(answerOf(item)!)">
            Use it
          </el-button>
        </p>
      </div>
    </fieldset>
    <TextField v-model="draft.note" class="wide" type="textarea" label="Note" />
    <FormFoot class="wide" :form="form" save-word="Save this way" />
    <p v-if="way" class="wide"><el-button link type="danger" @click="remove">Remove this way</el-button></p>
  </form>
</template>

<style scoped>
.way {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 8px 20px;
}
.wide {
  grid-column: 1 / -1;
}
.items {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(320px, 1fr));
  gap: 4px 28px;
  margin: 10px 0 0;
  padding: 0;
  border: 0;
}
legend {
  font-weight: 600;
}
.answer {
  grid-column: 1 / -1;
  margin: 0;
  color: var(--slate);
  font-size: 14px;
}
.fit {
  display: grid;
  grid-template-columns: 1fr 1.4fr;
  gap: 12px;
}
@media (width < 800px) {
  .way {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
