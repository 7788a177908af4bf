<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import { HEAD_KINDS, HeadTemplate, MATERIALS, addition } from '@alluvium/records';
import { useStorage } from '@vueuse/core';
import { nextTick, onMounted, reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { newId } from '../data/ids.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import TemplateLine from '../parts/TemplateLine.vue';
import TextField from '../parts/TextField.vue';

/** A head, its first stage, and the valve sizes that make its coefficients readable: one change. */
const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const change = useChange('here');
const BLANK = {
  id: '',
  stageId: '',
  name: '',
  maker: '',
  kind: 'production' as (typeof HEAD_KINDS)[number],
  material: 'unknown' as (typeof MATERIALS)[number],
  intakeValves: 1,
  exhaustValves: 1,
  price: null as Quantity | null,
  stage: 'as received',
  intake: null as Quantity | null,
  exhaust: null as Quantity | null,
};
/** Kept in this browser until it is added. The ids go along, so that a head sent twice is one. */
const draft = useStorage('alluvium.draft.head.new', { ...BLANK });
draft.value.id ||= newId();
draft.value.stageId ||= newId();
const problems = ref<Record<string, string>>({});
const unreadable = reactive<Record<string, string>>({});
const pick = <T extends string>(list: readonly T[]) => list.map((v) => [v, v] as const);

onMounted(async () => {
  await nextTick();
  document.querySelector<HTMLInputElement>('.new-head .fields input')?.focus();
});

/** What heads of the kind have in common; its name, maker and price stay as typed. */
const take = (content: HeadTemplate) => (draft.value = { ...draft.value, ...content });
const common = () => HeadTemplate.safeParse(draft.value).data;

async function save(): Promise<void> {
  problems.value = {};
  const wrong = Object.values(unreadable).find(Boolean);
  if (wrong) return void (problems.value = { '': wrong });
  const { id, stageId, stage, intake, exhaust, ...head } = draft.value;
  if (head.name.trim() === '') return void (problems.value = { name: 'Give it a name.' });
  const sizes = { intake, exhaust };
  const made = await change.make(
    [
      addition('head', { id, ...head }),
      addition('stage', { id: stageId, headId: id, name: stage || 'as received' }),
      ...(['intake', 'exhaust'] as const).flatMap((side) => {
        const value = sizes[side];
        return value
          ? [addition('measure', { id: `${stageId}-${side[0]}`, stageId, side, item: 'valve diameter', value })]
          : [];
      }),
    ],
    `${head.name} added.`,
  );
  if (!made) {
    const fields = change.problem.value?.fields ?? [];
    problems.value = {
      '': change.refusal.value,
      ...Object.fromEntries(fields.map((f) => [f.field, f.message])),
    };
    return;
  }
  draft.value = { ...BLANK };
  await router.push({ name: 'head', params: { id }, query: { stage: stageId, sheet: 'new' } });
}
</script>

<template>
  <form class="new-head" @submit.prevent="save" @keydown.esc="emit('close')">
    <h2>A new head</h2>
    <TemplateLine of="head" :content="common" @take="take" />
    <div class="fields">
      <TextField v-model="draft.name" label="Name" :problem="problems.name" required />
      <TextField v-model="draft.maker" label="Maker" :problem="problems.maker" />
      <ChoiceField v-model="draft.kind" label="Kind" :options="pick(HEAD_KINDS)" />
      <ChoiceField v-model="draft.material" label="Material" :options="pick(MATERIALS)" />
      <QuantityField
        v-model="draft.intake"
        kind="length"
        label="Intake valve"
        @update:problem="unreadable.intake = $event"
      />
      <QuantityField
        v-model="draft.exhaust"
        kind="length"
        label="Exhaust valve"
        @update:problem="unreadable.exhaust = $event"
      />
      <ChoiceField
        v-model="draft.intakeValves"
        label="Intake valves a cylinder"
        :options="[
          [1, '1'],
          [2, '2'],
          [3, '3'],
        ]"
      />
      <ChoiceField
        v-model="draft.exhaustValves"
        label="Exhaust valves a cylinder"
        :options="[
          [1, '1'],
          [2, '2'],
        ]"
      />
      <QuantityField v-model="draft.price" kind="money" label="Price" @update:problem="unreadable.price = $event" />
      <TextField v-model="draft.stage" label="Stage" />
    </div>
    <p v-if="problems['']" class="loss" role="alert">{{ problems[''] }}</p>
    <p class="foot">
      <el-button type="primary" native-type="submit">Add it and type its sheet</el-button>
      <el-button link @click="emit('close')">Cancel</el-button>
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
