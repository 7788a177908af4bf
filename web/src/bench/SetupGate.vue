<script setup lang="ts">
import { written, type Quantity } from '@alluvium/core';
import {
  BenchSetup,
  blankSetup,
  calibrationDoubts,
  checksOf,
  fieldsOf,
  fingerprint,
  measured,
  measuresAt,
  onBench,
  pickSheet,
  questionsOf,
  setupDoubts,
  takenOver,
  unanswered,
  type Calibration,
  type GateQuestion,
  type Session,
  type WholeHead,
} from '@alluvium/records';
import { useStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import PhotoStrip from '../arrival/PhotoStrip.vue';
import BenchScales from '../heads/BenchScales.vue';
import SetupField from '../heads/SetupField.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import TemplateLine from '../parts/TemplateLine.vue';
import { useListOf } from '../data/queries.js';
import { today } from '../data/today.js';
import { useActiveBuild } from '../data/build.js';
import { useSettings } from '../state/settings.js';
import { useChange } from '../data/useChange.js';
import { useBenchLive } from './live.js';
import LeakTest from './LeakTest.vue';
import type { SessionPage } from '../data/session.js';

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
const { active } = useActiveBuild();

const stored = computed(() => props.session.setups.at(-1)!);
/** What is typed stays in this browser until it is saved. */
const kept = useStorage<Record<string, BenchSetup>>('alluvium.bench.setup', {});
const draft = ref<BenchSetup>(kept.value[props.session.id] ?? stored.value);
const unreadable = ref<Record<string, string>>({});
const problems = ref<Record<string, string>>({});
const dirty = computed(() => fingerprint(draft.value) !== fingerprint(stored.value));
watch(draft, (now) => {
  const { [props.session.id]: _mine, ...others } = kept.value;
  kept.value = dirty.value ? { ...others, [props.session.id]: now } : others;
});
watch(stored, (now, before) => {
  // Saved elsewhere while nothing was typed here.
  if (fingerprint(draft.value) === fingerprint(before)) draft.value = now;
});
const put = (change: Partial<BenchSetup>) => {
  draft.value = { ...draft.value, ...change };
  for (const k of Object.keys(change)) delete problems.value[k];
};
const used = computed(() =>
  (props.page.whole.value?.readings ?? []).some((r) => r.setup === props.session.setups.length - 1),
);

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
const before = computed(
  () =>
    pickSheet(
      props.whole.sheets.filter(
        (s) => s.kind === 'measured' && !props.page.whole.value?.sheets.some((o) => o.id === s.id),
      ),
      props.session.stageId,
    )?.setup ?? props.whole.sheets.findLast((s) => s.kind === 'measured')?.setup,
);
const doubts = computed(() => {
  const measures = measuresAt(props.whole, props.session.stageId);
  return [
    ...setupDoubts(draft.value, {
      engineBore: active.value?.build.bore?.si,
      valves: {
        intake: measured(measures, 'valve diameter', 'intake'),
        exhaust: measured(measures, 'valve diameter', 'exhaust'),
      },
      before: before.value,
    }),
    ...(bench.value?.ranges ?? []).flatMap((own) => {
      const said = draft.value.ranges.find((r) => r.name === own.name);
      const apart = (['intake', 'exhaust'] as const).some((side) => {
        const [a, b] = [said?.[side]?.si, own[side]];
        return a !== undefined && b !== null && Math.abs(a - b) > 0.002 * b;
      });
      return apart ? [`Range ${own.name} is not what ${bench.value!.name} says of itself: ask it for its ranges.`] : [];
    }),
    ...calibrationDoubts(checks.value, draft.value.calibration, props.session.date ?? today(), settings.say),
  ];
});

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
const takeOver = () => last.value && put(takenOver(last.value.setups.at(-1)!));
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
const change = useChange('here');
const saving = change.busy;
async function save(): Promise<void> {
  const wrong = Object.values(unreadable.value).find(Boolean);
  if (wrong) {
    problems.value = { '': wrong };
    return;
  }
  const parsed = BenchSetup.safeParse(draft.value);
  if (!parsed.success) {
    problems.value = Object.fromEntries(parsed.error.issues.map((i) => [i.path.join('.'), i.message]));
    return;
  }
  problems.value = {};
  const answer = await change.run(
    () => props.page.saveSetup(parsed.data),
    ({ split }) => (split ? 'A new set-up begins here, and with it a new sheet.' : 'The set-up is kept.'),
  );
  if (!answer) {
    problems.value = {
      '': change.refusal.value,
      ...Object.fromEntries(
        (change.problem.value?.fields ?? []).map((f) => [f.field.replace(/^setup\./, ''), f.message]),
      ),
    };
    return;
  }
  const { [props.session.id]: _mine, ...others } = kept.value;
  kept.value = others;
  if (unanswered(parsed.data, props.session.plan.sides).length === 0) emit('done');
}
const reset = () => (draft.value = used.value ? stored.value : blankSetup());
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
    <div class="questions">
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

    <h2>The bench</h2>
    <div class="questions">
      <ChoiceField
        :model-value="draft.reads"
        label="It reads"
        :options="[
          ['flow', 'flow'],
          ['percent', 'percent of a range'],
          ['differential', 'percent of a differential'],
        ]"
        @update:model-value="
          put(onBench({ ...draft, reads: $event }, $event === 'flow' ? undefined : source, session.date ?? today()))
        "
      />
      <QuantityField
        :model-value="draft.meterTemperature"
        kind="temperature"
        label="Temperature at the meter"
        placeholder="not taken"
        :problem="problems.meterTemperature"
        @update:model-value="put({ meterTemperature: $event })"
        @update:problem="unreadable.meterTemperature = $event"
      />
      <QuantityField
        :model-value="draft.portTemperature"
        kind="temperature"
        label="and at the port"
        placeholder="not taken"
        :problem="problems.portTemperature"
        @update:model-value="put({ portTemperature: $event })"
        @update:problem="unreadable.portTemperature = $event"
      />
    </div>
    <BenchScales
      v-if="draft.reads !== 'flow'"
      :ranges="draft.ranges"
      :since="draft.scales"
      :bench="source"
      :day="session.date ?? today()"
      @change="put"
      @typing="(path, problem) => (unreadable[path] = problem)"
    />
    <details>
      <summary>more of the set-up: entry, plug, chamber, notch, air</summary>
      <div class="questions">
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
.questions {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(max(120px, 22%), 1fr));
  gap: 10px 22px;
  align-items: start;
  margin: 8px 0;
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
