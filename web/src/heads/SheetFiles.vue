<script setup lang="ts">
import {
  removal,
  sheetNames,
  sheetTable,
  sheetWorkbook,
  toCsv,
  type Sheet,
  type Source,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { download } from '../charts/save.js';
import { useChange } from '../data/useChange.js';
import { saveWorkbook } from '../exchange/workbook.js';
import { useSettings } from '../state/settings.js';
import SheetHistory from './SheetHistory.vue';

/** A saved sheet as a file, what it was before, and its removal. */
const props = defineProps<{
  whole: WholeHead;
  stage: Stage;
  sheet: Sheet;
  sources: readonly Source[];
  /** As it is typed. */
  title: string;
}>();
const settings = useSettings();
const change = useChange();
const router = useRouter();
const fileName = computed(() =>
  `${props.whole.head.name} ${props.stage.name} ${props.title}`.replace(/[^\w.-]+/g, '-'),
);
const names = () => sheetNames(props.sheet, props.sources, props.whole.ports);
const saveCsv = () => download(`${fileName.value}.csv`, toCsv(sheetTable(props.sheet, names())), 'text/csv');
const saveXlsx = () => saveWorkbook(fileName.value, sheetWorkbook(props.sheet, names(), settings.system));
async function remove(): Promise<void> {
  const { id, title } = props.sheet;
  if (await change.make([removal('sheet', id)], `${title} removed.`))
    await router.replace({ query: { stage: props.stage.id } });
}
</script>

<template>
  <p class="files">
    <el-button link @click="saveCsv">CSV</el-button>
    <el-button link @click="saveXlsx">XLSX</el-button>
    <SheetHistory :id="sheet.id" :version="sheet.version" />
    <el-button link @click="remove">Remove</el-button>
  </p>
</template>

<style scoped>
.files {
  display: flex;
  gap: 18px;
  margin: 0;
}
</style>
