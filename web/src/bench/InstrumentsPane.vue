<script setup lang="ts">
import { format, kindSpec } from '@alluvium/core';
import { FAULTS, INSTRUMENT_KINDS, type Fault, type Instrument } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useSettings } from '../state/settings.js';
import { SILENCE_MS, useBenchLive } from './live.js';

/** What is connected, what it shows now, and the faults a stand-in can be told to have. */
const settings = useSettings();
const live = useBenchLive();
const faults = ref<Record<string, Fault>>({});
const sorted = computed(() =>
  [...live.instruments].sort((a, b) => INSTRUMENT_KINDS.indexOf(a.kind) - INSTRUMENT_KINDS.indexOf(b.kind)),
);
const values = computed(() => {
  void live.beat;
  return (i: Instrument) =>
    i.quantities.map((q) => {
      const now = live.latest(q.name);
      return `${q.name.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`)} ${now === undefined ? '–' : format(now, q.kind, settings.system)}`;
    });
});
const state = computed(() => {
  void live.beat;
  return (i: Instrument) => {
    if (!i.takes.includes('stream')) return 'answers when asked';
    const doubt = live.doubts[i.id];
    if (doubt) return doubt;
    return live.silentFor(i.id) > SILENCE_MS ? 'silent' : 'streams';
  };
});
function fault(i: Instrument, to: Fault): void {
  faults.value = { ...faults.value, [i.id]: to };
  live.command(i.id, { do: 'fault', fault: to });
}
const limits = (i: Instrument) =>
  i.quantities
    .map((q) =>
      q.min === undefined || q.max === undefined
        ? q.name
        : `${kindSpec(q.kind).name.replace(/^an? /, '')} ${format(q.min, q.kind, settings.system)} to ${format(q.max, q.kind, settings.system)}`,
    )
    .join(', ');
</script>

<template>
  <div class="instruments">
    <p v-if="!live.connected" class="reading">The line to the server is not up yet.</p>
    <p v-else-if="live.instruments.length === 0" class="reading">
      No instrument is connected: figures are typed by hand, and everything else works the same. How to connect one is
      described in docs/instruments.md.
    </p>
    <table v-else class="ruled">
      <thead>
        <tr>
          <th>instrument</th>
          <th>shows</th>
          <th>measures</th>
          <th>state</th>
          <th>try a fault</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="i in sorted" :key="i.id">
          <td>
            <b>{{ i.name }}</b>
            <br />
            <span class="note">{{ i.kind }}{{ i.simulated ? ', simulated' : '' }}</span>
          </td>
          <td class="shows">
            <template v-if="i.takes.includes('stream')">
              <span v-for="v in values(i)" :key="v">{{ v }}</span>
            </template>
          </td>
          <td>{{ limits(i) }}{{ i.ranges.length ? `; ${i.ranges.length} ranges` : '' }}</td>
          <td>
            {{ state(i) }}
            <span v-if="i.nonsense" class="loss">{{ i.nonsense }} senseless lines: {{ i.problem }}</span>
          </td>
          <td>
            <select
              v-if="i.simulated"
              :value="faults[i.id] ?? 'none'"
              :aria-label="`Fault of ${i.name}`"
              @change="fault(i, ($event.target as HTMLSelectElement).value as Fault)"
            >
              <option v-for="f in FAULTS" :key="f" :value="f">{{ f }}</option>
            </select>
          </td>
        </tr>
      </tbody>
    </table>
    <p class="note">
      In any field of a length, a volume or a pressure, F8 takes what the calipers, the scale or the seal tester show.
    </p>
  </div>
</template>

<style scoped>
.shows span {
  display: block;
  white-space: nowrap;
  font-variant-numeric: tabular-nums;
}
td {
  vertical-align: top;
}
td:first-child {
  white-space: nowrap;
}
select {
  background: transparent;
  color: inherit;
  font: inherit;
  border: 0;
  border-bottom: 1px solid var(--el-border-color);
}
select option {
  background: var(--paper-raised);
}
</style>
