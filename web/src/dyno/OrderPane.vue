<script setup lang="ts">
import WorkedNumber from '../parts/WorkedNumber.vue';
import { PULL_REPEATABILITY, driftWords, fairSwapWords, swapWords } from '@alluvium/core';
import { changedBetween, fairnessOf, readSequence, type Pull } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import { useSettings } from '../state/settings.js';
import SwapPlan from './SwapPlan.vue';
import type { PullRead } from './useDyno.js';
import type { usePullCurve } from './usePullCurve.js';
import WideFrame from '../parts/WideFrame.vue';

// other.value!, o.whole!, sequence.means[]!: compared with a pull whose head is read; one mean for each.

/** Pulls in their order: heat soak, swaps and whether they count; what else changed between two; a swap planned. */
const props = defineProps<{
  read: PullRead;
  pulls: readonly PullRead[];
  sim: ReturnType<typeof usePullCurve>;
}>();
const settings = useSettings();
const sequence = computed(() =>
  readSequence(
    props.pulls.map((p) => p.pull),
    props.read.pull,
  ),
);
const nameOf = (stageId: string) => {
  const whole = props.pulls.find((p) => p.pull.stageId === stageId)?.whole;
  const stage = whole?.stages.find((s) => s.id === stageId);
  return whole ? `${whole.head.name}${stage ? `, ${stage.name}` : ''}` : stageId;
};
const others = computed(() => props.pulls.filter((p) => p.pull.id !== props.read.pull.id));
const otherId = ref('');
const other = computed(
  () =>
    others.value.find((p) => p.pull.id === otherId.value) ??
    others.value.find((p) => p.pull.stageId !== props.read.pull.stageId) ??
    others.value[0],
);
const changed = computed(() => (other.value ? changedBetween(other.value.pull, props.read.pull, settings.say) : []));
const fairness = computed(() => fairnessOf(changed.value));
const between = (a: Pull, b: Pull) => `${a.title} → ${b.title}`;

const cams = ref('');
watch(
  () => [other.value?.pull.id, props.read.pull.id],
  () => (cams.value = ''),
);
/** Whether one cam is fair to both heads: what each wants, and what each would gain on its own. */
async function askCams(): Promise<void> {
  const o = other.value!;
  const found = await props.sim.seekBoth(o.pull, o.whole!);
  if (!found) return;
  const named = (p: PullRead) => p.whole?.head.name ?? p.pull.title;
  cams.value = fairSwapWords(
    { letter: named(o), cam: found.a },
    { letter: named(props.read), cam: found.b },
    found.now,
    settings.say,
  );
}
</script>

<template>
  <div>
    <h2>In their order</h2>
    <p v-if="!sequence" class="reading">
      One pull shows nothing of its scatter. Pull again the same way, then swap: A, B, A tells heads from heat.
    </p>
    <template v-else>
      <ol class="run">
        <li v-for="(p, i) in sequence.pulls" :key="p.id" :class="{ here: p.id === read.pull.id }">
          {{ p.title }}
          <span class="note">{{ settings.say.day(p.date ?? '') }}{{ p.stageId ? `, ${nameOf(p.stageId)}` : '' }}</span>
          <b><WorkedNumber :working="sequence.means[i]!" :digits="1" /></b>
        </li>
      </ol>
      <p class="note">
        Mean power over the speeds all reach. One pull against the next:
        {{ settings.say.of(sequence.repeatability, 'percent', { digits: 2 }) }},
        {{ sequence.measured ? 'from like pulls here' : 'the usual, until like pulls show it' }}.
      </p>
      <p class="reading">{{ driftWords(sequence.drift, settings.say) }}</p>
      <p v-for="s in sequence.swaps" :key="s.a + s.b" class="reading">
        {{ swapWords(nameOf(s.a), nameOf(s.b), s.swap, settings.say) }}
      </p>
    </template>

    <template v-if="other">
      <h2>What else changed</h2>
      <ChoiceField
        class="against"
        :model-value="other.pull.id"
        label="Against"
        :options="others.map((p) => [p.pull.id, p.pull.title] as const)"
        @update:model-value="otherId = $event"
      />
      <p class="reading">{{ fairness.words }}</p>
      <WideFrame v-if="changed.length">
        <table class="ruled">
          <thead>
            <tr>
              <th>what</th>
              <th>{{ other.pull.title }}</th>
              <th>{{ read.pull.title }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in changed" :key="c.what" :class="{ loss: c.known && c.matters, note: !c.known }">
              <td>{{ c.what }}</td>
              <td>{{ c.a }}</td>
              <td>{{ c.b }}</td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p class="note">{{ between(other.pull, read.pull) }}. No cam is told finer than 3°.</p>
      <p v-if="other.whole && read.whole && other.whole !== read.whole" class="no-print">
        <el-button v-if="sim.busy.value" size="small" @click="sim.stop()">Stop</el-button>
        <el-button v-else size="small" @click="askCams">Is one cam fair to both?</el-button>
        <span v-if="sim.busy.value" class="note" role="status">{{ sim.busy.value }}</span>
      </p>
      <p v-if="cams" class="reading">{{ cams }}</p>
      <p v-if="sim.problem.value" class="loss" role="alert">{{ sim.problem.value }}</p>
    </template>

    <SwapPlan :repeatability="sequence?.repeatability ?? PULL_REPEATABILITY" />
  </div>
</template>

<style scoped>
.run {
  margin: 4px 0;
  padding-left: 22px;
}
.run b {
  margin-left: 10px;
}
.here {
  font-weight: 600;
}
.against {
  max-width: 320px;
}
</style>
