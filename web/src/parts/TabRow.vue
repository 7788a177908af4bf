<script setup lang="ts" generic="T extends string">
/** A row of words of which one is chosen: what a page shows. */
defineProps<{
  modelValue: T;
  label: string;
  options: readonly (readonly [value: T, text: string])[];
}>();
const emit = defineEmits<{ 'update:modelValue': [T] }>();
/** Home and End go to the ends of the row, as the arrows go along it; Enter and the space bar press a tab. */
function onKey(event: KeyboardEvent): void {
  const tabs = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('[role=tab]')];
  const on = tabs.find((t) => t === event.target);
  const to = { Home: tabs[0], End: tabs.at(-1), Enter: on, ' ': on }[event.key];
  if (!to) return;
  event.stopPropagation();
  event.preventDefault();
  to.click();
  to.focus();
}
</script>

<template>
  <!-- The arrow keys along the row are its own: the page's are not meant. -->
  <el-tabs
    class="row"
    role="group"
    :aria-label="label"
    :model-value="modelValue"
    @update:model-value="emit('update:modelValue', $event as T)"
    @keydown.left.right.up.down.stop
    @keydown="onKey"
  >
    <el-tab-pane v-for="[value, text] in options" :key="value" :name="value" :label="text" />
  </el-tabs>
</template>

<style scoped>
.row {
  min-width: 0;
  --el-tabs-header-height: 28px;
  --el-text-color-primary: var(--slate);
  max-width: 100%;
}
/* What is shown stands on the page itself. */
.row :deep(.el-tabs__content) {
  display: none;
}
.row :deep(.el-tabs__header) {
  margin: 0;
}
.row :deep(.el-tabs__nav-wrap::after) {
  display: none;
}
.row :deep(.el-tabs__active-bar) {
  background-color: var(--ink);
}
.row :deep(.el-tabs__item) {
  padding: 0 8px;
  font: inherit;
}
.row :deep(.el-tabs__item:hover) {
  color: var(--intake);
}
.row :deep(.el-tabs__item.is-active) {
  color: var(--ink);
  font-weight: 600;
}
/* On a narrow page over several lines, all of it in sight; the bar knows one line only. */
@media (max-width: 800px) {
  .row {
    flex-basis: 100%;
  }
  .row :deep(.el-tabs__nav) {
    flex-wrap: wrap;
    white-space: normal;
  }
  .row :deep(.el-tabs__active-bar) {
    display: none;
  }
  .row :deep(.el-tabs__item.is-active) {
    text-decoration: underline 2px;
    text-underline-offset: 6px;
  }
}
</style>
