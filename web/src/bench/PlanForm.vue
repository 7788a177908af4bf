<script setup lang="ts">
import { format, type Quantity } from '@alluvium/core';
import {
  addition,
  Plan,
  isMetric,
  liftsOf,
  plannedPoints,
  timeLeft,
  type Session,
  type WholeHead,
} from '@alluvium/records';
import { computed, ref } from 'vue';
import { useListOf } from '../data/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import QuantityField from '../parts/QuantityField.vue';
import SourceField from '../parts/SourceField.vue';
import TextField from '../parts/TextField.vue';
import { withSource } from '../parts/newNamed.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { useChange } from '../data/useChange.js';
import PlanLimits from './PlanLimits.vue';
import PlanMaps from './PlanMaps.vue';
import PlanPorts from './PlanPorts.vue';
import PlanTimeline from './PlanTimeline.vue';

// parsed.data!: shown where the plan can be read.
// templates.data.value!: what is chosen is one of them.

/** What a test asks for: ports with the hardest first, sides, lifts, pulls, swirl, maps. Kept as the shop's template. */
const props = defineProps<{ session: Session; whole: WholeHead }>();
const emit = defineEmits<{ saved: [] }>();
const sources = useListOf('source');
const templates = useListOf('plan');
const change = useChange('here');
const templateProblem = change.refusal;

const form = useRecordForm(
  'session',
  () => props.session,
  // Never drawn: the session is always there. Its id must not be that of a stored one.
  (): Draft<'session'> => ({ ...props.session, id: 'none' }),
  () => 'The plan is kept.',
  { resolve: withSource('own bench') },
);
const { draft, problems } = form;
const plan = computed(() => draft.value.plan);
const put = (change: Partial<Plan>) => form.set('plan', { ...plan.value, ...change });

const cylinders = computed(() =>
  Math.max(
    props.whole.head.cylinders ?? 8,
    ...plan.value.ports.map((p) => p.number),
    ...props.whole.ports.map((p) => p.number),
  ),
);
function side(name: 'intake' | 'exhaust'): void {
  const has = plan.value.sides.includes(name);
  put({ sides: (['intake', 'exhaust'] as const).filter((s) => (s === name ? !has : plan.value.sides.includes(s))) });
}
const single = ref<Quantity | null>(null);
function addLift(): void {
  if (!single.value) return;
  put({ list: [...plan.value.list, single.value] });
  single.value = null;
}
const count = (field: 'pulls' | 'beyond') => (text: string) => {
  const n = Number(text);
  form.typing(`plan.${field}`, Number.isInteger(n) && text.trim() !== '' ? '' : `“${text}” is no whole number.`);
  if (Number.isInteger(n) && text.trim() !== '') put({ [field]: n });
};
/** What the plan comes to, as soon as it makes sense. */
const parsed = computed(() => Plan.safeParse(plan.value));
const lifts = computed(() => (parsed.value.success ? liftsOf(parsed.value.data) : []));
const time = computed(() => (parsed.value.success ? timeLeft({ plan: parsed.value.data }, []) : undefined));
const metric = computed(() => isMetric(plan.value));
const liftsText = computed(() =>
  lifts.value.map((l) => format(l, 'lift', metric.value ? 'metric' : 'inch')).join(', '),
);

async function save(): Promise<void> {
  if (await form.save()) emit('saved');
}
const templateName = ref('');
async function keepTemplate(): Promise<void> {
  const name = templateName.value;
  const made = await change.make([addition('plan', { name, plan: plan.value })], `Plan “${name}” kept for the shop.`);
  if (made) templateName.value = '';
}
</script>

<template>
  <form class="plan" data-own-keys @submit.prevent="save">
    <div class="field-grid">
      <TextField v-model="draft.title" label="Session" required :problem="problems.title" />
      <TextField v-model="draft.date" label="Date" type="date" :problem="problems.date" />
      <SourceField v-model="draft.sourceId" label="Bench" :sources="sources.data.value ?? []" none="not said" />
      <div>
        <span class="field-label">Sides</span>
        <el-checkbox
          v-for="s in ['intake', 'exhaust'] as const"
          :key="s"
          :model-value="plan.sides.includes(s)"
          @change="side(s)"
        >
          {{ s }}
        </el-checkbox>
        <p v-if="problems['plan.sides']" class="loss" role="alert">{{ problems['plan.sides'] }}</p>
      </div>
    </div>

    <PlanPorts
      :model-value="plan.ports"
      :count="cylinders"
      :problem="problems['plan.ports']"
      @update:model-value="put({ ports: $event })"
    />

    <div class="field-grid">
      <FormQuantity :form="form" field="plan.step" kind="lift" label="Lift in steps of" placeholder=".100 in or 1 mm" />
      <FormQuantity :form="form" field="plan.to" kind="lift" label="up to" placeholder=".600 in" />
      <FormQuantity :form="form" field="plan.halfBelow" kind="lift" label="half steps up to" placeholder="none" />
      <TextField
        :model-value="plan.beyond"
        label="steps beyond, for stability"
        :problem="problems['plan.beyond']"
        @update:model-value="count('beyond')($event)"
      />
      <TextField
        :model-value="plan.pulls"
        label="Pulls of each point"
        :problem="problems['plan.pulls']"
        @update:model-value="count('pulls')($event)"
      />
      <div class="single" @keydown.enter.prevent="addLift">
        <QuantityField v-model="single" kind="lift" label="and single lifts" placeholder="type, Enter" />
        <p v-if="plan.list.length" class="list">
          <el-button
            v-for="(l, i) in plan.list"
            :key="i"
            link
            :aria-label="`Remove ${l.typed}`"
            @click="put({ list: plan.list.filter((_, k) => k !== i) })"
          >
            {{ l.typed }}
          </el-button>
        </p>
      </div>
      <div>
        <span class="field-label">Also record</span>
        <el-checkbox :model-value="plan.swirl" @change="put({ swirl: !plan.swirl })">swirl</el-checkbox>
        <el-checkbox :model-value="plan.wetFlow" @change="put({ wetFlow: !plan.wetFlow })">wet flow</el-checkbox>
        <el-checkbox :model-value="plan.valveOut" @change="put({ valveOut: !plan.valveOut })">valve out</el-checkbox>
      </div>
    </div>

    <PlanMaps
      :model-value="plan.maps"
      :lift="plan.to ?? plan.list.at(-1) ?? null"
      :problems="problems"
      @update:model-value="put({ maps: $event })"
      @typing="form.typing"
    />

    <PlanLimits :plan="plan" :problems="problems" @put="put" @typing="form.typing" />

    <p v-if="lifts.length" class="reading">
      {{ lifts.length }} lifts: {{ liftsText }}. With {{ plannedPoints(parsed.data!).length }} points it takes about
      <template v-if="time">
        {{ Math.round(time.value / 60) }} minutes,
        <WorkedNumber :working="time" label="seconds" />
        seconds.
      </template>
    </p>
    <PlanTimeline v-if="parsed.success && lifts.length && time" :plan="parsed.data" :seconds="time.value" />
    <FormFoot :form="form" save-word="Save the plan" />
    <p class="template">
      <ChoiceField
        v-if="templates.data.value?.length"
        :model-value="''"
        label="Take the shop’s plan"
        :options="[['', '–'], ...templates.data.value.map((t) => [t.id, t.name] as const)]"
        @update:model-value="put(templates.data.value!.find((t) => t.id === $event)?.plan ?? {})"
      />
      <TextField v-model="templateName" label="Keep this one for the shop as" :problem="templateProblem" />
      <el-button link :disabled="!templateName.trim()" @click="keepTemplate">Save as template</el-button>
    </p>
  </form>
</template>

<style scoped>
.plan {
  max-width: 960px;
}
.list {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 4px 0 0;
}
.template {
  display: grid;
  grid-template-columns: 220px 260px auto;
  gap: 22px;
  align-items: end;
  margin-top: 18px;
}
@media (width < 760px) {
  .template {
    grid-template-columns: minmax(0, 1fr);
  }
}
.template .el-button {
  justify-self: start;
}
</style>
