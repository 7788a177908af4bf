<script setup lang="ts">
/** One row of a form: the label over its field, a mark where it must be given, and the sentence when something is wrong. */
defineProps<{
  /** Of the field: what its label and its sentence belong to. */
  id: string;
  label: string;
  problem?: string | undefined;
  hideLabel?: boolean | undefined;
  /** It must be given before the form is saved. */
  required?: boolean | undefined;
}>();
</script>

<template>
  <el-form-item
    class="field"
    label-position="top"
    :for="id"
    :required="required"
    :error="problem ?? ''"
    :show-message="false"
  >
    <template #label>
      <span :class="{ unseen: hideLabel }">{{ label }}</span>
    </template>
    <slot />
    <!-- At once: its own message waits a tenth of a second, while the next key is typed. -->
    <p v-if="problem" :id="`${id}-says`" class="loss says" role="alert">{{ problem }}</p>
  </el-form-item>
</template>

<style scoped>
.field {
  margin-bottom: 0;
}
.field :deep(.el-form-item__label) {
  margin-bottom: 0;
  padding: 0;
  color: var(--slate);
  font-size: 14px;
  line-height: 1.4;
}
/* Read aloud as required by the field itself. */
.field.is-required :deep(.el-form-item__label)::before {
  content: '*' / '' !important;
}
.field :deep(.el-form-item__content) {
  display: block;
  line-height: inherit;
  font-size: inherit;
}
.field :deep(:is(.el-input__wrapper, .el-select__wrapper, .el-textarea__inner)) {
  box-shadow: none;
}
.field.is-error :deep(:is(.el-input__wrapper, .el-select__wrapper, .el-textarea__inner)) {
  border-bottom-color: var(--loss);
}
.says {
  margin: 1px 2px 0;
  font-size: 13px;
  line-height: 1.4;
}
</style>
