<script setup lang="ts">
import type { Call, Session } from '@alluvium/records';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { today } from '../data/today.js';

/** Call it first: what is expected, written before the first reading and scored after the last. */
const props = defineProps<{ session: Session; call: Call | undefined; closed: boolean }>();
const form = useRecordForm(
  'call',
  () => props.call,
  (): Draft<'call'> => ({
    id: 'new',
    version: 1,
    sessionId: props.session.id,
    stageId: null,
    side: null,
    lift: null,
    flow: null,
    on: '',
    who: '',
    intakePeak: null,
    exhaustPeak: null,
    worst: '',
    date: today(),
  }),
  () => 'The call is kept.',
  { scope: `.${props.session.id}` },
);
const { draft, problems } = form;
</script>

<template>
  <section class="call">
    <h2>Call it first</h2>
    <p v-if="closed && !call" class="note">
      Nobody called this test. A call is made before the first reading, so that it says something of the eye.
    </p>
    <p v-else-if="closed && call" class="reading">
      {{ call.who || 'Somebody' }} called
      {{
        [call.intakePeak && `${call.intakePeak.typed} intake`, call.exhaustPeak && `${call.exhaustPeak.typed} exhaust`]
          .filter(Boolean)
          .join(' and ')
      }}{{ call.worst ? `; worst: ${call.worst}` : '' }}.
    </p>
    <form v-else data-own-keys @submit.prevent="form.save()">
      <div class="field-grid">
        <TextField v-model="draft.who" label="Predicted by" :problem="problems.who" />
        <FormQuantity :form="form" field="intakePeak" kind="flow" label="Peak intake" />
        <FormQuantity :form="form" field="exhaustPeak" kind="flow" label="Peak exhaust" />
        <TextField v-model="draft.worst" label="Worst place" placeholder="short turn" :problem="problems.worst" />
      </div>
      <FormFoot :form="form" save-word="Save prediction" />
    </form>
  </section>
</template>

<style scoped>
.call {
  max-width: 960px;
  margin-top: 20px;
}
</style>
