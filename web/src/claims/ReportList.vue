<script setup lang="ts">
import { format } from '@alluvium/core';
import { removal, type JudgedReport } from '@alluvium/records';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import { useChange } from '../data/useChange.js';

/** Powers claimed of engines with this head, each with what stands for and against it. */
defineProps<{ reports: readonly JudgedReport[]; named: (id: string | null) => string }>();
const settings = useSettings();
const change = useChange();
const remove = ({ report }: JudgedReport) =>
  change.make([removal('report', report.id)], `The report of ${report.power.typed} is removed.`);
</script>

<template>
  <section class="reports">
    <h2>Powers claimed</h2>
    <article v-for="r in reports" :key="r.report.id">
      <p class="reading" :class="{ loss: r.result.verdict === 'not believable' }">
        <b>{{ r.report.power.typed }} at {{ r.report.speed.typed }},</b>
        says {{ named(r.report.sourceId) }}. {{ r.words }}
      </p>
      <p class="figures">
        <span>
          BMEP
          <WorkedNumber :working="r.result.bmep" />
        </span>
        <span v-if="r.result.powerPerFlow">
          power per flow
          <WorkedNumber :working="r.result.powerPerFlow" />
        </span>
        <span v-if="r.result.velocity">
          air at the choke
          <WorkedNumber :working="r.result.velocity" />
        </span>
        <span v-else class="quiet">the speed at the choke needs a build and a measured pinch</span>
        <el-button
          link
          class="no-print"
          :aria-label="`Remove the report of ${format(r.report.power.si, 'power', settings.figures)}`"
          @click="remove(r)"
        >
          Remove
        </el-button>
      </p>
      <p v-for="text in r.reservations" :key="text" class="note">{{ text }}</p>
      <p v-if="r.report.note" class="note">{{ r.report.note }}</p>
    </article>
  </section>
</template>

<style scoped>
.reports {
  max-width: 960px;
  margin-bottom: 26px;
}
p {
  margin: 4px 0;
}
.reading b {
  font: 600 17px var(--sans);
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
}
</style>
