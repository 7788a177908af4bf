<script setup lang="ts">
import {
  BenchTemplate,
  ENTRIES,
  FLOW_VALVES,
  PIPES,
  SOURCE_KINDS,
  SourceStated,
  removal,
  type RecordOf,
  type Source,
} from '@alluvium/records';
import { computed } from 'vue';
import { useListOf } from '../data/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import PhotoStrip from '../arrival/PhotoStrip.vue';
import TemplateLine from '../parts/TemplateLine.vue';
import TextField from '../parts/TextField.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { useChange } from '../data/useChange.js';

// props.source!: only what is there is removed.

/** One source: who it is, and what it states of all its tests. What it does not state stays unknown. */
const props = defineProps<{ source: Source | undefined }>();
const emit = defineEmits<{ done: [] }>();
const change = useChange('here');
const form = useRecordForm(
  'source',
  () => props.source,
  (): Draft<'source'> => ({
    id: 'new',
    version: 1,
    name: '',
    kind: 'maker',
    bench: '',
    meter: '',
    knownError: null,
    scales: [],
    stated: SourceStated.parse({}),
    date: null,
    link: '',
    note: '',
  }),
  (s: RecordOf<'source'>) => `${s.name} saved.`,
  { autosave: true },
);
const { draft, problems } = form;
const stated = computed(() => draft.value.stated);
const put = <K extends keyof SourceStated>(name: K, value: SourceStated[K]) =>
  form.set('stated', { ...stated.value, [name]: value });
const scans = useListOf('attachment');
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
function take({ kind, bench, meter, scales, stated: says }: BenchTemplate): void {
  form.set('kind', kind);
  form.set('bench', bench);
  form.set('meter', meter);
  form.set('scales', scales);
  form.set('stated', says);
}
const asTemplate = () => BenchTemplate.safeParse(draft.value).data;
async function save(): Promise<void> {
  if (await form.save()) emit('done');
}
async function remove(): Promise<void> {
  const { id, name } = props.source!;
  const made = await change.make(
    [removal('source', id)],
    `${name} is removed; its tables and sizes stay, said by nobody.`,
  );
  if (made) emit('done');
  else form.problems.value = { '': change.refusal.value };
}
</script>

<template>
  <form class="source" data-own-keys @submit.prevent="save" @keydown.esc="$emit('done')">
    <TemplateLine of="bench" :content="asTemplate" class="wide" @take="take" />
    <TextField v-model="draft.name" label="Name of the source" required :problem="problems.name" />
    <ChoiceField
      v-model="draft.kind"
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
    <FormQuantity :form="form" field="stated.depression" kind="depression" label="Depression" placeholder="unknown" />
    <FormQuantity :form="form" field="stated.bore" kind="length" label="Bore" placeholder="unknown" />
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
      :form="form"
      field="stated.pipeDiameter"
      kind="length"
      label="Pipe diameter"
      placeholder="unknown"
    />
    <FormQuantity
      v-if="stated.exhaustPipe === 'piped'"
      :form="form"
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
    <FormFoot class="wide" :form="form" :save-word="source ? 'Save' : 'Add it'" />
    <p class="wide acts">
      <el-button link @click="$emit('done')">Close</el-button>
      <el-button v-if="source" link @click="remove">Remove the source</el-button>
    </p>
  </form>
</template>

<style scoped>
.source {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(max(120px, 22%), 1fr));
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
