<script setup lang="ts">
import { type MeasureItem, type Stage, type WholeHead } from '@alluvium/records';
import PlaceCell from './PlaceCell.vue';

/** Sizes of a stage, one row each, of one side or of none; `notes` stands beside the field. */
const props = defineProps<{
  whole: WholeHead;
  stage: Stage;
  side: 'intake' | 'exhaust' | null;
  items: readonly MeasureItem[];
  notes?: (item: MeasureItem) => string;
}>();
defineEmits<{ typed: [MeasureItem, number | undefined] }>();
/** What was found at this very stage, for the stage as a whole; the newest when measured more than once. */
const here = (item: MeasureItem) =>
  props.whole.measures
    .filter(
      (m) =>
        m.stageId === props.stage.id &&
        m.item === item &&
        m.side === props.side &&
        m.sourceId === null &&
        m.portId === null,
    )
    .at(-1);
</script>

<template>
  <table class="ruled">
    <tbody>
      <tr v-for="item in items" :key="item">
        <th>{{ item }}</th>
        <td>
          <PlaceCell
            :key="`${item}${side}${stage.id}`"
            :stage-id="stage.id"
            :item="item"
            :side="side"
            :port-id="null"
            :valve="null"
            :label="side ? `${item}, ${side}` : item"
            :measure="here(item)"
            @typed="$emit('typed', item, $event)"
          />
        </td>
        <td v-if="notes" class="note">{{ notes(item) }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table.ruled th {
  border-bottom: 1px solid var(--rule);
  font-weight: 400;
  text-align: left;
  white-space: nowrap;
}
table.ruled td,
table.ruled th {
  padding-top: 0;
  padding-bottom: 0;
}
td {
  vertical-align: top;
}
</style>
