<script setup lang="ts">
import { uncertaintyOf, type Side } from '@alluvium/core';
import type { LedgerRow } from '@alluvium/records';
import { computed } from 'vue';
import PressArea from '../parts/PressArea.vue';
import { useSettings } from '../state/settings.js';

/** The stages as layers of a core sample, the head as received at the bottom; each as thick as what it bought. */
const props = defineProps<{ rows: readonly LedgerRow[]; side: Side; modelValue: string }>();
const emit = defineEmits<{ 'update:modelValue': [string] }>();
const settings = useSettings();

const TALL = 380;
const THIN = 30;
const LEAST = 0.05;
const layers = computed(() => {
  const gains = props.rows.map((r) => r.sides[props.side]?.gain);
  // A little that was gained in all is drawn as little: the scale never goes below a share of the flow.
  const least = LEAST * Math.max(0, ...gains.map((g) => g?.before.result.peak?.flow ?? 0));
  const most = Math.max(
    least,
    gains.reduce((s, g) => s + Math.max(0, g?.gain?.value ?? 0), 0),
  );
  const room = Math.max(0, TALL - THIN * props.rows.length);
  return props.rows.map((row, i) => {
    const gain = gains[i];
    const value = gain?.gain?.value;
    const kind =
      i === 0
        ? 'ground'
        : !gain
          ? 'unflowed'
          : !gain.credited
            ? 'refused'
            : !gain.counts
              ? 'quiet'
              : (value ?? 0) > 0
                ? 'laid'
                : 'washed';
    return {
      row,
      kind,
      height: THIN + (most > 0 ? (room * Math.max(0, value ?? 0)) / most : 0),
      text:
        i === 0
          ? ''
          : !gain
            ? 'not flowed'
            : value === undefined
              ? 'no credit'
              : settings.say.of(value, 'flow', { digits: 1, signed: true }),
      sure: gain?.gain ? (uncertaintyOf(gain.gain, gain.book, settings.say)?.text ?? '') : '',
    };
  });
});
/** Arrow keys walk the layers as they lie: up is later. */
function walk(by: number): void {
  const at = props.rows.findIndex((r) => r.stage.id === props.modelValue);
  const next = props.rows[at + by];
  if (!next) return;
  emit('update:modelValue', next.stage.id);
  document.getElementById(`layer-${next.stage.id}`)?.focus();
}
</script>

<template>
  <ol class="core" :aria-label="`Stages, by what they bought on the ${side}`">
    <li v-for="l in layers" :key="l.row.stage.id">
      <PressArea
        :id="`layer-${l.row.stage.id}`"
        class="layer"
        :class="l.kind"
        :style="{ height: `${l.height}px` }"
        :aria-pressed="l.row.stage.id === modelValue"
        @click="emit('update:modelValue', l.row.stage.id)"
        @keydown.up.prevent="walk(1)"
        @keydown.down.prevent="walk(-1)"
      >
        <span class="band" aria-hidden="true" />
        <span class="name">{{ l.row.stage.name }}</span>
        <span class="gain">
          {{ l.text }}
          <small v-if="l.sure">{{ l.sure }}</small>
        </span>
      </PressArea>
    </li>
  </ol>
</template>

<style scoped>
.core {
  display: flex;
  flex-direction: column-reverse;
  list-style: none;
  margin: 0;
  padding: 0;
  border-bottom: 2px solid var(--rule-strong);
}
.layer {
  display: grid;
  grid-template-columns: 74px minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
  width: 100%;
  min-height: 30px;
  padding: 0;
  border: 0;
  border-top: 1px solid var(--slate);
  background: none;
  color: var(--ink);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.band {
  align-self: stretch;
  border-right: 1.5px solid var(--ink);
  border-left: 1.5px solid var(--ink);
}
.ground .band {
  background:
    radial-gradient(circle at 3px 3px, var(--slate) 1.2px, transparent 1.4px) 0 0 / 9px 9px,
    var(--paper-deep);
}
.laid .band {
  background:
    repeating-linear-gradient(-35deg, var(--gain) 0 1px, transparent 1px 7px),
    color-mix(in srgb, var(--gain) 14%, transparent);
}
.quiet .band {
  background: repeating-linear-gradient(-35deg, var(--slate) 0 1px, transparent 1px 12px);
}
.washed .band {
  background: radial-gradient(circle at 2px 2px, var(--loss) 1.1px, transparent 1.3px) 0 0 / 5px 5px;
}
.refused .band,
.unflowed .band {
  border-style: dashed;
}
.name {
  overflow-wrap: anywhere;
}
.gain {
  white-space: nowrap;
  text-align: right;
}
.laid .gain {
  color: var(--gain);
}
.washed .gain {
  color: var(--loss);
}
.quiet .gain,
.refused .gain,
.unflowed .gain {
  color: var(--slate);
}
small {
  display: block;
  color: var(--slate);
  font-size: 12px;
}
.layer:hover .name {
  color: var(--intake);
}
.layer[aria-pressed='true'] .name {
  font-weight: 600;
  box-shadow: inset 0 -2px 0 var(--ink);
}
</style>
