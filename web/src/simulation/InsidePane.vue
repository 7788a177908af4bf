<script setup lang="ts">
import { cycleWords, readCycle } from '@alluvium/core';
import { computed, ref } from 'vue';
import { useSettings } from '../state/settings.js';
import CyclePane from './CyclePane.vue';
import PressureVolume from './PressureVolume.vue';
import { saveCycle } from './exportSweep.js';
import HeadPick from './HeadPick.vue';
import type { Pool } from './pool.js';
import type { ReadyHead } from './ready.js';
import { useAsk } from './useAsk.js';

// props.heads[]!, heads[]!: shown with one head at least, two where they are compared.

/** The last cycle of two heads at a speed. */
const props = defineProps<{
  heads: readonly ReadyHead[];
  pool: Pool;
  speeds: readonly number[];
  target: number;
  fileName: string;
}>();
const settings = useSettings();
const speed = ref<number>();
const at = computed(() =>
  speed.value !== undefined && props.speeds.includes(speed.value) ? speed.value : props.target,
);
const second = ref('');
const pair = computed(() => {
  const other = props.heads.slice(1).find((h) => h.id === second.value) ?? props.heads[1];
  return [props.heads[0]!, ...(other ? [other] : [])];
});
const trace = useAsk<'trace'>(
  props.pool,
  () => pair.value,
  (h) => ({ kind: 'trace', setup: h.setup, speed: at.value }),
);
const traces = computed(() =>
  pair.value.flatMap((h) => {
    const t = trace.answers.get(h.id);
    return t && typeof t !== 'string' ? [{ name: `${h.letter} ${h.name}`, index: h.index, trace: t }] : [];
  }),
);
const refused = computed(() =>
  pair.value.flatMap((h) => {
    const t = trace.answers.get(h.id);
    return typeof t === 'string' ? [`${h.letter}: ${t}`] : [];
  }),
);
</script>

<template>
  <div>
    <h2>Inside the cycle</h2>
    <div class="bar no-print">
      <label>
        <span class="note">at</span>
        <el-select
          :model-value="at"
          size="small"
          class="speed"
          aria-label="Speed of the cycle"
          @update:model-value="speed = $event"
        >
          <el-option v-for="s in speeds" :key="s" :value="s" :label="settings.say.of(s, 'rotation')" />
        </el-select>
      </label>
      <HeadPick
        v-if="heads.length > 2"
        v-model="second"
        :heads="heads.slice(1)"
        :words="`${heads[0]!.letter} and`"
        :usual="heads[1]!.letter"
        label="Second head"
      />
      <el-button size="small" :loading="trace.busy.value" :disabled="trace.busy.value" @click="trace.ask">
        Run the cycle
      </el-button>
      <el-button v-if="traces.length" size="small" @click="saveCycle(`${fileName}, cycle`, traces)">
        Export CSV
      </el-button>
    </div>
    <p v-if="trace.problem.value" class="loss" role="alert">{{ trace.problem.value }}</p>
    <p v-for="r in refused" :key="r" class="caution">{{ r }}</p>
    <template v-if="traces.length">
      <p v-for="t in traces" :key="t.name" class="reading">
        {{ cycleWords(t.name, readCycle(t.trace), settings.say).join(' ') }}
      </p>
      <CyclePane :traces="traces" />
      <PressureVolume :traces="traces" />
    </template>
    <p v-else class="note">Lift, flow, pressures and Mach number over crank angle, and the waves along the intake.</p>
  </div>
</template>

<style scoped>
h2 {
  margin: 14px 0 6px;
}
.reading {
  margin: 4px 0;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 22px;
  margin: 4px 0;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
}
.speed {
  width: 130px;
}
</style>
