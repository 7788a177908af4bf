<script setup lang="ts">
import { evaluateSurvey, unitFor, format, type Side } from '@alluvium/core';
import {
  differencesOf,
  surveyAt,
  toCoreSections,
  type LedgerRow,
  type Operation,
  type StageDifference,
  type WholeHead,
} from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import PhotoStrip from '../arrival/PhotoStrip.vue';
import { useActiveBuild } from '../data/build.js';
import { useListOf } from '../data/queries.js';
import { portLabel } from '../parts/portChoices.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import AreaChart from '../measure/AreaChart.vue';
import BeforeAfter from './BeforeAfter.vue';
import OperationForm from './OperationForm.vue';
import StageForm from './StageForm.vue';

/** One layer of the core sample: what was done, what it cost, what changed, and what it gave. */
const props = defineProps<{ whole: WholeHead; row: LedgerRow; side: Side }>();
const settings = useSettings();
const { active } = useActiveBuild();
const tolerances = useListOf('tolerance');
const open = ref<string>('');
const editing = ref(false);
watch(
  () => props.row.stage.id,
  () => {
    open.value = '';
    editing.value = false;
  },
);
const gains = computed(() => Object.values(props.row.sides).map((e) => e.gain));
const gain = computed(() => props.row.sides[props.side]?.gain);
const before = computed(() => gain.value?.before.stage ?? gains.value[0]?.before.stage);
const differences = computed(() =>
  before.value
    ? differencesOf(props.whole, before.value, props.row.stage, gains.value, {
        tolerances: tolerances.data.value ?? [],
        cylinderVolume: active.value?.target?.cylinderVolume.value,
      })
    : [],
);
const changed = computed(() => differences.value.filter((d) => d.changed));
const same = computed(() => differences.value.filter((d) => !d.changed));
const write = (value: number, { kind }: StageDifference) =>
  format(value, kind, settings.figures, {
    digits: kind === 'ratio' ? 3 : Math.max(1, unitFor(kind, settings.system).digits),
  });
/** The port as it was surveyed at this stage, over the last survey before it. */
const areas = computed(() => {
  const own = props.whole.surveys.find((s) => s.stageId === props.row.stage.id && s.side === props.side);
  const last = before.value && surveyAt(props.whole, before.value.id, props.side, own?.portId ?? null);
  const [was, is] = [last, own].map((s) => s && evaluateSurvey(toCoreSections(s)));
  if (!last || !was || !is || was.stations.length < 2 || is.stations.length < 2) return undefined;
  return { was, is, at: props.whole.stages.find((s) => s.id === last.stageId)?.name ?? '' };
});
const photos = computed(() => props.whole.attachments.filter((a) => a.stageId === props.row.stage.id));
const portOf = (o: Operation) => {
  const port = props.whole.ports.find((p) => p.id === o.portId);
  return port ? portLabel(port) : '';
};
const details = (o: Operation) =>
  [
    o.date && settings.say.day(o.date),
    o.side,
    portOf(o),
    o.place,
    o.by && `by ${o.by}`,
    o.time?.typed,
    o.parts && `parts ${o.parts.typed}`,
  ]
    .filter(Boolean)
    .join(' · ');
</script>

<template>
  <article>
    <h2>
      {{ row.stage.name }}
      <span class="note">{{ settings.say.day(row.stage.date ?? '') }}</span>
      <el-button link class="no-print" :aria-expanded="editing" @click="editing = !editing">Edit the stage</el-button>
    </h2>
    <StageForm v-if="editing" :key="row.stage.id" :whole="whole" :stage="row.stage" @done="editing = false" />
    <p v-if="row.stage.note" class="reading">{{ row.stage.note }}</p>
    <ul class="done">
      <li v-for="o in row.operations" :key="o.id">
        <b>{{ o.kind }}</b>
        <span class="note">{{ details(o) }}</span>
        <el-button link class="no-print" :aria-label="`Edit ${o.kind}`" @click="open = open === o.id ? '' : o.id">
          Edit
        </el-button>
        <p v-if="o.note" class="note">{{ o.note }}</p>
        <OperationForm v-if="open === o.id" :whole="whole" :stage-id="row.stage.id" :operation="o" @done="open = ''" />
      </li>
      <li v-if="row.operations.length === 0" class="note">Nothing is noted of what was done here.</li>
    </ul>
    <p class="no-print">
      <el-button size="small" @click="open = open === 'new' ? '' : 'new'">Record work done</el-button>
      <span v-if="row.cost" class="cost">
        cost
        <WorkedNumber :working="row.cost" />
      </span>
    </p>
    <OperationForm
      v-if="open === 'new'"
      :key="`new ${row.stage.id}`"
      :whole="whole"
      :stage-id="row.stage.id"
      @done="open = ''"
    />
    <p v-for="s in row.said" :key="s" class="caution">{{ s }}</p>
    <template v-if="gain">
      <h3>Before and after, {{ side }}</h3>
      <BeforeAfter :gain="gain" />
    </template>
    <template v-if="before && differences.length">
      <h3>What else changed</h3>
      <table class="ruled changes">
        <tbody>
          <tr v-for="d in changed" :key="d.what">
            <td>{{ d.what }}</td>
            <td class="num">{{ write(d.before, d) }}</td>
            <td class="num">{{ write(d.after, d) }}</td>
          </tr>
          <tr v-if="changed.length === 0">
            <td colspan="3" class="note">Nothing that was looked at on both stages.</td>
          </tr>
        </tbody>
      </table>
      <template v-if="areas">
        <p class="note">Area along the port, over the survey at “{{ areas.at }}”.</p>
        <AreaChart
          :own="areas.is"
          letter="is"
          :others="[{ letter: 'was', index: 1, survey: areas.was }]"
          :budget="undefined"
          :needed="undefined"
          :height="190"
        />
      </template>
      <p v-if="same.length" class="note">Looked at again and unchanged: {{ same.map((d) => d.what).join(', ') }}.</p>
    </template>
    <h3 class="no-print">Photos of this stage</h3>
    <PhotoStrip class="no-print" :head-id="whole.head.id" :stage-id="row.stage.id" :photos="photos" />
  </article>
</template>

<style scoped>
h3 {
  margin: 14px 0 4px;
}
.done {
  list-style: none;
  margin: 4px 0;
  padding: 0;
}
.done li {
  padding: 2px 0;
}
.done p {
  margin: 0;
}
.done .note {
  margin-left: 8px;
}
.cost {
  margin-left: 16px;
}
.changes {
  max-width: 560px;
}
</style>
