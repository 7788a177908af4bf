<script setup lang="ts">
import { forecastScore, noted, scoreWords, work } from '@alluvium/core';
import { removal, replacement, stageGain, uncertaintyIn, type Forecast, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import { useChangeContext } from './useChangeData.js';
import WideFrame from '../parts/WideFrame.vue';

/** What was forecast before each cut, and how it came out. What was said stays as it was said. */
const props = defineProps<{ whole: WholeHead }>();
const settings = useSettings();
const change = useChange();
const context = useChangeContext();
const stageName = (id: string | null) => props.whole.stages.find((s) => s.id === id)?.name ?? '';
const rows = computed(() =>
  props.whole.forecasts.map((f) => {
    const outcome = props.whole.stages.find((s) => s.id === f.outcomeId);
    const found = outcome && stageGain(props.whole, outcome, f.side, context.value);
    const gain = found?.gain;
    const score =
      gain && f.content.u + uncertaintyIn(gain, found.book) > 0
        ? work(forecastScore, {
            found: gain,
            forecast: noted(f.content.gain, `as forecast on ${f.made}`),
            foundU: uncertaintyIn(gain, found.book),
            forecastU: f.content.u,
          })
        : undefined;
    return { f, gain, book: found?.book, score, refused: found && !found.credited };
  }),
);
/** Stages that may answer: those after the one it starts from. */
const answers = (f: Forecast) => [
  [null, 'not flowed yet'] as const,
  ...props.whole.stages
    .filter((s) => s.id !== f.stageId && (s.parentId !== null || s.id === f.outcomeId))
    .map((s) => [s.id, s.name] as const),
];
const answer = (f: Forecast, outcomeId: string | null) =>
  change.make(
    [replacement('forecast', { ...f, outcomeId })],
    outcomeId ? `“${stageName(outcomeId)}” answers the forecast.` : 'The forecast is open again.',
  );
const remove = (f: Forecast) => change.make([removal('forecast', f.id)], `Forecast of the ${f.operation} removed.`);
</script>

<template>
  <p v-if="rows.length === 0" class="note">
    None yet. Keep one before a cut is made: it is scored once the port is flowed again.
  </p>
  <WideFrame v-else>
    <table class="ruled">
      <thead>
        <tr>
          <th>made</th>
          <th>cut</th>
          <th>from</th>
          <th class="num">forecast</th>
          <th>answered by</th>
          <th class="num">found</th>
          <th>came out</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ f, gain, book, score, refused } in rows" :key="f.id">
          <td>
            {{ settings.say.day(f.made) }}
            <small class="note">{{ f.by }}, {{ f.content.method }}</small>
          </td>
          <td>{{ f.side }} {{ f.operation }}</td>
          <td>{{ stageName(f.stageId) }}</td>
          <td class="num">
            {{ settings.say.of(f.content.gain, 'flow', { digits: 1, signed: true }) }}
            <small class="note">± {{ settings.say.of(2 * f.content.u, 'flow', { digits: 1 }) }}</small>
          </td>
          <td>
            <ChoiceField
              :model-value="f.outcomeId"
              label="Answered by"
              hide-label
              :options="answers(f)"
              @update:model-value="answer(f, $event)"
            />
          </td>
          <td class="num"><WorkedNumber v-if="gain" :working="gain" :book="book" signed :digits="1" /></td>
          <td>
            <template v-if="score">
              {{ scoreWords(score.value) }}
              <WorkedNumber :working="score" :digits="1" signed label="error, in uncertainties" />
            </template>
            <span v-else-if="refused" class="note">the test changed too: no score</span>
          </td>
          <td class="no-print">
            <el-button link :aria-label="`Remove the forecast of ${f.made}`" @click="remove(f)">Remove</el-button>
          </td>
        </tr>
      </tbody>
    </table>
  </WideFrame>
</template>

<style scoped>
small {
  display: block;
}
</style>
