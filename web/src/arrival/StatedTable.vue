<script setup lang="ts">
import { USUAL_SPRING_CLEARANCE, camLiftOf, format, type Quantity, type Working, isWorking } from '@alluvium/core';
import {
  MEASURE_ITEMS,
  addition,
  removal,
  replacement,
  springAt,
  statedAgainstFound,
  type StatedItem,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed, ref } from 'vue';
import { useListOf } from '../data/queries.js';
import QuantityField from '../parts/QuantityField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useActiveBuild } from '../data/build.js';
import { useSettings } from '../state/settings.js';
import { useChange } from '../data/useChange.js';
import PlaceCell from '../parts/PlaceCell.vue';

// i.foundMean!, i.spread!: set where anything was found.
// pending.value[]!: its key is there.

/** Every sized item: the maker's figure, the found one, and whether the difference matters; then the springs. */
const props = defineProps<{ whole: WholeHead; stage: Stage }>();
const settings = useSettings();
const change = useChange('here');
const { active } = useActiveBuild();
const tolerances = useListOf('tolerance');
const items = computed(() => statedAgainstFound(props.whole, props.stage.id, tolerances.data.value ?? []));
const both = computed(() => items.value.filter((i) => i.difference));
const rest = computed(() => items.value.filter((i) => !i.difference));
const unreadable = ref<Record<string, string>>({});

const typedOf = (list: StatedItem['stated']) => [...new Set(list.map((m) => m.value.typed))].join(', ');
const found = (i: StatedItem) =>
  i.found.length > 1
    ? `${format(i.foundMean!, MEASURE_ITEMS[i.item].kind, settings.figures)} (${i.found.length}, spread ${format(i.spread!, MEASURE_ITEMS[i.item].kind, settings.figures)})`
    : typedOf(i.found);
const tolerance = (i: StatedItem): Quantity => {
  const own = tolerances.data.value?.find((t) => t.item === i.item);
  return own ? own.value : { si: i.tolerance, typed: MEASURE_ITEMS[i.item].tolerance };
};
async function setTolerance(i: StatedItem, value: Quantity | null): Promise<void> {
  const own = tolerances.data.value?.find((t) => t.item === i.item);
  if (value?.typed === tolerance(i).typed) return;
  const step = value
    ? own
      ? replacement('tolerance', { ...own, value })
      : addition('tolerance', { item: i.item, value })
    : own && removal('tolerance', own.id);
  if (!step) return;
  await change.make(
    [step],
    value ? `${i.item}: from ${value.typed} on a difference matters.` : `${i.item}: the usual again.`,
  );
  unreadable.value = { ...unreadable.value, [i.item]: change.refusal.value };
}
const pending = ref<Record<string, Quantity | null>>({});
function leave(i: StatedItem): void {
  const key = i.item;
  if (key in pending.value && !unreadable.value[key]) void setTolerance(i, pending.value[key]!);
  delete pending.value[key];
}

const springs = computed(() =>
  (['intake', 'exhaust'] as const).flatMap((side) => {
    const lift = active.value?.core.cam && camLiftOf(active.value.core.cam, side);
    const spring = springAt(items.value, side, lift);
    const any = Object.keys(spring.found).length + Object.keys(spring.stated).length > 0;
    return any ? [{ side, lift, ...spring }] : [];
  }),
);
const force = (given: unknown) =>
  given === undefined
    ? '–'
    : format(typeof given === 'number' ? given : (given as { value: number }).value, 'force', settings.figures);
const tight = (w: Working | undefined) => w !== undefined && w.value < USUAL_SPRING_CLEARANCE;
</script>

<template>
  <div class="stated">
    <table v-if="both.length" class="ruled">
      <thead>
        <tr>
          <th>item</th>
          <th class="num">stated</th>
          <th class="num">found</th>
          <th class="num">difference</th>
          <th class="from">matters from</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="i in both" :key="`${i.item}${i.side}`" :class="{ matters: i.matters }">
          <td>{{ i.item }}{{ i.side ? `, ${i.side}` : '' }}</td>
          <td class="num">{{ typedOf(i.stated) }}</td>
          <td class="num">{{ found(i) }}</td>
          <td class="num">
            <WorkedNumber :working="i.difference" signed :label="`${i.item}: found less stated`" />
            <small v-if="i.atFound" class="note">stated, at the height found: {{ force(i.atFound) }}</small>
          </td>
          <td>
            <QuantityField
              :model-value="tolerance(i)"
              :kind="MEASURE_ITEMS[i.item].kind"
              :label="`${i.item}: a difference matters from`"
              hide-label
              :problem="unreadable[i.item]"
              @update:model-value="pending[i.item] = $event"
              @update:problem="unreadable[i.item] = $event"
              @focusout="leave(i)"
              @keydown.enter="($event.target as HTMLElement).blur()"
            />
          </td>
          <td>
            <b v-if="i.matters" class="loss">it matters</b>
            <span v-else class="quiet">agrees</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="note">
      Nothing is both stated and found yet. Type the maker’s figures under sizes with their source; measure the same
      here.
    </p>
    <template v-if="rest.length">
      <h2>On one side only</h2>
      <table class="ruled">
        <tbody>
          <tr v-for="i in rest" :key="`${i.item}${i.side}`">
            <td>{{ i.item }}{{ i.side ? `, ${i.side}` : '' }}</td>
            <td class="num">{{ i.stated.length ? `stated ${typedOf(i.stated)}` : '' }}</td>
            <td class="num">
              <PlaceCell
                v-if="i.found.length === 0"
                :stage-id="stage.id"
                :item="i.item"
                :side="i.side"
                :port-id="null"
                :valve="null"
                :label="`${i.item}${i.side ? `, ${i.side}` : ''}, found`"
              />
              <template v-else>found {{ found(i) }}</template>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <template v-for="s in springs" :key="s.side">
      <h2>
        {{ s.side }} spring
        <span class="note">
          {{ s.lift ? `at this cam’s ${settings.say.of(s.lift, 'lift')}` : 'no cam yet: no open force' }}
        </span>
      </h2>
      <table class="ruled spring">
        <thead>
          <tr>
            <th></th>
            <th class="num">by the maker’s figures</th>
            <th class="num">as it stands</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>force, valve shut</td>
            <td class="num">{{ force(s.stated.seatForce) }}</td>
            <td class="num">
              <WorkedNumber v-if="isWorking(s.found.seatForce)" :working="s.found.seatForce" />
              <template v-else>{{ force(s.found.seatForce) }}</template>
            </td>
          </tr>
          <tr>
            <td>force, valve open</td>
            <td class="num"><WorkedNumber :working="s.stated.openForce" /></td>
            <td class="num"><WorkedNumber :working="s.found.openForce" /></td>
          </tr>
          <tr>
            <td>clearance to coil bind</td>
            <td class="num"><WorkedNumber :working="s.stated.coilBind" /></td>
            <td class="num" :class="{ loss: tight(s.found.coilBind) }">
              <WorkedNumber :working="s.found.coilBind" />
            </td>
          </tr>
          <tr>
            <td>retainer to seal, valve open</td>
            <td class="num"><WorkedNumber :working="s.stated.retainer" /></td>
            <td class="num" :class="{ loss: tight(s.found.retainer) }">
              <WorkedNumber :working="s.found.retainer" />
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.stated h2 {
  margin: 16px 0 4px;
}
.matters td:first-child {
  font-weight: 600;
}
.from {
  width: 120px;
}
.spring {
  max-width: 520px;
}
</style>
