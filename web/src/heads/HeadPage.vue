<script setup lang="ts">
import { type MeasureItem, type Sheet, type Stage } from '@alluvium/records';
import DynoNote from '../dyno/DynoNote.vue';
import { computed, defineAsyncComponent, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useListOf, useWholeHead } from '../data/queries.js';
import WaitingNote from '../parts/WaitingNote.vue';
import { useLooked } from '../data/looked.js';
import { useSettings } from '../state/settings.js';
import HeadFields from './HeadFields.vue';
import { toField } from '../parts/toField.js';
import CallAnywhere from '../practice/CallAnywhere.vue';
import HeadActs from './HeadActs.vue';
import HeadOwed from './HeadOwed.vue';
import PortsPane from './PortsPane.vue';
import SheetEditor from './SheetEditor.vue';
import StageList from './StageList.vue';
import StageReading from './StageReading.vue';
import TestedTwice from './TestedTwice.vue';
import type { GoOn } from './blankSheet.js';
import SizesTable from './SizesTable.vue';

/** One head: its stages with their sheets at the left; the sheet or the sizes at hand at the right. */
const props = defineProps<{ id: string }>();
const route = useRoute();
const router = useRouter();
const query = useWholeHead(() => props.id);
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
const shows = computed(() => (['ports', 'maps'] as const).find((s) => s === route.query.show));
const StageMaps = defineAsyncComponent(() => import('./StageMaps.vue'));
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
const go = (query: Record<string, string>) => router.push({ name: 'head', params: { id: props.id }, query });

const sizes = useTemplateRef<InstanceType<typeof SizesTable>>('sizes');
async function edit(field: string): Promise<void> {
  editing.value = true;
  await nextTick();
  toField(field);
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
      <HeadActs :whole="whole" :stage="stage" :sheet="sheet" :editing="editing" @edit="editing = !editing" />
    </header>
    <DynoNote :whole="whole" />
    <HeadFields v-if="editing" :whole="whole" @close="editing = false" />
    <div class="two">
      <StageList
        :whole="whole"
        :stage="stage"
        :sources="sources.data.value ?? []"
        :at="isNew ? kind : (shows ?? sheetId ?? 'sizes')"
      />
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
      <PortsPane v-else-if="shows === 'ports'" :whole="whole" />
      <StageMaps v-else-if="shows === 'maps'" :whole="whole" :stage="stage" />
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
@media (max-width: 800px) {
  .head {
    flex-wrap: wrap;
    gap: 6px 16px;
  }
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
