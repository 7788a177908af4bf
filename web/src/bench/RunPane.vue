<script setup lang="ts">
import { formatNumber, parseQuantity, unitFor } from '@alluvium/core';
import {
  evaluateSheetOf,
  expectations,
  kept,
  pointsLeft,
  portName,
  portOf,
  secondLookWords,
  secondLooks,
  timeLeft,
  type WholeHead,
} from '@alluvium/records';
import { computed, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue';
import CellInput from '../parts/CellInput.vue';
import TextField from '../parts/TextField.vue';
import PressArea from '../parts/PressArea.vue';
import { useComparison } from '../data/comparison.js';
import { useSettings } from '../state/settings.js';
import { useWorking } from '../state/working.js';
import HandNote from './HandNote.vue';
import RunCurve from './RunCurve.vue';
import RunStates from './RunStates.vue';
import { useBenchLive } from './live.js';
import { mountOf } from './mount.js';
import { curvesBehind, recordedCurve, setupLine } from './runContext.js';
import { useRun } from './useRun.js';
import { RUN_KEYS, useRunKeys } from './useRunKeys.js';
import type { SessionPage } from '../data/session.js';

/** The run of a session: one number fills the screen, and a hand with oil on it needs one key. */
const props = defineProps<{ page: SessionPage; head: WholeHead; factor: number | undefined }>();
const emit = defineEmits<{ leave: []; setup: [] }>();
const settings = useSettings();
const live = useBenchLive();
const working = useWorking();
const { heads } = useComparison();
const ground = useTemplateRef<HTMLElement>('ground');
const field = useTemplateRef<HTMLElement>('field');

const run = useRun(props.page, () => props.factor, {
  sound: () => settings.sound,
  onTurn: (to) =>
    live.order('flow bench', { do: 'mount', head: mountOf(props.head, session.value.stageId, to.number) }),
});
const whole = computed(() => props.page.whole.value!);
const session = computed(() => whole.value.session);
const side = computed(() => run.point.value?.side ?? 'intake');
const place = computed(() => {
  const p = run.point.value;
  if (!p) return '';
  const port = portOf(props.head.ports, p.side, p.number);
  return `${(port && portName(props.head.ports, port.id)) ?? `port ${p.number}`} ${p.side}`;
});

const recorded = computed(() => recordedCurve(whole.value, run.point.value?.number, side.value));
/** What was read on this port and side lies far from its call, the stage before or the last port: said before the next lift. */
const secondLook = computed(() => {
  const { sheets, readings, calls } = whole.value;
  const here = new Set(kept(readings).flatMap((r) => (r.number === run.point.value?.number ? [r.sheetId] : [])));
  const sheet = sheets.findLast((s) => here.has(s.id));
  if (!sheet) return '';
  const ids = new Set(sheets.map((s) => s.id));
  const all = { ...props.head, sheets: [...props.head.sheets.filter((s) => !ids.has(s.id)), ...sheets] };
  const look = secondLooks(expectations(all, sheet, calls), evaluateSheetOf(all, sheet)).find(
    (l) => l.side === side.value,
  );
  return look ? secondLookWords(look, settings.say) : '';
});
const behind = computed(() => curvesBehind(whole.value, props.head, heads.value, side.value));
const call = computed(() => whole.value.calls.at(-1));
const called = computed(() => (side.value === 'intake' ? call.value?.intakePeak : call.value?.exhaustPeak)?.si);
const topLift = computed(() => Math.max(0.005, ...run.points.value.map((p) => p.lift)));

const figure = computed(() => {
  const w = run.reads.value;
  return w ? formatNumber(w.value, 'flow', settings.figures, { digits: 1 }) : '–';
});
const left = computed(() => pointsLeft(session.value.plan, whole.value.readings).length);
const minutes = computed(() => timeLeft(session.value, whole.value.readings));
const benchTrouble = computed(() => {
  const bench = live.ofKind('flow bench');
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
  run.typed({ value: parsed?.ok ? parsed.quantity : null });
}
async function record(): Promise<void> {
  await run.record();
  if (run.manual.value) focusBack();
}

onMounted(focusBack);
watch(() => run.manual.value, focusBack);

useRunKeys(
  {
    record,
    retake: run.retake,
    noise: run.noise,
    askReason,
    undo: run.undo,
    auto: () => (run.auto.value = !run.auto.value && !run.manual.value),
    move: run.move,
    shiftRange: run.shiftRange,
    enter: () => (skipping.value ? skip() : record()),
    escape: (typing) => {
      if (!skipping.value && !typing) return emit('leave');
      skipping.value = false;
      ground.value?.focus();
    },
  },
  () => handText.value !== '',
);
</script>

<template>
  <section ref="ground" class="run night" tabindex="-1" data-own-keys aria-label="Recording">
    <header>
      <div>
        <h1>{{ head.head.name }} · {{ place }}</h1>
        <p class="setup">{{ setupLine(session, head, side) }}</p>
      </div>
      <div class="told" aria-live="assertive">
        <p v-if="run.told.value" :class="run.told.value.tone">{{ run.told.value.text }}</p>
        <p v-else-if="run.adviceWords.value" class="ask">{{ run.adviceWords.value }}</p>
        <p v-else-if="ears" class="ask">{{ ears }}</p>
        <p v-if="benchTrouble" class="stop">{{ benchTrouble }}</p>
        <p v-if="page.trouble.value" class="stop">{{ page.trouble.value }}</p>
        <HandNote class="stop" />
        <p v-if="live.hand?.mine && !live.hand.asked && live.hand.onlookers > 0" class="fact">
          {{ live.hand.onlookers === 1 ? 'One other browser looks on.' : `${live.hand.onlookers} others look on.` }}
        </p>
      </div>
    </header>

    <div v-if="run.gate.value.length" class="shut">
      <p class="big-words">The set-up is not complete.</p>
      <ul>
        <li v-for="g in run.gate.value" :key="g">{{ g }}</li>
      </ul>
      <el-button link @click="emit('setup')">Answer it</el-button>
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
          <CellInput
            :value="handText"
            class="huge"
            inputmode="decimal"
            aria-label="Reading"
            @input="typed(($event.target as HTMLInputElement).value)"
          />
        </div>
        <PressArea
          v-else
          class="huge reads"
          tabindex="-1"
          :aria-label="`Reads ${figure}. Show the working.`"
          data-testid="reads"
          @click="run.reads.value && working.show(run.reads.value)"
        >
          {{ figure }}
        </PressArea>
      </div>
      <p class="unit">{{ unitFor('flow', settings.system).symbol }} at 28</p>
    </div>

    <RunStates
      v-if="!run.gate.value.length && !run.needsTurn.value"
      :run="run"
      :swirls="session.plan.swirl && side === 'intake'"
      :problem="handProblem"
    />

    <p v-if="secondLook" class="caution" role="status">{{ secondLook }}</p>
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
            v-for="[key, does] in RUN_KEYS"
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
          <el-button link @click="settings.sound = !settings.sound">
            sound {{ settings.sound ? 'on' : 'off' }}
          </el-button>
          <el-button link @click="emit('leave')">Leave (Esc)</el-button>
        </p>
      </aside>
    </div>

    <form v-if="skipping" class="why" @submit.prevent="skip">
      <TextField
        v-model="reason"
        :label="`Why is ${run.point.value ? run.lift(run.point.value.lift) : 'it'} skipped?`"
        placeholder="guide hits the seal"
      />
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
.sub {
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
</style>
