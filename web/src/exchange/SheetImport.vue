<script setup lang="ts">
import type { DecimalSign, Quantity } from '@alluvium/core';
import { addition, readSheetTable, readTable, type Step } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { newId } from '../data/ids.js';
import { useListOf, useWholeHead } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import { useSettings } from '../state/settings.js';
import HeadPicker from '../parts/HeadPicker.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';
import SheetPreview from './SheetPreview.vue';
import type { Pending } from './exchange.js';

// sample!: a style that is not sure has one.

/** A flow sheet from a file: shown as it was read, then put on a head and stage as one change. */
const props = defineProps<{ pending: Extract<Pending, { kind: 'sheet' }> }>();
const emit = defineEmits<{ done: [] }>();
const route = useRoute();
const router = useRouter();
const change = useChange('here');

const NEW = 'new head';
// A page that may do without a head says so with an empty name.
const headId = ref((typeof route.params.id === 'string' && route.params.id) || NEW);
const stageId = ref(typeof route.query.stage === 'string' ? route.query.stage : '');
const settings = useSettings();
const sources = useListOf('source');
// What the file leaves open is asked, never guessed in silence.
const decimal = ref<DecimalSign>();
const liftUnit = ref<'in' | 'mm'>();
const density = ref<Quantity | null>(null);
const plain = computed(() => readTable(props.pending.table));
const asksDecimal = computed(() => (plain.value.style?.sure === false ? plain.value.style.sample! : ''));
const likely = computed(() => readSheetTable(plain.value, '', settings.system).liftUnit);
const asksUnit = computed(() => likely.value !== undefined);
/** The source the file names, where it is here. */
const known = computed(() => {
  const name = plain.value.setup.source?.toLowerCase();
  return name === undefined ? undefined : sources.data.value?.find((s) => s.name.toLowerCase() === name);
});
const file = computed(() =>
  readSheetTable(
    decimal.value ? readTable(props.pending.table, decimal.value) : plain.value,
    props.pending.title,
    settings.system,
    // Shown as it is likely meant; taken only once it is said.
    { liftUnit: liftUnit.value ?? likely.value, density: density.value?.si, bench: known.value },
  ),
);
const open = computed(
  () =>
    (asksDecimal.value !== '' && !decimal.value) ||
    (asksUnit.value && !liftUnit.value) ||
    (file.value.massFlow !== undefined && !density.value),
);
const headName = ref(file.value.sheet.title);
const title = ref(file.value.sheet.title);
const whole = useWholeHead(() => (headId.value === NEW ? '' : headId.value));
const stages = computed(() =>
  headId.value === NEW ? [] : (whole.data.value?.stages ?? []).map((s) => [s.id, s.name] as const),
);
const stage = computed({
  get: () => (stages.value.some(([id]) => id === stageId.value) ? stageId.value : (stages.value.at(-1)?.[0] ?? '')),
  set: (id) => (stageId.value = id),
});
/** Made here, so that an import sent twice is one. */
const ids = { head: newId(), stage: newId(), sheet: newId(), source: newId(), intake: newId(), exhaust: newId() };
/** The source and ports the file names: those that are here, else made with the sheet. */
function resolve(head: string) {
  const { names, sheet } = file.value;
  const first: Step[] = [];
  if (names.source && !known.value)
    first.push(
      addition('source', { id: ids.source, name: names.source, kind: sheet.kind === 'claim' ? 'maker' : 'own bench' }),
    );
  const port = (side: 'intake' | 'exhaust') => {
    const number = names[`${side}Port`];
    if (number === undefined) return null;
    const here = whole.data.value?.ports.find((p) => p.headId === head && p.side === side && p.number === number);
    if (!here) first.push(addition('port', { id: ids[side], headId: head, side, number }));
    return here?.id ?? ids[side];
  };
  const references = {
    sourceId: names.source ? (known.value?.id ?? ids.source) : null,
    intakePortId: port('intake'),
    exhaustPortId: port('exhaust'),
  };
  return { first, references };
}

async function accept(): Promise<void> {
  const isNew = headId.value === NEW;
  const at = isNew ? ids.stage : stage.value;
  const first: Step[] = isNew
    ? [
        addition('head', { id: ids.head, name: headName.value }),
        addition('stage', { id: ids.stage, headId: ids.head, name: 'as received' }),
      ]
    : [];
  const named = resolve(isNew ? ids.head : headId.value);
  const sheet = addition('sheet', {
    ...file.value.sheet,
    ...named.references,
    id: ids.sheet,
    title: title.value,
    stageId: at,
  });
  if (!(await change.make([...first, ...named.first, sheet], `${title.value} imported.`))) return;
  emit('done');
  await router.push({
    name: 'head',
    params: { id: isNew ? ids.head : headId.value },
    query: { stage: at, sheet: ids.sheet },
  });
}
</script>

<template>
  <div class="two">
    <SheetPreview :file="file" />
    <form class="fields" @submit.prevent="accept">
      <HeadPicker v-model="headId" label="Put it on" :makes="false" :others="[[NEW, 'a new head']]" />
      <TextField v-if="headId === NEW" v-model="headName" label="Name of the head" />
      <ChoiceField v-else v-model="stage" label="at stage" :options="stages" />
      <TextField v-model="title" label="Title of the sheet" />
      <div v-if="asksDecimal" class="asked">
        <span id="asks-decimal" class="caution">How much is “{{ asksDecimal }}”?</span>
        <el-radio-group v-model="decimal" aria-labelledby="asks-decimal">
          <el-radio value=".">{{ asksDecimal.replace(',', '') }}</el-radio>
          <el-radio value=",">{{ asksDecimal.replace(',', '.') }}</el-radio>
        </el-radio-group>
      </div>
      <div v-if="asksUnit" class="asked">
        <span id="asks-unit" class="caution">The lifts have no unit. They are in</span>
        <el-radio-group v-model="liftUnit" aria-labelledby="asks-unit">
          <el-radio value="mm">millimetres</el-radio>
          <el-radio value="in">inches</el-radio>
        </el-radio-group>
      </div>
      <QuantityField
        v-if="file.massFlow"
        v-model="density"
        kind="density"
        :label="`Density of the air, for flows in ${file.massFlow}`"
        placeholder="1.204 kg/m³ at 20 °C, 1013 mbar, dry"
      />
      <template v-if="file.problems.length">
        <p class="caution">Not everything could be read. What stands here is left out:</p>
        <ul class="problems">
          <li v-for="(p, i) in file.problems" :key="i">{{ p }}</li>
        </ul>
      </template>
      <p v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</p>
      <el-button
        type="primary"
        native-type="submit"
        :loading="change.busy.value"
        :disabled="file.sheet.rows.length === 0 || open"
      >
        Import
      </el-button>
    </form>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 26px;
}
.fields {
  display: flex;
  flex-direction: column;
  gap: 10px;
  align-items: stretch;
}
.asked {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
}
.problems {
  max-height: 180px;
  overflow: auto;
  padding-left: 18px;
  margin: 0;
}
</style>
