<script setup lang="ts">
import { castingsOf, type CostKind, type Quantity } from '@alluvium/core';
import { addition, costOfWay, type Build, type CostLineRecord, type Way, type WholeHead } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useListOf } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import CostLine from './CostLine.vue';
import { blankLine, inOrder, lineLabel, setsOf } from './lines.js';

/** The lines of a way's price: typed, taken from a template, from the head's own price, or from what arrival found. */
const props = defineProps<{
  modelValue: readonly CostLineRecord[];
  wayId: string;
  build: Build;
  whole: WholeHead | undefined;
  rate: number;
  problems: Readonly<Record<string, string>>;
}>();
const emit = defineEmits<{ 'update:modelValue': [CostLineRecord[]]; typing: [path: string, problem: string] }>();

const castings = computed(() => castingsOf(props.build.cylinders, props.whole?.head.cylinders ?? undefined));
const labour = computed<Quantity | null>(() => (props.rate > 0 ? { si: props.rate, typed: String(props.rate) } : null));
const TEMPLATES: readonly {
  readonly name: string;
  readonly kinds: readonly CostKind[];
  readonly hours: readonly CostKind[];
}[] = [
  {
    name: 'core rework',
    kinds: [
      'head or core',
      'core charge',
      'cleaning',
      'crack check',
      'guides',
      'seats',
      'valves',
      'springs and retainers',
      'gaskets',
    ],
    hours: ['valve job', 'porting'],
  },
  {
    name: 'head from a maker',
    kinds: ['head or core', 'freight', 'duty', 'gaskets', 'bolts', 'pushrods'],
    hours: ['valve job'],
  },
];
const put = (lines: CostLineRecord[]) => emit('update:modelValue', lines);
const add = (...lines: CostLineRecord[]) => put([...props.modelValue, ...lines]);
const set = (i: number, fields: Partial<CostLineRecord>) =>
  put(props.modelValue.map((l, k) => (k === i ? { ...l, ...fields } : l)));
const drop = (i: number) => put(props.modelValue.filter((_, k) => k !== i));
const fill = (t: (typeof TEMPLATES)[number]) =>
  add(...t.kinds.map((k) => blankLine(k)), ...t.hours.map((k) => blankLine(k, { price: labour.value })));
// The shop's own list: a line at a time, or a set of them.
const query = useListOf('listprice');
const prices = computed(() => inOrder(query.data.value ?? []));
const sets = computed(() => setsOf(prices.value));
const takeLine = (id: string) => {
  const found = prices.value.find((p) => p.id === id);
  if (found) add({ ...found.line });
};
const takeSet = (name: string) => add(...prices.value.filter((p) => p.sets.includes(name)).map((p) => ({ ...p.line })));
const change = useChange();
const setName = ref('');
async function keepSet(): Promise<void> {
  const name = setName.value.trim();
  if (name === '' || props.modelValue.length === 0) return;
  const steps = props.modelValue.map((line) => addition('listprice', { line, sets: [name] }));
  if (await change.make(steps, `${steps.length} lines are on the price list as “${name}”.`)) setName.value = '';
}
const price = computed(() => props.whole?.head.price ?? null);
/** What stands against the head and has a cost that is not in the list yet. */
const findings = computed(() =>
  (props.whole?.findings ?? []).filter(
    (f) =>
      f.cost &&
      f.mendedStageId === null &&
      !props.modelValue.some((l) => l.kind === 'mending' && l.text === f.text.slice(0, 200)),
  ),
);
const takeFindings = () =>
  add(
    ...findings.value.map((f) =>
      blankLine('mending', { text: f.text.slice(0, 200), price: f.cost, guess: { si: 0.2, typed: '20 %' } }),
    ),
  );
const read = computed(() =>
  costOfWay({ id: props.wayId, lines: [...props.modelValue] } as Pick<Way, 'id' | 'lines'>, props.build),
);
const currencies = computed(() => [
  ['', props.build.currency || 'own'] as const,
  ...props.build.rates.map((r) => [r.currency, r.currency] as const),
]);
</script>

<template>
  <fieldset>
    <legend>What it costs</legend>
    <p class="tools no-print">
      <el-button size="small" @click="add(blankLine('other'))">Add a line</el-button>
      <el-select
        v-if="prices.length"
        class="pick"
        :model-value="''"
        filterable
        size="small"
        aria-label="Take a line of the price list"
        placeholder="from the price list"
        @change="takeLine"
      >
        <el-option v-for="p in prices" :key="p.id" :value="p.id" :label="lineLabel(p.line)" />
      </el-select>
      <el-button v-for="name in sets" :key="name" size="small" @click="takeSet(name)">Set “{{ name }}”</el-button>
      <el-button
        v-for="t in TEMPLATES.filter((x) => !sets.includes(x.name))"
        :key="t.name"
        size="small"
        @click="fill(t)"
      >
        From “{{ t.name }}”
      </el-button>
      <el-button v-if="price" size="small" @click="add(blankLine('head or core', { price, quantity: castings }))">
        {{ castings === 1 ? 'The head’s price,' : `${castings} castings at` }} {{ price.typed }}
      </el-button>
      <el-button v-if="findings.length" size="small" @click="takeFindings">
        {{ findings.length }} {{ findings.length === 1 ? 'finding' : 'findings' }} of arrival
      </el-button>
    </p>
    <ol>
      <CostLine
        v-for="(l, i) in modelValue"
        :key="i"
        :line="l"
        :at="i"
        :currencies="currencies"
        :problems="problems"
        @set="set(i, $event)"
        @typing="(field, problem) => emit('typing', `lines.${i}.${field}`, problem)"
        @remove="drop(i)"
      />
    </ol>
    <p class="sum">
      Together
      <WorkedNumber :working="read.cost.sum" :book="read.cost.book" />
      {{ build.currency }}
      <span v-if="build.budget" class="note">
        of a budget of {{ build.budget.typed }}{{ read.cost.sum.value > build.budget.si ? ': over it' : '' }}
      </span>
    </p>
    <p v-for="o in read.open" :key="o" class="caution">{{ o }}</p>
    <p v-if="modelValue.length" class="keep no-print">
      <el-input v-model="setName" size="small" aria-label="Name of the set" placeholder="core rework" />
      <el-button size="small" :disabled="setName.trim() === ''" @click="keepSet">
        Save these lines to the price list as a set
      </el-button>
    </p>
    <p class="note">A line that comes back, as a core returned, has a price below zero.</p>
  </fieldset>
</template>

<style scoped>
fieldset {
  margin: 12px 0 0;
  padding: 0;
  border: 0;
}
legend {
  font-weight: 600;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  margin: 6px 0;
}
.pick {
  width: 210px;
}
.keep {
  display: flex;
  gap: 10px;
  max-width: 460px;
}
.tools :deep(.el-button) {
  margin: 0;
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
.sum {
  margin: 8px 0 2px;
}
</style>
