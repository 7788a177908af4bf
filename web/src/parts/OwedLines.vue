<script setup lang="ts">
import { isComplete, type Owed } from '@alluvium/records';
import { computed, ref, useId } from 'vue';
import TextField from './TextField.vue';

/** What a record still owes: each thing leads to its field, and is filled there or excused here with a reason. */
const props = defineProps<{
  owed: readonly Owed[];
  /** Said above the list, and when nothing is owed. */
  title?: string;
}>();
const emit = defineEmits<{ go: [Owed]; excuse: [key: string, reason: string]; again: [key: string] }>();
const id = useId();
const left = computed(() => props.owed.filter((o) => !o.excuse));
const complete = computed(() => isComplete(props.owed));
const excusing = ref('');
const reason = ref('');
function excuse(key: string): void {
  emit('excuse', key, reason.value.trim());
  excusing.value = '';
  reason.value = '';
}
</script>

<template>
  <section class="owed" aria-label="Still owed">
    <h2>{{ complete ? 'Nothing is owed' : `${title ?? 'Owed'}: ${left.length}` }}</h2>
    <ul>
      <li v-for="o in owed" :key="o.key" :class="{ excused: o.excuse }">
        <span :id="`${id}-${o.key}`">
          <el-button v-if="o.field && !o.excuse" link class="to" @click="emit('go', o)">
            {{ o.text }}
          </el-button>
          <template v-else>{{ o.text }}</template>
        </span>
        <span v-if="o.excuse" class="note">
          Excused: {{ o.excuse }}.
          <el-button link @click="emit('again', o.key)">Put it back on the list</el-button>
        </span>
        <el-button
          v-else-if="excusing !== o.key"
          link
          :aria-describedby="`${id}-${o.key}`"
          @click="((excusing = o.key), (reason = ''))"
        >
          Excuse
        </el-button>
        <!-- It may stand within a form: Enter excuses, and saves nothing. -->
        <div v-else class="why" @keydown.enter.prevent="reason.trim() && excuse(o.key)">
          <TextField v-model="reason" label="Why it will not be done" />
          <el-button link :disabled="!reason.trim()" @click="excuse(o.key)">Excuse it</el-button>
        </div>
      </li>
    </ul>
  </section>
</template>

<style scoped>
h2 {
  margin: 0;
}
ul {
  padding-left: 18px;
  margin: 6px 0;
}
li.excused {
  color: var(--slate);
}
li button:not(.to) {
  margin-left: 8px;
}
.to {
  text-align: left;
}
.why {
  display: flex;
  gap: 14px;
  align-items: end;
  flex-wrap: wrap;
}
</style>
