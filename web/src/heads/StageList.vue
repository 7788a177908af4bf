<script setup lang="ts">
import {
  addition,
  changedSince,
  sheetDetails,
  type Sheet,
  type Source,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { newId } from '../data/ids.js';
import { useChange } from '../data/useChange.js';
import { useSettings } from '../state/settings.js';

/** The stages of a head, and of the one at hand its sheets, its sizes and its ports. */
const props = defineProps<{
  whole: WholeHead;
  stage: Stage;
  sources: readonly Source[];
  /** What is open: the id of a sheet, a new one of either kind, sizes, ports or velocity maps. */
  at: string;
}>();
const settings = useSettings();
const router = useRouter();
const change = useChange();
const sheetsOf = (s: Stage) => props.whole.sheets.filter((x) => x.stageId === s.id);
const details = (s: Sheet) => sheetDetails(s, props.whole.ports, props.sources).join(' · ');
const newStage = ref('');
async function addStage(): Promise<void> {
  const last = props.whole.stages.at(-1);
  const id = newId();
  const made = await change.make(
    [
      addition('stage', {
        id,
        headId: props.whole.head.id,
        name: newStage.value,
        parentId: last?.id ?? null,
        position: (last?.position ?? -1) + 1,
      }),
    ],
    `Stage “${newStage.value}” added.`,
  );
  if (!made) return;
  newStage.value = '';
  await router.push({ name: 'head', params: { id: props.whole.head.id }, query: { stage: id } });
}
</script>

<template>
  <nav aria-label="Stages and sheets">
    <ol>
      <li v-for="s in whole.stages" :key="s.id" :class="{ here: s.id === stage.id }">
        <RouterLink :to="{ query: { stage: s.id } }" class="stage">
          {{ s.name }}
          <small v-if="s.date">{{ settings.say.day(s.date) }}</small>
        </RouterLink>
        <ul v-if="s.id === stage.id">
          <li v-for="x in sheetsOf(s)" :key="x.id">
            <RouterLink :to="{ query: { stage: s.id, sheet: x.id } }" :class="{ at: x.id === at }">
              {{ x.title }}
            </RouterLink>
            <small>{{ details(x) }}</small>
            <small v-if="changedSince(whole, x).length" class="older">
              older than: {{ changedSince(whole, x).join('; ') }}
            </small>
          </li>
          <li>
            <RouterLink :to="{ query: { stage: s.id, sheet: 'new' } }" :class="{ at: at === 'measured' }">
              + new sheet
            </RouterLink>
            <RouterLink
              class="claim"
              :to="{ query: { stage: s.id, sheet: 'new', kind: 'claim' } }"
              :class="{ at: at === 'claim' }"
            >
              + a claim
            </RouterLink>
          </li>
          <li>
            <RouterLink :to="{ query: { stage: s.id } }" :class="{ at: at === 'sizes' }">sizes</RouterLink>
            <RouterLink class="claim" :to="{ query: { stage: s.id, show: 'ports' } }" :class="{ at: at === 'ports' }">
              ports
            </RouterLink>
            <RouterLink class="claim" :to="{ query: { stage: s.id, show: 'maps' } }" :class="{ at: at === 'maps' }">
              velocity maps
            </RouterLink>
          </li>
        </ul>
      </li>
    </ol>
    <form @submit.prevent="addStage">
      <el-input
        v-model="newStage"
        size="small"
        placeholder="next stage, such as bowl blend"
        aria-label="Name of the next stage"
      />
      <el-button link native-type="submit" :disabled="newStage.trim() === ''">Add</el-button>
    </form>
  </nav>
</template>

<style scoped>
ol,
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
ol > li {
  border-left: 3px solid var(--water);
  padding: 2px 0 8px 10px;
}
ol > li.here {
  border-left-color: var(--intake);
}
a {
  color: inherit;
  text-decoration: none;
}
a:hover {
  color: var(--intake);
}
.stage {
  display: block;
}
.here > .stage {
  font-weight: 600;
}
small {
  display: block;
  color: var(--slate);
  font-size: 13px;
  font-weight: 400;
}
small.older {
  color: var(--caution);
}
ul li {
  padding: 3px 0 3px 8px;
}
.claim {
  margin-left: 12px;
}
.at {
  font-weight: 600;
  color: var(--intake);
}
form {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
</style>
