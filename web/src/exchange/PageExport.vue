<script setup lang="ts">
import { toCsv, workbookOf } from '@alluvium/records';
import { shallowRef } from 'vue';
import { download, savePng, saveSvg } from '../charts/save.js';
import { toHtml, toTabs } from '../parts/grid/block.js';
import { drawingsOf, tablesOf, valueOf, type PageDrawing, type PageTable } from './pageParts.js';
import { fileOf, useAttempt } from './takeAway.js';
import { saveWorkbook } from './workbook.js';

/** Every table and drawing of the page behind it, to take away in an open format. */
defineEmits<{ close: [] }>();
const attempt = useAttempt();
const page = document.querySelector('main') ?? document.body;
const tables = shallowRef(tablesOf(page));
const drawings = shallowRef(drawingsOf(page));

const saveCsv = ({ title, rows }: PageTable) => download(`${fileOf(title)}.csv`, toCsv(rows), 'text/csv');
const saveXlsx = ({ title, rows }: PageTable) =>
  attempt(() =>
    saveWorkbook(
      fileOf(title),
      workbookOf(
        title,
        rows.map((row) => row.map(valueOf)),
      ),
    ),
  );
const copy = ({ rows }: PageTable) =>
  attempt(() => {
    const blob = (type: string, text: string) => new Blob([text], { type });
    return navigator.clipboard.write([
      new ClipboardItem({
        'text/plain': blob('text/plain', toTabs(rows)),
        'text/html': blob('text/html', toHtml(rows)),
      }),
    ]);
  }, 'Copied.');
const png = ({ title, svg }: PageDrawing) => attempt(() => savePng(svg, fileOf(title)));
</script>

<template>
  <el-dialog :model-value="true" title="Export this page" width="620" @close="$emit('close')">
    <p v-if="tables.length + drawings.length === 0" class="note">This page has neither a table nor a drawing.</p>
    <dl>
      <template v-for="table in tables" :key="table.title">
        <dt>
          {{ table.title }}
          <span class="note">{{ table.rows.length - 1 }} {{ table.rows.length === 2 ? 'row' : 'rows' }}</span>
        </dt>
        <dd>
          <el-button link :aria-label="`CSV of ${table.title}`" @click="saveCsv(table)">CSV</el-button>
          <el-button link :aria-label="`XLSX of ${table.title}`" @click="saveXlsx(table)">XLSX</el-button>
          <el-button link :aria-label="`Copy ${table.title}`" @click="copy(table)">Copy</el-button>
        </dd>
      </template>
      <template v-for="drawing in drawings" :key="drawing.title">
        <dt>
          {{ drawing.title }}
          <span class="note">drawing</span>
        </dt>
        <dd>
          <el-button link :aria-label="`SVG of ${drawing.title}`" @click="saveSvg(drawing.svg, fileOf(drawing.title))">
            SVG
          </el-button>
          <el-button link :aria-label="`PNG of ${drawing.title}`" @click="png(drawing)">PNG</el-button>
        </dd>
      </template>
    </dl>
    <p class="note">Figures are saved as they are shown, in the units shown.</p>
  </el-dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 4px 18px;
  max-height: 60vh;
  overflow: auto;
  margin: 0;
}
dd {
  display: flex;
  gap: 14px;
  margin: 0;
}
</style>
