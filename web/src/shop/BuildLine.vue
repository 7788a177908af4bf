<script setup lang="ts">
import { degreeWords } from '@alluvium/core';
import { addition, owedOfBuild, removal, replacement, type Build } from '@alluvium/records';
import { computed } from 'vue';
import { withTarget } from '../data/build.js';
import { lineupReader } from '../data/comparison.js';
import { newId } from '../data/ids.js';
import { useJudging } from '../data/judging.js';
import { useLineup } from '../data/queries.js';
import { useSimulated } from '../data/simulated.js';
import { useChange } from '../data/useChange.js';
import { useSettings } from '../state/settings.js';

// owed[]!: shown where something is owed.

/** One engine of the shop: what is wanted of it, how its heads stand, what it still owes. */
const props = defineProps<{ build: Build; decided: string | null; names: readonly string[] }>();
const settings = useSettings();
const change = useChange();
const judging = useJudging(() => props.build);
const lineup = useLineup(() => props.build.id);
const whole = computed(() => withTarget(props.build, judging.value.assumptions));

const wanted = computed(() => {
  const { power, torque, speed, budget, due } = props.build;
  const { say } = settings;
  return [
    power ? `${say.of(power.si, 'power')} at ${say.of(speed.si, 'rotation')}` : '',
    !power && torque ? `${say.of(torque.si, 'torque')} at ${say.of(speed.si, 'rotation')}` : '',
    budget ? `budget ${budget.typed}${props.build.currency ? ` ${props.build.currency}` : ''}` : '',
    due ? `due ${settings.say.day(due)}` : '',
    props.decided ? `decided ${props.decided}` : '',
  ].filter(Boolean);
});
/** Read as Compare and Match read them: their verdicts are the same. */
const read = lineupReader(() => judging.value, useSimulated());
const heads = computed(() => (lineup.data.value ? read(whole.value, lineup.data.value) : []));
const owed = computed(() =>
  lineup.data.value ? owedOfBuild(props.build, lineup.data.value.entries.length).filter((o) => !o.excuse) : [],
);

/** A name nobody has yet. */
function another(name: string): string {
  for (let n = 2; ; n++) if (!props.names.includes(`${name} ${n}`)) return `${name} ${n}`;
}
async function duplicate(): Promise<void> {
  if (!lineup.data.value) return;
  const copy = { ...props.build, id: newId(), version: 1, name: another(props.build.name), archived: false };
  const entries = lineup.data.value.entries.map(({ entry }) =>
    addition('lineup', { ...entry, id: newId(), version: 1, buildId: copy.id }),
  );
  await change.make([addition('build', copy), ...entries], `${copy.name} is a copy of ${props.build.name}.`);
}
const archive = () =>
  change.make(
    [replacement('build', { ...props.build, archived: !props.build.archived })],
    props.build.archived ? `${props.build.name} is back.` : `${props.build.name} is archived.`,
  );
const remove = () => change.make([removal('build', props.build.id)], `${props.build.name} removed.`);
</script>

<template>
  <li class="build">
    <h2>
      <RouterLink :to="{ name: 'target', query: { build: build.id } }">{{ build.name }}</RouterLink>
    </h2>
    <p class="wanted">{{ wanted.join(' · ') }}</p>
    <p v-if="lineup.isPending.value" class="note">Reading its heads …</p>
    <p v-else-if="lineup.isError.value" class="loss" role="alert">Its heads cannot be read now.</p>
    <ul v-else-if="heads.length" class="heads">
      <li v-for="h in heads" :key="h.id">
        <b>{{ h.letter }}</b>
        <RouterLink :to="{ name: 'head', params: { id: h.whole.head.id }, query: { stage: h.stage.id } }">
          {{ h.name }}
        </RouterLink>
        <span class="verdict">{{ degreeWords(h.verdict) }}</span>
      </li>
    </ul>
    <p v-else-if="whole.problem" class="caution">{{ whole.problem }}</p>
    <p v-if="owed.length" class="owes">
      Owes:
      <RouterLink :to="{ name: 'target', query: { build: build.id } }">
        {{ owed[0]!.text }}{{ owed.length > 1 ? ` And ${owed.length - 1} more.` : '' }}
      </RouterLink>
    </p>
    <p class="acts">
      <RouterLink :to="{ name: 'compare', query: { build: build.id } }">Compare</RouterLink>
      <RouterLink :to="{ name: 'match', query: { build: build.id } }">Match</RouterLink>
      <RouterLink :to="{ name: 'decide', query: { build: build.id } }">Decide</RouterLink>
      <el-dropdown trigger="click" class="more">
        <el-button link :aria-label="`More for ${build.name}`">More</el-button>
        <template #dropdown>
          <el-dropdown-menu>
            <!-- Its heads go along: not before they are known. -->
            <el-dropdown-item :disabled="!lineup.data.value" @click="duplicate">Duplicate</el-dropdown-item>
            <el-dropdown-item @click="archive">
              {{ build.archived ? 'Restore from the archive' : 'Archive' }}
            </el-dropdown-item>
            <el-dropdown-item @click="remove">Remove</el-dropdown-item>
          </el-dropdown-menu>
        </template>
      </el-dropdown>
    </p>
    <p v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</p>
  </li>
</template>

<style scoped>
.build {
  padding: 0 0 26px;
}
h2 {
  margin: 0;
  font-size: 19px;
  line-height: 24px;
}
h2 a {
  color: inherit;
  text-decoration: none;
  border-bottom: 1px solid var(--slate);
}
p {
  margin: 2px 0;
}
.wanted {
  color: var(--slate);
}
.heads {
  list-style: none;
  margin: 4px 0;
  padding: 0;
  display: grid;
  gap: 1px 18px;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
}
.heads b {
  display: inline-block;
  width: 18px;
}
.verdict {
  font: italic 15px var(--serif);
  color: var(--slate);
  margin-left: 6px;
}
.owes {
  font: italic 16px var(--serif);
  color: var(--caution);
}
.owes a {
  color: inherit;
}
.acts {
  display: flex;
  gap: 16px;
  align-items: baseline;
}
.more {
  line-height: inherit;
  font-size: inherit;
  color: inherit;
}
</style>
