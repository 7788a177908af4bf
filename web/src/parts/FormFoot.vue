<script setup lang="ts" generic="N extends Noun">
import type { Noun } from '@alluvium/records';
import { computed } from 'vue';
import type { RecordForm } from '../data/form.js';
import ConflictDialog from './ConflictDialog.vue';
import { clockWords } from './moment.js';
import RecordHistory from './RecordHistory.vue';

/** Save and discard, what stands in the way, and the choice when somebody saved meanwhile. */
const props = defineProps<{ form: RecordForm<N>; saveWord?: string }>();
/** Why there is nothing to press, or what is still to be filled in. */
const why = computed(() => {
  const lacks = props.form.lacks.value;
  if (lacks.length > 0) return `Needed: ${lacks.join(', ')}.`;
  const { itself } = props.form;
  if (itself?.waits.value) return 'The server does not answer. What you typed is kept here, and saved when it is back.';
  if (props.form.dirty.value) return '';
  if (!itself) return 'Nothing to save.';
  return itself.at.value ? `Saved by itself at ${clockWords(itself.at.value)}.` : 'Saves itself as you type.';
});
</script>

<template>
  <div class="foot">
    <el-button
      type="primary"
      :loading="form.saving.value"
      :disabled="!form.dirty.value && !form.itself"
      native-type="submit"
    >
      {{ saveWord ?? 'Save' }}
    </el-button>
    <span v-if="why" class="note">{{ why }}</span>
    <el-popconfirm
      v-if="form.dirty.value"
      title="Discard what you typed since the last save?"
      confirm-button-text="Discard"
      cancel-button-text="Keep it"
      width="260"
      @confirm="form.discard()"
    >
      <template #reference>
        <el-button link>Discard changes</el-button>
      </template>
    </el-popconfirm>
    <RecordHistory v-if="form.itself && form.stands.value" :form="form" />
    <span v-if="form.restored.value" class="note">Kept from your last visit; not saved yet.</span>
    <p v-if="Object.keys(form.problems.value).length" class="loss" role="alert">
      {{
        form.problems.value[''] ??
        (Object.keys(form.problems.value).length === 1
          ? 'One field needs a look:'
          : `${Object.keys(form.problems.value).length} fields need a look:`)
      }}
      <template v-if="!form.problems.value['']">{{ Object.values(form.problems.value)[0] }}</template>
    </p>
    <ConflictDialog
      v-if="form.conflict.value"
      :conflict="form.conflict.value"
      @keep="form.keepBoth($event)"
      @theirs="form.takeTheirs()"
      @close="form.decideLater()"
    />
  </div>
</template>

<style scoped>
.foot {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 18px;
  margin-top: 16px;
}
.foot p {
  flex-basis: 100%;
  margin: 0;
}
</style>
