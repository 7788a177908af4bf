<script setup lang="ts" generic="N extends Noun">
import type { Noun } from '@alluvium/records';
import { computed, ref } from 'vue';
import type { Conflict, Draft } from '../data/form.js';
import { differences, merged, type Difference } from '../data/merge.js';

/** Somebody saved meanwhile: every field that differs on one line, and which version of it is kept. */
const props = defineProps<{ conflict: Conflict<N> }>();
const emit = defineEmits<{ keep: [Draft<N>]; theirs: []; close: [] }>();

const words = (value: unknown): string => {
  if (value === null || value === undefined || value === '') return '–';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value !== 'object') return String(value);
  if ('typed' in value) return String(value.typed);
  if (Array.isArray(value)) return value.map(words).join(' / ') || '–';
  return (
    Object.entries(value)
      .filter(([, v]) => v !== null && v !== '' && !(Array.isArray(v) && v.length === 0))
      .map(([k, v]) => (k === 'lift' || k === 'pulls' ? words(v) : `${plain(k)} ${words(v)}`))
      .join(', ') || '–'
  );
};
const NAMES: Readonly<Record<string, string>> = { stopped: 'why the run stopped', setup: 'set-up' };
const plain = (name: string) => NAMES[name] ?? name.replace(/Id$/, '').replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`);

/** A lift as it was typed, for a row named by it. */
function lift(name: string): string {
  const rows = [props.conflict.mine, props.conflict.theirs].flatMap(
    (v) => (v as { rows?: { lift: { si: number; typed: string } }[] | null }).rows ?? [],
  );
  return rows.find((r) => r.lift.si.toFixed(6) === name)?.lift.typed ?? name;
}
const place = ({ path: [first, second, ...rest] }: Difference): string =>
  first === 'rows' && second !== undefined
    ? `row ${lift(second)}${rest.map((r) => (r === 'pulls' ? '' : `, ${plain(r)}`)).join('')}`
    : [first, second, ...rest]
        .filter((name) => name !== undefined)
        .map(plain)
        .join(', ');

const lines = computed(() =>
  differences(props.conflict.base, props.conflict.mine, props.conflict.theirs).map((difference) => ({
    difference,
    key: difference.path.join('\u0000'),
    place: place(difference),
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
                :aria-label="`${name}: ${side === 'mine' ? 'yours' : 'saved meanwhile'}, ${words(difference[side])}`"
                @update:model-value="taken[key] = side"
              >
                {{ words(difference[side]) }}
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
