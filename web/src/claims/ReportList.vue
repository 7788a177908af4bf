<script setup lang="ts">
import { format } from '@alluvium/core';
import type { JudgedReport } from '@alluvium/records';
import { drop } from '../api/client.js';
import { useRefresh } from '../api/queries.js';
import { attempt } from '../parts/attempt.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import { useUndo } from '../state/undo.js';

/** Powers claimed of engines with this head, each with what stands for and against it. */
defineProps<{ reports: readonly JudgedReport[]; named: (id: string | null) => string }>();
const settings = useSettings();
const undo = useUndo();
const refresh = useRefresh();
async function remove({ report }: JudgedReport): Promise<void> {
  await attempt(async () => {
    const { batch } = await drop('report', report.id);
    undo.did(`The report of ${report.power.typed} is taken out.`, batch);
    await refresh();
  }, undo.announce);
}
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
        <button
          class="worded no-print"
          type="button"
          :aria-label="`Take out the report of ${format(r.report.power.si, 'power', settings.system)}`"
          @click="remove(r)"
        >
          take out
        </button>
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
