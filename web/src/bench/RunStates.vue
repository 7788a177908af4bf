<script setup lang="ts">
import { formatNumber, unitFor } from '@alluvium/core';
import { computed } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import type { Run } from './useRun.js';

// samples.at()!, samples[]!: there are two at least.

/** How the reading stands: steady or not, depression, range and swirl; or the fields of a hand that types them. */
const props = defineProps<{
  run: Run;
  /** Whether swirl is taken here. */
  swirls: boolean;
  /** What is wrong with the figure typed. */
  problem: string;
}>();
const settings = useSettings();
const spreadText = computed(() => {
  const { run } = props;
  const { state } = run;
  const q = run.reads.value;
  if (!q || run.manual.value || state.value.mean === 0) return '';
  const share = Math.abs(state.value.spread / state.value.mean);
  return `±${formatNumber(q.value * share, 'flow', settings.figures, { digits: 1 })}`;
});
const STATE_WORDS = { waiting: 'listening', settling: 'settling', steady: 'steady', frozen: 'stuck?' } as const;
const stateWord = computed(() => {
  const { run } = props;
  if (run.manual.value) return 'by hand';
  if (run.state.value.silent) return 'silent';
  // A pointer on its stop does not move either: it is past its end, not stuck.
  if ((run.use.value?.value ?? 0) > 1) return 'past its end';
  if (run.recordedHere.value && !run.again.value) return 'recorded';
  return STATE_WORDS[run.state.value.state];
});
const windowText = computed(() => {
  const { samples } = props.run.state.value;
  return samples.length > 1 ? `${settings.say.number(samples.at(-1)!.at - samples[0]!.at, 1)} s` : '';
});
</script>

<template>
  <div class="states">
    <p>
      <b :class="stateWord.replace('?', '').replaceAll(' ', '-')" data-testid="state">{{ stateWord }}</b>
      <span v-if="windowText && !run.manual.value" class="after">
        {{ windowText }} {{ spreadText && `· ${spreadText} ${unitFor('flow', settings.system).symbol}` }}
      </span>
      <span v-if="run.manual.value && run.reads.value" class="unit-small">
        is
        <WorkedNumber :working="run.reads.value" />
        at 28
      </span>
    </p>
    <p v-if="run.manual.value" class="hand">
      <QuantityField
        :model-value="run.byHand.value.depression"
        kind="depression"
        label="depression, if not the set one"
        @update:model-value="run.typed({ depression: $event })"
      />
      <ChoiceField
        v-if="run.setup.value?.reads !== 'flow'"
        label="Range"
        :model-value="run.range.value"
        :options="(run.setup.value?.ranges ?? []).map((r) => [r.name, r.name] as const)"
        @update:model-value="run.typed({ range: $event })"
      />
      <QuantityField
        v-if="swirls"
        :model-value="run.byHand.value.swirl"
        kind="rotation"
        label="swirl"
        @update:model-value="run.typed({ swirl: $event })"
      />
    </p>
    <p v-else>
      <template v-if="run.depression.value !== undefined">
        {{ formatNumber(run.depression.value, 'depression', settings.figures) }}
        {{ settings.system === 'inch' ? 'in of water' : 'kPa' }}
      </template>
    </p>
    <p>
      <template v-if="run.range.value && run.use.value">
        range {{ run.range.value }},
        <WorkedNumber :working="run.use.value" :digits="0" />
        used
      </template>
      <span v-if="swirls && run.swirl.value === undefined" class="unit-small">swirl: no signal</span>
      <span v-if="run.swirl.value !== undefined" class="unit-small">
        · swirl {{ formatNumber(run.swirl.value, 'rotation', 'inch', { signed: true }) }} rpm
      </span>
    </p>
    <p v-if="problem" class="stop">{{ problem }}</p>
    <p v-if="run.depressionSays.value" class="ask wide">{{ run.depressionSays.value }}</p>
  </div>
</template>

<style scoped>
p {
  margin: 0;
}
.unit-small {
  color: var(--slate);
  font-size: 17px;
}
.ask {
  color: var(--caution);
}
.stop {
  color: var(--loss);
}
.states {
  display: grid;
  grid-template-columns: 1.1fr 1.1fr 1fr;
  gap: 6px 24px;
  padding: 12px 0 10px;
  font-size: 30px;
  align-items: end;
}
.after {
  margin-left: 12px;
}
.states .wide {
  grid-column: 1 / -1;
  font-size: 19px;
}
.hand {
  display: flex;
  gap: 18px;
  font-size: 16px;
}
.steady,
.recorded {
  color: var(--gain);
}
.settling,
.listening {
  color: var(--caution);
}
.silent,
.past-its-end,
.stuck {
  color: var(--loss);
}
</style>
