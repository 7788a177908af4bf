<script setup lang="ts">
import {
  ENTRIES,
  FLOW_VALVES,
  PIPES,
  SOURCE_KINDS,
  SourceStated,
  type Attachment,
  type RecordOf,
  type Source,
} from '@alluvium/records';
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { drop, get } from '../api/client.js';
import { useRefresh } from '../api/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import PhotoStrip from '../arrival/PhotoStrip.vue';
import { attempt } from '../parts/attempt.js';
import TextField from '../parts/TextField.vue';
import { useRecordForm, type Draft } from '../parts/form.js';
import { useUndo } from '../state/undo.js';

/** One source: who it is, and what it states of all its tests. What it does not state stays unknown. */
const props = defineProps<{ source: Source | undefined }>();
const emit = defineEmits<{ done: [] }>();
const undo = useUndo();
const refresh = useRefresh();
const form = useRecordForm(
  'source',
  () => props.source,
  (): Draft<'source'> => ({
    id: 'new',
    version: 1,
    name: '',
    kind: 'maker',
    bench: '',
    stated: SourceStated.parse({}),
    date: null,
    link: '',
    note: '',
  }),
  (s: RecordOf<'source'>) => `${s.name} saved.`,
);
const { draft, problems } = form;
const stated = computed(() => draft.value.stated!);
const put = <K extends keyof SourceStated>(name: K, value: SourceStated[K]) =>
  form.set('stated', { ...stated.value, [name]: value });
const scans = useQuery({ queryKey: ['attachments'], queryFn: () => get<Attachment[]>('/api/attachment') });
const own = computed(() =>
  (scans.data.value ?? []).filter((a) => a.sourceId === props.source?.id && a.headId === null),
);
const KIND_WORDS: Record<(typeof SOURCE_KINDS)[number], string> = {
  'own bench': 'our own bench',
  'other bench': 'another bench',
  maker: 'a maker’s catalogue',
  magazine: 'a magazine',
  forum: 'a forum post',
  'word of mouth': 'somebody’s word',
};
async function save(): Promise<void> {
  if (await form.save()) emit('done');
}
async function remove(): Promise<void> {
  await attempt(
    async () => {
      const { batch } = await drop('source', props.source!.id);
      undo.did(`${props.source!.name} is taken out; its tables and sizes stay, said by nobody.`, batch);
      await refresh();
      emit('done');
    },
    (sentence) => (form.problems.value = { '': sentence }),
  );
}
</script>

<template>
  <form class="source" data-own-keys @submit.prevent="save" @keydown.esc="$emit('done')">
    <TextField v-model="draft.name" label="Name of the source" :problem="problems.name" />
    <ChoiceField
      v-model="draft.kind!"
      label="What it is"
      :options="SOURCE_KINDS.map((k) => [k, KIND_WORDS[k]] as const)"
    />
    <TextField v-model="draft.bench" label="Make of its bench" placeholder="unknown" :problem="problems.bench" />
    <TextField
      :model-value="draft.date"
      type="date"
      label="Date"
      :problem="problems.date"
      @update:model-value="draft.date = $event || null"
    />
    <p class="wide note">What it states of all its tests:</p>
    <FormQuantity
      :form="form as never"
      field="stated.depression"
      kind="depression"
      label="Depression"
      placeholder="unknown"
    />
    <FormQuantity :form="form as never" field="stated.bore" kind="length" label="Bore" placeholder="unknown" />
    <ChoiceField
      :model-value="stated.entry"
      label="Intake entry"
      :options="ENTRIES.map((e) => [e, e] as const)"
      @update:model-value="put('entry', $event)"
    />
    <ChoiceField
      :model-value="stated.exhaustPipe"
      label="Exhaust"
      :options="PIPES.map((p) => [p, p] as const)"
      @update:model-value="put('exhaustPipe', $event)"
    />
    <FormQuantity
      v-if="stated.exhaustPipe === 'piped'"
      :form="form as never"
      field="stated.pipeDiameter"
      kind="length"
      label="Pipe diameter"
      placeholder="unknown"
    />
    <FormQuantity
      v-if="stated.exhaustPipe === 'piped'"
      :form="form as never"
      field="stated.pipeLength"
      kind="length"
      label="Pipe length"
      placeholder="unknown"
    />
    <ChoiceField
      :model-value="stated.valve"
      label="Valves"
      :options="FLOW_VALVES.map((v) => [v, v] as const)"
      @update:model-value="put('valve', $event)"
    />
    <TextField
      :model-value="stated.port"
      label="Which runner"
      placeholder="unknown"
      :problem="problems['stated.port']"
      @update:model-value="put('port', $event ?? '')"
    />
    <TextField v-model="draft.link" label="Link or page" :problem="problems.link" class="two" />
    <TextField v-model="draft.note" type="textarea" label="Note" :problem="problems.note" class="wide" />
    <div v-if="source" class="wide">
      <p class="note">Scans:</p>
      <PhotoStrip :source-id="source.id" :photos="own" />
    </div>
    <FormFoot class="wide" :form="form as never" :save-word="source ? 'Save' : 'Add it'" />
    <p class="wide acts">
      <button class="worded" type="button" @click="$emit('done')">close</button>
      <button v-if="source" class="worded" type="button" @click="remove">take the source out</button>
    </p>
  </form>
</template>

<style scoped>
.source {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px 20px;
  border-left: 3px solid var(--intake);
  padding: 4px 0 8px 14px;
  margin: 0 0 16px;
}
.wide {
  grid-column: 1 / -1;
  margin: 6px 0 0;
}
.two {
  grid-column: span 2;
}
.acts {
  display: flex;
  gap: 18px;
}
</style>
