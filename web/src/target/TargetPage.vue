<script setup lang="ts">
import { targetWords } from '@alluvium/core';
import { Build, FUELS, USES, type RecordOf } from '@alluvium/records';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { drop } from '../api/client.js';
import { useRefresh } from '../api/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useRecordForm, type Draft } from '../parts/form.js';
import { useActiveBuild, withTarget } from '../state/build.js';
import { useSettings } from '../state/settings.js';
import { useUndo } from '../state/undo.js';
import CamDrawing from './CamDrawing.vue';
import CamFields from './CamFields.vue';
import InductionFields from './InductionFields.vue';
import WatchLiftsField from './WatchLiftsField.vue';
import { blankBuild } from './blank.js';

const settings = useSettings();
const undo = useUndo();
const refresh = useRefresh();
const route = useRoute();
const router = useRouter();
const { active, builds, loading } = useActiveBuild();
const isNew = computed(() => route.query.new === '1' || (!loading.value && builds.value.length === 0));
const form = useRecordForm(
  'build',
  () => (isNew.value ? undefined : active.value?.build),
  blankBuild,
  (b: RecordOf<'build'>) => `${b.name} saved.`,
);
const { draft, problems } = form;

/** What the form means as it stands, when it can be read. */
const live = computed(() => {
  const parsed = Build.safeParse({ ...draft.value, id: 'draft' });
  return parsed.success ? withTarget(parsed.data) : undefined;
});
const words = computed(() => (live.value?.target ? targetWords(live.value.target, settings.say) : ''));
const pick = <T extends string>(list: readonly T[]) => list.map((v) => [v, v] as const);

async function save(): Promise<void> {
  const record = await form.save();
  if (!record) return;
  settings.buildId = record.id;
  await router.replace({ name: 'target', query: { build: record.id } });
}
async function remove(): Promise<void> {
  const build = active.value!.build;
  const { batch } = await drop('build', build.id);
  undo.did(`${build.name} deleted.`, batch);
  settings.buildId = '';
  await refresh();
  await router.replace({ name: 'target' });
}
type Q = Draft<'build'>['bore'];
const set = (name: keyof Draft<'build'>) => (value: Q) => ((draft.value as Record<string, unknown>)[name] = value);
</script>

<template>
  <section v-if="!loading">
    <header class="head">
      <h1>{{ isNew ? 'A new build' : draft.name || 'Target' }}</h1>
      <span class="note">which engine it is for, and what is wanted of it</span>
      <span class="actions">
        <RouterLink v-if="!isNew" :to="{ name: 'target', query: { new: '1' } }">new build</RouterLink>
        <button v-if="!isNew" class="worded" type="button" @click="remove">delete</button>
      </span>
    </header>
    <p v-if="builds.length === 0" class="reading first">
      Start here: type the engine and the power you want. Everything else is read against it. Or bring a file: drop it
      anywhere on this page.
    </p>
    <form class="columns" @submit.prevent="save">
      <fieldset>
        <legend>Engine</legend>
        <TextField v-model="draft.name" label="Name" :problem="problems.name" class="wide" />
        <QuantityField
          :model-value="draft.bore"
          kind="length"
          label="Bore"
          :problem="problems.bore"
          required
          @update:model-value="set('bore')($event)"
          @update:problem="form.typing('bore', $event)"
        />
        <QuantityField
          :model-value="draft.stroke"
          kind="length"
          label="Stroke"
          :problem="problems.stroke"
          required
          @update:model-value="set('stroke')($event)"
          @update:problem="form.typing('stroke', $event)"
        />
        <TextField
          :model-value="draft.cylinders"
          label="Cylinders"
          :problem="problems.cylinders"
          @update:model-value="draft.cylinders = $event.trim() === '' ? null : Number($event)"
        />
        <ChoiceField
          v-model="draft.valvesPerCylinder!"
          label="Valves per cylinder"
          :options="[
            [2, '2'],
            [3, '3'],
            [4, '4'],
            [5, '5'],
          ]"
        />
        <QuantityField
          :model-value="draft.rod"
          kind="length"
          label="Rod length"
          :problem="problems.rod"
          @update:model-value="set('rod')($event)"
          @update:problem="form.typing('rod', $event)"
        />
        <QuantityField
          :model-value="draft.compression"
          kind="compression"
          label="Compression"
          :problem="problems.compression"
          @update:model-value="set('compression')($event)"
          @update:problem="form.typing('compression', $event)"
        />
        <ChoiceField v-model="draft.fuel!" label="Fuel" :options="pick(FUELS)" />
        <ChoiceField v-model="draft.use!" label="Use" :options="pick(USES)" />
      </fieldset>
      <fieldset>
        <legend>Wanted</legend>
        <QuantityField
          :model-value="draft.power"
          kind="power"
          label="Power"
          :problem="problems.power"
          required
          @update:model-value="set('power')($event)"
          @update:problem="form.typing('power', $event)"
        />
        <QuantityField
          :model-value="draft.speed"
          kind="rotation"
          label="at"
          :problem="problems.speed"
          required
          @update:model-value="set('speed')($event)"
          @update:problem="form.typing('speed', $event)"
        />
        <QuantityField
          :model-value="draft.budget"
          kind="money"
          label="Budget"
          :problem="problems.budget"
          @update:model-value="set('budget')($event)"
          @update:problem="form.typing('budget', $event)"
        />
        <TextField
          :model-value="draft.due"
          type="date"
          label="Due"
          :problem="problems.due"
          @update:model-value="draft.due = $event || null"
        />
        <TextField
          v-model="draft.fixed"
          type="textarea"
          label="What may not change"
          :problem="problems.fixed"
          class="wide"
        />
        <WatchLiftsField v-model="draft.watchLifts!" class="wide" :problem="problems.watchLifts" />
        <InductionFields v-model="draft.induction!" class="wide" :problems="problems" @typing="form.typing" />
      </fieldset>
      <fieldset>
        <legend>Cam</legend>
        <CamFields v-model="draft.cam" class="wide" :problems="problems" @typing="form.typing" />
      </fieldset>
      <fieldset class="rules">
        <legend>
          Factors of the schools
          <span class="note">empty means the usual one</span>
        </legend>
        <QuantityField
          :model-value="draft.powerPerFlow"
          kind="powerPerFlow"
          label="Power per flow k"
          placeholder="0.257 hp/cfm"
          :problem="problems.powerPerFlow"
          @update:model-value="set('powerPerFlow')($event)"
          @update:problem="form.typing('powerPerFlow', $event)"
        />
        <QuantityField
          :model-value="draft.torquePerVolume"
          kind="torquePerVolume"
          label="Torque per displacement t"
          placeholder="as the target implies"
          :problem="problems.torquePerVolume"
          @update:model-value="set('torquePerVolume')($event)"
          @update:problem="form.typing('torquePerVolume', $event)"
        />
        <QuantityField
          :model-value="draft.velocityLimit"
          kind="velocity"
          label="Port velocity limit"
          placeholder="613 ft/s"
          :problem="problems.velocityLimit"
          @update:model-value="set('velocityLimit')($event)"
          @update:problem="form.typing('velocityLimit', $event)"
        />
        <QuantityField
          :model-value="draft.manifoldFlow"
          kind="flow"
          label="Manifold flow at 28 in"
          :problem="problems.manifoldFlow"
          @update:model-value="set('manifoldFlow')($event)"
          @update:problem="form.typing('manifoldFlow', $event)"
        />
      </fieldset>
      <aside class="follows">
        <h2>What follows</h2>
        <template v-if="live?.target">
          <p class="reading">{{ words }}</p>
          <table class="ruled">
            <tbody>
              <tr>
                <td>displacement</td>
                <td class="num"><WorkedNumber :working="live.target.displacement" /></td>
              </tr>
              <tr>
                <td>torque at peak power</td>
                <td class="num"><WorkedNumber :working="live.target.torque" /></td>
              </tr>
              <tr>
                <td>mean effective pressure</td>
                <td class="num"><WorkedNumber :working="live.target.bmep" /></td>
              </tr>
              <tr>
                <td>flow each port must carry, 28 in</td>
                <td class="num"><WorkedNumber :working="live.target.demand" /></td>
              </tr>
              <tr>
                <td>least port area</td>
                <td class="num"><WorkedNumber :working="live.target.areaNeeded" /></td>
              </tr>
            </tbody>
          </table>
          <CamDrawing
            v-if="live.target.intakeCam"
            :intake="live.target.intakeCam"
            :exhaust="live.target.exhaustCam"
            :cam="live.build.cam!"
          />
          <p class="note">
            Ceilings for the breathing, not forecasts. Road use of modified emission parts is regulated: local law
            decides.
          </p>
        </template>
        <p v-else-if="live?.problem" class="loss" role="alert">{{ live.problem }}</p>
        <p v-else class="note">
          Type bore, stroke, cylinders, power and speed: what the head must do is worked out here as you type.
        </p>
        <FormFoot :form="form as never" :save-word="isNew ? 'Save this build' : 'Save'" />
      </aside>
    </form>
  </section>
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
.follows .reading {
  margin: 6px 0 10px;
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
