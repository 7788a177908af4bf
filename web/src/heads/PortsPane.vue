<script setup lang="ts">
import { SIDES, type Side } from '@alluvium/core';
import { addition, removal, replacement, type Port, type WholeHead } from '@alluvium/records';
import { computed, reactive, ref } from 'vue';
import { newId } from '../data/ids.js';
import { useChange } from '../data/useChange.js';
import TextField from '../parts/TextField.vue';
import { portLabel } from '../parts/portChoices.js';
import HoverNote from '../parts/HoverNote.vue';

/** Every port of a head: its number, what the shop calls it, which kind of runner it is, and what was done to it before it came. */
const props = defineProps<{ whole: WholeHead }>();
const change = useChange('here');
const problem = ref('');
const FIELDS = [
  ['nickname', 'nickname', 'long, short, good, bad'],
  ['kind', 'kind', 'long runner, divided'],
  ['touched', 'touched before it came, and how', 'not touched'],
] as const;
const of = (side: Side) => props.whole.ports.filter((p) => p.side === side).sort((a, b) => a.number - b.number);
/** Sheets, sizes and surveys that were taken on a port: it is not removed from under them by accident. */
const used = (port: Port) => {
  const { sheets, measures, surveys } = props.whole;
  const count =
    sheets.filter((s) => s.intakePortId === port.id || s.exhaustPortId === port.id).length +
    measures.filter((m) => m.portId === port.id).length +
    surveys.filter((s) => s.portId === port.id).length;
  return count === 0 ? '' : `${count} ${count === 1 ? 'record' : 'records'}`;
};
async function put(port: Port, field: (typeof FIELDS)[number][0], text: string): Promise<void> {
  if (text.trim() === port[field]) return;
  await change.make([replacement('port', { ...port, [field]: text.trim() })], `${sideName(port)} saved.`);
  problem.value = change.refusal.value;
}
const sideName = (port: Port) => `${port.side === 'intake' ? 'Intake' : 'Exhaust'} ${portLabel(port)}`;
const added = reactive<Record<Side, string>>({ intake: '', exhaust: '' });
const free = computed(() =>
  Object.fromEntries(SIDES.map((side) => [side, Math.max(0, ...of(side).map((p) => p.number)) + 1])),
);
async function add(side: Side): Promise<void> {
  const number = Number(added[side] || free.value[side]);
  problem.value =
    !Number.isInteger(number) || number < 1 || number > 48
      ? 'A port number is 1 to 48.'
      : of(side).some((p) => p.number === number)
        ? `The ${side} has a port ${number} already.`
        : '';
  if (problem.value) return;
  const made = await change.make(
    [addition('port', { id: newId(), headId: props.whole.head.id, side, number })],
    `${side === 'intake' ? 'Intake' : 'Exhaust'} port ${number} added.`,
  );
  problem.value = change.refusal.value;
  if (made) added[side] = '';
}
const remove = (port: Port) => change.make([removal('port', port.id)], `${sideName(port)} removed.`);
</script>

<template>
  <section>
    <h2>Ports</h2>
    <p class="note">
      A port somebody worked on before the head came is no baseline: it stays out of the verdict, and that is said.
    </p>
    <template v-for="side in SIDES" :key="side">
      <h3>{{ side }}</h3>
      <div v-if="of(side).length" class="framed">
        <table class="ruled" :aria-label="`Ports, ${side}`">
          <thead>
            <tr>
              <th class="num">number</th>
              <th v-for="[field, word] in FIELDS" :key="field">{{ word }}</th>
              <th>taken on it</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="p in of(side)" :key="p.id">
              <td class="num">{{ p.number }}</td>
              <td v-for="[field, word, hint] in FIELDS" :key="field">
                <el-input
                  :model-value="p[field]"
                  size="small"
                  :placeholder="hint"
                  :aria-label="`${word}, ${side} port ${p.number}`"
                  @change="put(p, field, String($event))"
                />
              </td>
              <td class="note">{{ used(p) }}</td>
              <td>
                <HoverNote :says="used(p) ? 'Something was taken on it: move or remove that first.' : undefined">
                  <span>
                    <el-button
                      link
                      :aria-label="`Remove ${side} port ${p.number}`"
                      :disabled="used(p) !== ''"
                      @click="remove(p)"
                    >
                      Remove
                    </el-button>
                  </span>
                </HoverNote>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <form class="add" @submit.prevent="add(side)">
        <TextField v-model="added[side]" :label="`Next ${side} port`" :placeholder="String(free[side])" />
        <el-button native-type="submit">Add the port</el-button>
      </form>
    </template>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
h3 {
  margin: 14px 0 2px;
}
.add {
  display: flex;
  gap: 14px;
  align-items: end;
  margin-top: 6px;
  max-width: 320px;
}
</style>
