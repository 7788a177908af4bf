<script setup lang="ts">
import {
  format,
  isWorking,
  noteOf,
  valueOf,
  type CamProfile,
  type FlowCurve,
  type InputSpec,
  type Working,
} from '@alluvium/core';
import { computed } from 'vue';
import { useSettings } from '../state/settings.js';
import TexFormula from './TexFormula.vue';

/** One step of a working: formula, what went in with where it came from, and the steps that made those. */
const props = defineProps<{ working: Working; depth?: number }>();
const settings = useSettings();

function show(value: unknown, spec: InputSpec): string {
  if (spec.kind === 'curve') {
    const curve = value as FlowCurve;
    return `${curve.points.length} points, ${settings.say.of(curve.first.lift, 'lift')} to ${settings.say.of(curve.last.lift, 'lift')}`;
  }
  if (spec.kind === 'cam')
    return `${settings.say.of((value as CamProfile).maxLift, 'lift')} lift, ${settings.say.of(2 * (value as CamProfile).halfDuration, 'angle', { digits: 0 })} seat to seat`;
  const { kind } = spec;
  if (Array.isArray(value)) return value.map((v: number) => format(v, kind, settings.figures)).join(', ');
  return format(
    value as number,
    kind,
    settings.figures,
    kind === 'length' && settings.system === 'metric' ? { digits: 2 } : {},
  );
}

const inputs = computed(() =>
  Object.entries(props.working.method.inputs).map(([name, spec]) => {
    const given = props.working.given[name];
    return {
      name,
      spec: spec as InputSpec,
      text: show(valueOf(given), spec as InputSpec),
      note: noteOf(given),
      step: isWorking(given) ? given : undefined,
    };
  }),
);
const steps = computed(() => inputs.value.flatMap((i) => (i.step ? [i.step] : [])));
</script>

<template>
  <section class="step" :class="{ inner: depth }">
    <h3>
      {{ working.method.title }}
      <span class="result">{{ format(working.value, working.method.result.kind, settings.figures) }}</span>
    </h3>
    <TexFormula :tex="working.method.formula" />
    <table class="ruled">
      <tbody>
        <tr v-for="input in inputs" :key="input.name">
          <td class="symbol"><TexFormula :tex="input.spec.symbol" :block="false" /></td>
          <td>
            {{ input.spec.label }}
            <span v-if="input.note" class="note">· {{ input.note }}</span>
            <span v-if="input.step" class="note">· computed below</span>
          </td>
          <td class="num">{{ input.text }}</td>
        </tr>
      </tbody>
    </table>
    <p class="source">
      <b>Source</b>
      {{ working.method.source }}
    </p>
    <p v-if="working.method.caution" class="caution source">
      <b>Caution</b>
      {{ working.method.caution }}
    </p>
    <WorkingTree v-for="(step, i) in steps" :key="i" :working="step" :depth="(depth ?? 0) + 1" />
  </section>
</template>

<style scoped>
.step h3 {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  margin: 0 0 4px;
}
.inner {
  border-left: 3px solid var(--water);
  padding-left: 12px;
  margin-top: 16px;
}
.result {
  white-space: nowrap;
}
.symbol {
  width: 64px;
  color: var(--slate);
}
.source {
  margin: 5px 0;
  font-size: 14px;
  color: var(--slate);
}
.source b {
  font-weight: 600;
  margin-right: 4px;
}
.source.caution {
  color: var(--caution);
}
</style>
