<script setup lang="ts">
import { PAPERS, type Letterhead, type RecordOf } from '@alluvium/records';
import { ref } from 'vue';
import FilePick from '../parts/FilePick.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import TextField from '../parts/TextField.vue';

/** The shop's letterhead: its name, its lines, its mark, the paper it prints on. */
const props = defineProps<{ letterhead: Letterhead | undefined }>();
const form = useRecordForm(
  'letterhead',
  () => props.letterhead,
  (): Draft<'letterhead'> => ({ id: 'new', version: 1, name: '', lines: '', logo: null, paper: 'A4', foot: '' }),
  (l: RecordOf<'letterhead'>) => `The letterhead of ${l.name} is saved.`,
  { autosave: true },
);
const { draft, problems } = form;
const problem = ref('');
const LARGEST = 200_000;
async function take(file: File | undefined): Promise<void> {
  problem.value = '';
  if (!file) return;
  if (!['image/png', 'image/jpeg'].includes(file.type)) problem.value = 'The mark must be a PNG or JPEG picture.';
  else if (file.size > LARGEST) problem.value = `${file.name} is larger than 200 kB.`;
  if (problem.value) return;
  draft.value.logo = await new Promise<string>((yes, no) => {
    const reader = new FileReader();
    reader.onload = () => yes(reader.result as string);
    reader.onerror = () => no(new Error('The picture could not be read.'));
    reader.readAsDataURL(file);
  }).catch((failed: Error) => {
    problem.value = failed.message;
    return draft.value.logo;
  });
}
</script>

<template>
  <form class="letter" data-own-keys @submit.prevent="form.save()">
    <h2 class="wide">Letterhead</h2>
    <TextField v-model="draft.name" label="Name of the shop" required :problem="problems.name" />
    <ChoiceField v-model="draft.paper" label="Paper" :options="PAPERS.map((p) => [p, p] as const)" />
    <TextField
      v-model="draft.lines"
      type="textarea"
      label="Address, telephone: a line each"
      :problem="problems.lines"
    />
    <TextField v-model="draft.foot" type="textarea" label="Said at the foot of each page" :problem="problems.foot" />
    <div class="wide mark">
      <img v-if="draft.logo" :src="draft.logo" alt="The mark as it is" />
      <FilePick accept="image/png,image/jpeg" @files="take($event[0])">Add the shop’s logo (PNG or JPEG)</FilePick>
      <el-button v-if="draft.logo" link native-type="button" @click="draft.logo = null">Remove the mark</el-button>
      <span v-if="problem || problems.logo" class="loss" role="alert">{{ problem || problems.logo }}</span>
    </div>
    <FormFoot class="wide" :form="form" save-word="Save the letterhead" />
  </form>
</template>

<style scoped>
.letter {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 20px;
  max-width: 780px;
}
.wide {
  grid-column: 1 / -1;
}
.mark {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  align-items: center;
}
.mark img {
  max-width: 120px;
  max-height: 56px;
}
@media (width < 700px) {
  .letter {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
