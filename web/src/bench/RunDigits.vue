<script setup lang="ts">
import { formatNumber, readTyped, unitFor } from '@alluvium/core';
import { computed, ref, useTemplateRef, watch } from 'vue';
import CellInput from '../parts/CellInput.vue';
import PressArea from '../parts/PressArea.vue';
import { useSettings } from '../state/settings.js';
import { useWorking } from '../state/working.js';
import type { Run } from './useRun.js';

/** The lift to open to, and what the bench reads there, or the field a hand types it into: seen from across the room. */
const props = defineProps<{ run: Run }>();
const emit = defineEmits<{ problem: [sentence: string] }>();
const { run } = props;
const settings = useSettings();
const working = useWorking();
const field = useTemplateRef<HTMLElement>('field');
const figure = computed(() => {
  const w = run.reads.value;
  return w ? formatNumber(w.value, 'flow', settings.figures, { digits: 1 }) : '–';
});
/** What the hand typed is read as the bench shows it. */
const handKind = computed(() => (run.setup.value?.reads === 'flow' ? 'flow' : 'percent'));
const handText = ref('');
const handProblem = ref('');
watch(handProblem, (now) => emit('problem', now));
watch(
  () => run.byHand.value.value,
  (now, before) => {
    // Recorded, or another lift called: the field is free again. A text that cannot be read yet stays.
    if (now === null && before !== null && handProblem.value === '') handText.value = '';
  },
);
function typed(text: string): void {
  handText.value = text;
  const parsed = text.trim() ? readTyped(text, handKind.value, settings.system) : undefined;
  handProblem.value = parsed && !parsed.ok ? parsed.problem : '';
  run.typed({ value: parsed?.ok ? parsed.quantity : null });
}
defineExpose({
  /** Whether there is a field to type into, which has the focus now. */
  focus(): boolean {
    const input = run.manual.value ? field.value?.querySelector<HTMLInputElement>('input') : undefined;
    input?.focus();
    input?.select();
    return input != null;
  },
  typing: () => handText.value !== '',
});
</script>

<template>
  <div class="digits">
    <div>
      <p class="word">open to</p>
      <p class="huge" data-testid="lift">{{ run.point.value ? run.lift(run.point.value.lift) : '–' }}</p>
    </div>
    <div>
      <p class="word">
        {{ run.manual.value ? `type what it reads, ${unitFor(handKind, settings.system).symbol}` : 'reads' }}
      </p>
      <div v-if="run.manual.value" ref="field" class="by-hand">
        <CellInput
          :value="handText"
          class="huge"
          inputmode="decimal"
          aria-label="Reading"
          @input="typed(($event.target as HTMLInputElement).value)"
        />
      </div>
      <PressArea
        v-else
        class="huge reads"
        tabindex="-1"
        :aria-label="`Reads ${figure}. Show the working.`"
        data-testid="reads"
        @click="run.reads.value && working.show(run.reads.value)"
      >
        {{ figure }}
      </PressArea>
    </div>
    <p class="unit">{{ unitFor('flow', settings.system).symbol }} at 28</p>
  </div>
</template>

<style scoped>
p {
  margin: 0;
}
.digits {
  display: grid;
  grid-template-columns: minmax(0, 35%) minmax(0, 1fr) auto;
  align-items: end;
  gap: 10px;
}
.word {
  color: var(--slate);
  font-size: 26px;
}
.huge {
  font: 500 min(17.2vw, 30vh) / 0.98 var(--sans);
  letter-spacing: -0.01em;
  font-variant-numeric: tabular-nums;
}
button.huge {
  font: 500 min(17.2vw, 30vh) / 0.98 var(--sans);
  color: #e9d8a6;
}
.unit {
  color: var(--slate);
  font-size: 26px;
  padding-bottom: 3vh;
}
.by-hand input {
  width: 100%;
  background: transparent;
  border: 0;
  border-bottom: 2px solid var(--rule-strong);
  color: #e9d8a6;
  outline: none;
  padding: 0;
}
.by-hand input:focus {
  border-bottom-color: var(--focus);
}
</style>
