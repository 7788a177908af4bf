<script setup lang="ts">
import type { Plan } from '@alluvium/records';
import PressArea from '../parts/PressArea.vue';

/** The ports of a plan: pressed once to choose, again for a hard one. */
defineProps<{ count: number; problem: string | undefined }>();
const ports = defineModel<Plan['ports']>({ required: true });
/** Out, chosen, chosen as a hard one, out again. */
function turn(number: number): void {
  const now = ports.value.find((p) => p.number === number);
  const others = ports.value.filter((p) => p.number !== number);
  ports.value = now?.hard ? others : [...others, { number, hard: Boolean(now) }].sort((a, b) => a.number - b.number);
}
const portWord = (number: number) => {
  const now = ports.value.find((p) => p.number === number);
  return now ? (now.hard ? 'hard, goes first' : 'chosen') : 'left out';
};
</script>

<template>
  <div>
    <p class="field-label">
      Ports:
      <span class="note">
        press once to choose, again for a hard one (it goes first, while hands are fresh), again to leave out
      </span>
    </p>
    <p class="ports">
      <PressArea
        v-for="n in count"
        :key="n"
        class="port"
        :class="{ on: portWord(n) !== 'left out', hard: portWord(n).startsWith('hard') }"
        :aria-label="`Port ${n}: ${portWord(n)}`"
        @click="turn(n)"
      >
        {{ n }}
      </PressArea>
      <span v-if="problem" class="loss" role="alert">{{ problem }}</span>
    </p>
  </div>
</template>

<style scoped>
.ports {
  display: flex;
  gap: 8px;
  margin: 6px 0 12px;
}
.port {
  min-width: 34px;
  padding: 4px 0;
  text-align: center;
  border: 1px solid var(--el-border-color);
  color: var(--slate);
}
.port.on {
  border-color: var(--ink);
  color: var(--ink);
  font-weight: 600;
}
.port.hard {
  border-width: 3px;
  padding: 2px 0;
}
</style>
