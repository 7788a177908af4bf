<script setup lang="ts">
import {
  CLOSURE_LIMIT,
  closure,
  closureWords,
  halfRangeOfVolumes,
  meanOfVolumes,
  meanPortArea,
  noted,
  sectionSpeed,
  work,
  workIf,
  type LeafBook,
  type Side,
  type SurveyResult,
} from '@alluvium/core';
import {
  changedSince,
  evaluateSheetOf,
  sheetName,
  sizeOf,
  type Measure,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { useListOf } from '../data/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import WideFrame from '../parts/WideFrame.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import PourNote from './PourNote.vue';

// sheet.value!: the flow was taken from it.

/** Sections against liquid, and how fast the air moves where the port is tight. */
const props = defineProps<{
  whole: WholeHead;
  stage: Stage;
  side: Side;
  portId: string | null;
  drawn: SurveyResult;
  measures: readonly Measure[];
  book: LeafBook;
  /** The sheet the lineup compares, taken where none is chosen. */
  compared: string | undefined;
}>();
defineEmits<{ sheet: [id: string] }>();
const route = useRoute();
const settings = useSettings();
const pours = computed(() =>
  props.measures.filter((m) => m.item === 'port volume' && m.side === props.side && m.sourceId === null),
);
const poured = computed(() => {
  const values = pours.value.map((m) => m.value.si);
  if (values.length === 0) return undefined;
  return {
    mean: work(meanOfVolumes, { values: noted(values, values.length > 1 ? 'each pour' : 'one pour') }),
    half: values.length > 1 ? work(halfRangeOfVolumes, { values: noted(values, 'each pour') }) : undefined,
    count: values.length,
  };
});
const closes = computed(() =>
  props.drawn.volume && poured.value
    ? work(closure, {
        sections: props.drawn.volume,
        poured: noted(
          poured.value.mean.value,
          `mean of ${poured.value.count} ${poured.value.count > 1 ? 'pours' : 'pour'}`,
        ),
      })
    : undefined,
);
const meanArea = computed(() =>
  workIf(meanPortArea, {
    volume: sizeOf(pours.value, 'port volume', props.side),
    length: sizeOf(props.measures, 'port length', props.side, props.portId) ?? props.drawn.length,
  }),
);
const sources = useListOf('source');
/** Any sheet's flow may be laid on the sections; the one compared is taken unless another is chosen. */
const sheets = computed(() =>
  props.whole.sheets.flatMap((s) => {
    const peak = evaluateSheetOf(props.whole, s)[props.side].peak;
    if (!peak) return [];
    const at = props.whole.stages.find((x) => x.id === s.stageId)?.name ?? '';
    const old = changedSince(props.whole, s).length > 0 ? ', older than a change' : '';
    const name = sheetName(s, props.whole.ports, sources.data.value ?? []);
    return [{ id: s.id, name: `${at}: ${name}${old}`, peak: peak.flow }];
  }),
);
const sheet = computed(
  () =>
    sheets.value.find((s) => s.id === route.query.sheet) ??
    sheets.value.find((s) => s.id === props.compared) ??
    sheets.value[0],
);
const peakFlow = computed(() => sheet.value?.peak);
const speeds = computed(() => {
  const flow = peakFlow.value;
  if (flow === undefined) return [];
  const at = (name: string, area: SurveyResult['choke']) =>
    area
      ? [
          [
            name,
            work(sectionSpeed, { flow: noted(flow, `peak of “${sheet.value!.name}”, 28 in`), area: area.area }),
          ] as const,
        ]
      : [];
  return [...at('speed at the choke', props.drawn.choke), ...at('speed at the window', props.drawn.window)];
});
</script>

<template>
  <div>
    <h2>Volume check</h2>
    <WideFrame>
      <table class="ruled">
        <tbody>
          <tr>
            <td>liquid volume{{ poured && poured.count > 1 ? `, ${poured.count} pours` : '' }}</td>
            <td class="num">
              <template v-if="poured">
                <WorkedNumber :working="poured.mean" :digits="1" />
                <template v-if="poured.half">
                  ±
                  <WorkedNumber :working="poured.half" :digits="1" bare />
                </template>
              </template>
              <template v-else>not poured</template>
            </td>
          </tr>
          <tr>
            <td>sections, ∫A dx</td>
            <td class="num"><WorkedNumber :working="drawn.volume" /></td>
          </tr>
          <tr v-if="closes">
            <td class="note">{{ Math.abs(closes.value) <= CLOSURE_LIMIT ? 'agree within' : 'differ by' }}</td>
            <td class="num" :class="Math.abs(closes.value) <= CLOSURE_LIMIT ? 'gain' : 'loss'">
              <WorkedNumber :working="closes" :digits="1" signed />
            </td>
          </tr>
          <tr v-if="meanArea">
            <td>mean area, volume ÷ length</td>
            <td class="num"><WorkedNumber :working="meanArea" :book="book" /></td>
          </tr>
          <tr v-for="[name, working] in speeds" :key="name">
            <td>{{ name }}</td>
            <td class="num"><WorkedNumber :working="working" /></td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <ChoiceField
      v-if="sheets.length > 1 && speeds.length"
      label="Speeds at the flow of"
      :model-value="sheet?.id ?? ''"
      :options="sheets.map((s) => [s.id, s.name] as const)"
      @update:model-value="$emit('sheet', $event)"
    />
    <PourNote :stage-id="stage.id" :side="side" />
    <p v-if="closes && Math.abs(closes.value) > CLOSURE_LIMIT" class="caution">
      {{ closureWords(closes.value, settings.say) }}
    </p>
  </div>
</template>

<style scoped>
h2 {
  margin: 10px 0 2px;
}
.caution {
  margin: 2px 0;
}
</style>
