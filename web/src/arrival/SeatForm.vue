<script setup lang="ts">
import { vacuumHeld, workIf } from '@alluvium/core';
import {
  BERYLLIUM_CAUTION,
  RING_MATERIALS,
  SEAL_RESULTS,
  UNKNOWN_RING_CAUTION,
  likelyLook,
  looksAt,
  removal,
  seatName,
  type RecordOf,
  type Seat,
  type WholeHead,
} from '@alluvium/records';
import { computed } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { useChange } from '../data/useChange.js';
import { today } from '../data/today.js';
import { useSettings } from '../state/settings.js';

/** A new look at one seat. Earlier looks stay beneath it. */
const props = defineProps<{
  whole: WholeHead;
  stageId: string;
  seat: { side: 'intake' | 'exhaust'; cylinder: number; valve: number };
}>();
const settings = useSettings();
const change = useChange();
const looks = computed(() => looksAt(props.whole, props.seat).toReversed());
const likely = computed(() => likelyLook(props.whole, props.seat));
const form = useRecordForm(
  'seat',
  () => undefined,
  (): Draft<'seat'> => ({
    id: 'new',
    version: 1,
    stageId: props.stageId,
    ...props.seat,
    result: 'untested',
    drawn: likely.value?.drawn ?? null,
    held: null,
    seconds: likely.value?.seconds ?? null,
    ringMaterial: likely.value?.ringMaterial ?? 'unknown',
    ringOutside: likely.value?.ringOutside ?? null,
    ringInside: likely.value?.ringInside ?? null,
    date: today(),
    note: '',
  }),
  (s: RecordOf<'seat'>) => `${seatName(s, props.whole.head)}: ${s.result}.`,
  { scope: `.${props.stageId}.${props.seat.side}${props.seat.cylinder}.${props.seat.valve}` },
);
const { draft, problems } = form;
const held = computed(() => {
  const { drawn, held: left } = draft.value;
  return drawn && left && drawn.si > 0 ? workIf(vacuumHeld, { held: left.si, drawn: drawn.si }) : undefined;
});
const seconds = computed({
  get: () => (draft.value.seconds === null ? '' : String(draft.value.seconds)),
  set: (text) => {
    const n = Number(text.replace(',', '.'));
    const empty = text.trim() === '';
    form.typing('seconds', empty || Number.isFinite(n) ? '' : `“${text}” is not a number of seconds.`);
    if (empty || Number.isFinite(n)) draft.value.seconds = empty ? null : n;
  },
});
const remove = (look: Seat) =>
  change.make([removal('seat', look.id)], `A look at the ${seatName(look, props.whole.head)} is removed.`);
</script>

<template>
  <form data-own-keys @submit.prevent="form.save()">
    <h2>The {{ seatName(seat, whole.head) }}</h2>
    <p v-if="draft.ringMaterial === 'copper-beryllium'" class="caution beryllium" role="note">
      {{ BERYLLIUM_CAUTION }}
    </p>
    <p v-else-if="draft.ringMaterial === 'unknown' || draft.ringMaterial === 'bronze'" class="caution" role="note">
      {{ UNKNOWN_RING_CAUTION }}
    </p>
    <div class="fields">
      <ChoiceField v-model="draft.result" label="Seal test" :options="SEAL_RESULTS.map((r) => [r, r] as const)" />
      <FormQuantity :form="form" field="drawn" kind="pressure" label="Vacuum drawn" placeholder="20 inHg" />
      <FormQuantity :form="form" field="held" kind="pressure" label="Left after the time" placeholder="19 inHg" />
      <TextField v-model="seconds" label="Seconds" :problem="problems.seconds" />
      <ChoiceField
        v-model="draft.ringMaterial"
        label="Ring"
        :options="RING_MATERIALS.map((r) => [r, r === 'integral' ? 'cut in the casting' : r] as const)"
      />
      <FormQuantity :form="form" field="ringOutside" kind="length" label="Ring outside" />
      <FormQuantity :form="form" field="ringInside" kind="length" label="Ring inside" />
      <TextField v-model="draft.note" label="Note" :problem="problems.note" />
    </div>
    <p v-if="held" class="note">
      It held
      <WorkedNumber :working="held" :digits="0" />
      of what was drawn.
    </p>
    <FormFoot :form="form" save-word="Note this look" />
    <ul v-if="looks.length" class="looks">
      <li v-for="l in looks" :key="l.id">
        <b :class="{ loss: l.result === 'leaks' }">{{ l.result }}</b>
        {{
          [
            l.held ? `${l.held.typed} left of ${l.drawn?.typed ?? '?'}` : '',
            l.ringMaterial,
            settings.say.day(l.date ?? ''),
            l.note,
          ]
            .filter(Boolean)
            .join(' · ')
        }}
        <el-button link :aria-label="`Remove the look of ${settings.say.day(l.date ?? '')}`" @click="remove(l)">
          Remove
        </el-button>
      </li>
    </ul>
  </form>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px 20px;
  margin-top: 6px;
}
.beryllium {
  border: 2px solid var(--caution-line);
  padding: 8px 12px;
  font-weight: 500;
}
.looks {
  list-style: none;
  padding: 0;
  margin: 12px 0 0;
}
.looks li {
  border-top: 1px solid var(--rule);
  padding: 3px 0;
  display: flex;
  gap: 12px;
}
.looks button {
  margin-left: auto;
}
</style>
