<script setup lang="ts">
/** In place of what is none: why, and the way on, in the slot. */
</script>

<template>
  <el-empty class="none">
    <template #image>
      <!-- A bed without its water, and a stop nobody has reached. -->
      <svg viewBox="0 0 150 46" width="150" height="46" aria-hidden="true">
        <path d="M3 16C34 2 52 40 76 25S118 8 147 27" class="bed" />
        <circle cx="76" cy="25" r="5.5" />
      </svg>
    </template>
    <template #description>
      <p class="reading"><slot /></p>
    </template>
  </el-empty>
</template>

<style scoped>
.none {
  --el-empty-padding: 24px 0;
  --el-empty-image-width: 150px;
  --el-empty-description-margin-top: 10px;
}
.reading {
  max-width: 620px;
  margin: 0 auto;
}
.bed {
  fill: none;
  stroke: var(--rule-strong);
  stroke-width: 1.4;
  stroke-dasharray: 5 4;
}
circle {
  fill: var(--paper);
  stroke: var(--slate);
  stroke-width: 1.6;
}
</style>
