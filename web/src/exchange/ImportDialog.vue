<script setup lang="ts">
import { useExchange } from './exchange.js';
import BundleImport from './BundleImport.vue';
import SheetImport from './SheetImport.vue';

const exchange = useExchange();
</script>

<template>
  <el-dialog
    v-if="exchange.pending"
    :model-value="true"
    :title="`Import ${exchange.pending.name}`"
    width="720"
    :close-on-click-modal="false"
    @close="exchange.clear()"
  >
    <BundleImport v-if="exchange.pending.kind === 'bundle'" :pending="exchange.pending" @done="exchange.clear()" />
    <SheetImport v-else :pending="exchange.pending" @done="exchange.clear()" />
  </el-dialog>
</template>
