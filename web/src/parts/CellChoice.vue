<script setup lang="ts">
/** A cell of a grid that is chosen: the browser's own list, since a grid has hundreds. */
defineProps<{ options: readonly string[] }>();
</script>

<template>
  <select>
    <option value=""></option>
    <option v-for="o in options" :key="o" :value="o">{{ o }}</option>
  </select>
</template>
