<script setup lang="ts">
import { format, formatNumber, unitFor, written } from '@alluvium/core';
import { addition, learntBy, removal, replacement, type LearntBy } from '@alluvium/records';
import { computed } from 'vue';
import { newId } from '../data/ids.js';
import { standingOf, useListOf, usePullFactors } from '../data/queries.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import WaitingNote from '../parts/WaitingNote.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import WideFrame from '../parts/WideFrame.vue';

// ownOf()!: shown where the shop has one of its own.

/** The shop's own power per flow, from every pull of its engines, by use and fuel; used in verdicts once it is taken. */
const settings = useSettings();
const change = useChange();
const query = usePullFactors();
const { loading, error } = standingOf(query);
const kept = useListOf('ownfactor');
const found = computed(() => learntBy(query.data.value ?? []));
const ownOf = (l: LearntBy) => (kept.data.value ?? []).find((f) => f.use === l.use && f.fuel === l.fuel);
const typed = (si: number) => written(si, 'powerPerFlow', unitFor('powerPerFlow', settings.system).symbol, 4);
async function take(l: LearntBy): Promise<void> {
  const { factor, u, count } = l.learnt;
  // A triangle of the same spread.
  const reach = Math.sqrt(6) * u;
  const fields = {
    use: l.use,
    fuel: l.fuel,
    low: typed(factor.value - reach),
    likely: typed(factor.value),
    high: typed(factor.value + reach),
    count,
    made: today(),
  };
  const stands = ownOf(l);
  await change.make(
    [stands ? replacement('ownfactor', { ...stands, ...fields }) : addition('ownfactor', { id: newId(), ...fields })],
    `Power per flow of ${l.use} engines on ${l.fuel} is the shop’s own now: ${format(factor.value, 'powerPerFlow', settings.figures)}.`,
  );
}
const back = (l: LearntBy) =>
  change.make(
    [removal('ownfactor', ownOf(l)!.id)],
    `${l.use} engines on ${l.fuel} take the usual power per flow again.`,
  );
</script>

<template>
  <div>
    <h2>
      Power per flow
      <span class="note">what each cfm made, from every pull on an engine dyno whose head was flowed</span>
    </h2>
    <WaitingNote v-if="!query.data.value" :loading="loading" :error="error" />
    <p v-else-if="found.length === 0" class="reading">No pull of an engine dyno with a flowed head yet.</p>
    <WideFrame v-else>
      <table class="ruled">
        <thead>
          <tr>
            <th>use and fuel</th>
            <th class="num">engines</th>
            <th class="num">own power per flow</th>
            <th>each engine</th>
            <th>in verdicts</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in found" :key="l.use + l.fuel">
            <td>{{ l.use }}, {{ l.fuel }}</td>
            <td class="num">{{ l.learnt.count }}</td>
            <td class="num">
              <WorkedNumber :working="l.learnt.factor" />
              <small>± {{ formatNumber(l.learnt.u, 'powerPerFlow', settings.figures, { digits: 3 }) }}</small>
            </td>
            <td>
              <small v-for="(e, i) in l.engines" :key="i">
                {{ e.name }} {{ formatNumber(e.factor, 'powerPerFlow', settings.figures, { digits: 3 }) }} ({{
                  e.pulls
                }}
                {{ e.pulls === 1 ? 'pull' : 'pulls' }})
              </small>
            </td>
            <td>
              <template v-if="ownOf(l)">
                {{ ownOf(l)!.likely.typed }} since {{ settings.say.day(ownOf(l)!.made) }}
                <el-button link class="no-print" @click="back(l)">Use the usual</el-button>
              </template>
              <el-button size="small" class="no-print" @click="take(l)">
                {{ ownOf(l) ? 'Update it' : 'Use it in every verdict' }}
              </el-button>
            </td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <p class="note">
      The usual factor counts for two engines until the shop has pulled more. An engine with its head counts once,
      however often it was pulled. A chassis dyno teaches none of it.
    </p>
  </div>
</template>

<style scoped>
small {
  display: block;
  color: var(--slate);
}
</style>
