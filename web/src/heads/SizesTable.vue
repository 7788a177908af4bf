<script setup lang="ts">
import { joined, targetBook, type Side } from '@alluvium/core';
import {
  MEASURE_ITEM_NAMES,
  measuresAt,
  portName,
  removal,
  compressionParts,
  sizeBook,
  sizesFollow,
  type Measure,
  type MeasureItem,
  type Source,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed, useTemplateRef } from 'vue';
import NewSize from './NewSize.vue';
import SpringTable from './SpringTable.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useJudging } from '../data/judging.js';
import { useActiveBuild } from '../data/build.js';
import { useChange } from '../data/useChange.js';
import { useSettings } from '../state/settings.js';

/** Sizes of a stage, found and stated; a size not measured here is handed down from the stage before. */
const props = defineProps<{ whole: WholeHead; stage: Stage; sources: readonly Source[] }>();
const settings = useSettings();
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

const adding = useTemplateRef<InstanceType<typeof NewSize>>('adding');
defineExpose({ begin: (name: MeasureItem, of: Side) => adding.value?.begin(name, of) });
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

const judging = useJudging();
/** Sizes of this head and of the engine it is held against. */
const book = computed(() => {
  const { core, target } = active.value ?? {};
  const sizes = joined(
    sizeBook(holding.value, undefined, judging.value.assumptions),
    compressionParts(holding.value, target).book,
  );
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
      <NewSize ref="adding" :whole="whole" :stage="stage" :sources="sources" :holding="holding" />
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
@media (max-width: 800px) {
  .sizes {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
