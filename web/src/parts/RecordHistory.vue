<script setup lang="ts" generic="N extends Noun">
import type { Noun, RecordOf } from '@alluvium/records';
import { computed, ref } from 'vue';
import { placeWords, valueWords } from '../data/differenceWords.js';
import type { Draft, RecordForm } from '../data/form.js';
import { differences } from '../data/merge.js';
import { useHistory } from '../data/queries.js';
import { useSettings } from '../state/settings.js';
import { momentWords } from './moment.js';
import WaitingNote from './WaitingNote.vue';

/** Earlier states of the record a form is over: what was changed and when; any of them is brought back into the form. */
const props = defineProps<{ form: RecordForm<N> }>();
const settings = useSettings();
const open = ref(false);
const query = useHistory<RecordOf<N> & object>(props.form.noun, () =>
  open.value ? String(props.form.draft.value.id) : '',
);
const lines = computed(() =>
  (query.data.value ?? []).map(({ at, before, after }) => ({
    at: momentWords(at, settings.say),
    before,
    what:
      before && after
        ? differences(before, before, after).map(
            (d) => `${placeWords(d, [before, after])}: ${valueWords(d.mine)} → ${valueWords(d.theirs)}`,
          )
        : [after ? 'written' : 'removed'],
  })),
);
function bringBack(state: RecordOf<N>): void {
  const { draft } = props.form;
  draft.value = { ...(state as Draft<N>), version: draft.value.version };
  open.value = false;
}
</script>

<template>
  <el-button link @click="open = true">History</el-button>
  <el-dialog v-if="open" :model-value="true" title="What was changed" width="min(720px, 94vw)" @close="open = false">
    <WaitingNote v-if="!query.data.value" :loading="query.isPending.value" :error="query.error.value?.message ?? ''" />
    <table v-else class="ruled">
      <tbody>
        <tr v-for="(l, i) in lines" :key="i">
          <td class="at">{{ l.at }}</td>
          <td>
            <div v-for="w in l.what" :key="w">{{ w }}</div>
          </td>
          <td>
            <el-button v-if="l.before" link :aria-label="`Go back to before ${l.at}`" @click="bringBack(l.before)">
              Go back to before
            </el-button>
          </td>
        </tr>
      </tbody>
    </table>
  </el-dialog>
</template>

<style scoped>
.at {
  white-space: nowrap;
  color: var(--slate);
}
td {
  vertical-align: top;
  overflow-wrap: anywhere;
}
</style>
