<script setup lang="ts">
import {
  addition,
  isRight,
  nextQuestion,
  practiceOf,
  practisedOf,
  roundsTable,
  toCsv,
  workbookOf,
  type Asked,
  type Round,
} from '@alluvium/records';
import { computed, ref, shallowRef, watch } from 'vue';
import { download } from '../charts/save.js';
import { useActiveBuild } from '../data/build.js';
import { newId } from '../data/ids.js';
import { useJudging } from '../data/judging.js';
import { standingOf, useListOf, usePracticeHeads } from '../data/queries.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import { saveWorkbook } from '../exchange/workbook.js';
import RiverChart from '../measure/RiverChart.vue';
import TextField from '../parts/TextField.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { useSettings } from '../state/settings.js';
import WideFrame from '../parts/WideFrame.vue';

// active.value!, question.value!: looked for in front of it; shown with a question.

/** Rounds of five minutes from the heads of the library: a question, an answer, and the working behind it. */
const settings = useSettings();
const judging = useJudging();
const change = useChange();
const { active } = useActiveBuild();
const builds = useListOf('build');
const sources = useListOf('source');
const rounds = useListOf('round');
const { loading, error } = standingOf(rounds);
const heads = usePracticeHeads();
/** What is planted in the questions is the same on every visit, so that a missed one can come again. */
const SEED = 1;
const facts = computed(() => {
  const list = builds.data.value ?? [];
  // The build at hand is asked about; all of them where there is none.
  const asked = active.value ? list.filter((b) => b.id === active.value!.build.id) : list;
  return {
    wholes: heads.data.value ?? [],
    builds: asked,
    context: { ...judging.value, sources: sources.data.value ?? [] },
    say: settings.say,
  };
});
const questions = computed(() => (facts.value.wholes.length > 0 ? practiceOf(facts.value, SEED) : []));
const question = shallowRef<Asked>();
const answer = ref('');
const answered = ref<number>();
const problem = ref('');
const who = ref(localStorage.getItem('alluvium.practice.who') ?? '');
watch(who, (w) => localStorage.setItem('alluvium.practice.who', w));
/** Rounds of this visit: asked of at once, whether the server has told of them yet or not. */
const visit = ref<Round[]>([]);
const all = computed(() => {
  const stored = rounds.data.value ?? [];
  return [...stored, ...visit.value.filter((v) => !stored.some((s) => s.id === v.id))];
});
function next(): void {
  question.value = nextQuestion(questions.value, all.value);
  answer.value = '';
  answered.value = undefined;
  problem.value = '';
}
watch(
  [questions, () => rounds.data.value],
  () => {
    if (!question.value && questions.value.length > 0 && rounds.data.value) next();
  },
  { immediate: true },
);
const right = computed(
  () => question.value !== undefined && answered.value !== undefined && isRight(question.value, answered.value),
);
async function say(value: number, text: string): Promise<void> {
  const q = question.value!;
  answered.value = value;
  const round: Round = {
    id: newId(),
    version: 1,
    who: who.value,
    kind: q.kind,
    question: q.name,
    answer: text,
    right: isRight(q, value),
    date: today(),
  };
  visit.value = [...visit.value, round];
  await change.make([addition('round', round)], round.right ? 'Known.' : 'It comes again.');
}
function sayFigure(): void {
  const value = Number(answer.value.trim().replace(',', '.'));
  problem.value = answer.value.trim() === '' || !Number.isFinite(value) || value <= 0 ? 'Type a figure.' : '';
  if (!problem.value) void say(value, answer.value);
}
const table = () => roundsTable(all.value);
const saveCsv = () => download('practice.csv', toCsv(table()), 'text/csv');
const saveXlsx = () => void saveWorkbook('practice', workbookOf('Practice', table()));
const practised = computed(() => practisedOf(all.value));
</script>

<template>
  <div class="rounds">
    <WaitingNote
      v-if="!rounds.data.value || !heads.data.value"
      :loading="loading || heads.isPending.value"
      :error="error || (heads.error.value?.message ?? '')"
    />
    <p v-else-if="questions.length === 0" class="reading">
      There is nothing to ask yet: rounds are made of heads that were flowed. Enter two of them, or load the demo.
    </p>
    <template v-else-if="question">
      <p class="note">{{ question.kind }}</p>
      <h2>{{ question.asks }}</h2>
      <ul v-if="question.given.length">
        <li v-for="g in question.given" :key="g">{{ g }}</li>
      </ul>
      <div v-if="question.photos?.length" class="photos">
        <a v-for="p in question.photos" :key="p" :href="`/api/attachment/${p}/picture`" target="_blank" rel="noopener">
          <img :src="`/api/attachment/${p}/thumbnail`" alt="A photo of this head" loading="lazy" />
        </a>
      </div>
      <template v-if="question.survey">
        <p class="note">The port along its length, flange on the left: the channel is as wide as its area.</p>
        <RiverChart :survey="question.survey" :budget="undefined" mode="area" :needed="undefined" :height="220" />
      </template>
      <WideFrame v-if="question.table">
        <table class="ruled">
          <thead>
            <tr>
              <th v-for="h in question.table.head" :key="h" class="num">{{ h }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(row, i) in question.table.rows" :key="i">
              <td v-for="(cell, k) in row" :key="k" class="num">{{ cell }}</td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <template v-if="answered === undefined">
        <p v-if="question.choices" class="choices">
          <el-button v-for="(c, i) in question.choices" :key="c" @click="say(i, c)">{{ c }}</el-button>
        </p>
        <form v-else class="figure" @submit.prevent="sayFigure">
          <TextField v-model="answer" :label="`Your figure, ${question.unit}`" :problem="problem" />
          <el-button type="primary" native-type="submit">Answer</el-button>
        </form>
      </template>
      <div v-else role="status">
        <p :class="right ? 'gain' : 'loss'" class="verdict">
          {{ right ? 'Right.' : 'No.' }}
          <template v-if="!right">
            It is {{ question.choices ? question.choices[question.answer] : `${question.answer} ${question.unit}` }}.
          </template>
        </p>
        <p v-for="b in question.because" :key="b">{{ b }}</p>
        <el-button type="primary" @click="next">The next one</el-button>
      </div>
      <TextField v-model="who" class="who" label="Who practises" />
      <p class="note">
        Asked of {{ heads.data.value.length }} {{ heads.data.value.length === 1 ? 'head' : 'heads' }} of the library.
        <el-button link :disabled="heads.isFetching.value" @click="heads.refetch()">Take other heads</el-button>
      </p>
    </template>
    <template v-if="practised.length">
      <h2>So far</h2>
      <WideFrame>
        <table class="ruled">
          <tbody>
            <tr v-for="p in practised" :key="p.kind">
              <td>{{ p.kind }}</td>
              <td class="num">{{ p.right }} of {{ p.asked }}</td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p class="note">What was missed comes again until it is known.</p>
      <p class="no-print">
        <el-button size="small" @click="saveCsv">Export the rounds as CSV</el-button>
        <el-button size="small" @click="saveXlsx">Export XLSX</el-button>
      </p>
    </template>
  </div>
</template>

<style scoped>
.rounds {
  max-width: 760px;
}
.photos {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
}
.choices :deep(.el-button) {
  margin: 0;
}
.figure {
  display: flex;
  gap: 14px;
  align-items: end;
  margin: 10px 0;
}
.verdict {
  font-weight: 600;
}
.who {
  max-width: 240px;
  margin-top: 16px;
}
</style>
