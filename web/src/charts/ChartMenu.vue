<script setup lang="ts">
import { toCsv } from '@alluvium/records';
import { Download } from '@lucide/vue';
import { fileOf, useAttempt } from '../exchange/takeAway.js';
import type { NamePlace } from './chart.js';
import { copyPicture, download, savePng, saveSvg } from './save.js';

/** What can be done with one chart: saved, copied, and its curves hidden where names are too small to press. */
const props = defineProps<{
  svg: SVGSVGElement | null;
  title: string;
  table: () => (string | number)[][];
  names: readonly NamePlace[];
  hidden: ReadonlySet<string>;
}>();
defineEmits<{ toggle: [name: string] }>();
const attempt = useAttempt();
const file = () => fileOf(props.title);
/** Nothing to draw before the chart stands. */
const drawn = (act: (svg: SVGSVGElement) => unknown) => () => props.svg && act(props.svg);
</script>

<template>
  <el-dropdown trigger="click" :persistent="false">
    <el-button link class="plain" :aria-label="`Export the chart: ${title}`"><Download :size="16" /></el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item @click="attempt(drawn((s) => saveSvg(s, file())))">Export as SVG</el-dropdown-item>
        <el-dropdown-item @click="attempt(drawn((s) => savePng(s, file())))">Export as PNG</el-dropdown-item>
        <el-dropdown-item @click="attempt(drawn(copyPicture), 'Copied.')">Copy the picture</el-dropdown-item>
        <el-dropdown-item @click="download(`${file()}.csv`, toCsv(table()), 'text/csv')">
          Export what is drawn as CSV
        </el-dropdown-item>
        <el-dropdown-item v-for="(n, i) in names" :key="n.name" :divided="i === 0" @click="$emit('toggle', n.name)">
          {{ hidden.has(n.name) ? 'Show' : 'Hide' }} {{ n.text }}
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.plain {
  padding: 4px;
  background: var(--paper);
  color: var(--slate);
}
</style>
