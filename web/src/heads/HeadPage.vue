<script setup lang="ts">
import { changedSince, type Stage } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ApiProblem, add, drop } from '../api/client.js';
import { useLineup, useRefresh, useSources, useWholeHead, useWriteLineup } from '../api/queries.js';
import { useActiveBuild } from '../state/build.js';
import { useUndo } from '../state/undo.js';
import HeadFields from './HeadFields.vue';
import SheetEditor from './SheetEditor.vue';
import SizesTable from './SizesTable.vue';

/** One head: its stages with their sheets at the left; the sheet or the sizes at hand at the right. */
const props = defineProps<{ id: string }>();
const route = useRoute();
const router = useRouter();
const undo = useUndo();
const refresh = useRefresh();
const writeLineup = useWriteLineup();
const { active } = useActiveBuild();
const query = useWholeHead(() => props.id);
const lineup = useLineup(() => active.value?.build.id ?? '');
const sources = useSources();
const whole = computed(() => query.data.value);
const editing = ref(false);

const stage = computed<Stage | undefined>(
  () => whole.value?.stages.find((s) => s.id === route.query.stage) ?? whole.value?.stages.at(-1),
);
const sheetsOf = (s: Stage) => whole.value!.sheets.filter((x) => x.stageId === s.id);
const sheetId = computed(() => (typeof route.query.sheet === 'string' ? route.query.sheet : undefined));
const sheet = computed(() => whole.value?.sheets.find((s) => s.id === sheetId.value));
// A new sheet that was just saved stays in the same editor, so that typing can go on through the saving.
const added = ref('');
const isNew = computed(() => sheetId.value === 'new');
const kind = computed(() => (route.query.kind === 'claim' ? 'claim' : 'measured'));
const begunAs = ref('');
watch([isNew, kind], () => isNew.value && (begunAs.value = `new ${kind.value}`), { immediate: true, flush: 'sync' });
const editorKey = computed(() => (isNew.value || sheetId.value === added.value ? begunAs.value : sheetId.value));
const inLineup = computed(() => lineup.data.value?.entries.some((e) => e.entry.stageId === stage.value?.id) ?? false);
const sourceName = (id: string | null) => sources.data.value?.find((s) => s.id === id)?.name;

const go = (query: Record<string, string>) => router.push({ name: 'head', params: { id: props.id }, query });

async function attempt(work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    undo.announce(error.message);
  }
}
const addToLineup = () =>
  attempt(async () => {
    const entries = (lineup.data.value?.entries ?? []).map(({ entry }) => ({
      id: entry.id,
      stageId: entry.stageId,
      sheetId: entry.sheetId,
    }));
    const batch = await writeLineup(active.value!.build.id, {
      entries: [...entries, { stageId: stage.value!.id, sheetId: sheet.value?.id ?? null }],
    });
    undo.did(`${whole.value!.head.name} is in the lineup.`, batch);
  });
const newStage = ref('');
const addStage = () =>
  attempt(async () => {
    const last = whole.value!.stages.at(-1);
    const { record, batch } = await add('stage', {
      headId: props.id,
      name: newStage.value,
      parentId: last?.id ?? null,
      position: (last?.position ?? -1) + 1,
    });
    newStage.value = '';
    undo.did(`Stage “${record.name}” added.`, batch);
    await refresh();
    await go({ stage: record.id });
  });
const remove = () =>
  attempt(async () => {
    const { batch } = await drop('head', props.id);
    undo.did(`${whole.value!.head.name} deleted, with its sheets.`, batch);
    await refresh();
    await router.push({ name: 'heads' });
  });
</script>

<template>
  <section v-if="whole && stage">
    <header class="head">
      <h1>{{ whole.head.name }}</h1>
      <span class="note">
        {{
          [
            whole.head.maker,
            whole.head.kind,
            whole.head.material !== 'unknown' ? whole.head.material : '',
            whole.head.price ? `price ${whole.head.price.typed}` : '',
          ]
            .filter(Boolean)
            .join(' · ')
        }}
      </span>
      <span class="actions">
        <button v-if="active" class="worded" type="button" :disabled="inLineup" @click="addToLineup">
          {{ inLineup ? 'in the lineup' : 'add to the lineup' }}
        </button>
        <RouterLink :to="{ name: 'arrival', params: { id: whole.head.id }, query: { stage: stage.id } }">
          arrival
        </RouterLink>
        <RouterLink :to="{ name: 'measure', params: { id: whole.head.id }, query: { stage: stage.id } }">
          measure
        </RouterLink>
        <button class="worded" type="button" :aria-expanded="editing" @click="editing = !editing">edit</button>
        <button class="worded" type="button" @click="remove">delete</button>
      </span>
    </header>
    <HeadFields v-if="editing" :head="whole.head" @close="editing = false" />
    <div class="two">
      <nav aria-label="Stages and sheets">
        <ol>
          <li v-for="s in whole.stages" :key="s.id" :class="{ here: s.id === stage.id }">
            <RouterLink :to="{ query: { stage: s.id } }" class="stage">
              {{ s.name }}
              <small v-if="s.date">{{ s.date }}</small>
            </RouterLink>
            <ul v-if="s.id === stage.id">
              <li v-for="x in sheetsOf(s)" :key="x.id">
                <RouterLink :to="{ query: { stage: s.id, sheet: x.id } }" :class="{ at: x.id === sheetId }">
                  {{ x.title }}
                </RouterLink>
                <small>
                  {{
                    [
                      x.kind === 'claim' ? 'claim' : '',
                      sourceName(x.sourceId) && !x.title.includes(sourceName(x.sourceId)!)
                        ? sourceName(x.sourceId)
                        : '',
                      x.date,
                    ]
                      .filter(Boolean)
                      .join(' · ')
                  }}
                </small>
                <small v-if="changedSince(whole, x).length" class="older">
                  older than: {{ changedSince(whole, x).join('; ') }}
                </small>
              </li>
              <li>
                <RouterLink
                  :to="{ query: { stage: s.id, sheet: 'new' } }"
                  :class="{ at: isNew && kind === 'measured' }"
                >
                  + new sheet
                </RouterLink>
                <RouterLink
                  class="claim"
                  :to="{ query: { stage: s.id, sheet: 'new', kind: 'claim' } }"
                  :class="{ at: isNew && kind === 'claim' }"
                >
                  + a claim
                </RouterLink>
              </li>
              <li><RouterLink :to="{ query: { stage: s.id } }" :class="{ at: !sheetId }">sizes</RouterLink></li>
            </ul>
          </li>
        </ol>
        <form @submit.prevent="addStage">
          <el-input
            v-model="newStage"
            size="small"
            placeholder="next stage, such as bowl blend"
            aria-label="Name of the next stage"
          />
          <button class="worded" type="submit" :disabled="newStage.trim() === ''">add</button>
        </form>
      </nav>
      <SheetEditor
        v-if="sheet || isNew"
        :key="editorKey"
        :whole="whole"
        :stage="stage"
        :sheet="sheet"
        :sources="sources.data.value ?? []"
        :kind="kind"
        @added="added = $event"
      />
      <SizesTable v-else :key="stage.id" :whole="whole" :stage="stage" :sources="sources.data.value ?? []" />
    </div>
  </section>
  <p v-else-if="query.isError.value" class="reading">
    {{ query.error.value?.message }}
    <RouterLink to="/heads">All heads</RouterLink>
  </p>
</template>

<style scoped>
.head {
  display: flex;
  align-items: baseline;
  gap: 22px;
}
.actions {
  margin-left: auto;
  display: flex;
  gap: 18px;
}
.two {
  display: grid;
  grid-template-columns: 190px 1fr;
  gap: 28px;
  margin-top: 12px;
}
nav ol,
nav ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
nav ol > li {
  border-left: 3px solid var(--water);
  padding: 2px 0 8px 10px;
}
nav ol > li.here {
  border-left-color: var(--intake);
}
nav a {
  color: inherit;
  text-decoration: none;
}
nav a:hover {
  color: var(--intake);
}
.stage {
  display: block;
}
.here > .stage {
  font-weight: 600;
}
small.older {
  color: var(--caution);
}
nav ul li {
  padding: 3px 0 3px 8px;
}
.claim {
  margin-left: 12px;
}
.at {
  font-weight: 600;
  color: var(--intake);
}
small {
  display: block;
  color: var(--slate);
  font-size: 13px;
  font-weight: 400;
}
form {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
</style>
