<script setup lang="ts">
import { computed } from 'vue';

/** Both versions side by side, where they differ. */
const props = defineProps<{ mine: object; theirs: object }>();
defineEmits<{ mine: []; theirs: []; close: [] }>();

const words = (value: unknown): string => {
  if (value === null || value === undefined || value === '') return '–';
  if (typeof value === 'object' && 'typed' in value) return String(value.typed);
  if (Array.isArray(value)) return value.map(words).join('; ');
  if (typeof value === 'object')
    return Object.entries(value)
      .filter(([, v]) => v !== null && v !== '')
      .map(([k, v]) => `${k} ${words(v)}`)
      .join(', ');
  return String(value);
};
const rows = computed(() => {
  const theirs = props.theirs as Record<string, unknown>;
  return Object.entries(props.mine)
    .filter(([k, v]) => !['id', 'version'].includes(k) && words(v) !== words(theirs[k]))
    .map(([k, v]) => ({
      name: k.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`),
      mine: words(v),
      theirs: words(theirs[k]),
    }));
});
</script>

<template>
  <el-dialog :model-value="true" title="Someone saved this after you opened it" width="760" @close="$emit('close')">
    <table class="ruled">
      <thead>
        <tr>
          <th>differs</th>
          <th>yours</th>
          <th>saved meanwhile</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.name">
          <td>{{ row.name }}</td>
          <td>{{ row.mine }}</td>
          <td>{{ row.theirs }}</td>
        </tr>
        <tr v-if="rows.length === 0">
          <td colspan="3" class="note">Both say the same.</td>
        </tr>
      </tbody>
    </table>
    <template #footer>
      <el-button @click="$emit('theirs')">Take what was saved</el-button>
      <el-button type="primary" @click="$emit('mine')">Keep mine</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
td {
  vertical-align: top;
  overflow-wrap: anywhere;
}
</style>
