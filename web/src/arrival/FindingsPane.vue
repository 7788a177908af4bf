<script setup lang="ts">
import { placeOf, replacement, standingFindings, type Stage, type WholeHead } from '@alluvium/records';
import { computed, ref } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import TextField from '../parts/TextField.vue';
import { useChange } from '../data/useChange.js';
import FindingForm from './FindingForm.vue';

/** Everything found, the way to the seller's list, and the ports somebody touched before. */
const props = defineProps<{ whole: WholeHead; stage: Stage }>();
defineEmits<{ open: [string] }>();
const change = useChange('here');
const standing = computed(() => new Set(standingFindings(props.whole, props.stage.id).map((f) => f.id)));
const adding = ref(false);
const touched = computed(() => props.whole.ports.filter((p) => p.touched));
const untouched = computed(() => props.whole.ports.filter((p) => !p.touched));
const portId = ref('');
const reason = ref('');
const problem = ref('');

async function mark(id: string, text: string): Promise<void> {
  const port = props.whole.ports.find((p) => p.id === id);
  if (!port) return void (problem.value = 'Choose the port.');
  const name = `${port.side} port ${port.number}`;
  const made = await change.make(
    [replacement('port', { ...port, touched: text })],
    text ? `${name} is left out of the baseline: ${text}.` : `${name} counts again.`,
  );
  problem.value = change.refusal.value;
  if (!made) return;
  portId.value = '';
  reason.value = '';
}
function add(): void {
  if (reason.value.trim() === '') problem.value = 'Say what was done to it.';
  else void mark(portId.value, reason.value.trim());
}
</script>

<template>
  <div>
    <table v-if="whole.findings.length" class="ruled">
      <thead>
        <tr>
          <th>where</th>
          <th>what</th>
          <th>how bad</th>
          <th class="num">to mend</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="f in whole.findings" :key="f.id" :class="{ gone: !standing.has(f.id) }">
          <td>{{ placeOf(f) }}</td>
          <td>{{ f.text }}</td>
          <td :class="{ loss: f.severity === 'reject' }">
            {{ standing.has(f.id) ? f.severity : f.mendedStageId ? 'mended' : 'later' }}
          </td>
          <td class="num">{{ f.cost?.typed ?? '' }}</td>
          <td>
            <el-button
              v-if="f.inspectionId"
              link
              :aria-label="`Open: ${f.text}`"
              @click="$emit('open', f.inspectionId)"
            >
              open
            </el-button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="note">Nothing was found so far.</p>
    <p class="ways">
      <el-button link :aria-expanded="adding" @click="adding = !adding">Add a finding</el-button>
      <RouterLink :to="{ name: 'defects', params: { id: whole.head.id }, query: { stage: stage.id } }">
        List for the seller
      </RouterLink>
    </p>
    <FindingForm v-if="adding" :whole="whole" :stage-id="stage.id" :inspection-id="null" @done="adding = false" />
    <h2>Ports somebody touched</h2>
    <p class="note">Such a port is no baseline: its sheets are left out of verdicts, and the verdict says so.</p>
    <ul v-if="touched.length">
      <li v-for="p in touched" :key="p.id">
        {{ p.side }} port {{ p.number }}: {{ p.touched }}
        <el-button link :aria-label="`${p.side} port ${p.number} counts again`" @click="mark(p.id, '')">
          Count it again
        </el-button>
      </li>
    </ul>
    <form v-if="untouched.length" class="touched" @submit.prevent="add">
      <ChoiceField
        v-model="portId"
        label="Port"
        :options="untouched.map((p) => [p.id as string, `${p.side} ${p.number}`] as const)"
      />
      <TextField v-model="reason" label="What was done to it" :problem="problem" />
      <el-button native-type="submit">Leave it out</el-button>
    </form>
  </div>
</template>

<style scoped>
.gone td {
  color: var(--slate);
}
.ways {
  display: flex;
  gap: 22px;
}
h2 {
  margin-top: 18px;
}
.touched {
  display: grid;
  grid-template-columns: 150px 1fr auto;
  gap: 18px;
  align-items: end;
}
</style>
