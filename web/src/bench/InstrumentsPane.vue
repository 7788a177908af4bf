<script setup lang="ts">
import { format, kindSpec } from '@alluvium/core';
import { FAULTS, INSTRUMENT_KINDS, type Fault, type Instrument } from '@alluvium/records';
import { computed, ref } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import { useSettings } from '../state/settings.js';
import { SILENCE_MS, useBenchLive } from './live.js';

/** What is connected, what it shows now, and the faults a stand-in can be told to have. */
const settings = useSettings();
const live = useBenchLive();
const faults = ref<Record<string, Fault>>({});
const FAULT_CHOICES = FAULTS.map((f) => [f, f] as const);
const sorted = computed(() =>
  [...live.instruments].sort((a, b) => INSTRUMENT_KINDS.indexOf(a.kind) - INSTRUMENT_KINDS.indexOf(b.kind)),
);
const values = computed(() => {
  void live.ticks;
  return (i: Instrument) =>
    i.quantities.map((q) => {
      const now = live.latest(q.name);
      return `${q.name.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`)} ${now === undefined ? '–' : format(now, q.kind, settings.figures)}`;
    });
});
const state = computed(() => {
  void live.ticks;
  return (i: Instrument) => {
    if (i.standing === 'unknown') return 'waits to be paired';
    if (!i.takes.includes('stream')) return 'answers when asked';
    const doubt = live.doubts[i.id];
    if (doubt) return doubt;
    return live.silentFor(i.id) > SILENCE_MS ? 'silent' : 'streams';
  };
});
/** Seconds the code shown is still good for. */
const left = computed(() => {
  void live.ticks;
  return live.code ? Math.max(0, Math.round((live.code.until - Date.now()) / 1000)) : 0;
});
const STANDING = {
  simulated: 'simulated',
  paired: 'paired',
  unknown: 'unknown: nothing it shows is taken',
} as const satisfies Record<Instrument['standing'], string>;

function fault(i: Instrument, to: Fault): void {
  faults.value = { ...faults.value, [i.id]: to };
  live.command(i.id, { do: 'fault', fault: to });
}
const limits = (i: Instrument) =>
  i.quantities
    .map((q) =>
      q.min === undefined || q.max === undefined
        ? q.name
        : `${kindSpec(q.kind).name.replace(/^an? /, '')} ${format(q.min, q.kind, settings.figures)} to ${format(q.max, q.kind, settings.figures)}`,
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
            <span class="note">{{ i.kind }}</span>
            <br />
            <span :class="i.standing === 'unknown' ? 'loss' : 'note'">{{ STANDING[i.standing] }}</span>
          </td>
          <td class="shows">
            <template v-if="i.takes.includes('stream') && i.standing !== 'unknown'">
              <span v-for="v in values(i)" :key="v">{{ v }}</span>
            </template>
          </td>
          <td>{{ limits(i) }}{{ i.ranges.length ? `; ${i.ranges.length} ranges` : '' }}</td>
          <td>
            {{ state(i) }}
            <el-popconfirm
              v-if="i.standing === 'paired'"
              :title="`Forget the ${i.name}? It has to be paired again before it is listened to.`"
              confirm-button-text="Forget it"
              cancel-button-text="Keep it"
              width="260"
              @confirm="live.forget(i.id)"
            >
              <template #reference>
                <el-button link type="primary">Forget it</el-button>
              </template>
            </el-popconfirm>
            <span v-if="i.problem" class="loss">
              {{ i.nonsense ? `${i.nonsense} unreadable lines: ` : '' }}{{ i.problem }}
            </span>
          </td>
          <td>
            <ChoiceField
              v-if="i.standing === 'simulated'"
              :label="`Fault of ${i.name}`"
              hide-label
              :model-value="faults[i.id] ?? 'none'"
              :options="FAULT_CHOICES"
              @update:model-value="fault(i, $event)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="live.connected" class="pair">
      <el-button @click="live.pair()">{{ live.code ? 'A new code' : 'Pair an instrument' }}</el-button>
      <span v-if="live.code && left > 0" role="status">
        Type the code
        <b class="code">{{ live.code.code }}</b>
        into the program of the instrument within
        {{ left > 90 ? `${Math.round(left / 60)} minutes` : `${left} seconds` }}. It pairs one instrument, and is asked
        for once.
      </span>
      <span v-else-if="live.code" role="status">The code has run out.</span>
      <span v-else class="note">
        Only a paired instrument is listened to, so that no other program can send readings.
      </span>
    </p>
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
.pair {
  display: flex;
  gap: 0.8rem;
  align-items: baseline;
}
.code {
  font-variant-numeric: tabular-nums;
  letter-spacing: 0.12em;
}
td:first-child {
  white-space: nowrap;
}
</style>
