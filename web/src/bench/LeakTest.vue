<script setup lang="ts">
import { REFERENCE_DEPRESSION, depressionCorrection, noted, work, type Quantity, type Side } from '@alluvium/core';
import type { BenchSetup } from '@alluvium/records';
import { ref } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';

// props.sides[]!: a plan has one side at least.

/** What flows with the valves shut, per side and depression: it is taken off every reading. */
type Leak = BenchSetup['leaks'][number];
const props = defineProps<{
  leaks: readonly Leak[];
  sides: readonly Side[];
  /** The depression of the test, where none is typed for the leak. */
  depression: Quantity | null;
  problem: string | undefined;
}>();
const emit = defineEmits<{ 'update:leaks': [Leak[]] }>();

/** A leak in the standard's depression, so that a big one is seen for what it is. */
const leakAt28 = (l: Leak) =>
  work(depressionCorrection, {
    flow: noted(l.flow.si, 'read with the valve shut'),
    depression: l.depression.si,
    reference: REFERENCE_DEPRESSION,
  });
const leak = ref<{ side: 'intake' | 'exhaust'; depression: Quantity | null; flow: Quantity | null }>({
  side: props.sides[0]!,
  depression: null,
  flow: null,
});
function addLeak(): void {
  const { side, depression, flow } = leak.value;
  const at = depression ?? props.depression;
  if (!flow || !at) return;
  emit('update:leaks', [...props.leaks, { side, depression: at, flow }]);
  leak.value = {
    side: side === 'intake' && props.sides.includes('exhaust') ? 'exhaust' : side,
    depression: null,
    flow: null,
  };
}
</script>

<template>
  <section>
    <h2>Leak test</h2>
    <p class="note">Valves shut, entry and fixture as in the test. What flows is taken off every reading.</p>
    <table v-if="leaks.length" class="ruled leaks">
      <tbody>
        <tr v-for="(l, i) in leaks" :key="i">
          <td>{{ l.side }}</td>
          <td class="num">{{ l.flow.typed }}</td>
          <td>at {{ l.depression.typed }}</td>
          <td>
            <WorkedNumber :working="leakAt28(l)" />
            at 28
          </td>
          <td>
            <el-button
              link
              @click="
                $emit(
                  'update:leaks',
                  leaks.filter((_, k) => k !== i),
                )
              "
            >
              Remove
            </el-button>
          </td>
        </tr>
      </tbody>
    </table>
    <div class="field-grid" @keydown.enter.prevent="addLeak">
      <ChoiceField v-model="leak.side" label="Side" :options="sides.map((s) => [s, s] as const)" />
      <QuantityField v-model="leak.flow" kind="flow" label="Flow, valve shut" />
      <QuantityField
        v-model="leak.depression"
        kind="depression"
        label="at depression"
        :placeholder="depression?.typed"
      />
      <el-button link class="add" @click="addLeak">Add</el-button>
    </div>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
h2 {
  margin-top: 16px;
}
.leaks {
  max-width: 620px;
}
.add {
  align-self: end;
  justify-self: start;
}
</style>
