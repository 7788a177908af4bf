<script setup lang="ts">
/** What a part says of itself when it is pointed at or has the focus; the part stands in the slot. */
defineProps<{ says: string | undefined }>();
/** A pointer that only passes is not told, ms. */
const RESTS = 300;
</script>

<template>
  <el-tooltip :content="says" :disabled="!says" :show-after="RESTS" :persistent="false" :enterable="false">
    <slot />
  </el-tooltip>
</template>
