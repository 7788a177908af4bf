<script setup lang="ts">
import { written, type Quantity } from '@alluvium/core';
import {
  BenchSetup,
  checksOf,
  fieldsOf,
  questionsOf,
  takenOver,
  unanswered,
  type Calibration,
  type GateQuestion,
  type Session,
  type WholeHead,
  setupInForce,
} from '@alluvium/records';
import { computed } from 'vue';
import PhotoStrip from '../arrival/PhotoStrip.vue';
import SetupField from '../heads/SetupField.vue';
import TemplateLine from '../parts/TemplateLine.vue';
import { useListOf } from '../data/queries.js';
import { today } from '../data/today.js';
import { useSettings } from '../state/settings.js';
import { useBenchLive } from './live.js';
import GateBench from './GateBench.vue';
import LeakTest from './LeakTest.vue';
import { useGate } from './useGate.js';
import { useGateDoubts } from './useGateDoubts.js';
import type { SessionPage } from '../data/session.js';

// open[]!: shown where one is open.

/** The set-up gate: nothing is recorded before every question has an answer, and "unknown" is one. */
const props = defineProps<{
  page: SessionPage;
  session: Session;
  whole: WholeHead;
  calibrations: readonly Calibration[];
  /** Other sessions, the newest last: the set-up of one is taken over as a whole. */
  earlier: readonly Session[];
}>();
const emit = defineEmits<{ done: [] }>();
const settings = useSettings();
const live = useBenchLive();

const gate = useGate(props, () => emit('done'));
const { draft, unreadable, problems, dirty, put, used, saving, save, reset } = gate;
const bench = computed(() => live.ofKind('flow bench'));
const questions = computed(() => questionsOf(draft.value, props.session.plan.sides));
const open = computed(() => unanswered(draft.value, props.session.plan.sides));
/** What else decides between tests that look alike; the temperatures stand with the bench. */
const AIR: ReadonlySet<string> = new Set(['meterTemperature', 'portTemperature']);
const further = computed(() =>
  fieldsOf(draft.value, props.session.plan.sides).filter((f) => !f.gate && !AIR.has(f.field)),
);
const sources = useListOf('source');
const source = computed(() => sources.data.value?.find((s) => s.id === props.session.sourceId));
const isOpen = (q: GateQuestion) => open.value.some((o) => o.field === q.field);
const checks = computed(() => checksOf(props.calibrations, props.session.sourceId));
const checkOptions = computed(() => [
  ...checks.value.toReversed().map((c) => [c.id, `${settings.say.day(c.date)}, ${c.against}`] as const),
  ['none', 'never checked'] as const,
  ['unknown', 'unknown'] as const,
]);
/** A bench that describes itself fills in how it reads, its ranges and its temperatures. */
function fromBench(): void {
  if (!bench.value) return;
  const percent = bench.value.quantities.some((q) => q.name === 'percent');
  const cfm = (si: number | null) => (si === null ? null : written(si, 'flow', 'cfm', 1));
  const warm = (name: string) => {
    const kelvin = live.latest(name);
    return kelvin === undefined ? null : written(kelvin, 'temperature', '°C', 1);
  };
  put({
    reads: percent ? 'percent' : 'flow',
    scales: null,
    ranges: bench.value.ranges.map((r) => ({ name: r.name, intake: cfm(r.intake), exhaust: cfm(r.exhaust) })),
    meterTemperature: warm('meterTemperature'),
    portTemperature: warm('portTemperature'),
  });
}
const last = computed(() => props.earlier.findLast((s) => s.id !== props.session.id));
const takeOver = () => last.value && put(takenOver(setupInForce(last.value)));
/** How the bench reads is its own; a template says how the head is set up on it. */
function fromTemplate(template: BenchSetup): void {
  const { reads, scales, ranges, calibration } = draft.value;
  put({ ...takenOver(template), reads, scales, ranges, calibration });
}
const asTemplate = () => {
  const parsed = BenchSetup.safeParse(takenOver(draft.value));
  return parsed.data;
};

const unknownable = (q: GateQuestion) => q.kind !== undefined || q.field === 'portKind';
const quantity = (field: GateQuestion['field']): Quantity | null => {
  const v = draft.value[field];
  return v === 'unknown' || v === null ? null : (v as Quantity);
};
const doubts = useGateDoubts(props, draft, bench, checks);
</script>

<template>
  <form class="gate" data-own-keys @submit.prevent="save">
    <TemplateLine of="set-up" :content="asTemplate" @take="fromTemplate" />
    <p class="acts">
      <el-button v-if="last" link @click="takeOver">Copy the set-up of “{{ last.title }}”</el-button>
      <el-button v-if="bench" link @click="fromBench">Ask {{ bench.name }} for its ranges</el-button>
      <span v-if="used" class="caution">
        Something was read under this set-up: a change begins set-up {{ session.setups.length + 1 }} and a new sheet.
      </span>
    </p>
    <div class="field-grid">
      <div v-for="q in questions" :key="q.field" class="question" :class="{ open: isOpen(q) }">
        <SetupField
          :field="q.field === 'calibration' ? { ...q, options: checkOptions } : q"
          :model-value="q.kind ? quantity(q.field) : draft[q.field]"
          :hint="draft[q.field] === 'unknown' ? 'unknown' : ''"
          :problem="problems[q.field]"
          @update:model-value="put({ [q.field]: $event })"
          @typing="unreadable[q.field] = $event"
        />
        <el-button
          v-if="unknownable(q)"
          link
          class="unknown"
          :class="{ said: draft[q.field] === 'unknown' }"
          :aria-pressed="draft[q.field] === 'unknown'"
          @click="put({ [q.field]: 'unknown' })"
        >
          unknown
        </el-button>
      </div>
    </div>

    <LeakTest
      :leaks="draft.leaks"
      :sides="session.plan.sides"
      :depression="quantity('depression')"
      :problem="problems.leaks"
      @update:leaks="put({ leaks: $event, ...($event.length > draft.leaks.length ? { leakTest: 'done' } : {}) })"
    />

    <GateBench
      :draft="draft"
      :source="source"
      :day="session.date ?? today()"
      :problems="problems"
      @put="put"
      @typing="(path, problem) => (unreadable[path] = problem)"
    />
    <details>
      <summary>more of the set-up: entry, plug, chamber, notch, air</summary>
      <div class="field-grid">
        <SetupField
          v-for="f in further"
          :key="f.field"
          :field="f"
          :model-value="draft[f.field]"
          hint="unknown"
          :problem="problems[f.field]"
          @update:model-value="put({ [f.field]: $event })"
          @typing="unreadable[f.field] = $event"
        />
      </div>
    </details>

    <h2>Photo of the set-up</h2>
    <PhotoStrip
      :head-id="whole.head.id"
      :session-id="session.id"
      :photos="whole.attachments.filter((a) => a.sessionId === session.id)"
    />

    <ul v-if="doubts.length" class="doubts">
      <li v-for="d in doubts" :key="d" class="caution">{{ d }}</li>
    </ul>
    <p v-if="open.length" class="reading">
      {{ open.length === 1 ? 'One question is' : `${open.length} questions are` }} open: {{ open[0]!.sentence }}
    </p>
    <p v-else class="reading">Everything is answered.</p>
    <p v-if="Object.keys(problems).length" class="loss" role="alert">{{ Object.values(problems)[0] }}</p>
    <p class="acts">
      <el-button type="primary" native-type="submit" :loading="saving" :disabled="!dirty && open.length > 0">
        {{ used && dirty ? 'Start a new set-up' : open.length ? 'Save so far' : 'Save and record' }}
      </el-button>
      <el-button v-if="dirty" link @click="reset">Clear the answers</el-button>
    </p>
  </form>
</template>

<style scoped>
.gate {
  max-width: 960px;
}
.question {
  position: relative;
  border-left: 3px solid transparent;
  padding-left: 8px;
}
.question.open {
  border-left-color: var(--caution-line);
}
.unknown {
  position: absolute;
  right: 0;
  top: 0;
  font-size: 14px;
  color: var(--slate);
}
.unknown.said {
  color: var(--ink);
  font-weight: 600;
}
summary {
  cursor: pointer;
  color: var(--slate);
}
h2 {
  margin-top: 16px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
  margin: 6px 0;
}
.doubts {
  padding-left: 18px;
}
</style>
