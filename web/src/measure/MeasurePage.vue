<script setup lang="ts">
import {
  bowlRatio,
  budgetWords,
  closure,
  CLOSURE_LIMIT,
  closureWords,
  evaluateSurvey,
  halfRangeOfVolumes,
  meanOfVolumes,
  meanPortArea,
  noted,
  sectionSpeed,
  throatRatio,
  work,
  workIf,
  type SurveyResult,
} from '@alluvium/core';
import {
  changedSince,
  evaluateSheetOf,
  floorsOf,
  measuresAt,
  sheetName,
  sizeBook,
  sizeOf,
  surveyAt,
  toCoreSections,
  type MeasureItem,
  type Survey,
} from '@alluvium/records';
import { computed, defineAsyncComponent } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ChoiceField from '../parts/ChoiceField.vue';
import HeadInHand from '../parts/HeadInHand.vue';
import NoHead from '../parts/NoHead.vue';
import { portLabel } from '../parts/portChoices.js';
import TabRow from '../parts/TabRow.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useActiveBuild } from '../data/build.js';
import { useComparison } from '../data/comparison.js';
import { useListOf } from '../data/queries.js';
import { useHeadInHand } from '../data/inHand.js';
import { useJudging } from '../data/judging.js';
import { useSettings } from '../state/settings.js';
import AreaChart from './AreaChart.vue';
import PourNote from './PourNote.vue';
import RingDrawing from './RingDrawing.vue';
import RingPane from './RingPane.vue';
import RiverChart from './RiverChart.vue';
import SurveyEditor from './SurveyEditor.vue';
import { useBudget } from './useBudget.js';
import WideFrame from '../parts/WideFrame.vue';

const LoftView = defineAsyncComponent(() => import('./LoftView.vue'));
const ChamberPane = defineAsyncComponent(() => import('./ChamberPane.vue'));
const ShroudPane = defineAsyncComponent(() => import('./ShroudPane.vue'));
const WallsPane = defineAsyncComponent(() => import('./WallsPane.vue'));
const PourPane = defineAsyncComponent(() => import('./PourPane.vue'));

/** A port, its valve, walls and chamber: measured, drawn and understood. */
const props = defineProps<{ id?: string }>();
const route = useRoute();
const router = useRouter();
const settings = useSettings();
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
const MODES = ['area', 'height', 'width'] as const;
const mode = computed(() => MODES.find((m) => m === route.query.channel) ?? 'area');
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
const needed = computed(() => (side.value === 'intake' ? active.value?.target?.areaNeeded.value : undefined));
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

const measures = computed(() => (whole.value && stage.value ? measuresAt(whole.value, stage.value.id) : []));
const size = (item: MeasureItem) => sizeOf(measures.value, item, side.value, portId.value);
const judging = useJudging();
const book = computed(() => sizeBook(measures.value, portId.value, judging.value.assumptions));
const pours = computed(() =>
  measures.value.filter((m) => m.item === 'port volume' && m.side === side.value && m.sourceId === null),
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
  drawn.value?.volume && poured.value
    ? work(closure, {
        sections: drawn.value.volume,
        poured: noted(
          poured.value.mean.value,
          `mean of ${poured.value.count} ${poured.value.count > 1 ? 'pours' : 'pour'}`,
        ),
      })
    : undefined,
);
const meanArea = computed(() =>
  workIf(meanPortArea, {
    volume: sizeOf(pours.value, 'port volume', side.value),
    length: size('port length') ?? drawn.value?.length,
  }),
);
const sources = useListOf('source');
/** Any sheet's flow may be laid on the sections; the one compared is taken unless another is chosen. */
const sheets = computed(() =>
  (whole.value?.sheets ?? []).flatMap((s) => {
    const peak = evaluateSheetOf(whole.value!, s)[side.value].peak;
    if (!peak) return [];
    const at = whole.value!.stages.find((x) => x.id === s.stageId)?.name ?? '';
    const old = changedSince(whole.value!, s).length > 0 ? ', older than a change' : '';
    const name = sheetName(s, whole.value!.ports, sources.data.value ?? []);
    return [{ id: s.id, name: `${at}: ${name}${old}`, peak: peak.flow }];
  }),
);
const sheet = computed(
  () =>
    sheets.value.find((s) => s.id === route.query.sheet) ??
    sheets.value.find((s) => s.id === inLineup.value?.sheet?.id) ??
    sheets.value[0],
);
const peakFlow = computed(() => sheet.value?.peak);
const speeds = computed(() => {
  const flow = peakFlow.value;
  if (flow === undefined || !drawn.value) return [];
  const at = (name: string, area: SurveyResult['choke']) =>
    area
      ? [
          [
            name,
            work(sectionSpeed, { flow: noted(flow, `peak of “${sheet.value!.name}”, 28 in`), area: area.area }),
          ] as const,
        ]
      : [];
  return [...at('speed at the choke', drawn.value.choke), ...at('speed at the window', drawn.value.window)];
});
const throat = computed(() => workIf(throatRatio, { throat: size('throat'), valve: size('valve diameter') }));
const bowl = computed(() => workIf(bowlRatio, { bowl: size('bowl'), valve: size('valve diameter') }));
const sized = (item: MeasureItem) => size(item)?.value;
const ring = computed(() => {
  const valve = sized('valve diameter');
  return valve === undefined
    ? undefined
    : {
        valve,
        stem: sized('stem diameter'),
        seatWidth: sized('seat width'),
        seatAngle: sized('seat angle'),
        topCutWidth: sized('top cut width'),
        topCutAngle: sized('top cut angle'),
        throat: sized('throat'),
        bowl: sized('bowl'),
        ringOutside: sized('ring outside diameter'),
        ringInside: sized('ring inside diameter'),
        backCut: sized('back-cut angle'),
        guide: sized('guide diameter'),
      };
});
const metalWords = computed(() =>
  drawn.value && budget.value
    ? budgetWords(
        drawn.value,
        budget.value,
        side.value === 'intake' ? active.value?.core.speed : undefined,
        settings.say,
      )
    : [],
);
const fromWhere = computed(() => {
  const s = survey.value;
  if (!s || !whole.value) return '';
  const at = whole.value.stages.find((x) => x.id === s.stageId);
  const port = whole.value.ports.find((p) => p.id === s.portId);
  return [
    s.title,
    s.way,
    at && at.id !== stage.value?.id ? `from “${at.name}”` : '',
    port && port.id !== portId.value ? `of port ${port.number}` : '',
    settings.say.day(s.date ?? ''),
  ]
    .filter(Boolean)
    .join(' · ');
});
</script>

<template>
  <section v-if="whole && stage">
    <header>
      <h1 class="unseen">Measure {{ whole.head.name }}</h1>
      <HeadInHand step="measure" :whole="whole" :stage="stage" @stage="toStage" />
      <TabRow
        kind="radio"
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

    <div v-if="pane === 'river'" class="two">
      <div v-if="drawn">
        <p class="title">
          <b>Flange to valve seat</b>
          <span class="note">{{ fromWhere }}</span>
          <span class="modes">
            channel as
            <el-button
              v-for="m in MODES"
              :key="m"
              link
              :class="{ off: mode !== m }"
              :aria-pressed="mode === m"
              @click="put({ channel: m === 'area' ? undefined : m })"
            >
              {{ m }}
            </el-button>
          </span>
        </p>
        <RiverChart :survey="drawn" :budget="budget?.stations" :mode="mode" :needed="needed" :height="312" />
        <p class="title">
          <b>Area along the port</b>
          <span class="note">
            {{ others.length ? `against ${others.map((o) => o.letter).join(', ')}; ` : '' }}shaded: as far as the metal
            allows; bars: how fast it opens and closes
          </span>
        </p>
        <AreaChart
          :own="drawn"
          :letter="letter"
          :others="others"
          :budget="budget?.stations"
          :needed="needed"
          :height="196"
        />
      </div>
      <div v-else class="empty">
        <p class="reading">
          This port is not surveyed yet. Measure it station by station, from a mould or a sawn head, and it is drawn
          here as a river: where it narrows, and how much metal its banks have left.
        </p>
        <el-button type="primary" @click="put({ pane: 'sections' })">Type its sections</el-button>
      </div>
      <aside>
        <h2>The ring</h2>
        <RingDrawing v-if="ring" v-bind="ring" class="beside" />
        <p v-else class="note">The valve diameter is not known: type it under ring.</p>
        <p v-if="throat || bowl" class="small">
          <template v-if="throat">
            throat
            <WorkedNumber :working="throat" :book="book" />
          </template>
          <template v-if="bowl">
            · bowl
            <WorkedNumber :working="bowl" :book="book" />
          </template>
          of the valve
        </p>
        <template v-if="drawn">
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
            @update:model-value="put({ sheet: $event })"
          />
          <PourNote :stage-id="stage.id" :side="side" />
          <p v-if="closes && Math.abs(closes.value) > CLOSURE_LIMIT" class="caution">
            {{ closureWords(closes.value, settings.say) }}
          </p>
          <h2>What the metal allows</h2>
          <p class="reading words" aria-live="polite">{{ metalWords.join(' ') }}</p>
          <p v-if="budget?.speed" class="small">
            Fully ported, could support
            <WorkedNumber :working="budget.flow" :digits="0" />
            ·
            <WorkedNumber :working="budget.power" />
            ·
            <WorkedNumber :working="budget.speed" />
          </p>
          <p class="caution">Castings differ. Sonic-test this one before cutting.</p>
        </template>
      </aside>
    </div>
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
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 318px;
  gap: 30px;
}
@media (width < 760px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}

.title b {
  white-space: nowrap;
}
.title {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  align-items: baseline;
  margin: 4px 0 2px;
}

.modes {
  white-space: nowrap;
  margin-left: auto;
  display: flex;
  gap: 12px;
  font-size: 14px;
}
.modes .off {
  color: var(--slate);
  border-bottom-color: transparent;
}
.beside {
  max-width: 282px;
}
aside h2 {
  margin: 10px 0 2px;
}
aside h2:first-child {
  margin-top: 0;
}
.words {
  margin: 2px 0 4px;
  font-size: 16px;
}
.small {
  margin: 2px 0;
  font-size: 14px;
}
.caution {
  margin: 2px 0;
}
.empty {
  max-width: 560px;
}
</style>
