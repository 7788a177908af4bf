<script setup lang="ts">
import { evaluateSurvey, type SurveyResult } from '@alluvium/core';
import { floorsOf, surveyAt, toCoreSections, type Survey } from '@alluvium/records';
import { computed, defineAsyncComponent } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ChoiceField from '../parts/ChoiceField.vue';
import HeadInHand from '../parts/HeadInHand.vue';
import NoHead from '../parts/NoHead.vue';
import { portLabel } from '../parts/portChoices.js';
import ChoiceRow from '../parts/ChoiceRow.vue';
import TabRow from '../parts/TabRow.vue';
import { useActiveBuild } from '../data/build.js';
import { useComparison } from '../data/comparison.js';
import { useHeadInHand } from '../data/inHand.js';
import RingPane from './RingPane.vue';
import RiverPane from './RiverPane.vue';
import SurveyEditor from './SurveyEditor.vue';
import { useBudget } from './useBudget.js';

// whole.value!, stage.value!: others are compared with the survey of a head at a stage.

const LoftView = defineAsyncComponent(() => import('./LoftView.vue'));
const ChamberPane = defineAsyncComponent(() => import('./ChamberPane.vue'));
const ShroudPane = defineAsyncComponent(() => import('./ShroudPane.vue'));
const WallsPane = defineAsyncComponent(() => import('./WallsPane.vue'));
const PourPane = defineAsyncComponent(() => import('./PourPane.vue'));

/** A port, its valve, walls and chamber: measured, drawn and understood. */
const props = defineProps<{ id?: string }>();
const route = useRoute();
const router = useRouter();
const { active } = useActiveBuild();
const { heads } = useComparison();
const { whole, stage, inLineup, error, loading, toStage } = useHeadInHand('measure', () => props.id ?? '');

const PANES = ['river', 'sections', 'solid', 'ring', 'chamber', 'shrouding', 'walls', 'pour'] as const;
type Pane = (typeof PANES)[number];
const PANE_WORDS: Record<Pane, string> = {
  river: 'river',
  sections: 'sections',
  solid: '3-D',
  ring: 'ring',
  chamber: 'chamber',
  shrouding: 'shrouding',
  walls: 'walls',
  pour: 'pour',
};
const SIDES = [
  ['intake', 'intake'],
  ['exhaust', 'exhaust'],
] as const;
const pane = computed<Pane>(() => PANES.find((p) => p === route.query.pane) ?? 'river');
const side = computed<'intake' | 'exhaust'>(() => (route.query.side === 'exhaust' ? 'exhaust' : 'intake'));
const put = (query: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...query } });

const ports = computed(() => whole.value?.ports.filter((p) => p.side === side.value) ?? []);
const found = computed(() => {
  if (!whole.value || !stage.value) return undefined;
  const wanted = typeof route.query.port === 'string' ? route.query.port : null;
  return surveyAt(whole.value, stage.value.id, side.value, wanted);
});
const portId = computed(() => {
  const wanted = ports.value.find((p) => p.id === route.query.port)?.id;
  return wanted ?? found.value?.portId ?? ports.value[0]?.id ?? null;
});
/** The survey of the port at hand; one of another port is shown as such. */
const survey = computed(() => found.value);
/** Only a survey of this very stage and port is edited; one handed down is left as it was. */
const editable = computed(() =>
  survey.value?.stageId === stage.value?.id && survey.value?.portId === portId.value ? survey.value : undefined,
);
const sections = computed(() => (survey.value ? toCoreSections(survey.value) : []));
const result = computed<SurveyResult | undefined>(() =>
  sections.value.length > 0 ? evaluateSurvey(sections.value) : undefined,
);
const drawn = computed(() => (result.value && result.value.stations.length > 1 ? result.value : undefined));
const floors = computed(() => floorsOf(side.value, survey.value?.floors));
const budget = useBudget(
  () => result.value,
  () => floors.value,
  () => active.value,
);
const letter = computed(() => inLineup.value?.letter ?? '●');

/** The same side of the other heads of the lineup, and the other stages of this one. */
const others = computed(() => {
  if (!whole.value || !stage.value) return [];
  const own = survey.value?.id;
  const read = (s: Survey | undefined) => {
    if (!s || s.id === own) return undefined;
    const sections = toCoreSections(s);
    const evaluated = evaluateSurvey(sections);
    return evaluated.stations.length > 1 ? { survey: evaluated, sections } : undefined;
  };
  const lined = heads.value
    .filter((h) => h.whole.head.id !== whole.value!.head.id)
    .flatMap((h) => {
      const other = read(surveyAt(h.whole, h.stage.id, side.value));
      return other ? [{ letter: h.letter, name: h.name, index: h.index, ...other }] : [];
    });
  const stages = whole.value.stages
    .filter((s) => s.id !== stage.value!.id && s.position > stage.value!.position)
    .flatMap((s, i) => {
      const other = read(whole.value!.surveys.find((x) => x.stageId === s.id && x.side === side.value));
      return other ? [{ letter: `${letter.value}${i + 2}`, name: s.name, index: 6 + i, ...other }] : [];
    });
  return [...lined, ...stages];
});
</script>

<template>
  <section v-if="whole && stage">
    <header>
      <h1 class="unseen">Measure {{ whole.head.name }}</h1>
      <HeadInHand step="measure" :whole="whole" :stage="stage" @stage="toStage" />
      <ChoiceRow
        label="Side"
        :model-value="side"
        :options="SIDES"
        @update:model-value="put({ side: $event === 'exhaust' ? $event : undefined, port: undefined })"
      />
      <ChoiceField
        v-if="ports.length"
        class="port"
        label="Port in hand"
        hide-label
        :model-value="portId ?? ''"
        :options="ports.map((p) => [p.id, portLabel(p)] as const)"
        @update:model-value="put({ port: $event })"
      />
      <TabRow
        class="panes"
        label="What is shown"
        :model-value="pane"
        :options="PANES.map((p) => [p, PANE_WORDS[p]] as const)"
        @update:model-value="put({ pane: $event === 'river' ? undefined : $event })"
      />
    </header>

    <RiverPane
      v-if="pane === 'river'"
      :whole="whole"
      :stage="stage"
      :side="side"
      :port-id="portId"
      :survey="survey"
      :drawn="drawn"
      :budget="budget"
      :letter="letter"
      :others="others"
      :compared="inLineup?.sheet?.id"
    />
    <SurveyEditor
      v-else-if="pane === 'sections'"
      :key="`${editable?.id ?? 'new'}${stage.id}${side}${portId}`"
      :whole="whole"
      :stage-id="stage.id"
      :side="side"
      :port-id="portId"
      :survey="editable"
    />
    <LoftView
      v-else-if="pane === 'solid'"
      :name="`${whole.head.name} ${side}`"
      :sections="sections"
      :budget="budget?.stations"
      :others="others"
    />
    <RingPane v-else-if="pane === 'ring'" :whole="whole" :stage="stage" :side="side" :port-id="portId" />
    <ChamberPane v-else-if="pane === 'chamber'" :whole="whole" :stage="stage" />
    <ShroudPane v-else-if="pane === 'shrouding'" :key="stage.id" :whole="whole" :stage="stage" :side="side" />
    <WallsPane v-else-if="pane === 'walls'" :key="stage.id" :whole="whole" :stage="stage" />
    <PourPane v-else :whole="whole" :stage="stage" />
  </section>
  <NoHead v-else :loading="loading" :error="error" />
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  align-items: baseline;
  margin-bottom: 6px;
}
.panes {
  margin-left: auto;
}
.port {
  width: 104px;
}
</style>
