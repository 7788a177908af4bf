<script setup lang="ts">
import {
  evaluateSide,
  formatNumber,
  noted,
  parseQuantity,
  rangeUse,
  unitFor,
  work,
  type FlowPoint,
} from '@alluvium/core';
import {
  evaluateSheetOf,
  pickSheet,
  portName,
  portOf,
  timeLeft,
  toCoreRows,
  toCoreSetup,
  pointsLeft,
  type WholeHead,
} from '@alluvium/records';
import { useEventListener, useStorage } from '@vueuse/core';
import { computed, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue';
import QuantityField from '../parts/QuantityField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useComparison } from '../state/comparison.js';
import { useSettings } from '../state/settings.js';
import { useWorking } from '../state/working.js';
import RunCurve, { type Behind } from './RunCurve.vue';
import { useBenchLive } from './live.js';
import { mountOf } from './mount.js';
import { useRun } from './useRun.js';
import type { SessionPage } from './useSession.js';

/** The run of a session: one number fills the screen, and a hand with oil on it needs one key. */
const props = defineProps<{ page: SessionPage; whole: WholeHead; factor: number | undefined }>();
const emit = defineEmits<{ leave: []; setup: [] }>();
const settings = useSettings();
const live = useBenchLive();
const working = useWorking();
const { heads } = useComparison();
const sound = useStorage('alluvium.bench.sound', false);
const ground = useTemplateRef<HTMLElement>('ground');
const field = useTemplateRef<HTMLElement>('field');

const run = useRun(props.page, () => props.factor, {
  sound: () => sound.value,
  onTurn: (to) => {
    const bench = live.instruments.find((i) => i.kind === 'flow bench');
    if (bench?.takes.includes('mount'))
      live.command(bench.id, { do: 'mount', head: mountOf(props.whole, session.value.stageId, to.number) });
  },
});
const session = computed(() => props.page.whole.value!.session);
const readings = computed(() => props.page.whole.value?.readings ?? []);
const side = computed(() => run.point.value?.side ?? 'intake');
const place = computed(() => {
  const p = run.point.value;
  if (!p) return '';
  const port = portOf(props.whole.ports, p.side, p.number);
  return `${(port && portName(props.whole.ports, port.id)) ?? `port ${p.number}`} ${p.side}`;
});
const setupLine = computed(() => {
  const s = session.value.setups.at(-1)!;
  const typed = (q: 'unknown' | { typed: string } | null, what: string) =>
    q === null ? '' : q === 'unknown' ? `${what} unknown` : `${q.typed} ${what}`;
  return [
    s.portKind,
    props.whole.stages.find((x) => x.id === session.value.stageId)?.name,
    side.value === 'intake'
      ? s.entry && `${s.entry} entry`
      : s.exhaustPipe === 'piped'
        ? `exhaust piped ${s.pipeDiameter === 'unknown' ? '' : (s.pipeDiameter?.typed ?? '')}`
        : s.exhaustPipe && `exhaust ${s.exhaustPipe}`,
    typed(s.bore, 'bore'),
    s.holesClosed === 'yes' ? 'plug in' : s.holesClosed === 'no' ? 'plug holes open' : '',
    s.valve === 'other' ? 'flow valves' : '',
    session.value.setups.length > 1 ? `set-up ${session.value.setups.length}` : '',
  ]
    .filter(Boolean)
    .join(' · ');
});

const recorded = computed(() =>
  (props.page.whole.value?.sheets ?? [])
    .filter((sheet) =>
      readings.value.some((r) => r.sheetId === sheet.id && r.number === run.point.value?.number && r.state === 'kept'),
    )
    .flatMap((sheet) => evaluateSide(toCoreSetup(sheet), toCoreRows(sheet), side.value).points)
    .map((p) => ({ lift: p.lift, flow: p.flow.value, noisy: p.noisy }))
    .sort((a, b) => a.lift - b.lift)
    .filter((p, i, all) => i === 0 || p.lift - all[i - 1]!.lift > 1e-5),
);
/** The baseline of the lineup, and what others say of this head. */
const behind = computed((): Behind[] => {
  const of = (name: string, points: readonly FlowPoint[] | undefined): Behind[] =>
    points && points.length > 1 ? [{ name, points }] : [];
  const base = heads.value.find((h) => h.whole.head.id !== props.whole.head.id);
  const own = pickSheet(
    props.whole.sheets.filter((s) => !readings.value.some((r) => r.sheetId === s.id)),
    session.value.stageId,
  );
  const claims = props.whole.sheets.filter((s) => s.kind === 'claim' && s.setup.reads !== 'difference').slice(0, 1);
  const points = (sheet: typeof own) =>
    sheet && evaluateSheetOf(props.whole, sheet)[side.value].points.map((p) => ({ lift: p.lift, flow: p.flow.value }));
  return [
    ...of(base ? `${base.letter} ${base.name}` : '', base?.result?.[side.value].curve?.points),
    ...(own && own.kind === 'measured' ? of('this head before', points(own)) : []),
    ...claims.flatMap((c) => of('claimed', points(c))),
  ];
});
const call = computed(() => props.page.whole.value?.calls.at(-1));
const called = computed(() => (side.value === 'intake' ? call.value?.intakePeak : call.value?.exhaustPeak)?.si);
const topLift = computed(() => Math.max(0.005, ...run.points.value.map((p) => p.lift)));

const figure = computed(() => {
  const w = run.reads.value;
  return w ? formatNumber(w.value, 'flow', settings.system, { digits: 1 }) : '–';
});
const spreadText = computed(() => {
  const { state } = run;
  const q = run.reads.value;
  if (!q || run.manual.value || state.value.mean === 0) return '';
  const share = Math.abs(state.value.spread / state.value.mean);
  return `±${formatNumber(q.value * share, 'flow', settings.system, { digits: 1 })}`;
});
const STATE_WORDS = { waiting: 'listening', settling: 'settling', steady: 'steady', frozen: 'stuck?' } as const;
const stateWord = computed(() => {
  if (run.manual.value) return 'by hand';
  if (run.state.value.silent) return 'silent';
  if (run.recordedHere.value && !run.again.value) return 'recorded';
  return STATE_WORDS[run.state.value.state];
});
const windowText = computed(() => {
  const { samples } = run.state.value;
  return samples.length > 1 ? `${(samples.at(-1)!.at - samples[0]!.at).toFixed(1)} s` : '';
});
const use = computed(() => {
  const a = run.advice.value;
  const full = run.setup.value?.ranges.find((r) => r.name === run.range.value)?.[side.value]?.si;
  return a && full ? work(rangeUse, { flow: noted(a.use * full, 'as read'), fullScale: full }) : undefined;
});
const left = computed(() => pointsLeft(session.value.plan, readings.value).length);
const minutes = computed(() => timeLeft(session.value, readings.value));
const benchTrouble = computed(() => {
  const bench = live.instruments.find((i) => i.kind === 'flow bench');
  if (!live.connected) return 'The server is away. What is recorded is safe; the line comes back by itself.';
  if (!bench) return '';
  const doubt = live.doubts[bench.id];
  if (doubt) return `${bench.name} ${doubt}.`;
  if (bench.nonsense > 0 && run.state.value.silent)
    return `${bench.name} sends nonsense: ${bench.problem.toLowerCase()}`;
  return bench.problem && bench.nonsense === 0 ? `${bench.name}: ${bench.problem}` : '';
});
const ears = computed(() => {
  const n = run.next.value;
  return side.value === 'intake' && n?.side === 'exhaust'
    ? 'Ears covered? The exhaust side comes next and is louder.'
    : '';
});

const skipping = ref(false);
const reason = ref('');
async function askReason(): Promise<void> {
  skipping.value = true;
  reason.value = '';
  await nextTick();
  ground.value?.querySelector<HTMLInputElement>('.why input')?.focus();
}
async function skip(): Promise<void> {
  if (!reason.value.trim()) return;
  skipping.value = false;
  await run.skip(reason.value);
  focusBack();
}
function focusBack(): void {
  void nextTick(() => {
    const input = run.manual.value ? field.value?.querySelector<HTMLInputElement>('input') : undefined;
    (input ?? ground.value)?.focus();
    input?.select();
  });
}
/** What the hand typed is read as the bench shows it. */
const handKind = computed(() => (run.setup.value?.reads === 'flow' ? 'flow' : 'percent'));
const handText = ref('');
const handProblem = ref('');
watch(
  () => run.byHand.value.value,
  (now, before) => {
    // Recorded, or another lift called: the field is free again. A text that cannot be read yet stays.
    if (now === null && before !== null && handProblem.value === '') handText.value = '';
  },
);
function typed(text: string): void {
  handText.value = text;
  const parsed = text.trim() ? parseQuantity(text, handKind.value, settings.system) : undefined;
  handProblem.value = parsed && !parsed.ok ? parsed.problem : '';
  run.byHand.value = { ...run.byHand.value, value: parsed?.ok ? parsed.quantity : null };
}
async function record(): Promise<void> {
  await run.record();
  if (run.manual.value) focusBack();
}

onMounted(focusBack);
watch(() => run.manual.value, focusBack);

const KEYS: readonly (readonly [string, string])[] = [
  ['space', 'record'],
  ['R', 'take again'],
  ['N', 'noisy'],
  ['S', 'skip, say why'],
  ['U', 'put aside'],
  ['← →', 'other lift'],
  ['A', 'runs itself'],
];

useEventListener(
  'keydown',
  (event) => {
    const target = event.target as HTMLElement;
    if (target.closest('.el-overlay, .working')) return;
    const typing = ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName);
    const big = target.closest('.by-hand') !== null;
    const done = () => {
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'Escape') {
      done();
      if (skipping.value) skipping.value = false;
      else if (typing) target.blur();
      else emit('leave');
      return focusBackUnlessLeaving(event);
    }
    if (typing && event.key === 'Enter') {
      done();
      return void (skipping.value ? skip() : record());
    }
    // In the field of the hand letters and space are commands only before a figure is begun.
    const letter = event.key.toLowerCase();
    const begun = !big || handText.value !== '';
    if (typing && (begun || !' rnsua'.includes(letter)) && !(big && letter.startsWith('page'))) return;
    if (target.tagName === 'BUTTON' && (event.key === 'Enter' || event.key === ' ')) return;
    const does: Record<string, () => unknown> = {
      ' ': record,
      enter: record,
      r: run.retake,
      n: run.noise,
      s: askReason,
      u: run.undo,
      a: () => (run.auto.value = !run.auto.value && !run.manual.value),
      arrowleft: () => run.move(-1),
      arrowdown: () => run.move(-1),
      arrowright: () => run.move(1),
      arrowup: () => run.move(1),
      pageup: () => run.shiftRange(1),
      pagedown: () => run.shiftRange(-1),
    };
    const action = does[letter];
    if (!action) return;
    done();
    void action();
  },
  { capture: true },
);
function focusBackUnlessLeaving(event: KeyboardEvent): void {
  if (event.defaultPrevented && skipping.value === false) ground.value?.focus();
}
</script>

<template>
  <section ref="ground" class="run night" tabindex="-1" data-own-keys aria-label="Recording">
    <header>
      <div>
        <h1>{{ whole.head.name }} · {{ place }}</h1>
        <p class="setup">{{ setupLine }}</p>
      </div>
      <div class="told" aria-live="assertive">
        <p v-if="run.told.value" :class="run.told.value.tone">{{ run.told.value.text }}</p>
        <p v-else-if="run.adviceWords.value" class="ask">{{ run.adviceWords.value }}</p>
        <p v-else-if="ears" class="ask">{{ ears }}</p>
        <p v-if="benchTrouble" class="stop">{{ benchTrouble }}</p>
        <p v-if="page.trouble.value" class="stop">{{ page.trouble.value }}</p>
        <p v-if="live.hand && !live.hand.mine" class="stop">
          {{ live.hand.taken ? 'Another browser records; this one looks on.' : 'Nobody records now.' }}
          <button class="worded" type="button" @click="live.takeOver()">Take over</button>
        </p>
        <p v-else-if="live.hand && live.hand.onlookers > 0" class="fact">
          {{ live.hand.onlookers === 1 ? 'One other browser looks on.' : `${live.hand.onlookers} others look on.` }}
        </p>
      </div>
    </header>

    <div v-if="run.gate.value.length" class="shut">
      <p class="big-words">The set-up is not complete.</p>
      <ul>
        <li v-for="g in run.gate.value" :key="g">{{ g }}</li>
      </ul>
      <button class="worded" type="button" @click="emit('setup')">Answer it</button>
    </div>
    <div v-else-if="run.needsTurn.value && run.point.value" class="shut">
      <p class="big-words">Put {{ place }} on the bench.</p>
      <p class="sub">
        {{
          side === 'exhaust'
            ? 'Exhaust direction. Cover your ears: this side is louder.'
            : 'Intake direction. Entry on, valve shut, dial at zero.'
        }}
      </p>
      <p class="sub">
        <b>space</b>
        when it is set
      </p>
    </div>
    <div v-else class="digits">
      <div>
        <p class="word">open to</p>
        <p class="huge" data-testid="lift">{{ run.point.value ? run.lift(run.point.value.lift) : '–' }}</p>
      </div>
      <div>
        <p class="word">
          {{ run.manual.value ? `type what it reads, ${unitFor(handKind, settings.system).symbol}` : 'reads' }}
        </p>
        <div v-if="run.manual.value" ref="field" class="by-hand">
          <input
            :value="handText"
            class="huge"
            inputmode="decimal"
            aria-label="Reading"
            autocomplete="off"
            @input="typed(($event.target as HTMLInputElement).value)"
          />
        </div>
        <button
          v-else
          class="plain huge reads"
          type="button"
          tabindex="-1"
          :aria-label="`Reads ${figure}. Show the working.`"
          data-testid="reads"
          @click="run.reads.value && working.show(run.reads.value)"
        >
          {{ figure }}
        </button>
      </div>
      <p class="unit">{{ unitFor('flow', settings.system).symbol }} at 28</p>
    </div>

    <div v-if="!run.gate.value.length && !run.needsTurn.value" class="states">
      <p>
        <b :class="stateWord.replace('?', '')" data-testid="state">{{ stateWord }}</b>
        <span v-if="windowText && !run.manual.value" class="after">
          {{ windowText }} {{ spreadText && `· ${spreadText} ${unitFor('flow', settings.system).symbol}` }}
        </span>
        <span v-if="run.manual.value && run.reads.value" class="unit-small">
          is
          <WorkedNumber :working="run.reads.value" />
          at 28
        </span>
      </p>
      <p v-if="run.manual.value" class="hand">
        <QuantityField
          :model-value="run.byHand.value.depression"
          kind="depression"
          label="depression, if not the set one"
          @update:model-value="run.byHand.value = { ...run.byHand.value, depression: $event }"
        />
        <label v-if="handKind === 'percent'">
          range
          <select
            :value="run.range.value"
            aria-label="Range"
            @change="run.byHand.value = { ...run.byHand.value, range: ($event.target as HTMLSelectElement).value }"
          >
            <option v-for="r in run.setup.value?.ranges ?? []" :key="r.name" :value="r.name">{{ r.name }}</option>
          </select>
        </label>
        <QuantityField
          v-if="session.plan.swirl && side === 'intake'"
          :model-value="run.byHand.value.swirl"
          kind="rotation"
          label="swirl"
          @update:model-value="run.byHand.value = { ...run.byHand.value, swirl: $event }"
        />
      </p>
      <p v-else>
        <template v-if="run.depression.value !== undefined">
          {{ formatNumber(run.depression.value, 'depression', settings.system) }}
          {{ settings.system === 'inch' ? 'in of water' : 'kPa' }}
        </template>
      </p>
      <p>
        <template v-if="run.range.value && use">
          range {{ run.range.value }},
          <WorkedNumber :working="use" :digits="0" />
          used
        </template>
        <span v-if="session.plan.swirl && side === 'intake' && run.swirl.value === undefined" class="unit-small">
          swirl: no signal
        </span>
        <span v-if="run.swirl.value !== undefined" class="unit-small">
          · swirl {{ formatNumber(run.swirl.value, 'rotation', 'inch', { signed: true }) }} rpm
        </span>
      </p>
      <p v-if="handProblem" class="stop">{{ handProblem }}</p>
      <p v-if="run.depressionSays.value" class="ask wide">{{ run.depressionSays.value }}</p>
    </div>

    <div class="below">
      <RunCurve
        :points="recorded"
        :behind="behind"
        :called="called"
        :now="run.point.value ? { lift: run.point.value.lift, flow: run.reads.value?.value } : undefined"
        :top-lift="topLift"
      />
      <aside>
        <ul class="keys">
          <li
            v-for="[key, does] in KEYS"
            :key="key"
            :class="{ first: key === 'space', on: key === 'A' && run.auto.value }"
          >
            <b>{{ key }}</b>
            {{ does }}
          </li>
        </ul>
        <p v-if="run.next.value" class="then">then {{ run.lift(run.next.value.lift) }}</p>
        <p class="sub">
          {{ run.points.value.length - left }} of {{ run.points.value.length }} · about
          {{ Math.max(1, Math.round(minutes.value / 60)) }} min left
        </p>
        <p class="foot">
          <button class="worded" type="button" @click="sound = !sound">sound {{ sound ? 'on' : 'off' }}</button>
          <button class="worded" type="button" @click="emit('leave')">leave (Esc)</button>
        </p>
      </aside>
    </div>

    <form v-if="skipping" class="why" @submit.prevent="skip">
      <label>
        Why is {{ run.point.value ? run.lift(run.point.value.lift) : '' }} skipped?
        <input v-model="reason" maxlength="180" placeholder="guide hits the seal" />
      </label>
    </form>
  </section>
</template>

<style scoped>
.run {
  position: fixed;
  inset: 0;
  z-index: 20;
  display: grid;
  grid-template-rows: auto auto auto 1fr;
  align-content: stretch;
  background: var(--paper);
  color: var(--ink);
  padding: 22px 36px 14px;
  outline: none;
  overflow: hidden;
  color-scheme: dark;
}
header {
  display: flex;
  justify-content: space-between;
  gap: 40px;
  min-height: 62px;
}
h1 {
  font-size: 25px;
}
p {
  margin: 0;
}
.setup,
.sub,
.unit-small {
  color: var(--slate);
  font-size: 17px;
}
.told {
  max-width: 46%;
  font-size: 19px;
  text-align: right;
}
.fact {
  color: var(--ink);
}
.ask {
  color: var(--caution);
}
.stop {
  color: var(--loss);
}
.digits {
  display: grid;
  grid-template-columns: minmax(0, 35%) minmax(0, 1fr) auto;
  align-items: end;
  gap: 10px;
}
.word {
  color: var(--slate);
  font-size: 26px;
}
.huge {
  font: 500 min(17.2vw, 30vh) / 0.98 var(--sans);
  letter-spacing: -0.01em;
  font-variant-numeric: tabular-nums;
}
button.huge {
  font: 500 min(17.2vw, 30vh) / 0.98 var(--sans);
  color: #e9d8a6;
}
.unit {
  color: var(--slate);
  font-size: 26px;
  padding-bottom: 3vh;
}
.by-hand input {
  width: 100%;
  background: transparent;
  border: 0;
  border-bottom: 2px solid var(--rule-strong);
  color: #e9d8a6;
  outline: none;
  padding: 0;
}
.by-hand input:focus {
  border-bottom-color: var(--focus);
}
.states {
  display: grid;
  grid-template-columns: 1.1fr 1.1fr 1fr;
  gap: 6px 24px;
  padding: 12px 0 10px;
  font-size: 30px;
  align-items: end;
}
.after {
  margin-left: 12px;
}
.states .wide {
  grid-column: 1 / -1;
  font-size: 19px;
}
.hand {
  display: flex;
  gap: 18px;
  font-size: 16px;
}
.hand select {
  display: block;
  background: transparent;
  color: inherit;
  font-size: 17px;
}
.steady,
.recorded {
  color: var(--gain);
}
.settling,
.listening {
  color: var(--caution);
}
.silent,
.stuck {
  color: var(--loss);
}
.below {
  grid-row: 4;
  display: grid;
  grid-template-columns: 1fr 200px;
  min-height: 0;
  gap: 20px;
}
aside {
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
}
.keys {
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: 20px;
  color: var(--slate);
}
.keys b {
  color: inherit;
}
.keys .first,
.keys .first b,
.keys .on {
  color: var(--ink);
}
.keys .on b {
  color: var(--gain);
}
.then {
  font-size: 25px;
  color: #e9d8a6;
  margin-top: 10px;
}
.foot {
  display: flex;
  gap: 16px;
  margin-top: 6px;
  color: var(--slate);
}
.shut {
  padding: 40px 0;
  min-height: 38vh;
}
.big-words {
  font-size: min(6vw, 10vh);
  line-height: 1.05;
}
.shut ul {
  font-size: 20px;
  padding-left: 20px;
}
.shut .sub {
  font-size: 24px;
  margin-top: 12px;
}
.why {
  position: absolute;
  left: 36px;
  right: 36px;
  bottom: 30px;
  background: var(--paper-raised);
  border: 1px solid var(--rule-strong);
  padding: 16px 20px;
  font-size: 22px;
}
.why input {
  display: block;
  width: 100%;
  margin-top: 6px;
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--slate);
  color: var(--ink);
  font: inherit;
}
</style>
