<script setup lang="ts">
/** A cell of a grid that is typed into: the browser's own field, since a grid has hundreds. */
</script>

<template>
  <input autocomplete="off" spellcheck="false" />
</template>
