<script setup lang="ts">
import { KEYS } from './keys.js';

defineEmits<{ close: [] }>();
</script>

<template>
  <el-dialog :model-value="true" title="Keys" width="460" @close="$emit('close')">
    <table class="ruled">
      <tbody>
        <tr v-for="[keys, does] in KEYS" :key="keys">
          <td class="keys">{{ keys }}</td>
          <td>{{ does }}</td>
        </tr>
      </tbody>
    </table>
  </el-dialog>
</template>

<style scoped>
.keys {
  font-weight: 600;
  white-space: nowrap;
}
</style>
