<script setup lang="ts">
import {
  USUAL_ASSUMPTIONS,
  barredWords,
  cutBook,
  cutReasonWords,
  cutStopWords,
  lookFirstWords,
  nextCutWords,
  nextCuts,
  usualGainWords,
  type CutCandidate,
  type CutFacts,
} from '@alluvium/core';
import {
  PROGRAM,
  addition,
  uncertaintyIn,
  usualOf,
  type Forecast,
  type SingleCut,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { useActiveBuild } from '../data/build.js';
import { newId } from '../data/ids.js';
import { useJudging } from '../data/judging.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import ForecastList from './ForecastList.vue';
import OwnForecast from './OwnForecast.vue';

// c.most!, book.value!, active.value!: listed with what they could bring to the build at hand.

/** What may be cut next: why, what it could buy at most, what such cuts bought here, what may stop it. */
const props = defineProps<{
  whole: WholeHead;
  stage: Stage;
  facts: CutFacts | undefined;
  cuts: readonly SingleCut[];
  window: string;
}>();
const settings = useSettings();
const change = useChange();
const router = useRouter();
const judging = useJudging();
const { active } = useActiveBuild();
const candidates = computed(() => (props.facts ? nextCuts(props.facts) : []));
const book = computed(() => (props.facts ? cutBook([props.facts]) : undefined));
const look = computed(() => (props.facts ? lookFirstWords(props.facts, settings.say) : []));
const rows = computed(() =>
  candidates.value
    .map((c) => {
      const { usual, cuts } = usualOf(props.cuts, c.operation, c.side, props.whole.head.kind);
      const hours = usual?.hours;
      return { ...c, usual, on: cuts, perHour: c.most && hours ? c.most.value / hours : undefined };
    })
    // By what an hour buys where hours are known, else by what it could buy.
    .sort(
      (a, b) =>
        Number(a.barred) - Number(b.barred) ||
        (b.perHour ?? -1) - (a.perHour ?? -1) ||
        (b.most?.value ?? 0) - (a.most?.value ?? 0),
    ),
);
async function freeze(c: CutCandidate): Promise<void> {
  const most = c.most!;
  const u = uncertaintyIn(most, book.value!);
  const say = settings.say;
  const { usual } = usualOf(props.cuts, c.operation, c.side, props.whole.head.kind);
  const record: Omit<Forecast, 'id' | 'version'> = {
    headId: props.whole.head.id,
    stageId: props.stage.id,
    operation: c.operation,
    side: c.side,
    made: today(),
    by: 'the program',
    content: {
      program: PROGRAM,
      method: most.method.title,
      // At most so much: half of it is the likeliest, and it may be nothing.
      gain: most.value / 2,
      u: Math.hypot(most.value / 4, u / 2),
      window: props.window,
      inputs: [
        { label: 'at most', text: say.of(most.value, 'flow') },
        ...c.reasons.map((r) => ({ label: 'why', text: cutReasonWords(r, say).slice(0, 200) })),
        { label: 'such cuts', text: usualGainWords(usual, c.operation, say).slice(0, 200) },
      ],
      records: props.whole.sheets
        .filter((s) => s.stageId === props.stage.id)
        .map((s) => ({ noun: 'sheet', id: s.id, version: s.version })),
    },
    outcomeId: null,
    note: '',
  };
  await change.make(
    [addition('forecast', { id: newId(), ...record })],
    `Forecast kept: ${c.operation}, ${say.of(record.content.gain, 'flow', { signed: true })} over the cam.`,
  );
}
/** The stage with this cut planned, as a way to go of the build at hand. */
async function toWay(c: CutCandidate): Promise<void> {
  const build = active.value!.build;
  const { usual } = usualOf(props.cuts, c.operation, c.side, props.whole.head.kind);
  const rate = (judging.value.assumptions ?? USUAL_ASSUMPTIONS).hourRate;
  const gain = c.most!.value / 2;
  const flow = (si: number) => ({ si, typed: settings.say.of(si, 'flow') });
  const read = (q: { typed: string }) => q.typed.replaceAll('\u00a0', ' ');
  const id = newId();
  const made = await change.make(
    [
      addition('way', {
        id,
        buildId: build.id,
        position: 1000,
        name: `${props.whole.head.name}: ${c.operation}`.slice(0, 120),
        kind: 'rework it',
        stageId: props.stage.id,
        gain: read(flow(gain)),
        gainBand: read(flow(gain)),
        lines: usual?.hours
          ? [
              {
                kind: 'porting',
                text: c.operation,
                quantity: usual.hours / 3600,
                ...(rate > 0 ? { price: String(rate) } : {}),
              },
            ]
          : [{ kind: 'porting', text: c.operation }],
      }),
    ],
    `${c.operation} is a way to go of ${build.name}, half of what it could gain, ± as much.`,
  );
  if (made) void router.push({ name: 'decide', query: { way: id } });
}
const toWork = (c: CutCandidate) =>
  change.make(
    [
      addition('task', {
        id: newId(),
        headId: props.whole.head.id,
        position: props.whole.tasks.length,
        operation: c.operation,
        side: c.side,
        place: c.operation,
        size: c.operation === 'throat opened' || c.operation === 'valve larger' ? 'diameter' : 'area',
      }),
    ],
    `${c.operation} is on the work list.`,
  );
</script>

<template>
  <div>
    <p v-if="!facts" class="reading">
      Nothing can be said of this side yet: it needs a curve at this stage and the valve’s diameter.
    </p>
    <template v-else>
      <p class="reading">{{ nextCutWords(candidates, settings.say) }}</p>
      <ul v-if="look.length" class="look">
        <li v-for="l in look" :key="l" class="caution">{{ l }}</li>
      </ul>
      <ol v-if="rows.length" class="cuts">
        <li v-for="c in rows" :key="c.operation" :class="{ barred: c.barred }">
          <h2>
            {{ c.operation }}
            <span v-if="c.most" class="note">
              at most
              <WorkedNumber :working="c.most" :book="book" signed :digits="1" />
              over the cam
            </span>
            <span v-else-if="!c.barred" class="note">no method says what it buys</span>
          </h2>
          <p v-for="(r, i) in c.reasons" :key="i">{{ cutReasonWords(r, settings.say) }}</p>
          <p v-if="c.barred" class="loss">{{ barredWords }}</p>
          <p class="note">{{ usualGainWords(c.usual, c.operation, settings.say) }}</p>
          <p v-if="c.stops.length" class="note">{{ c.stops.map((s) => cutStopWords(s, settings.say)).join(' ') }}</p>
          <p v-if="!c.barred" class="no-print">
            <el-button v-if="c.most" size="small" @click="freeze(c)">Save this forecast</el-button>
            <el-button v-if="c.most && c.side === 'intake' && active" size="small" @click="toWay(c)">
              Add as a way to go
            </el-button>
            <el-button size="small" @click="toWork(c)">Put it on the work list</el-button>
          </p>
        </li>
      </ol>
    </template>
    <h2>Forecasts of this head</h2>
    <ForecastList :whole="whole" />
    <OwnForecast :key="stage.id" :whole="whole" :stage="stage" :window="window" />
  </div>
</template>

<style scoped>
.cuts {
  margin: 8px 0;
  padding-left: 22px;
}
.cuts li {
  padding: 4px 0 10px;
  border-bottom: 1px solid var(--rule);
}
.cuts p {
  margin: 2px 0;
}
.barred h2 {
  text-decoration: line-through;
}
.look {
  padding-left: 18px;
}
</style>
