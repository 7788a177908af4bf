<script setup lang="ts">
import {
  bowlRatio,
  budgetWords,
  throatRatio,
  workIf,
  type Side,
  type MetalBudget,
  type SurveyResult,
} from '@alluvium/core';
import {
  measuresAt,
  sizeBook,
  sizeOf,
  type MeasureItem,
  type Stage,
  type Survey,
  type WholeHead,
} from '@alluvium/records';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import AreaChart from './AreaChart.vue';
import RingDrawing from './RingDrawing.vue';
import RiverChart from './RiverChart.vue';
import VolumeCheck from './VolumeCheck.vue';

/** The port drawn as a river, its area against other ports, its ring, its volume and what the metal allows. */
const props = defineProps<{
  whole: WholeHead;
  stage: Stage;
  side: Side;
  portId: string | null;
  survey: Survey | undefined;
  drawn: SurveyResult | undefined;
  budget: MetalBudget | undefined;
  letter: string;
  /** The same side of other heads and stages. */
  others: readonly { letter: string; name: string; index: number; survey: SurveyResult }[];
  compared: string | undefined;
}>();
const route = useRoute();
const router = useRouter();
const settings = useSettings();
const { active } = useActiveBuild();
const MODES = ['area', 'height', 'width'] as const;
const mode = computed(() => MODES.find((m) => m === route.query.channel) ?? 'area');
const put = (query: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...query } });
const needed = computed(() => (props.side === 'intake' ? active.value?.target?.areaNeeded.value : undefined));
const measures = computed(() => measuresAt(props.whole, props.stage.id));
const size = (item: MeasureItem) => sizeOf(measures.value, item, props.side, props.portId);
const judging = useJudging();
const book = computed(() => sizeBook(measures.value, props.portId, judging.value.assumptions));
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
  props.drawn && props.budget
    ? budgetWords(
        props.drawn,
        props.budget,
        props.side === 'intake' ? active.value?.core.speed : undefined,
        settings.say,
      )
    : [],
);
const fromWhere = computed(() => {
  const s = props.survey;
  if (!s) return '';
  const at = props.whole.stages.find((x) => x.id === s.stageId);
  const port = props.whole.ports.find((p) => p.id === s.portId);
  return [
    s.title,
    s.way,
    at && at.id !== props.stage.id ? `from “${at.name}”` : '',
    port && port.id !== props.portId ? `of port ${port.number}` : '',
    settings.say.day(s.date ?? ''),
  ]
    .filter(Boolean)
    .join(' · ');
});
</script>

<template>
  <div class="two">
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
        This port is not surveyed yet. Measure it station by station, from a mould or a sawn head, and it is drawn here
        as a river: where it narrows, and how much metal its banks have left.
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
        <VolumeCheck
          :whole="whole"
          :stage="stage"
          :side="side"
          :port-id="portId"
          :drawn="drawn"
          :measures="measures"
          :book="book"
          :compared="compared"
          @sheet="put({ sheet: $event })"
        />
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
</template>

<style scoped>
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
