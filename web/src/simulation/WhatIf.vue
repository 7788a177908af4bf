<script setup lang="ts">
import { WHAT_IFS, changedBy, type Quantity, type SimulationSetup } from '@alluvium/core';
import { replacement, type Build } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useChange } from '../data/useChange.js';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';
import { useSettings } from '../state/settings.js';
import SweepChart, { type Line } from './SweepChart.vue';
import { useWhatIf } from './useWhatIf.js';

// props.heads[]!, typed.value[]!: shown with heads; each change has a field.

/** One head with something else about the engine, beside itself as it is. Nothing stored changes. */
const props = defineProps<{
  heads: readonly {
    readonly id: string;
    readonly letter: string;
    readonly name: string;
    readonly index: number;
    readonly setup: SimulationSetup;
  }[];
  speeds: readonly number[];
  target: number;
  build: Build;
}>();
const settings = useSettings();
const chosen = ref('');
const head = computed(() => props.heads.find((h) => h.id === chosen.value) ?? props.heads[0]!);

const typed = ref<Record<string, Quantity | null>>({});
const problems = ref<Record<string, string>>({});
const changes = computed(() => WHAT_IFS.filter((c) => typed.value[c.key]));
const known = (setup: SimulationSetup): SimulationSetup => ({
  ...setup,
  assumed: setup.assumed.map((a) => (a.id === 'runnerLength' ? { ...a, half: 0 } : a)),
});
/** As it is and as it would be, both at one runner length, so that only what was changed differs. */
const both = computed(() => {
  const now = known(head.value.setup);
  const { setup: then, wrong } = changedBy(
    now,
    Object.fromEntries(changes.value.map((c) => [c.key, typed.value[c.key]!.si])),
  );
  return { now, then, wrong };
});
const { beside, failed, trouble, prepare } = useWhatIf(
  () => ({
    now: both.value.now,
    then: both.value.then,
    changed: changes.value.length > 0 && Object.keys(both.value.wrong).length === 0,
  }),
  () => props.speeds,
  () => props.target,
  (speed) => settings.say.of(speed, 'rotation'),
);
const lines = computed((): Line[] => [
  { name: 'as it is', index: 0, points: beside.value.map((p) => ({ speed: p.speed, value: p.now.power })) },
  { name: 'changed', index: 1, points: beside.value.map((p) => ({ speed: p.speed, value: p.then.power })) },
]);
const gain = computed(() => {
  const at = beside.value.find((p) => Math.abs(p.speed - props.target) < 1e-6);
  if (!at) return '';
  const say = (v: number, kind: 'power' | 'torque') => settings.say.of(v, kind, { digits: 0, signed: true });
  const words = `At ${settings.say.of(props.target, 'rotation')}: ${say(at.then.power - at.now.power, 'power')}, ${say(at.then.torque - at.now.torque, 'torque')}`;
  return at.sure ? `${words}.` : `${words}, at a first look.`;
});
/** What was typed, kept with the build under a name: inputs only, run anew whenever they are looked at. */
const change = useChange('here');
const keeping = ref('');
const kept = computed(() => props.build.variants);
async function keep(): Promise<void> {
  const name = keeping.value.trim();
  const variant = { name, changes: changes.value.map((c) => ({ what: c.key, value: typed.value[c.key]! })) };
  const variants = [...kept.value.filter((v) => v.name !== name), variant];
  if (await change.make([replacement('build', { ...props.build, variants })], `“${name}” kept.`)) keeping.value = '';
}
const remove = (name: string) =>
  change.make(
    [replacement('build', { ...props.build, variants: kept.value.filter((v) => v.name !== name) })],
    `“${name}” removed.`,
  );
function look(variant: Build['variants'][number]): void {
  problems.value = {};
  typed.value = Object.fromEntries(variant.changes.map((c) => [c.what, c.value]));
}
function clear(): void {
  typed.value = {};
  problems.value = {};
}
</script>

<template>
  <div class="what">
    <div class="fields" @focusin.once="prepare">
      <label class="which">
        <span class="note">head</span>
        <el-select v-model="chosen" size="small" :placeholder="head.letter" aria-label="Head to change">
          <el-option v-for="h in heads" :key="h.id" :value="h.id" :label="`${h.letter} ${h.name}`" />
        </el-select>
      </label>
      <QuantityField
        v-for="c in WHAT_IFS"
        :key="c.key"
        :model-value="typed[c.key] ?? null"
        :kind="c.kind"
        :label="c.label"
        :placeholder="settings.say.of(c.now(head.setup), c.kind)"
        :problem="both.wrong[c.key] ?? problems[c.key]"
        @update:model-value="typed = { ...typed, [c.key]: $event }"
        @update:problem="problems = { ...problems, [c.key]: $event }"
      />
      <el-button size="small" class="clear" :disabled="changes.length === 0" @click="clear">Clear changes</el-button>
      <form v-if="changes.length && Object.keys(both.wrong).length === 0" class="keep" @submit.prevent="keep">
        <TextField v-model="keeping" label="Save these changes under a name" :problem="change.refusal.value" />
        <el-button size="small" native-type="submit" :disabled="keeping.trim() === ''">Save</el-button>
      </form>
      <p v-if="kept.length" class="keep">
        <span class="note">Kept:</span>
        <span v-for="v in kept" :key="v.name">
          <el-button link @click="look(v)">{{ v.name }}</el-button>
          <el-button link size="small" :aria-label="`Remove “${v.name}”`" @click="remove(v.name)">×</el-button>
        </span>
      </p>
    </div>
    <div>
      <template v-if="changes.length">
        <p class="reading" aria-live="polite">{{ gain || 'Running …' }}</p>
        <SweepChart
          :lines="lines"
          kind="power"
          label="Power as it is and changed"
          :target="{ speed: target }"
          :digits="0"
        />
        <p v-for="f in failed" :key="f" class="caution">{{ f }}</p>
        <p v-if="trouble" class="loss" role="alert">{{ trouble }}</p>
        <p class="note">
          One runner length, no ranges; the first look is of 30 mm cells, a few cycles on. The valve’s effective area is
          found anew through the virtual bench when the port changes.
          <template v-for="c in changes" :key="c.key">
            <template v-if="c.rule">{{ c.label }}: {{ c.rule }}.</template>
          </template>
        </p>
      </template>
      <p v-else class="note">Type what would be different: the curve is drawn beside the engine as it is.</p>
    </div>
  </div>
</template>

<style scoped>
.what {
  display: grid;
  grid-template-columns: minmax(260px, 2fr) minmax(0, 3fr);
  gap: 30px;
}
@media (max-width: 900px) {
  .what {
    grid-template-columns: minmax(0, 1fr);
  }
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 20px;
  align-content: start;
}
.which {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 8px;
}
.which .el-select {
  width: 200px;
}
.keep {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: end;
  margin: 0;
}
.clear {
  align-self: end;
}
.reading {
  margin: 0 0 6px;
  font-size: 16px;
}
</style>
