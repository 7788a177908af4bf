<script setup lang="ts">
import {
  addition,
  changedSince,
  pickSheet,
  removal,
  replacement,
  sheetDetails,
  touchedPorts,
  type MeasureItem,
  type Sheet,
  type Stage,
} from '@alluvium/records';
import DynoNote from '../dyno/DynoNote.vue';
import { computed, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useAddToLineup } from '../data/comparison.js';
import { newId } from '../data/ids.js';
import { useLineup, useListOf, useWholeHead } from '../data/queries.js';
import { useActiveBuild } from '../data/build.js';
import { useChange } from '../data/useChange.js';
import WaitingNote from '../parts/WaitingNote.vue';
import { useLooked } from '../data/looked.js';
import { useSettings } from '../state/settings.js';
import HeadFields from './HeadFields.vue';
import { toField } from '../parts/toField.js';
import CallAnywhere from '../practice/CallAnywhere.vue';
import HeadOwed from './HeadOwed.vue';
import PortsPane from './PortsPane.vue';
import SheetEditor from './SheetEditor.vue';
import StageReading from './StageReading.vue';
import TestedTwice from './TestedTwice.vue';
import type { GoOn } from './blankSheet.js';
import SizesTable from './SizesTable.vue';

/** One head: its stages with their sheets at the left; the sheet or the sizes at hand at the right. */
const props = defineProps<{ id: string }>();
const route = useRoute();
const router = useRouter();
const change = useChange();
const add = useAddToLineup();
const { active } = useActiveBuild();
const query = useWholeHead(() => props.id);
const lineup = useLineup(() => active.value?.build.id ?? '');
const sources = useListOf('source');
const whole = computed(() => query.data.value);
// The head that is open is the head in hand: the bench and every other step go on with it.
const settings = useSettings();
const looked = useLooked();
watch(
  () => [whole.value?.head.id, whole.value?.head.name] as const,
  ([id, name]) => {
    if (!id || !name) return;
    settings.headId = id;
    looked.look(id, name);
  },
  { immediate: true },
);
const editing = ref(false);

const stage = computed<Stage | undefined>(
  () => whole.value?.stages.find((s) => s.id === route.query.stage) ?? whole.value?.stages.at(-1),
);
const sheetsOf = (s: Stage) => whole.value!.sheets.filter((x) => x.stageId === s.id);
const showsPorts = computed(() => route.query.show === 'ports');
const sheetId = computed(() => (typeof route.query.sheet === 'string' ? route.query.sheet : undefined));
/** A sheet that was just saved is shown before the head is read anew. */
const fresh = shallowRef<Sheet>();
const sheet = computed(
  () =>
    whole.value?.sheets.find((s) => s.id === sheetId.value) ??
    (fresh.value?.id === sheetId.value ? fresh.value : undefined),
);
// A new sheet that was just saved stays in the same editor, so that typing can go on through the saving.
const added = computed(() => fresh.value?.id ?? '');
const isNew = computed(() => sheetId.value === 'new');
const kind = computed(() => (route.query.kind === 'claim' ? 'claim' : 'measured'));
// Each new sheet has an editor of its own: nothing of the one before stands in it.
const begun = ref(0);
const begunAs = computed(() => `new ${begun.value}`);
/** What a new sheet goes on from: the port or the bore that was just typed. */
const after = shallowRef<GoOn>();
async function goOn(next: GoOn): Promise<void> {
  after.value = next;
  await go({ stage: next.sheet.stageId, sheet: 'new' });
}
watch(sheetId, (id) => id !== 'new' && id !== after.value?.sheet.id && (after.value = undefined));
watch(
  [isNew, kind, () => route.query.stage],
  () => {
    if (!isNew.value) return;
    begun.value++;
    fresh.value = undefined;
  },
  { immediate: true, flush: 'sync' },
);
const editorKey = computed(() => (isNew.value || sheetId.value === added.value ? begunAs.value : sheetId.value));
/** This sheet, or this stage, is compared already. Any two sheets of one head may stand side by side. */
const inLineup = computed(() =>
  (lineup.data.value?.entries ?? []).some(({ entry }) => {
    if (entry.stageId !== stage.value?.id) return false;
    if (!sheet.value) return true;
    const best = pickSheet(whole.value!.sheets, entry.stageId, active.value?.build, touchedPorts(whole.value!.ports));
    return (entry.sheetId ?? best?.id) === sheet.value.id;
  }),
);
const details = (s: Sheet) => sheetDetails(s, whole.value!.ports, sources.data.value ?? []).join(' · ');
const STEPS = ['arrival', 'measure', 'bench', 'claims', 'change'] as const;

const go = (query: Record<string, string>) => router.push({ name: 'head', params: { id: props.id }, query });

const addToLineup = () =>
  change.run(
    () => add(active.value!.build.id, [{ stageId: stage.value!.id, sheetId: sheet.value?.id ?? null }]),
    `${whole.value!.head.name} is in the lineup.`,
  );
const newStage = ref('');
async function addStage(): Promise<void> {
  const last = whole.value!.stages.at(-1);
  const id = newId();
  const made = await change.make(
    [
      addition('stage', {
        id,
        headId: props.id,
        name: newStage.value,
        parentId: last?.id ?? null,
        position: (last?.position ?? -1) + 1,
      }),
    ],
    `Stage “${newStage.value}” added.`,
  );
  if (!made) return;
  newStage.value = '';
  await go({ stage: id });
}
const sizes = useTemplateRef<InstanceType<typeof SizesTable>>('sizes');
async function edit(field: string): Promise<void> {
  editing.value = true;
  await nextTick();
  toField(field);
}
async function archive(): Promise<void> {
  const { head } = whole.value!;
  await change.make(
    [replacement('head', { ...head, archived: !head.archived })],
    head.archived ? `${head.name} is back in the library.` : `${head.name} is archived.`,
  );
}
async function remove(): Promise<void> {
  if (await change.make([removal('head', props.id)], `${whole.value!.head.name} removed, with its sheets.`)) {
    looked.forget(props.id);
    await router.push({ name: 'heads' });
  }
}
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
            ...whole.head.tags,
            whole.head.archived ? 'archived' : '',
          ]
            .filter(Boolean)
            .join(' · ')
        }}
      </span>
      <span v-if="whole.pair" class="note">
        pair of
        <RouterLink :to="{ name: 'head', params: { id: whole.pair.head.id } }">{{ whole.pair.head.name }}</RouterLink>
      </span>
      <span class="actions">
        <el-button v-if="active" link :disabled="inLineup" @click="addToLineup">
          {{ inLineup ? 'In the lineup' : 'Add to the lineup' }}
        </el-button>
        <RouterLink
          v-for="step in STEPS"
          :key="step"
          :to="{ name: step, params: { id: whole.head.id }, query: { stage: stage.id } }"
        >
          {{ step[0]!.toUpperCase() + step.slice(1) }}
        </RouterLink>
        <RouterLink v-if="active" :to="{ name: 'compare', query: { build: active.build.id } }">Compare</RouterLink>
        <RouterLink v-if="active" :to="{ name: 'match', query: { build: active.build.id } }">Match</RouterLink>
        <el-button link :aria-pressed="looked.isPinned(whole.head.id)" @click="looked.pin(whole.head.id)">
          {{ looked.isPinned(whole.head.id) ? 'Unpin' : 'Pin' }}
        </el-button>
        <el-button link :aria-expanded="editing" @click="editing = !editing">Edit</el-button>
        <el-button link @click="archive">{{ whole.head.archived ? 'Restore from the archive' : 'Archive' }}</el-button>
        <el-button link @click="remove">Remove</el-button>
      </span>
    </header>
    <DynoNote :whole="whole" />
    <HeadFields v-if="editing" :whole="whole" @close="editing = false" />
    <div class="two">
      <nav aria-label="Stages and sheets">
        <ol>
          <li v-for="s in whole.stages" :key="s.id" :class="{ here: s.id === stage.id }">
            <RouterLink :to="{ query: { stage: s.id } }" class="stage">
              {{ s.name }}
              <small v-if="s.date">{{ settings.say.day(s.date) }}</small>
            </RouterLink>
            <ul v-if="s.id === stage.id">
              <li v-for="x in sheetsOf(s)" :key="x.id">
                <RouterLink :to="{ query: { stage: s.id, sheet: x.id } }" :class="{ at: x.id === sheetId }">
                  {{ x.title }}
                </RouterLink>
                <small>{{ details(x) }}</small>
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
              <li>
                <RouterLink :to="{ query: { stage: s.id } }" :class="{ at: !sheetId && !showsPorts }">sizes</RouterLink>
                <RouterLink class="claim" :to="{ query: { stage: s.id, show: 'ports' } }" :class="{ at: showsPorts }">
                  ports
                </RouterLink>
              </li>
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
          <el-button link native-type="submit" :disabled="newStage.trim() === ''">Add</el-button>
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
        :after="isNew || sheetId === added ? after : undefined"
        @added="fresh = $event"
        @next="goOn"
      />
      <PortsPane v-else-if="showsPorts" :whole="whole" />
      <SizesTable v-else ref="sizes" :key="stage.id" :whole="whole" :stage="stage" :sources="sources.data.value ?? []">
        <template #before>
          <StageReading :whole="whole" :stage="stage" />
          <TestedTwice :whole="whole" :stage-id="stage.id" />
        </template>
        <template #after>
          <HeadOwed
            :whole="whole"
            :stage="stage"
            @edit="edit"
            @size="(item, side) => sizes?.begin(item as MeasureItem, side === 'exhaust' ? 'exhaust' : 'intake')"
          />
          <details>
            <summary>Guess what it will flow, before it is flowed</summary>
            <CallAnywhere :head="whole.head.id" :stage="stage.id" />
          </details>
        </template>
      </SizesTable>
    </div>
  </section>
  <WaitingNote v-else :loading="query.isPending.value" :error="query.error.value?.message ?? ''">
    <template #way><RouterLink to="/heads">All heads</RouterLink></template>
  </WaitingNote>
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
summary {
  cursor: pointer;
  color: var(--slate);
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
@media (max-width: 800px) {
  .head,
  .actions {
    flex-wrap: wrap;
    gap: 6px 16px;
  }
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
