<script setup lang="ts">
import { toCsv } from '@alluvium/records';
import { Download } from '@lucide/vue';
import { useUndo } from '../data/undo.js';
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
const undo = useUndo();
const file = () => `${document.title.split(' · ')[0]} ${props.title}`.replace(/[^\p{L}\p{N} .-]+/gu, ' ').slice(0, 80);
async function attempt(act: (svg: SVGSVGElement) => unknown, done = ''): Promise<void> {
  try {
    if (props.svg) await act(props.svg);
    if (done) undo.announce(done);
  } catch {
    undo.announce('The browser could not do that.');
  }
}
</script>

<template>
  <el-dropdown trigger="click" :persistent="false">
    <el-button link class="plain" :aria-label="`Export the chart: ${title}`"><Download :size="16" /></el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item @click="attempt((s) => saveSvg(s, file()))">Export as SVG</el-dropdown-item>
        <el-dropdown-item @click="attempt((s) => savePng(s, file()))">Export as PNG</el-dropdown-item>
        <el-dropdown-item @click="attempt(copyPicture, 'Copied.')">Copy the picture</el-dropdown-item>
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
