<script setup lang="ts">
import {
  EXHAUST_EXTRA,
  NEIGHBOURS,
  USUAL_FLOORS,
  evaluateSurvey,
  sectionBudget,
  type Side,
  type System,
} from '@alluvium/core';
import {
  emptySection,
  floorsOf,
  readSections,
  toCoreSections,
  type SectionCells,
  type Survey,
} from '@alluvium/records';
import { computed } from 'vue';
import QuantityField from '../parts/QuantityField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import SectionDrawing from './SectionDrawing.vue';

// stations[]!, sections[]!: one section gives one station.

/** The section at hand as it is typed, drawn with what its walls allow; and the least metal to leave. */
const props = defineProps<{ cells: SectionCells | undefined; side: Side; system: System }>();
const emit = defineEmits<{ typing: [path: string, problem: string] }>();
const floors = defineModel<Survey['floors']>({ required: true });
const least = computed(() => floorsOf(props.side, floors.value));
const current = computed(() => {
  const one = readSections([props.cells ?? emptySection()], props.system).sections;
  const [section] = toCoreSections({ sections: one });
  if (!section) return undefined;
  const result = evaluateSurvey([{ ...section, branch: 0 }]).stations[0]!;
  return { section, result, budget: sectionBudget(section, result.area.value, least.value) };
});
const usual = (n: (typeof NEIGHBOURS)[number]) =>
  `${((USUAL_FLOORS[n] + (props.side === 'exhaust' ? EXHAUST_EXTRA : 0)) * 1000).toFixed(1)} mm`;
</script>

<template>
  <div class="seen">
    <template v-if="current">
      <SectionDrawing :section="current.section" :budget="current.budget" />
      <p>
        area
        <WorkedNumber :working="current.result.area" />
        · hydraulic
        <WorkedNumber :working="current.result.sections[0]!.hydraulic" />
      </p>
    </template>
    <p v-else class="note">The section at hand is drawn here, seen from the flange.</p>
    <details>
      <summary>Least metal to leave</summary>
      <div class="floors">
        <QuantityField
          v-for="n in NEIGHBOURS"
          :key="n"
          :model-value="floors[n] ?? null"
          kind="length"
          :label="n"
          :placeholder="usual(n)"
          @update:model-value="floors = { ...floors, [n]: $event }"
          @update:problem="emit('typing', `floors.${n}`, $event)"
        />
      </div>
    </details>
  </div>
</template>

<style scoped>
.floors {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 14px;
}
summary {
  cursor: pointer;
  color: var(--slate);
}
</style>
