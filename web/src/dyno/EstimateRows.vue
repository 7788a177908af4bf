<script setup lang="ts">
import { cameOutWords, uncertaintyOf } from '@alluvium/core';
import type { Held } from '@alluvium/records';
import { computed } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import { estimatesOf, type PullRead } from './useDyno.js';

/** Rows of a table: each estimate of the head beside what the engine made. */
const props = defineProps<{ read: PullRead }>();
const settings = useSettings();
const held = computed(() => estimatesOf(props.read));
const book = computed(() => props.read.evaluation?.verdict.book);
const cameOut = (h: Held) =>
  cameOutWords(h.off, h.estimate.value, uncertaintyOf(h.estimate, book.value, settings.say)?.budget.u, settings.say);
</script>

<template>
  <tr v-for="h in held" :key="h.id">
    <td>{{ h.title }}</td>
    <td class="num"><WorkedNumber :working="h.estimate" :book="book" /></td>
    <td class="num">{{ cameOut(h) }}</td>
  </tr>
</template>
