<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Tour } from './tours.js';

/** One short way round the page behind it; it can be left at any stop, and begun again. */
const props = defineProps<{ tour: Tour }>();
const emit = defineEmits<{ close: [] }>();
const open = ref(true);
const at = ref(0);
/** Room the words of a stop need beside what they point at, px. */
const [HIGH, WIDE] = [230, 540];
/** Beside the part where there is room for the words; in the middle of the page where it fills all of it. */
function placed(part: Element): { placement?: 'bottom' | 'top' | 'right' | 'left' } {
  const { top, bottom, left, right } = part.getBoundingClientRect();
  if (innerHeight - bottom > HIGH) return { placement: 'bottom' };
  if (top > HIGH) return { placement: 'top' };
  if (innerWidth - right > WIDE) return { placement: 'right' };
  if (left > WIDE) return { placement: 'left' };
  return {};
}
const stops = computed(() =>
  props.tour.stops.flatMap((stop) => {
    const part = document.querySelector(stop.at);
    return part ? [{ ...stop, ...placed(part) }] : [];
  }),
);
</script>

<template>
  <el-tour v-model="open" v-model:current="at" @close="emit('close')" @finish="emit('close')">
    <el-tour-step
      v-for="(stop, i) in stops"
      :key="stop.title"
      :target="stop.placement && stop.at"
      :placement="stop.placement ?? 'bottom'"
      :title="stop.title"
      :description="stop.says"
      :prev-button-props="{ children: 'Back' }"
      :next-button-props="{ children: i === stops.length - 1 ? 'Done' : 'Next' }"
    />
    <template #indicators="{ current, total }">
      <span class="note">{{ current + 1 }} of {{ total }}</span>
    </template>
  </el-tour>
</template>
