<script setup lang="ts">
import {
  format,
  noted,
  offsetCorrection,
  offsetSpread,
  work,
  type Quantity,
  type Side,
  type Working,
} from '@alluvium/core';
import { computed, ref } from 'vue';
import { useCatalogue } from '../data/claims.js';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import WideFrame from '../parts/WideFrame.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';

// chosen.value!: shown with a row chosen.

const props = defineProps<{
  /** Sources the net ties to the bench, with how far each is off and how well that is known. */
  tied: readonly {
    readonly id: string;
    readonly percent: number;
    readonly offset: number;
    readonly plus?: Working | undefined;
  }[];
  side: Side;
  name: (id: string) => string;
}>();
const settings = useSettings();
/** What if: a source's whole catalogue, and any one figure of it, read through its offset. */
const through = ref('');
const figure = ref<Quantity | null>(null);
const chosen = computed(() => props.tied.find((r) => r.id === through.value));
function readThrough(flow: number) {
  const row = chosen.value!;
  const percent = format(row.percent, 'percent', settings.figures, { signed: true });
  return work(offsetCorrection, {
    flow: noted(flow, `as ${props.name(row.id)} says`),
    offset: noted(row.offset, `${percent} against our bench`),
  });
}
const read = computed(() => (chosen.value && figure.value ? readThrough(figure.value.si) : undefined));
const tables = useCatalogue(
  () => chosen.value?.id ?? '',
  () => props.side,
);
const catalogue = computed(() =>
  chosen.value ? (tables.data.value?.items ?? []).map((t) => ({ ...t, here: readThrough(t.peak.flow) })) : [],
);
const more = computed(() => Math.max(0, (tables.data.value?.total ?? 0) - catalogue.value.length));
/** What the offset leaves open of a figure read through. */
const openOf = (flow: Working) => chosen.value?.plus && work(offsetSpread, { flow, share: chosen.value.plus });
</script>

<template>
  <div>
    <h2>Read a catalogue through its offset</h2>
    <div class="fields">
      <ChoiceField v-model="through" label="Source" :options="tied.map((r) => [r.id, name(r.id)] as const)" />
      <QuantityField v-model="figure" kind="flow" label="Its figure" />
      <p v-if="read" class="reading">
        On our bench that would be about
        <WorkedNumber :working="read" />
        <template v-if="openOf(read)">
          ±
          <WorkedNumber :working="openOf(read)" />
        </template>
      </p>
    </div>
    <WideFrame v-if="catalogue.length">
      <table class="ruled">
        <thead>
          <tr>
            <th>its tables</th>
            <th class="num">peak, as it says</th>
            <th class="num">at lift</th>
            <th class="num">on our bench</th>
            <th class="num">Uncertainty (±)</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in catalogue" :key="t.sheetId">
            <td>
              <RouterLink :to="{ name: 'claims', params: { id: t.headId }, query: { stage: t.stageId } }">
                {{ t.name }}
              </RouterLink>
            </td>
            <td class="num">{{ format(t.peak.flow, 'flow', settings.figures) }}</td>
            <td class="num">{{ format(t.peak.lift, 'lift', settings.figures) }}</td>
            <td class="num"><WorkedNumber :working="t.here" /></td>
            <td class="num"><WorkedNumber v-if="openOf(t.here)" :working="openOf(t.here)" /></td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <p v-if="more > 0" class="note">And {{ more }} more tables of this source.</p>
  </div>
</template>

<style scoped>
h2 {
  margin-top: 16px;
}
.fields {
  display: grid;
  grid-template-columns: 200px 160px 1fr;
  gap: 20px;
  align-items: end;
}
@media (width < 760px) {
  .fields {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
