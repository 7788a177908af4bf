<script setup lang="ts">
import { QUESTION_STATES, removal, type Question, type RecordOf, type WholeHead } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useWholeHead } from '../data/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import HeadPicker from '../parts/HeadPicker.vue';
import FormFoot from '../parts/FormFoot.vue';
import SourceField from '../parts/SourceField.vue';
import TextField from '../parts/TextField.vue';
import { withSource } from '../parts/newNamed.js';
import { useRecordForm, type Draft } from '../data/form.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import { evidenceAmong, useEvidence } from './evidence.js';
import type { Claims } from './useClaims.js';

// props.question!: only what is there is removed.

/** A question under test: put, then closed with its reasons and what shows it. */
const props = defineProps<{ claims: Claims; whole: WholeHead; question?: Question }>();
const emit = defineEmits<{ done: [] }>();
const change = useChange('here');
const form = useRecordForm(
  'question',
  () => props.question,
  (): Draft<'question'> => ({
    id: 'new',
    version: 1,
    text: '',
    sourceId: null,
    headId: props.whole.head.id,
    opened: today(),
    state: 'open',
    reasons: '',
    closed: null,
    evidence: [],
  }),
  (q: RecordOf<'question'>) => (q.state === 'open' ? `Put: ${q.text}` : `Closed as ${q.state}: ${q.text}`),
  { resolve: withSource('word of mouth') },
);
const { draft, problems } = form;
const STATE_WORDS = {
  open: 'it is open',
  true: 'it is true',
  false: 'it is false',
  unproven: 'it cannot be proven',
} as const;
/** Evidence is looked for on the head the question is about first. */
const lookOn = ref(props.question?.headId ?? props.whole.head.id);
const looked = useWholeHead(lookOn);
const offered = computed(() => {
  const taken = new Set((draft.value.evidence ?? []).map((e) => e.noun + e.id));
  return (looked.data.value ? evidenceAmong(looked.data.value) : []).filter(
    (e) => !taken.has(e.piece.noun + e.piece.id),
  );
});
const evidence = useEvidence(() => draft.value.evidence ?? []);
/** The head it is about; none is an empty choice. */
const about = computed({
  get: () => draft.value.headId ?? '',
  set: (id) => (draft.value.headId = id || null),
});
const chosen = computed(() => (draft.value.evidence ?? []).map(evidence.value));
function lean(index: number): void {
  const piece = offered.value[index]?.piece;
  if (piece) draft.value.evidence = [...(draft.value.evidence ?? []), piece];
}
const unlean = (index: number) => (draft.value.evidence = (draft.value.evidence ?? []).filter((_, i) => i !== index));
async function save(): Promise<void> {
  draft.value.closed = draft.value.state === 'open' ? null : (draft.value.closed ?? today());
  if (await form.save()) emit('done');
}
async function remove(): Promise<void> {
  if (await change.make([removal('question', props.question!.id)], 'The question is removed.')) emit('done');
  else form.problems.value = { '': change.refusal.value };
}
</script>

<template>
  <form class="question" data-own-keys @submit.prevent="save" @keydown.esc="$emit('done')">
    <TextField
      v-model="draft.text"
      label="The claim or rumour, in one line"
      required
      :problem="problems.text"
      class="wide"
    />
    <HeadPicker v-model="about" label="About" :others="[['', 'no head in particular']]" />
    <SourceField v-model="draft.sourceId" label="Said by" :sources="claims.sources.value" none="unknown" />
    <ChoiceField
      v-model="draft.state"
      label="How it stands"
      :options="QUESTION_STATES.map((s) => [s, STATE_WORDS[s]] as const)"
    />
    <TextField
      v-model="draft.reasons"
      type="textarea"
      label="Why"
      :problem="problems.reasons"
      placeholder="what shows it, in your own words"
      class="wide"
    />
    <div class="wide">
      <p class="field-label">Evidence</p>
      <ul v-if="chosen.length">
        <li v-for="(e, i) in chosen" :key="i">
          {{ e.text }}
          <el-button link :aria-label="`Remove ${e.text}`" @click="unlean(i)">Remove</el-button>
        </li>
      </ul>
      <p v-if="problems.evidence" class="loss" role="alert">{{ problems.evidence }}</p>
      <div class="pick">
        <HeadPicker v-model="lookOn" label="Evidence from" />
        <ChoiceField
          :model-value="-1"
          label="Add as evidence"
          :options="offered.map((e, i) => [i, e.text] as const)"
          @update:model-value="lean"
        />
      </div>
    </div>
    <FormFoot class="wide" :form="form" :save-word="question ? 'Save' : 'Save the question'" />
    <p class="wide acts">
      <el-button link @click="$emit('done')">Cancel</el-button>
      <el-button v-if="question" link @click="remove">Remove the question</el-button>
    </p>
  </form>
</template>

<style scoped>
.question {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 6px 20px;
  border-left: 3px solid var(--caution-line);
  padding: 4px 0 8px 14px;
  margin: 8px 0;
}
@media (width < 760px) {
  .question {
    grid-template-columns: minmax(0, 1fr);
  }
}
.wide {
  grid-column: 1 / -1;
}
.pick {
  display: grid;
  grid-template-columns: 200px 1fr;
  gap: 20px;
}
@media (width < 760px) {
  .pick {
    grid-template-columns: minmax(0, 1fr);
  }
}
ul {
  margin: 2px 0 6px;
  padding-left: 18px;
}
li button {
  margin-left: 8px;
}
.acts {
  display: flex;
  gap: 18px;
  margin: 4px 0 0;
}
</style>
