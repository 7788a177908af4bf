<script setup lang="ts">
import { ref, watchEffect } from 'vue';

/** TeX set as MathML, which the browser draws itself; the typesetter is loaded when first needed. */
const props = withDefaults(defineProps<{ tex: string; block?: boolean }>(), { block: true });
const html = ref('');
watchEffect(async () => {
  const { tex, block } = props;
  const { default: katex } = await import('katex');
  html.value = katex.renderToString(tex, { output: 'mathml', displayMode: block, throwOnError: false });
});
</script>

<template>
  <!-- eslint-disable-next-line vue/no-v-html -- made by the typesetter from formulas of our own catalogue, never from typed text -->
  <span class="formula" v-html="html" />
</template>

<style scoped>
.formula :deep(math) {
  font-size: 1.08em;
}
.formula :deep(annotation) {
  display: none;
}
</style>
