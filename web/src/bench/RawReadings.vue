<script setup lang="ts">
import { format } from '@alluvium/core';
import { gapsOf, type RawReading } from '@alluvium/records';
import { computed } from 'vue';
import WideFrame from '../parts/WideFrame.vue';
import { useSettings } from '../state/settings.js';

// gapAfter.get()!: asked for before.

/** Every reading as it was taken, the latest first; what was put aside is struck through. */
const props = defineProps<{ readings: readonly RawReading[] }>();
const settings = useSettings();
const sorted = computed(() => [...props.readings].sort((a, b) => b.at.localeCompare(a.at)));
const gapAfter = computed(() => new Map(gapsOf(props.readings).map((g) => [g.after.id, g.seconds])));
const liftOf = (r: RawReading) => format(r.lift.si, 'lift', settings.figures);
</script>

<template>
  <details class="no-print">
    <summary>Every raw reading ({{ sorted.length }})</summary>
    <WideFrame>
      <table class="ruled">
        <thead>
          <tr>
            <th>time</th>
            <th>port</th>
            <th>lift</th>
            <th class="num">read</th>
            <th>range</th>
            <th class="num">depression</th>
            <th class="num">scatter</th>
            <th class="num">swirl</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in sorted" :key="r.id" :class="{ aside: r.state !== 'kept' }">
            <td>{{ r.at.slice(11, 19) }}</td>
            <td>{{ r.number }} {{ r.side }}{{ r.pull ? `, pull ${r.pull + 1}` : '' }}</td>
            <td>{{ liftOf(r) }}</td>
            <td class="num">{{ r.percent?.typed ?? r.flow?.typed ?? '' }}</td>
            <td>{{ r.range ?? '' }}</td>
            <td class="num">{{ r.depression?.typed ?? '' }}</td>
            <td class="num">
              {{
                r.spread === null
                  ? ''
                  : `${settings.say.number(r.spread * 100, 2)} % of ${r.samples.length} in ${r.seconds} s`
              }}
            </td>
            <td class="num">{{ r.swirl?.typed ?? '' }}</td>
            <td class="note">
              {{
                [
                  r.state === 'kept' ? '' : r.state,
                  r.skipped && `skipped: ${r.skipped}`,
                  r.noisy ? 'noisy' : '',
                  r.setup > 0 ? `set-up ${r.setup + 1}` : '',
                  gapAfter.has(r.id) ? `then a gap of ${Math.round(gapAfter.get(r.id)! / 60)} min` : '',
                ]
                  .filter(Boolean)
                  .join('; ')
              }}
            </td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
  </details>
</template>

<style scoped>
.aside {
  color: var(--slate);
  text-decoration: line-through;
}
summary {
  cursor: pointer;
  margin-top: 18px;
}
</style>
