<script setup lang="ts">
import { portName, portOf, type WholeHead } from '@alluvium/records';
import { computed, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue';
import TextField from '../parts/TextField.vue';
import { useComparison } from '../data/comparison.js';
import { useSettings } from '../state/settings.js';
import RunAside from './RunAside.vue';
import RunCurve from './RunCurve.vue';
import RunDigits from './RunDigits.vue';
import RunStates from './RunStates.vue';
import RunMessages from './RunMessages.vue';
import { useBenchLive } from './live.js';
import { mountOf } from './mount.js';
import { curvesBehind, recordedCurve, setupLine } from './runContext.js';
import { useRun } from './useRun.js';
import { useRunKeys } from './useRunKeys.js';
import { useSecondLook } from './useSecondLook.js';
import type { SessionPage } from '../data/session.js';

// whole.value!: the page shows this once the session is read.

/** The run of a session: one number fills the screen, and a hand with oil on it needs one key. */
const props = defineProps<{ page: SessionPage; head: WholeHead; factor: number | undefined }>();
const emit = defineEmits<{ leave: []; setup: [] }>();
const settings = useSettings();
const live = useBenchLive();
const { heads } = useComparison();
const ground = useTemplateRef<HTMLElement>('ground');
const digits = useTemplateRef<InstanceType<typeof RunDigits>>('digits');
const handProblem = ref('');

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
const secondLook = useSecondLook(whole, props, () => run.point.value?.number, side);
const behind = computed(() => curvesBehind(whole.value, props.head, heads.value, side.value));
const call = computed(() => whole.value.calls.at(-1));
const called = computed(() => (side.value === 'intake' ? call.value?.intakePeak : call.value?.exhaustPeak)?.si);
const topLift = computed(() => Math.max(0.005, ...run.points.value.map((p) => p.lift)));

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
    if (!digits.value?.focus()) ground.value?.focus();
  });
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
  () => digits.value?.typing() ?? false,
);
</script>

<template>
  <section ref="ground" class="run night" tabindex="-1" data-own-keys aria-label="Recording">
    <header>
      <div>
        <h1>{{ head.head.name }} · {{ place }}</h1>
        <p class="setup">{{ setupLine(session, head, side) }}</p>
      </div>
      <RunMessages :run="run" :page="page" :ears="ears" />
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
    <RunDigits v-else ref="digits" :run="run" @problem="handProblem = $event" />

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
      <RunAside :run="run" :whole="whole" @leave="emit('leave')" />
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
.below {
  grid-row: 4;
  display: grid;
  grid-template-columns: 1fr 200px;
  min-height: 0;
  gap: 20px;
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
/* A phone: the curve over what comes next, each as wide as the screen. */
@media (max-width: 700px) {
  .run {
    padding: 12px 16px;
    overflow: auto;
  }
  .below {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(200px, 1fr) auto;
  }
}
</style>
