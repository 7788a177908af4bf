<script setup lang="ts">
import {
  excusedFor,
  owedAgain,
  owedOfHead,
  replacement,
  type Owed,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { useChange } from '../data/useChange.js';
import OwedLines from '../parts/OwedLines.vue';

/** What the head still owes at this stage; each thing leads to where it is filled. */
const props = defineProps<{ whole: WholeHead; stage: Stage }>();
const emit = defineEmits<{ edit: [field: string]; size: [item: string, side: string] }>();
const router = useRouter();
const change = useChange();
const owed = computed(() => owedOfHead(props.whole, props.stage.id));
function go({ field }: Owed): void {
  const [what = '', ...rest] = (field ?? '').split(':');
  const query = { stage: props.stage.id };
  if (what === 'size') return emit('size', rest[0] ?? '', rest[1] ?? '');
  if (what === 'sheet')
    return void router.push({ name: 'head', params: { id: props.whole.head.id }, query: { ...query, sheet: rest[0] } });
  if (what === 'arrival') return void router.push({ name: 'arrival', params: { id: props.whole.head.id }, query });
  emit('edit', what);
}
const put = (excused: WholeHead['head']['excused'], said: string) =>
  change.make([replacement('head', { ...props.whole.head, excused })], said);
const excuse = (key: string, reason: string) =>
  put(excusedFor(props.whole.head.excused, key, reason), 'Excused, with its reason.');
const again = (key: string) => put(owedAgain(props.whole.head.excused, key), 'Owed again.');
</script>

<template>
  <OwedLines :owed="owed" title="This head owes" @go="go" @excuse="excuse" @again="again" />
</template>
