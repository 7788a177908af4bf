<script setup lang="ts" generic="N extends Noun">
import type { Noun } from '@alluvium/records';
import { computed, ref } from 'vue';
import type { Conflict, Draft } from '../data/form.js';
import { placeWords, valueWords } from '../data/differenceWords.js';
import { differences, merged, type Difference } from '../data/merge.js';

/** Somebody saved meanwhile: every field that differs on one line, and which version of it is kept. */
const props = defineProps<{ conflict: Conflict<N> }>();
const emit = defineEmits<{ keep: [Draft<N>]; theirs: []; close: [] }>();

const lines = computed(() =>
  differences(props.conflict.base, props.conflict.mine, props.conflict.theirs).map((difference) => ({
    difference,
    key: difference.path.join('\u0000'),
    place: placeWords(difference, [props.conflict.mine, props.conflict.theirs]),
  })),
);
/** What only one of both changed is taken from that one; what both changed stays as typed here until it is chosen. */
const taken = ref<Record<string, 'mine' | 'theirs'>>({});
const of = (key: string, difference: Difference) =>
  taken.value[key] ?? (difference.by === 'theirs' ? 'theirs' : 'mine');
const clashes = computed(() => lines.value.filter((l) => l.difference.by === 'both').length);

function keep(): void {
  const paths = lines.value.filter((l) => of(l.key, l.difference) === 'mine').map((l) => l.difference.path);
  emit('keep', merged<unknown>(props.conflict.mine, props.conflict.theirs, paths) as Draft<N>);
}
</script>

<template>
  <el-dialog
    :model-value="true"
    title="Someone saved this after you opened it"
    width="min(860px, 94vw)"
    @close="$emit('close')"
  >
    <p v-if="lines.length" class="reading">
      {{ lines.length === 1 ? 'One field differs' : `${lines.length} fields differ` }};
      {{
        clashes === 0
          ? 'no field was changed by both. The changes of both are chosen.'
          : `${clashes} changed by both: choose which to keep.`
      }}
    </p>
    <div class="frame">
      <table class="ruled">
        <thead>
          <tr>
            <th scope="col">Field</th>
            <th scope="col">Yours</th>
            <th scope="col">Saved meanwhile</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ difference, key, place: name } in lines" :key="key" :class="difference.by">
            <th scope="row">
              {{ name }}
              <small v-if="difference.by === 'both'">changed by both</small>
            </th>
            <td
              v-for="side in ['mine', 'theirs'] as const"
              :key="side"
              :class="{ chosen: of(key, difference) === side }"
            >
              <el-radio
                :model-value="of(key, difference)"
                :value="side"
                :name="key"
                :aria-label="`${name}: ${side === 'mine' ? 'yours' : 'saved meanwhile'}, ${valueWords(difference[side])}`"
                @update:model-value="taken[key] = side"
              >
                {{ valueWords(difference[side]) }}
              </el-radio>
            </td>
          </tr>
          <tr v-if="lines.length === 0">
            <td colspan="3" class="note">Both say the same.</td>
          </tr>
        </tbody>
      </table>
    </div>
    <template #footer>
      <el-button @click="$emit('theirs')">Discard mine, take theirs</el-button>
      <el-button type="primary" @click="keep">Save what is chosen</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.frame {
  max-height: 56vh;
  overflow: auto;
}
th,
td {
  vertical-align: top;
  overflow-wrap: anywhere;
}
table.ruled tbody th {
  font-weight: 400;
  text-align: left;
  color: var(--ink);
  border-bottom: 1px solid var(--rule);
}
tr.both th {
  color: var(--caution);
}
small {
  display: block;
}
td :deep(.el-radio) {
  height: auto;
  white-space: normal;
}
td.chosen {
  background: var(--paper-deep);
}
</style>
