<script setup lang="ts">
import type { SchoolId, Working } from '@alluvium/core';
import { computed } from 'vue';
import type { ActiveBuild } from '../data/build.js';
import type { CompareHead } from '../data/comparison.js';
import WideFrame from '../parts/WideFrame.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import HoverNote from '../parts/HoverNote.vue';

// active.target!, heads[]!: the figures are of heads against a target.

/** Power of each head by each method and by the simulation, and the figures the verdicts rest on. */
const props = defineProps<{ active: ActiveBuild; heads: readonly CompareHead[] }>();
const settings = useSettings();
const SCHOOLS: readonly SchoolId[] = ['area', 'valve', 'peak-flow', 'ratio-derated'];
const schools = computed(() =>
  SCHOOLS.flatMap((id) => {
    const found = props.heads.map((h) => h.match.schools.find((s) => s.id === id));
    const any = found.find(Boolean);
    return any
      ? [{ id, title: any.title, assumes: any.assumes, notHere: any.notHere, powers: found.map((s) => s?.power) }]
      : [];
  }),
);
/** Power the air has to make: what every estimate is held against. */
const wanted = computed(() => props.active.target!.airPower);
/** Flow of head and manifold together, where anything is known of the manifold. */
const behindManifold = computed(() =>
  props.heads.map((h) =>
    h.match.flow && typeof h.match.flow === 'object' && 'method' in h.match.flow ? h.match.flow : undefined,
  ),
);
const figures = computed<[string, (Working | undefined)[], number?][]>(() => [
  ...(behindManifold.value.some(Boolean)
    ? [['best flow of head and manifold', behindManifold.value, 0] as [string, (Working | undefined)[], number]]
    : []),
  ['peak port velocity at the target', props.heads.map((h) => h.match.portVelocity)],
  ['mean inlet Mach index at the target', props.heads.map((h) => h.match.machIndex), 2],
  ['mean flow over this cam', props.heads.map((h) => h.match.intake?.mean)],
  // The rule is no finer than a few degrees, which the sizes it reads do not tell.
  ['lobe separation wanted', props.heads.map((h) => h.match.lobeSeparation), 0],
  ['flow the window rule expects', props.heads.map((h) => h.match.windowFlow), 0],
  ['best flow against that', props.heads.map((h) => h.match.againstWindow), 0],
  ['bench speed at the least area', props.heads.map((h) => h.match.benchSpeed)],
  ['bench speed over the short turn', props.heads.map((h) => h.match.windowSpeed)],
  ['bench speed in the throat', props.heads.map((h) => h.match.throatSpeed)],
  ['money per horsepower', props.heads.map((h) => h.match.cost), 2],
]);
/** Power by the simulation, of the heads it was run with. */
const simulated = computed(() =>
  props.heads.map((h) => h.verdict.evidence.flatMap((e) => (e.code === 'simulated' ? [e] : []))[0]),
);
</script>

<template>
  <WideFrame>
    <table class="ruled">
      <thead>
        <tr>
          <th>power each could carry</th>
          <th v-for="h in heads" :key="h.id" class="num">{{ h.letter }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in schools" :key="s.id">
          <td>
            {{ s.title }}
            <span class="note assumes">{{ s.notHere ?? s.assumes }}</span>
          </td>
          <td v-for="(p, i) in s.powers" :key="i" class="num" :class="{ loss: p && p.value < wanted * 0.995 }">
            <WorkedNumber :working="p" :book="heads[i]!.verdict.book" bare />
          </td>
        </tr>
        <tr v-if="simulated.some(Boolean)">
          <td>
            the simulation, at the speed wanted
            <span class="note assumes">decides the verdict of a head it was run with</span>
          </td>
          <td
            v-for="(e, i) in simulated"
            :key="i"
            class="num"
            :class="{ loss: e && e.power < active.core.power * 0.995 }"
          >
            <template v-if="e">
              <HoverNote says="How it came about: Simulate">
                <RouterLink :to="{ name: 'simulate', query: { build: active.build.id } }">
                  {{ settings.say.of(e.power, 'power', { digits: 0 }) }}
                  <span class="note">± {{ settings.say.of(e.u, 'power', { digits: 0 }) }}</span>
                </RouterLink>
              </HoverNote>
            </template>
            <RouterLink v-else class="no-print" :to="{ name: 'simulate', query: { build: active.build.id } }">
              run it
            </RouterLink>
          </td>
        </tr>
        <tr v-for="[name, workings, digits] in figures" :key="name">
          <td>{{ name }}</td>
          <td v-for="(w, i) in workings" :key="i" class="num">
            <WorkedNumber
              :working="w"
              :digits="digits"
              :signed="w?.method.id === 'against-window'"
              :book="digits === 0 ? undefined : heads[i]!.verdict.book"
              bare
            />
          </td>
        </tr>
      </tbody>
    </table>
  </WideFrame>
</template>

<style scoped>
.assumes {
  display: block;
  font-size: 14px;
  max-width: 430px;
}
</style>
