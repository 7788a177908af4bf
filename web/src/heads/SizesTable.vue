<script setup lang="ts">
import { joined, targetBook, type Quantity, type Side } from '@alluvium/core';
import {
  addition,
  MEASURE_ITEM_NAMES,
  MEASURE_ITEMS,
  Measure,
  AT_A_LIFT,
  AT_A_POINT,
  measuresAt,
  portName,
  removal,
  sizeBook,
  sizesFollow,
  sizeOf,
  type MeasureItem,
  type Source,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import SourceField from '../parts/SourceField.vue';
import TextField from '../parts/TextField.vue';
import { idsToMake, sourceOf } from '../parts/newNamed.js';
import { newId } from '../data/ids.js';
import QuantityField from '../parts/QuantityField.vue';
import SpringTable from './SpringTable.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useJudging } from '../data/judging.js';
import { useActiveBuild } from '../data/build.js';
import { useChange } from '../data/useChange.js';
import { today } from '../data/today.js';
import { useSettings } from '../state/settings.js';

/** Sizes of a stage, found and stated; a size not measured here is handed down from the stage before. */
const props = defineProps<{ whole: WholeHead; stage: Stage; sources: readonly Source[] }>();
const settings = useSettings();
const change = useChange('here');
const removing = useChange();
const { active } = useActiveBuild();

const holding = computed(() => measuresAt(props.whole, props.stage.id));
const stageName = (id: string) => props.whole.stages.find((s) => s.id === id)?.name;
const rows = computed(() => {
  const here = props.whole.measures.filter((m) => m.stageId === props.stage.id);
  const handed = holding.value.filter((m) => m.stageId !== props.stage.id);
  const order = (m: Measure) =>
    MEASURE_ITEM_NAMES.indexOf(m.item) * 4 + (m.side === 'exhaust' ? 2 : 0) + (m.sourceId ? 1 : 0);
  return [...here, ...handed].sort((a, b) => order(a) - order(b));
});

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
  item.value === 'throat' || item.value === 'bowl' ? size('valve diameter', side.value)?.value : undefined,
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
  if (!parsed.success) return void (problem.value = parsed.error.issues[0]!.message);
  const made = await change.make(
    [...first, addition('measure', parsed.data)],
    `${item.value} ${value.value.typed} noted.`,
  );
  problem.value = change.refusal.value;
  if (!made) return;
  value.value = null;
  source.value = sourceId;
}
const details = (m: Measure) =>
  [
    m.place,
    m.lift && `at ${m.lift.typed}`,
    m.least && `work stops at ${m.least.typed}`,
    m.valveFitted !== 'unknown' && `valve ${m.valveFitted}`,
    m.date && settings.say.day(m.date),
    m.instrument,
    m.note,
  ]
    .filter(Boolean)
    .join(' · ');
const remove = (m: Measure) => removing.make([removal('measure', m.id)], `${m.item} ${m.value.typed} removed.`);

const size = (name: MeasureItem, s: Side | null = null) => sizeOf(holding.value, name, s);
const judging = useJudging();
/** Sizes of this head and of the engine it is held against. */
const book = computed(() => {
  const sizes = sizeBook(holding.value, undefined, judging.value.assumptions);
  const { core, target } = active.value ?? {};
  return core && target ? joined(sizes, targetBook(core, target, judging.value.assumptions)) : sizes;
});
const follows = computed(() =>
  sizesFollow(holding.value, active.value?.core, active.value?.target, active.value?.build.name),
);
</script>

<template>
  <div class="sizes">
    <div>
      <h2>Sizes, {{ stage.name }}</h2>
      <div class="framed">
        <table class="ruled">
          <thead>
            <tr>
              <th>item</th>
              <th>side</th>
              <th class="num">size</th>
              <th>who says so</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="m in rows" :key="m.id" :class="{ handed: m.stageId !== stage.id, stated: m.sourceId }">
              <td>{{ m.item }}</td>
              <td>{{ [m.side, portName(whole.ports, m.portId)].filter(Boolean).join(', ') }}</td>
              <td class="num">{{ m.value.typed }}</td>
              <td class="note">
                {{
                  m.sourceId
                    ? `stated: ${sources.find((s) => s.id === m.sourceId)?.name ?? 'a source'}`
                    : m.stageId === stage.id
                      ? 'found'
                      : `found at ${stageName(m.stageId)}`
                }}
                <small>{{ details(m) }}</small>
              </td>
              <td>
                <el-button
                  v-if="m.stageId === stage.id"
                  link
                  :aria-label="`Remove ${m.item} ${m.value.typed}`"
                  @click="remove(m)"
                >
                  Remove
                </el-button>
              </td>
            </tr>
            <tr v-if="rows.length === 0">
              <td colspan="5" class="note">
                Nothing measured yet. The valve diameter is worth most: it makes coefficients of the flow.
              </td>
            </tr>
          </tbody>
        </table>
      </div>
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
    <div class="beside">
      <slot name="before" />
      <h2>What follows</h2>
      <table v-if="follows.length" class="ruled">
        <tbody>
          <tr v-for="[name, working] in follows" :key="name">
            <td>{{ name }}</td>
            <td class="num"><WorkedNumber :working="working" :label="name" :book="book" /></td>
          </tr>
        </tbody>
      </table>
      <p v-else class="note">
        Throat and bowl of the valve, mean port area and spring forces appear here as their sizes are known.
      </p>
      <SpringTable :measures="holding" />
      <p class="note">Wear eye protection when springs are compressed or valve locks come out.</p>
      <slot name="after" />
    </div>
  </div>
</template>

<style scoped>
.sizes {
  display: grid;
  grid-template-columns: 3fr 2fr;
  gap: 34px;
  align-items: start;
}
.beside {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.beside h2 {
  margin: 0;
}
.handed td {
  color: var(--slate);
}
.note small {
  font: 13px var(--sans);
}
.stated td {
  color: var(--caution);
}
.new {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(112px, 1fr));
  gap: 14px;
  align-items: end;
  margin-top: 14px;
}
@media (max-width: 800px) {
  .sizes {
    grid-template-columns: minmax(0, 1fr);
  }
  .new {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
}
</style>
