<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import { HEAD_KINDS, MATERIALS } from '@alluvium/records';
import { nextTick, onMounted, reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { ApiProblem, add } from '../api/client.js';
import { useRefresh } from '../api/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';

/** A head, its first stage, and the valve sizes that make its coefficients readable. */
const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const refresh = useRefresh();
const head = reactive({
  name: '',
  maker: '',
  kind: 'production' as (typeof HEAD_KINDS)[number],
  material: 'unknown' as (typeof MATERIALS)[number],
  intakeValves: 1,
  exhaustValves: 1,
  price: null as Quantity | null,
});
const stageName = ref('as received');
const valves = reactive<{ intake: Quantity | null; exhaust: Quantity | null }>({ intake: null, exhaust: null });
const problems = ref<Record<string, string>>({});
const unreadable = reactive<Record<string, string>>({});
const pick = <T extends string>(list: readonly T[]) => list.map((v) => [v, v] as const);

onMounted(async () => {
  await nextTick();
  document.querySelector<HTMLInputElement>('.new-head input')?.focus();
});

async function save(): Promise<void> {
  problems.value = {};
  const wrong = Object.values(unreadable).find(Boolean);
  if (wrong) return void (problems.value = { '': wrong });
  if (head.name.trim() === '') return void (problems.value = { name: 'Give it a name.' });
  try {
    const { record } = await add('head', head);
    const { record: stage } = await add('stage', { headId: record.id, name: stageName.value || 'as received' });
    for (const side of ['intake', 'exhaust'] as const) {
      if (valves[side]) await add('measure', { stageId: stage.id, side, item: 'valve diameter', value: valves[side] });
    }
    await refresh();
    await router.push({ name: 'head', params: { id: record.id }, query: { stage: stage.id, sheet: 'new' } });
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    problems.value = { '': error.message, ...Object.fromEntries(error.fields.map((f) => [f.field, f.message])) };
  }
}
</script>

<template>
  <form class="new-head" @submit.prevent="save" @keydown.esc="emit('close')">
    <h2>A new head</h2>
    <div class="fields">
      <TextField v-model="head.name" label="Name" :problem="problems.name" />
      <TextField v-model="head.maker" label="Maker" :problem="problems.maker" />
      <ChoiceField v-model="head.kind" label="Kind" :options="pick(HEAD_KINDS)" />
      <ChoiceField v-model="head.material" label="Material" :options="pick(MATERIALS)" />
      <QuantityField
        v-model="valves.intake"
        kind="length"
        label="Intake valve"
        @update:problem="unreadable.intake = $event"
      />
      <QuantityField
        v-model="valves.exhaust"
        kind="length"
        label="Exhaust valve"
        @update:problem="unreadable.exhaust = $event"
      />
      <ChoiceField
        v-model="head.intakeValves"
        label="Intake valves a cylinder"
        :options="[
          [1, '1'],
          [2, '2'],
          [3, '3'],
        ]"
      />
      <ChoiceField
        v-model="head.exhaustValves"
        label="Exhaust valves a cylinder"
        :options="[
          [1, '1'],
          [2, '2'],
        ]"
      />
      <QuantityField v-model="head.price" kind="money" label="Price" @update:problem="unreadable.price = $event" />
      <TextField v-model="stageName" label="Stage" />
    </div>
    <p v-if="problems['']" class="loss" role="alert">{{ problems[''] }}</p>
    <p class="foot">
      <el-button type="primary" native-type="submit">Add it and type its sheet</el-button>
      <button class="worded" type="button" @click="emit('close')">not now</button>
    </p>
  </form>
</template>

<style scoped>
.new-head {
  border-top: 1px solid var(--rule-strong);
  border-bottom: 1px solid var(--rule-strong);
  padding: 12px 0 4px;
  margin-bottom: 18px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  gap: 10px 24px;
  margin-top: 8px;
}
.foot {
  display: flex;
  gap: 18px;
  align-items: center;
}
</style>
