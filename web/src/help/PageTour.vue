<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Tour } from './tours.js';

/** One short way round the page behind it; it can be left at any stop, and begun again. */
const props = defineProps<{ tour: Tour }>();
const emit = defineEmits<{ close: [] }>();
const open = ref(true);
const at = ref(0);
const stops = computed(() => props.tour.stops.filter((stop) => document.querySelector(stop.at)));
</script>

<template>
  <el-tour v-model="open" v-model:current="at" @close="emit('close')" @finish="emit('close')">
    <el-tour-step
      v-for="(stop, i) in stops"
      :key="stop.title"
      :target="stop.at"
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
