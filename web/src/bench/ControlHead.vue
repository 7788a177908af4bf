<script setup lang="ts">
import { controlHeadError, readControlHead, work, written, type Quantity } from '@alluvium/core';
import { evaluateSheetOf, sheetName, type Calibration } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { useListOf, useWholeHead } from '../data/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import HeadPicker from '../parts/HeadPicker.vue';
import QuantityField from '../parts/QuantityField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';

// head.data.value!: sheets are offered once the head is read.

/** A control head lift by lift: what is agreed of it against what this bench reads, said on the spot. */
type Points = Calibration['points'];
const points = defineModel<Points>({ required: true });
const emit = defineEmits<{ typing: [path: string, problem: string] }>();
const settings = useSettings();

interface Line {
  readonly lift: Quantity | null;
  readonly expected: Quantity | null;
  readonly measured: Quantity | null;
}
const EMPTY: Line = { lift: null, expected: null, measured: null };
/** Lines as they are typed; those that are whole are the points. */
const lines = ref<Line[]>([...points.value, EMPTY]);
watch(points, (now) => {
  if (now.length === 0 && lines.value.some((l) => l.measured)) lines.value = [EMPTY];
});
function set(index: number, field: keyof Line, value: Quantity | null): void {
  const next = lines.value.map((l, i) => (i === index ? { ...l, [field]: value } : l));
  const filled = next.filter((l) => l.lift ?? l.expected ?? l.measured);
  lines.value = [...filled, EMPTY];
  points.value = filled.filter((l): l is Points[number] => Boolean(l.lift && l.expected && l.measured));
}

// What is agreed may be a sheet of the library: its lifts and flows, at the usual depression.
const headId = ref('');
const head = useWholeHead(headId);
const sources = useListOf('source');
const sheetId = ref<string | null>(null);
const sheets = computed(() => [
  [null, 'which sheet'] as const,
  ...(head.data.value?.sheets ?? [])
    .filter((s) => s.setup.reads !== 'difference')
    .map((s) => [s.id, sheetName(s, head.data.value!.ports, sources.data.value ?? [])] as const),
]);
watch(sheetId, (id) => {
  const sheet = head.data.value?.sheets.find((s) => s.id === id);
  if (!sheet) return;
  const result = evaluateSheetOf(head.data.value!, sheet);
  const side = result.intake.points.length ? result.intake : result.exhaust;
  lines.value = [
    ...side.points.map((p) => ({
      lift: written(p.lift, 'lift', 'in', 3),
      expected: written(p.flow.value, 'flow', 'cfm', 1),
      measured: null,
    })),
    EMPTY,
  ];
  points.value = [];
});

const read = computed(() =>
  readControlHead(points.value.map((p) => ({ lift: p.lift.si, agreed: p.expected.si, measured: p.measured.si }))),
);
const error = (l: Line) =>
  l.expected && l.measured && l.expected.si > 0
    ? work(controlHeadError, { measured: l.measured.si, agreed: l.expected.si })
    : undefined;
const verdict = computed(() => {
  const r = read.value;
  if (!r) return '';
  const far = `${settings.say.of(Math.abs(r.worst.error), 'percent', { digits: 1 })} ${r.worst.error > 0 ? 'above' : 'under'} at ${settings.say.of(r.worst.lift, 'lift')}`;
  return r.agrees
    ? `This bench agrees with the control head within 3.5 %; furthest off is ${far}.`
    : `This bench does not agree with the control head: ${far}. Look for a leak, the range, the plate, the depression.`;
});
</script>

<template>
  <div class="known">
    <div class="from">
      <HeadPicker v-model="headId" label="Agreed flow, from a head of the library" />
      <ChoiceField v-if="headId" v-model="sheetId" label="and its sheet" :options="sheets" />
    </div>
    <table class="ruled" aria-label="The control head, lift by lift">
      <thead>
        <tr>
          <th>lift</th>
          <th>agreed</th>
          <th>read here</th>
          <th class="num">error</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(l, i) in lines" :key="i">
          <td
            v-for="[field, kind, word] in [
              ['lift', 'lift', 'lift'],
              ['expected', 'flow', 'agreed'],
              ['measured', 'flow', 'read here'],
            ] as const"
            :key="field"
          >
            <QuantityField
              :model-value="l[field]"
              :kind="kind"
              :label="`Line ${i + 1}, ${word}`"
              hide-label
              @update:model-value="set(i, field, $event)"
              @update:problem="emit('typing', `points.${i}.${field}`, $event)"
            />
          </td>
          <td class="num"><WorkedNumber :working="error(l) ?? null" :digits="1" signed /></td>
        </tr>
      </tbody>
    </table>
    <p v-if="verdict" class="reading" :class="{ caution: !read?.agrees }" role="status">{{ verdict }}</p>
  </div>
</template>

<style scoped>
.known {
  grid-column: 1 / -1;
  max-width: 620px;
}
.from {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 8px 22px;
}
.num {
  min-width: 64px;
}
</style>
