<script setup lang="ts">
import { isGrave } from '@alluvium/records';
import { groups } from 'd3-array';
import { computed, ref, watch } from 'vue';
import { download } from '../charts/save.js';
import { auditCsv, useAudit } from '../data/claims.js';
import { sentenceOf } from '../data/library.js';
import { today } from '../data/today.js';
import { useUndo } from '../data/undo.js';
import EmptyNote from '../parts/EmptyNote.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { useSettings } from '../state/settings.js';
import WideFrame from '../parts/WideFrame.vue';

// audit.value!, find()!: the names come from the audit.

/** Every claim of every head, by source: the audit, a page at a time on the screen and on paper, whole as CSV. */
const settings = useSettings();
const undo = useUndo();
const ALL = '';
const source = ref(ALL);
const onlyDoubtful = ref(false);
const page = ref(1);
watch([source, onlyDoubtful], () => (page.value = 1));
const wanted = computed(() => ({
  system: settings.system,
  source: source.value || undefined,
  doubtful: onlyDoubtful.value,
  page: page.value,
}));
const query = useAudit(() => wanted.value);
const audit = computed(() => query.data.value);
const bySource = computed(() => groups(audit.value?.lines ?? [], (r) => r.source));
const any = computed(() => (audit.value?.sources.length ?? 0) > 0);
const reading = computed(() => (audit.value && audit.value.done < audit.value.of ? audit.value : undefined));
const print = () => window.print();
const saving = ref(false);
async function save(): Promise<void> {
  saving.value = true;
  try {
    download('claims.csv', await auditCsv(wanted.value), 'text/csv');
  } catch (error) {
    undo.refused(sentenceOf(error) ?? String(error));
  } finally {
    saving.value = false;
  }
}
function tally(name: string): string {
  const { total, doubtful } = audit.value!.sources.find((s) => s.name === name)!;
  return `${total} ${total === 1 ? 'claim' : 'claims'}, ${doubtful === 0 ? 'none' : doubtful} doubtful`;
}
</script>

<template>
  <div>
    <p v-if="reading" class="note" role="status">
      Judged so far: the claims of {{ reading.done }} of {{ reading.of }} heads.
    </p>
    <WaitingNote v-if="!audit" :loading="query.isPending.value" :error="query.error.value?.message ?? ''" />
    <p v-else-if="!any && !reading" class="reading">
      Nobody claims anything yet. Note claims on a head’s own page, read one off a chart, or drop a CSV with a source
      and a head in each line.
    </p>
    <template v-else>
      <h2 class="title">Claims audited, {{ today() }}</h2>
      <p class="acts no-print">
        <ChoiceField
          v-model="source"
          label="Source"
          :options="[[ALL, 'every source'] as const, ...audit.sources.map((s) => [s.name, s.name] as const)]"
        />
        <el-checkbox v-model="onlyDoubtful">Only what is doubtful</el-checkbox>
        <el-button link :loading="saving" @click="save">Export the audit as CSV</el-button>
        <el-button link @click="print">Print this page</el-button>
      </p>
      <EmptyNote v-if="audit.lines.length === 0 && !reading">Nothing doubtful here.</EmptyNote>
      <section v-for="[name, list] in bySource" :key="name">
        <h2>
          {{ name }}
          <span class="note">{{ tally(name) }}</span>
        </h2>
        <WideFrame>
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
        </WideFrame>
      </section>
      <el-pagination
        v-if="audit.total > audit.size"
        v-model:current-page="page"
        class="no-print"
        layout="prev, pager, next, total"
        :total="audit.total"
        :page-size="audit.size"
      />
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
