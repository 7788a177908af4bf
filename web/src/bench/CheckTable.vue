<script setup lang="ts">
import { format, type Working } from '@alluvium/core';
import { removal, type Calibration } from '@alluvium/records';
import { useChange } from '../data/useChange.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';

/** The checks of a bench, the latest first, with what each should have read and the factor it makes. */
defineProps<{
  checks: readonly {
    readonly check: Calibration;
    readonly expected: Working | number | undefined;
    readonly factor: Working | undefined;
  }[];
}>();
const settings = useSettings();
const change = useChange();
const remove = (c: Calibration) =>
  change.make([removal('calibration', c.id)], `The check of ${settings.say.day(c.date)} is removed.`);
</script>

<template>
  <div class="framed">
    <table class="ruled">
      <thead>
        <tr>
          <th>date</th>
          <th>against</th>
          <th class="num">expected</th>
          <th class="num">measured</th>
          <th class="num">factor</th>
          <th></th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in checks.toReversed()" :key="c.check.id">
          <td>{{ settings.say.day(c.check.date) }}</td>
          <td>
            {{
              c.check.against === 'plate' && c.check.diameter
                ? `plate ${c.check.diameter.typed}${c.check.bore ? ` in a pipe of ${c.check.bore.typed}` : ', room before it'} at ${c.check.depression?.typed ?? '?'}`
                : c.check.points.length
                  ? `control head, ${c.check.points.length} lifts`
                  : c.check.against
            }}
          </td>
          <td class="num">
            <template v-if="typeof c.expected === 'number'">
              {{ format(c.expected, 'flow', settings.figures) }}
            </template>
            <WorkedNumber v-else :working="c.expected ?? null" />
          </td>
          <td class="num">{{ format(c.check.measured.si, 'flow', settings.figures) }}</td>
          <td class="num"><WorkedNumber :working="c.factor ?? null" :digits="4" /></td>
          <td class="note">{{ c.check.note }}</td>
          <td>
            <el-button
              link
              :aria-label="`Remove the check of ${settings.say.day(c.check.date)}`"
              @click="remove(c.check)"
            >
              Remove
            </el-button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.ruled td:first-child {
  white-space: nowrap;
}
</style>
