<script setup lang="ts">
import {
  capital,
  DEGREES,
  degreeWords,
  flipWords,
  matchWords,
  oddsWords,
  openWords,
  type Degree,
} from '@alluvium/core';
import { fitAnswers, type FitItem } from '@alluvium/records';
import { ElCollapse, ElCollapseItem } from 'element-plus';
import { computed } from 'vue';
import ArrivalNote from '../arrival/ArrivalNote.vue';
import type { ActiveBuild } from '../data/build.js';
import type { CompareHead } from '../data/comparison.js';
import { useSettings } from '../state/settings.js';

// [][]!: one tone for each degree.
// target!: a verdict is given against a target.

/** The verdict on one head: in words, what is open, what would flip it, and the odds of each limit. */
const props = defineProps<{ head: CompareHead; active: ActiveBuild }>();
const settings = useSettings();
const tone = (degree: Degree): string => ['short', 'short', 'open', 'carries', 'carries'][DEGREES.indexOf(degree)]!;
const words = computed(() => {
  const { core, target } = props.active;
  return matchWords(props.head.match, props.head.verdict, target!, core.speed, core.cam?.lobeSeparation, settings.say);
});
/** Limits something was measured for; the others are only taken as usual. */
const judged = computed(() => props.head.verdict.limits.filter((l) => !l.usual));
/** What its sizes say against it in this engine; what arrival found is said beside it. */
const OF_SIZES: readonly FitItem[] = ['valve spacing', 'what the block allows', 'gasket bore', 'cam'];
const misfits = computed(() =>
  fitAnswers(props.head.whole, props.head.stage.id, props.active.build, settings.say).filter(
    (f) => f.state !== 'fits' && OF_SIZES.includes(f.item),
  ),
);
const more = computed(() => props.head.verdict.open.length + props.head.verdict.flips.length > 0);
</script>

<template>
  <article class="verdict" :aria-label="`Verdict on ${head.letter} ${head.name}`">
    <h2>
      <span class="letter">{{ head.letter }}</span>
      {{ head.name }}
      <small>{{ head.stage.name }}</small>
      <span class="word" :class="tone(head.verdict.degree)">{{ degreeWords(head.verdict) }}</span>
    </h2>
    <p class="reading">{{ words.join(' ') }}</p>
    <ArrivalNote :head="head" />
    <p v-for="f in misfits" :key="f.item" class="open">{{ capital(f.item) }}: {{ f.text }}.</p>
    <p v-for="q in head.verdict.open" :key="q.question + q.runner" class="note open">{{ openWords(q) }}</p>
    <ElCollapse v-if="more" class="more">
      <ElCollapseItem v-if="head.verdict.flips.length" title="What would flip it">
        <ul>
          <li v-for="f in head.verdict.flips" :key="f.leaf.id">{{ flipWords(f, settings.say) }}</li>
        </ul>
        <p class="note">The smallest change of each alone that turns the verdict; found by evaluating it again.</p>
      </ElCollapseItem>
      <ElCollapseItem v-if="judged.length > 1" title="Each limit’s own odds">
        <ul>
          <li v-for="l in judged" :key="l.runner + l.id">
            {{ l.runner || 'the head' }}, {{ l.id === 'flow' ? 'flow' : 'least port area' }}:
            {{ oddsWords(l.odds) }}
          </li>
        </ul>
      </ElCollapseItem>
    </ElCollapse>
  </article>
</template>

<style scoped>
h2 {
  margin: 0 0 6px;
}
.verdict {
  border-top: 1px solid var(--rule);
  padding: 8px 0 2px;
}
.verdict:first-child {
  border-top: 0;
  padding-top: 0;
}
.verdict .reading {
  margin: 4px 0 8px;
  font-size: 16px;
}
.open {
  margin: 2px 0 6px;
  color: var(--caution);
}
.more {
  margin-bottom: 6px;
}
.more ul {
  margin: 0;
  padding-left: 18px;
}
small {
  font-weight: 400;
  color: var(--slate);
}
.word {
  float: right;
  font-weight: 600;
}
.word.carries {
  color: var(--gain);
}
.word.short {
  color: var(--loss);
}
.word.open {
  margin: 0;
  color: var(--caution);
}
</style>
