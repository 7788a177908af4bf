<script setup lang="ts">
import {
  Build,
  FUELS,
  USES,
  excusedFor,
  owedAgain,
  owedOfBuild,
  removal,
  type Owed,
  type RecordOf,
} from '@alluvium/records';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import OwedLines from '../parts/OwedLines.vue';
import TextField from '../parts/TextField.vue';
import { toField } from '../parts/toField.js';
import WatchSets from '../parts/WatchSets.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { useRecordForm } from '../data/form.js';
import { useActiveBuild, withTarget } from '../data/build.js';
import { useLineup } from '../data/queries.js';
import { useJudging } from '../data/judging.js';
import { useSettings } from '../state/settings.js';
import { useChange } from '../data/useChange.js';
import BuildQuantity from './BuildQuantity.vue';
import { ENGINE, PIPES, WANTED, factorFields } from './buildFields.js';
import CamFields from './CamFields.vue';
import TargetFollows from './TargetFollows.vue';
import InductionFields from './InductionFields.vue';
import WatchLiftsField from './WatchLiftsField.vue';
import { blankBuild } from './blank.js';

// field!: what a build owes is a field.
// active.value!: the page is shown only with a build at hand.

const settings = useSettings();
const change = useChange();
const route = useRoute();
const router = useRouter();
const { active, builds, loading, error } = useActiveBuild();
const isNew = computed(() => route.query.new === '1' || (!loading.value && !error.value && builds.value.length === 0));
const form = useRecordForm(
  'build',
  () => (isNew.value ? undefined : active.value?.build),
  () => blankBuild(settings.currency),
  (b: RecordOf<'build'>) => `${b.name} saved.`,
  { autosave: true },
);
const { draft, problems } = form;

const judging = useJudging();
/** What the form means as it stands, when it can be read. */
const live = computed(() => {
  const parsed = Build.safeParse({ ...draft.value, id: 'draft' });
  return parsed.success ? withTarget(parsed.data, judging.value.assumptions) : undefined;
});
const pick = <T extends string>(list: readonly T[]) => list.map((v) => [v, v] as const);

const lineup = useLineup(() => active.value?.build.id ?? '');
const owed = computed(() => (live.value ? owedOfBuild(live.value.build, lineup.data.value?.entries.length ?? 0) : []));
function toOwed({ field }: Owed): void {
  if (field === 'lineup') void router.push({ name: 'heads' });
  // A cam that is not there yet is begun where it stands.
  else if (!toField(field!)) toField('cam');
}
const excuse = (key: string, reason: string) => form.set('excused', excusedFor(draft.value.excused, key, reason));
const oweAgain = (key: string) => form.set('excused', owedAgain(draft.value.excused, key));

async function save(): Promise<void> {
  const record = await form.save();
  if (!record) return;
  settings.buildId = record.id;
  // Whoever went on meanwhile is not called back.
  if (route.name === 'target' && route.query.build !== record.id)
    await router.replace({ name: 'target', query: { build: record.id } });
}
async function remove(): Promise<void> {
  const build = active.value!.build;
  if (!(await change.make([removal('build', build.id)], `${build.name} removed.`))) return;
  settings.buildId = '';
  await router.replace({ name: 'target' });
}
const factors = computed(() => factorFields(settings.system, settings.say));
</script>

<template>
  <section v-if="active || isNew">
    <header class="head">
      <h1>{{ isNew ? 'A new build' : draft.name || 'Target' }}</h1>
      <span class="note">which engine it is for, and what is wanted of it</span>
      <span class="actions">
        <RouterLink v-if="!isNew" :to="{ name: 'target', query: { new: '1' } }">new build</RouterLink>
        <el-button v-if="!isNew" link @click="remove">Remove</el-button>
      </span>
    </header>
    <p v-if="builds.length === 0" class="reading first">
      Start here: type the engine and the power you want. Everything else is read against it. Or bring a file: drop it
      anywhere on this page.
    </p>
    <p v-if="!isNew && lineup.data.value?.entries.length === 0" class="reading next">
      Next:
      <RouterLink :to="{ name: 'heads', query: { new: '1' } }">Add the first head</RouterLink>
      or put one of the library into the lineup.
    </p>
    <form class="columns" @submit.prevent="save">
      <fieldset>
        <legend>Engine</legend>
        <TextField v-model="draft.name" label="Name" :problem="problems.name" required class="wide" />
        <BuildQuantity v-for="f in ENGINE.slice(0, 3)" :key="f.name" :form="form" :field="f" />
        <TextField
          :model-value="draft.cylinders"
          label="Cylinders"
          :problem="problems.cylinders"
          @update:model-value="draft.cylinders = $event.trim() === '' ? null : Number($event)"
        />
        <ChoiceField
          v-model="draft.valvesPerCylinder"
          label="Valves per cylinder"
          :options="[2, 3, 4, 5].map((n) => [n, String(n)] as const)"
        />
        <BuildQuantity v-for="f in ENGINE.slice(3)" :key="f.name" :form="form" :field="f" />
        <ChoiceField v-model="draft.fuel" label="Fuel" :options="pick(FUELS)" />
        <ChoiceField v-model="draft.use" label="Use" :options="pick(USES)" />
      </fieldset>
      <fieldset>
        <legend>Wanted</legend>
        <BuildQuantity v-for="f in WANTED" :key="f.name" :form="form" :field="f" />
        <TextField
          :model-value="draft.due"
          type="date"
          label="Due"
          data-field="due"
          :problem="problems.due"
          @update:model-value="draft.due = $event || null"
        />
        <TextField
          v-model="draft.fixed"
          type="textarea"
          label="What is fixed, and what may change"
          :problem="problems.fixed"
          class="wide"
        />
        <WatchLiftsField v-model="draft.watchLifts" class="wide" :problem="problems.watchLifts" />
        <WatchSets :lifts="draft.watchLifts" class="wide" @take="form.set('watchLifts', $event)" />
        <InductionFields v-model="draft.induction" class="wide" :problems="problems" @typing="form.typing" />
      </fieldset>
      <fieldset>
        <legend>Cam</legend>
        <CamFields v-model="draft.cam" data-field="cam" class="wide" :problems="problems" @typing="form.typing" />
      </fieldset>
      <fieldset class="rules">
        <legend>
          Calculation factors
          <span class="note">empty means the usual one</span>
        </legend>
        <BuildQuantity v-for="f in factors" :key="f.name" :form="form" :field="f" />
      </fieldset>
      <fieldset class="rules">
        <legend>
          Manifold and exhaust
          <span class="note">for the simulation; empty is assumed, and widens its range</span>
        </legend>
        <BuildQuantity v-for="f in PIPES" :key="f.name" :form="form" :field="f" />
      </fieldset>
      <aside class="follows">
        <h2>What follows</h2>
        <TargetFollows :live="live" />
        <FormFoot :form="form" :save-word="isNew ? 'Save this build' : 'Save'" />
        <OwedLines
          v-if="live && !isNew"
          class="owes"
          :owed="owed"
          title="This engine owes"
          @go="toOwed"
          @excuse="excuse"
          @again="oweAgain"
        />
      </aside>
    </form>
  </section>
  <WaitingNote v-else :loading="loading" :error="error" />
</template>

<style scoped>
.head {
  display: flex;
  align-items: baseline;
  gap: 22px;
}
.actions {
  margin-left: auto;
  display: flex;
  gap: 16px;
}
.first {
  max-width: 640px;
}
.columns {
  display: grid;
  grid-template-columns: 1fr 1fr 360px;
  gap: 18px 34px;
  margin-top: 14px;
  align-items: start;
}
.follows {
  grid-column: 3;
  grid-row: 1 / span 3;
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 20px;
  min-width: 0;
}
legend {
  font-weight: 600;
  font-size: 16px;
  padding: 0 0 4px;
}
.wide {
  grid-column: 1 / -1;
}
.owes {
  margin-top: 18px;
}
@media (max-width: 1100px) {
  .columns {
    grid-template-columns: 1fr 1fr;
  }
  .follows {
    grid-column: 1 / -1;
    grid-row: auto;
  }
}
</style>
