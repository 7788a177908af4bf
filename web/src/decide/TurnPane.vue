<script setup lang="ts">
import { evaluateTarget, refusedBy } from '@alluvium/core';
import {
  LIFT_STEP,
  LIFT_STEPS,
  firstOf,
  liftToTurn,
  readWays,
  reasonsOf,
  toCoreBuild,
  withLift,
  type WayRead,
} from '@alluvium/records';
import type { Ranked } from '@alluvium/core';
import { computed, ref, watch } from 'vue';
import type { ActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { useWays } from '../data/queries.js';
import { useSettings } from '../state/settings.js';

// build.cam!: the list of answers asks for one first.

/** The strongest reason for and against each way, and what would put it first. */
const props = defineProps<{ active: ActiveBuild; ways: readonly WayRead[]; ranked: Ranked }>();
const settings = useSettings();
const judging = useJudging();
const view = useWays(() => props.active.build.id);
const first = computed(() => firstOf(props.ways, props.ranked.wins));
const reasons = computed(() =>
  props.ways.map((w, i) => ({ way: w.way, ...reasonsOf(props.ways, i, props.active.build, settings.say) })),
);
const lift = ref('');
const looking = ref(false);
/** Times the ways or their ranks changed: an answer of before is none. */
let changes = 0;
const AGAIN = 'The ways changed since: ask again.';
watch(
  () => [props.ways, props.ranked],
  () => {
    changes++;
    if (lift.value) lift.value = AGAIN;
  },
);
async function tryLift(): Promise<void> {
  const { build } = props.active;
  const data = view.data.value;
  if (!data) return;
  looking.value = true;
  const asked = changes;
  try {
    const found = await liftToTurn(build, first.value, async (to) => {
      // Each lift takes half a second: the page breathes between them.
      await new Promise((go) => setTimeout(go));
      const raised = withLift(build, to);
      const core = toCoreBuild(raised, judging.value.assumptions);
      const context = { ...judging.value, sources: data.sources };
      return readWays(data.ways, raised, core, evaluateTarget(core), data.wholes, context);
    });
    const most = settings.say.of(build.cam!.intakeLift.si + LIFT_STEPS * LIFT_STEP, 'lift');
    lift.value = found
      ? `If the cam went to ${settings.say.of(found.lift, 'lift')}, ${found.first.way.name} would come first.`
      : `No other way comes first with any cam up to ${most}.`;
  } catch (error) {
    lift.value = refusedBy(error).message;
  } finally {
    if (asked !== changes) lift.value = AGAIN;
    looking.value = false;
  }
}
</script>

<template>
  <div>
    <h2>For and against</h2>
    <ul class="list">
      <li v-for="r in reasons" :key="r.way.id">
        <b>{{ r.way.name }}</b>
        <span class="gain">for it: {{ r.for }}</span>
        <span class="loss">against it: {{ r.against }}</span>
        <span v-if="r.turns.length" class="note">would come first {{ r.turns.join(', or ') }}</span>
      </li>
    </ul>
    <p v-if="active.build.cam" class="no-print">
      <el-button size="small" :loading="looking" @click="tryLift">Would more lift turn it?</el-button>
    </p>
    <p v-if="lift" role="status">{{ lift }}</p>
  </div>
</template>

<style scoped>
.list {
  margin: 6px 0;
  padding: 0;
  list-style: none;
}
.list li {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.list span {
  display: block;
}
</style>
