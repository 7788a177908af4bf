<script setup lang="ts">
import type { Quantity, Side } from '@alluvium/core';
import {
  addition,
  AT_A_LIFT,
  AT_A_POINT,
  Measure,
  MEASURE_ITEM_NAMES,
  MEASURE_ITEMS,
  portName,
  sizeOf,
  type MeasureItem,
  type Source,
  type Stage,
  type WholeHead,
  firstRefused,
} from '@alluvium/records';
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import { newId } from '../data/ids.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import { idsToMake, sourceOf } from '../parts/newNamed.js';
import QuantityField from '../parts/QuantityField.vue';
import SourceField from '../parts/SourceField.vue';
import TextField from '../parts/TextField.vue';

// portName()!: ports of the head itself.

/** A size to be noted: of which item, who says so, and what else that item asks. */
const props = defineProps<{
  whole: WholeHead;
  stage: Stage;
  sources: readonly Source[];
  /** Sizes that hold at this stage. */
  holding: readonly Measure[];
}>();
const change = useChange('here');
const item = ref<MeasureItem>('valve diameter');
const side = ref<Side>('intake');
const source = ref<string | null>(null);
const idToMake = idsToMake();
const field = useTemplateRef<InstanceType<typeof QuantityField>>('field');
/** Begins a size that is owed: its item and side chosen, the cursor in its field. */
function begin(name: MeasureItem, of: Side): void {
  item.value = name;
  side.value = of;
  void nextTick(() => (field.value?.$el as HTMLElement | undefined)?.querySelector('input')?.focus());
}
defineExpose({ begin });
/** At which lift, at which point, with the valve in or out: asked where the item needs it. */
const lift = ref<Quantity | null>(null);
const place = ref('');
const least = ref<Quantity | null>(null);
const valveFitted = ref<Measure['valveFitted']>('unknown');
const asksLift = computed(() => AT_A_LIFT.has(item.value) || item.value === 'spring open force');
const asksPoint = computed(() => AT_A_POINT.has(item.value));
const value = ref<Quantity | null>(null);
/** The port it was taken on; null when nobody says, or it holds for all. */
const portId = ref<string | null>(null);
const ports = computed(() => props.whole.ports.filter((p) => p.side === side.value));
const onPort = computed(() =>
  spec.value.sided && ports.value.some((p) => p.id === portId.value) ? portId.value : null,
);
/** The valve a throat or bowl is spoken of as a share of. */
const ofValve = computed(() =>
  item.value === 'throat' || item.value === 'bowl'
    ? sizeOf(props.holding, 'valve diameter', side.value)?.value
    : undefined,
);
const instrument = ref('');
const unreadable = ref('');
const problem = ref('');
const spec = computed(() => MEASURE_ITEMS[item.value]);
async function save(): Promise<void> {
  if (unreadable.value || !value.value) return void (problem.value = unreadable.value || 'Type the size.');
  // A source named here is made with the size, in the same change.
  const { id: sourceId, first } = sourceOf(source.value, idToMake, 'maker');
  const size = {
    stageId: props.stage.id,
    item: item.value,
    side: spec.value.sided ? side.value : null,
    portId: onPort.value,
    value: value.value,
    sourceId,
    instrument: instrument.value,
    date: today(),
    lift: asksLift.value ? lift.value : null,
    place: asksPoint.value ? place.value : '',
    least: asksPoint.value ? least.value : null,
    valveFitted: item.value === 'throat' ? valveFitted.value : ('unknown' as const),
  };
  const parsed = Measure.safeParse({ id: newId(), ...size });
  if (!parsed.success) return void (problem.value = firstRefused(parsed.error).message);
  const made = await change.make(
    [...first, addition('measure', parsed.data)],
    `${item.value} ${value.value.typed} noted.`,
  );
  problem.value = change.refusal.value;
  if (!made) return;
  value.value = null;
  source.value = sourceId;
}
</script>

<template>
  <div>
    <form class="new" @submit.prevent="save">
      <ChoiceField v-model="item" label="Item" :options="MEASURE_ITEM_NAMES.map((n) => [n, n] as const)" />
      <ChoiceField
        v-if="spec.sided"
        v-model="side"
        label="Side"
        :options="[
          ['intake', 'intake'],
          ['exhaust', 'exhaust'],
        ]"
      />
      <ChoiceField
        v-if="spec.sided && ports.length"
        v-model="portId"
        label="Port"
        :options="[[null, 'not said'] as const, ...ports.map((p) => [p.id, portName(ports, p.id)!] as const)]"
      />
      <QuantityField
        v-if="asksLift"
        v-model="lift"
        kind="lift"
        label="At the lift"
        @update:problem="unreadable = $event"
      />
      <template v-if="asksPoint">
        <TextField v-model="place" label="Point" placeholder="behind the pushrod" />
        <QuantityField v-model="least" kind="length" label="Work stops at" @update:problem="unreadable = $event" />
      </template>
      <ChoiceField
        v-if="item === 'throat'"
        v-model="valveFitted"
        label="Valve in its guide"
        :options="[
          ['unknown', 'not said'],
          ['in', 'in'],
          ['out', 'out'],
        ]"
      />
      <QuantityField
        ref="field"
        v-model="value"
        :kind="spec.kind"
        label="Size"
        :placeholder="ofValve ? 'or a share of the valve: 90.3 %' : undefined"
        :share-of="ofValve"
        @update:problem="unreadable = $event"
      />
      <SourceField v-model="source" label="Who says so" :sources="sources" none="found by us" />
      <TextField v-model="instrument" label="With" placeholder="calipers" />
      <el-button native-type="submit">Add it</el-button>
    </form>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.new {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(112px, 1fr));
  gap: 14px;
  align-items: end;
  margin-top: 14px;
}
@media (max-width: 800px) {
  .new {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
}
</style>
