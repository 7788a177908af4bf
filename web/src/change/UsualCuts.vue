<script setup lang="ts">
import { format, type OperationKind, type Side } from '@alluvium/core';
import { usualOf, type Head, type SingleCut } from '@alluvium/records';
import { computed } from 'vue';
import { useActiveBuild } from '../data/build.js';
import { standingOf, useCuts } from '../data/queries.js';
import WaitingNote from '../parts/WaitingNote.vue';
import WideFrame from '../parts/WideFrame.vue';
import { useSettings } from '../state/settings.js';

// k.usual!: the table lists the cuts that have one.

/** What each kind of cut usually buys in this shop, on heads like this one. */
const props = defineProps<{ kind: Head['kind'] }>();
const settings = useSettings();
const { active } = useActiveBuild();
const query = useCuts(() => active.value?.build.id ?? '');
const standing = standingOf(query);
const kinds = computed(() => {
  const cuts = query.data.value ?? [];
  const seen = new Map<string, { operation: OperationKind; side: Side }>();
  for (const { operation, side } of cuts) seen.set(`${operation} ${side}`, { operation, side });
  return [...seen.values()]
    .map(({ operation, side }) => ({ operation, side, ...usualOf(cuts, operation, side, props.kind) }))
    .sort((a, b) => (b.usual?.gain ?? 0) - (a.usual?.gain ?? 0));
});
const share = (v: number) => settings.say.of(v, 'percent', { digits: 1, signed: true });
const where = (cuts: readonly SingleCut[]) => cuts.map((c) => `${c.head} ${share(c.gain)}`).join(', ');
const hours = (s: number | undefined) => (s === undefined ? '' : settings.say.of(s, 'time'));
const money = (v: number) => format(v, 'money', settings.figures);
</script>

<template>
  <section>
    <h2>What such cuts usually buy here</h2>
    <WaitingNote v-if="!query.data.value" :loading="standing.loading.value" :error="standing.error.value" />
    <p v-else-if="kinds.length === 0" class="note">
      No cut of this shop stands by itself yet, flowed before and after in one way.
    </p>
    <WideFrame v-else>
      <table class="ruled">
        <thead>
          <tr>
            <th>cut</th>
            <th>side</th>
            <th class="num">seen</th>
            <th class="num">gain</th>
            <th class="num">next one</th>
            <th class="num">hours</th>
            <th class="num">cost</th>
            <th>on</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="k in kinds" :key="`${k.operation} ${k.side}`">
            <td>{{ k.operation }}</td>
            <td>{{ k.side }}</td>
            <td class="num">{{ k.usual!.count }}</td>
            <td class="num">{{ share(k.usual!.gain) }}</td>
            <td class="num">
              {{
                k.usual!.next === undefined
                  ? 'one is no spread'
                  : `${share(k.usual!.gain - k.usual!.next)} to ${share(k.usual!.gain + k.usual!.next)}`
              }}
            </td>
            <td class="num">{{ hours(k.usual!.hours) }}</td>
            <td class="num">{{ k.usual!.cost === undefined ? '' : money(k.usual!.cost) }}</td>
            <td class="note">{{ where(k.cuts) }}</td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
  </section>
</template>
