<script setup lang="ts">
import { waysWords } from '@alluvium/records';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useActiveBuild } from '../data/build.js';
import NoBuild from '../parts/NoBuild.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { useSettings } from '../state/settings.js';
import DecisionPane from './DecisionPane.vue';
import MattersPane from './MattersPane.vue';
import MoneyForm from './MoneyForm.vue';
import PriceChart from './PriceChart.vue';
import { useWaysRead } from './useWaysRead.js';
import WayForm from './WayForm.vue';
import WayTable from './WayTable.vue';

/** Which way to go: price, power, odds and fit side by side, what matters, and the decision with its reasons. */
const route = useRoute();
const router = useRouter();
const settings = useSettings();
const { active, loading: noBuild, error: buildError } = useActiveBuild();
const { ways, ranked, here, loading, error } = useWaysRead();
const chosen = computed(() => String(route.query.way ?? ''));
const way = computed(() => ways.value.find((w) => w.way.id === chosen.value));
const open = (id: string | undefined) => void router.replace({ query: { ...route.query, way: id } });
const words = computed(() =>
  active.value ? waysWords(ways.value, active.value.build, ranked.value, settings.say) : [],
);
const print = () => window.print();
</script>

<template>
  <section v-if="active && here && !error">
    <header>
      <h1>Decide</h1>
      <span class="note">{{ active.build.name }}: which way to go, for what money, and why</span>
      <span class="acts no-print">
        <el-button size="small" type="primary" @click="open('new')">Add a way</el-button>
        <el-button v-if="ways.length" size="small" @click="print">Print</el-button>
      </span>
    </header>
    <p v-if="ways.length === 0 && chosen !== 'new'" class="reading">
      No way is written down yet. Add one for each thing that could be done: keep the head and freshen it, rework it,
      buy another. Each gets its price, its fit, and the power its flow can carry.
    </p>
    <template v-if="ways.length">
      <p v-for="w in words" :key="w" class="reading">{{ w }}</p>
      <WayTable
        :ways="ways"
        :ranked="ranked"
        :build="active.build"
        :model-value="chosen"
        @update:model-value="open($event === chosen ? undefined : $event)"
      />
    </template>
    <div v-if="chosen === 'new' || way" class="form no-print">
      <h2>{{ way?.way.name ?? 'Another way' }}</h2>
      <WayForm
        :key="chosen"
        :build="active.build"
        :way="way?.way"
        :whole="way?.whole"
        :position="(ways.at(-1)?.way.position ?? -1) + 1"
        @saved="open($event.id)"
        @removed="open(undefined)"
      />
    </div>
    <div v-if="ways.length" class="two">
      <div>
        <h2>
          Price against power
          <span class="note">crosses as wide as they are unsure; dotted: the edge</span>
        </h2>
        <PriceChart :ways="ways" :budget="active.build.budget?.si" :wanted="active.core.power" />
        <p class="note">
          Power is the peak-flow rule at the target: a ceiling of the breathing, not a promise. Match and Simulate say
          more of each head.
        </p>
        <DecisionPane :build="active.build" :ways="ways" :ranked="ranked" :words="words" />
      </div>
      <div>
        <MattersPane :build="active.build" :ways="ways" />
        <MoneyForm :key="active.build.id" :build="active.build" />
      </div>
    </div>
  </section>
  <NoBuild v-else-if="!active" :loading="noBuild" :error="buildError" />
  <WaitingNote v-else :loading="loading" :error="error" />
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  align-items: baseline;
}
.acts {
  margin-left: auto;
}
.reading {
  margin: 4px 0;
}
.form {
  margin: 14px 0;
  padding: 8px 0 8px 14px;
  border-left: 3px solid var(--intake);
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 7fr) minmax(0, 5fr);
  gap: 32px;
  margin-top: 16px;
}
@media (width < 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
