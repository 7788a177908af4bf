<script setup lang="ts">
/** A part of a drawing that can be pressed: a button without a look of its own. */
</script>

<template>
  <button type="button" class="press-area"><slot /></button>
</template>

<style>
/* Of no weight, so that the drawing's own styles decide. */
:where(.press-area) {
  all: unset;
  cursor: pointer;
  color: inherit;
  font: inherit;
}
.press-area:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: 1px;
}
</style>
