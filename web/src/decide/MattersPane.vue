<script setup lang="ts">
import {
  COMPUTED_MATTERS,
  isComputedMatter,
  matrixOf,
  mattersOf,
  replacement,
  type Build,
  type WayRead,
} from '@alluvium/records';
import { useDebounceFn } from '@vueuse/core';
import { computed, reactive, ref } from 'vue';
import { useChange } from '../data/useChange.js';
import { useSettings } from '../state/settings.js';

/** What matters to this build, in the owner's words, with its weight; and the owner's own marks of each way. */
const props = defineProps<{ build: Build; ways: readonly WayRead[] }>();
const change = useChange();
const settings = useSettings();
const adding = ref('');
const problem = ref('');
const matters = computed(() => mattersOf(props.build));
const HINTS: Readonly<Record<(typeof COMPUTED_MATTERS)[number], string>> = {
  power: 'at the target, by the peak-flow rule',
  torque: 'mean over the working speeds, by simulation, once the ways are run',
  price: 'the sum of its lines',
  time: 'days until the parts are here',
  risk: 'odds that it carries the target; nothing where something stops it',
};
const hint = (name: string) => HINTS[name as keyof typeof HINTS] ?? 'your own marks, 0 to 10';
const isOwn = (name: string) => !isComputedMatter(name);
const matrix = computed(() => matrixOf(props.ways, props.build, settings.say));
const unused = computed(() => COMPUTED_MATTERS.filter((c) => !matters.value.some((m) => m.name === c)));
const write = (next: Build['matters'], said: string) =>
  change.make([replacement('build', { ...props.build, matters: next })], said);
/** Weights while they are being moved: written once the hand rests. */
const moving = reactive<Record<string, number>>({});
let writing = false;
const settle = useDebounceFn(async () => {
  // What is moved while the last is still being written waits for it: each is written on what stands then.
  if (writing) return;
  writing = true;
  try {
    for (let moved = Object.entries(moving); moved.length > 0; moved = Object.entries(moving)) {
      const next = matters.value.map((m) => ({ ...m, weight: moving[m.name] ?? m.weight }));
      const done = await write(next, moved.map(([name, weight]) => `${name} weighs ${weight} now.`).join(' '));
      for (const [name, weight] of moved) if (!done || moving[name] === weight) delete moving[name];
    }
  } finally {
    writing = false;
  }
}, 400);
function weigh(name: string, weight: number): void {
  moving[name] = weight;
  void settle();
}
const drop = (name: string) =>
  write(
    matters.value.filter((m) => m.name !== name),
    `${name} no longer counts.`,
  );
async function add(given?: string): Promise<void> {
  const name = given ?? adding.value.trim();
  problem.value =
    name === '' ? 'Say what matters.' : matters.value.some((m) => m.name === name) ? 'That stands here already.' : '';
  if (problem.value) return;
  if (await write([...matters.value, { name, weight: 2 }], `${name} counts now.`)) adding.value = '';
}
const mark = ({ way }: WayRead, name: string, value: number | undefined) => {
  const marks = Object.fromEntries(Object.entries(way.marks).filter(([k]) => k !== name));
  return change.make(
    [replacement('way', { ...way, marks: value === undefined ? marks : { ...marks, [name]: value } })],
    `${way.name}: ${name} ${value ?? 'not marked'}.`,
  );
};
</script>

<template>
  <div>
    <h2>What matters</h2>
    <ul class="list">
      <li v-for="m in matters" :key="m.name">
        <div class="line">
          <span>
            {{ m.name }}
            <small class="note">{{ hint(m.name) }}</small>
          </span>
          <el-slider
            :model-value="moving[m.name] ?? m.weight"
            :min="0"
            :max="10"
            :step="1"
            :aria-label="`Weight of ${m.name}`"
            @update:model-value="weigh(m.name, $event as number)"
          />
          <span class="num">{{ moving[m.name] ?? m.weight }}</span>
          <el-button link class="no-print" :aria-label="`Remove ${m.name}`" @click="drop(m.name)">Remove</el-button>
        </div>
        <p class="cells">
          <span v-for="(w, i) in ways" :key="w.way.id" class="note">
            {{ w.way.name }}: {{ matrix.find((r) => r.name === m.name)?.cells[i]?.text }},
            {{ matrix.find((r) => r.name === m.name)?.cells[i]?.evidence }}
          </span>
        </p>
        <div v-if="isOwn(m.name)" class="marks">
          <label v-for="w in ways" :key="w.way.id">
            <small class="note">{{ w.way.name }}</small>
            <el-input-number
              :model-value="w.way.marks[m.name]"
              size="small"
              :min="0"
              :max="10"
              :controls="false"
              :aria-label="`${m.name}, ${w.way.name}`"
              @change="mark(w, m.name, ($event as number | null | undefined) ?? undefined)"
            />
          </label>
        </div>
      </li>
    </ul>
    <form class="add no-print" @submit.prevent="add()">
      <el-input
        v-model="adding"
        size="small"
        placeholder="sound, look, keeps the riser"
        aria-label="Something else that matters"
      />
      <el-button size="small" native-type="submit">Add</el-button>
      <el-button v-for="u in unused" :key="u" size="small" @click="add(u)">Add {{ u }}</el-button>
    </form>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
    <p class="note">
      Each is brought to 0 for the worst of the ways and 1 for the best, weighed and added. How often a way comes first
      is drawn: weights vary by 30 % either way, figures within what is not known of them, and what two ways share
      varies together.
    </p>
  </div>
</template>

<style scoped>
.list {
  list-style: none;
  margin: 6px 0;
  padding: 0;
}
.list li {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.line {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(90px, 1fr) 22px auto;
  gap: 14px;
  align-items: center;
}
.cells {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  margin: 0;
}
.marks {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
.marks label {
  width: 110px;
}
small {
  display: block;
}
.add {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
}
.add :deep(.el-input) {
  width: 190px;
}
.add :deep(.el-button) {
  margin: 0;
}
</style>
