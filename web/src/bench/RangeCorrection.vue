<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import type { Correction } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { sendCorrection, useCorrectionPreview, useRangesInUse } from '../data/corrections.js';
import { useChange } from '../data/useChange.js';
import QuantityField from '../parts/QuantityField.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { useSettings } from '../state/settings.js';

/** A full scale or a range that was written down wrong: put right in every sheet and session of the bench, as one change. */
const props = defineProps<{ bench: string; name: string }>();
const settings = useSettings();
const change = useChange('here');
const what = ref<Correction['what']>('full scale');
const ranges = useRangesInUse(() => props.bench);
const chosen = ref('');
const to = ref<Quantity | null>(null);
const toRange = ref('');
const unreadable = ref('');
watch(
  () => props.bench,
  () => ((chosen.value = ''), (to.value = null), (toRange.value = '')),
);

const key = (r: { range: string; side: string; fullScale: Quantity }) => `${r.range} ${r.side} ${r.fullScale.typed}`;
const found = computed(() => ranges.data.value ?? []);
const wrong = computed(() => found.value.find((r) => key(r) === chosen.value));
const papers = (r: { sheets: number; sessions: number }) =>
  [
    r.sheets && `${r.sheets} ${r.sheets === 1 ? 'sheet' : 'sheets'}`,
    r.sessions && `${r.sessions} ${r.sessions === 1 ? 'session' : 'sessions'}`,
  ]
    .filter(Boolean)
    .join(', ');
const others = computed(() => [
  ...new Set(
    found.value.filter((r) => r.side === wrong.value?.side && r.range !== wrong.value.range).map((r) => r.range),
  ),
]);
const correction = computed<Correction | undefined>(() => {
  const r = wrong.value;
  if (!r) return undefined;
  if (what.value === 'range')
    return toRange.value
      ? { what: 'range', from: r.range, to: toRange.value, side: r.side, sessionId: null }
      : undefined;
  if (!to.value || unreadable.value || Math.abs(to.value.si - r.fullScale.si) < 1e-12) return undefined;
  return { what: 'full scale', range: r.range, side: r.side, from: r.fullScale, to: to.value, sessionId: null };
});
const preview = useCorrectionPreview(
  () => props.bench,
  () => correction.value,
);
const lines = computed(() => (correction.value ? (preview.data.value ?? []) : []));
const percent = computed(() =>
  wrong.value && to.value && what.value === 'full scale'
    ? `${settings.say.number((to.value.si / wrong.value.fullScale.si - 1) * 100, 1)} %`
    : '',
);
async function correct(): Promise<void> {
  const c = correction.value;
  if (!c) return;
  const made = await change.run(
    () => sendCorrection(props.bench, c),
    ({ sheets, sessions }) => `Corrected in ${papers({ sheets, sessions })} of ${props.name}.`,
  );
  if (!made) return;
  chosen.value = '';
  to.value = null;
  toRange.value = '';
}
</script>

<template>
  <section class="correction">
    <h2>Correct a range</h2>
    <p class="note">
      A full scale typed wrong, or readings noted on the wrong range, put right in all sheets and sessions of this bench
      at once. What was read stays; one Undo takes all of it back.
    </p>
    <WaitingNote
      v-if="!ranges.data.value"
      :loading="ranges.isPending.value"
      :error="ranges.error.value?.message ?? ''"
    />
    <p v-else-if="found.length === 0" class="note">No sheet of this bench names a range.</p>
    <form v-else data-own-keys @submit.prevent="correct">
      <el-radio-group v-model="what" aria-label="What was wrong">
        <el-radio value="full scale">The full scale is wrong</el-radio>
        <el-radio value="range">The range is wrong</el-radio>
      </el-radio-group>
      <div class="fields">
        <div class="field">
          <label for="wrong-range">Range as noted</label>
          <el-select id="wrong-range" v-model="chosen" aria-label="Range as noted" placeholder="Choose the range">
            <el-option
              v-for="r in found"
              :key="key(r)"
              :value="key(r)"
              :label="`Range ${r.range}, ${r.side}, ${r.fullScale.typed} (${papers(r)})`"
            />
          </el-select>
        </div>
        <QuantityField
          v-if="what === 'full scale'"
          v-model="to"
          kind="flow"
          label="Right full scale"
          @update:problem="unreadable = $event"
        />
        <div v-else class="field">
          <label for="right-range">It was read on range</label>
          <el-select id="right-range" v-model="toRange" aria-label="It was read on range" placeholder="Choose">
            <el-option v-for="r in others" :key="r" :value="r" :label="r" />
          </el-select>
        </div>
        <el-button type="primary" native-type="submit" :loading="change.busy.value" :disabled="lines.length === 0">
          Correct {{ lines.length || '' }}
        </el-button>
      </div>
      <p v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</p>
      <template v-if="correction">
        <p v-if="preview.data.value && lines.length === 0" class="note">Nothing of this bench has that.</p>
        <table v-else class="ruled">
          <caption class="note">This changes{{ percent ? `, each reading on it by ${percent}` : '' }}:</caption>
          <thead>
            <tr>
              <th scope="col">What</th>
              <th scope="col">Head</th>
              <th scope="col">Date</th>
              <th scope="col" class="num">Rows</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in lines" :key="l.noun + l.id">
              <td>{{ l.noun === 'session' ? 'set-up of ' : '' }}{{ l.title }}</td>
              <td>{{ l.head }}</td>
              <td>{{ settings.say.day(l.date ?? '–') }}</td>
              <td class="num">{{ l.rows || '–' }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </form>
  </section>
</template>

<style scoped>
.correction {
  margin-top: 28px;
  max-width: 760px;
}
.fields {
  display: grid;
  grid-template-columns: 2fr 1fr auto;
  gap: 18px;
  align-items: end;
  margin: 8px 0 12px;
}
.field label {
  display: block;
  color: var(--slate);
  font-size: 14px;
}
caption {
  text-align: left;
}
@media (max-width: 700px) {
  .fields {
    grid-template-columns: 1fr;
  }
}
</style>
