<script setup lang="ts">
import { claimRows, isGrave, writeAudit } from '@alluvium/records';
import { groups } from 'd3-array';
import { computed, ref } from 'vue';
import { useBuilds, useTolerances } from '../api/queries.js';
import { download } from '../charts/save.js';
import ChoiceField from '../parts/ChoiceField.vue';
import { today } from '../parts/today.js';
import { useSettings } from '../state/settings.js';
import type { useClaims } from './useClaims.js';

/** Every claim of every head, by source: the audit, on the screen, on paper and as CSV. */
const props = defineProps<{ claims: ReturnType<typeof useClaims> }>();
const settings = useSettings();
const tolerances = useTolerances();
const builds = useBuilds();
const ALL = '';
const source = ref(ALL);
const onlyDoubtful = ref(false);
const rows = computed(() =>
  claimRows(props.claims.heads.value, props.claims.sources.value, props.claims.context.value, {
    tolerances: tolerances.data.value ?? [],
    builds: builds.data.value ?? [],
  }),
);
const shown = computed(() =>
  rows.value.filter((r) => (source.value === ALL || r.source === source.value) && (!onlyDoubtful.value || r.doubtful)),
);
const bySource = computed(() => groups(shown.value, (r) => r.source));
const names = computed(() => [...new Set(rows.value.map((r) => r.source))]);
const save = () => download('claims.csv', writeAudit(shown.value, settings.system), 'text/csv');
const print = () => window.print();
const tally = (list: typeof rows.value) => {
  const doubtful = list.filter((r) => r.doubtful).length;
  return `${list.length} ${list.length === 1 ? 'claim' : 'claims'}, ${doubtful === 0 ? 'none' : doubtful} doubtful`;
};
</script>

<template>
  <div>
    <p v-if="rows.length === 0" class="reading">
      Nobody claims anything yet. Note claims on a head’s own page, read one off a chart, or drop a CSV with a source
      and a head in each line.
    </p>
    <template v-else>
      <h2 class="title">Claims audited, {{ today() }}</h2>
      <p class="acts no-print">
        <ChoiceField
          v-model="source"
          label="Source"
          :options="[[ALL, 'every source'] as const, ...names.map((n) => [n, n] as const)]"
        />
        <label>
          <input v-model="onlyDoubtful" type="checkbox" />
          only what is doubtful
        </label>
        <button class="worded" type="button" @click="save">Save the audit as CSV</button>
        <button class="worded" type="button" @click="print">Print it</button>
      </p>
      <p v-if="shown.length === 0" class="reading">Nothing doubtful here.</p>
      <section v-for="[name, list] in bySource" :key="name">
        <h2>
          {{ name }}
          <span class="note">{{ tally(list) }}</span>
        </h2>
        <table class="ruled">
          <thead>
            <tr>
              <th>head</th>
              <th>what</th>
              <th>verdict</th>
              <th>in words</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in list" :key="r.key">
              <td>
                <RouterLink
                  :to="{
                    name: 'claims',
                    params: { id: r.headId },
                    query: { stage: r.stageId, ...(r.side === 'exhaust' ? { side: r.side } : {}) },
                  }"
                >
                  {{ r.head }}
                </RouterLink>
              </td>
              <td>{{ [r.side, r.what].filter(Boolean).join(' ') }}</td>
              <td :class="{ loss: isGrave(r.verdict) || r.doubtful }">{{ r.verdict }}</td>
              <td class="note">{{ r.words }}</td>
            </tr>
          </tbody>
        </table>
      </section>
    </template>
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  gap: 24px;
  align-items: flex-end;
  margin: 0 0 14px;
}
section {
  margin-bottom: 20px;
}
.title {
  display: none;
}
h2 .note {
  font-weight: 400;
  margin-left: 8px;
}
td:nth-child(1) {
  width: 170px;
}
td:nth-child(2) {
  width: 190px;
}
td:nth-child(3) {
  width: 190px;
}
td {
  vertical-align: top;
}
@media print {
  .title {
    display: block;
    margin-bottom: 12px;
  }
  tr {
    break-inside: avoid;
  }
  section h2 {
    break-after: avoid;
  }
  td:nth-child(n) {
    width: 16%;
  }
  td:last-child {
    width: 52%;
  }
}
</style>
