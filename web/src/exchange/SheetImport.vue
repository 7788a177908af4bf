<script setup lang="ts">
import { writeCells } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ApiProblem, add } from '../api/client.js';
import { useLibrary, useRefresh, useWholeHead } from '../api/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import TextField from '../parts/TextField.vue';
import { useSettings } from '../state/settings.js';
import { useUndo } from '../state/undo.js';
import type { Pending } from './exchange.js';

/** A flow sheet from a file: shown as it was read, then put on a head and stage. */
const props = defineProps<{ pending: Extract<Pending, { kind: 'sheet' }> }>();
const emit = defineEmits<{ done: [] }>();
const route = useRoute();
const router = useRouter();
const undo = useUndo();
const settings = useSettings();
const refresh = useRefresh();

const NEW = 'new head';
// A page that may do without a head says so with an empty name.
const headId = ref((typeof route.params.id === 'string' && route.params.id) || NEW);
const stageId = ref(typeof route.query.stage === 'string' ? route.query.stage : '');
const headName = ref(props.pending.file.sheet.title);
const title = ref(props.pending.file.sheet.title);
const problem = ref('');
const library = useLibrary({ size: 200 });
const heads = computed(() => [
  [NEW, 'a new head'] as const,
  ...(library.data.value?.items ?? []).map(
    (i) => [i.head.id, `${i.head.name}${i.head.maker ? `, ${i.head.maker}` : ''}`] as const,
  ),
]);
const whole = useWholeHead(() => (headId.value === NEW ? '' : headId.value));
const stages = computed(() =>
  headId.value === NEW ? [] : (whole.data.value?.stages ?? []).map((s) => [s.id, s.name] as const),
);
const stage = computed({
  get: () => (stages.value.some(([id]) => id === stageId.value) ? stageId.value : (stages.value.at(-1)?.[0] ?? '')),
  set: (id) => (stageId.value = id),
});
const cells = computed(() => writeCells(props.pending.file.sheet.rows, settings.system));

async function accept(): Promise<void> {
  problem.value = '';
  try {
    let head = headId.value;
    let at = stage.value;
    if (head === NEW) {
      head = (await add('head', { name: headName.value })).record.id;
      at = (await add('stage', { headId: head, name: 'as received' })).record.id;
    }
    const { record, batch } = await add('sheet', { ...props.pending.file.sheet, title: title.value, stageId: at });
    undo.did(`${record.title} brought in.`, batch);
    await refresh();
    emit('done');
    await router.push({ name: 'head', params: { id: head }, query: { stage: at, sheet: record.id } });
  } catch (error) {
    problem.value = error instanceof ApiProblem ? error.message : String(error);
  }
}
</script>

<template>
  <div class="two">
    <div>
      <table v-if="cells.length" class="ruled">
        <thead>
          <tr>
            <th class="num">lift</th>
            <th class="num">intake</th>
            <th class="num">exhaust</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(c, i) in cells" :key="i">
            <td class="num">{{ c.lift }}</td>
            <td class="num">{{ c.intake }}</td>
            <td class="num">{{ c.exhaust }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else class="note">No row could be read.</p>
    </div>
    <div class="fields">
      <ChoiceField v-model="headId" label="Put it on" :options="heads" />
      <TextField v-if="headId === NEW" v-model="headName" label="Name of the head" />
      <ChoiceField v-else v-model="stage" label="at stage" :options="stages" />
      <TextField v-model="title" label="Title of the sheet" />
      <template v-if="pending.file.problems.length">
        <p class="caution">Not everything could be read; what stands here is left out:</p>
        <ul class="problems">
          <li v-for="(p, i) in pending.file.problems" :key="i">{{ p }}</li>
        </ul>
      </template>
      <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
      <el-button type="primary" :disabled="cells.length === 0" @click="accept">Bring it in</el-button>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 26px;
}
.two > div:first-child {
  max-height: 60vh;
  overflow: auto;
}
.fields {
  display: flex;
  flex-direction: column;
  gap: 10px;
  align-items: stretch;
}
.problems {
  max-height: 180px;
  overflow: auto;
  padding-left: 18px;
  margin: 0;
}
</style>
