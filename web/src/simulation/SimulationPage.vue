<script setup lang="ts">
import { runnerKnown, sweepSpeeds } from '@alluvium/core';
import { workingSpeeds } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { useComparison, type CompareHead } from '../data/comparison.js';
import { useJudging } from '../data/judging.js';
import { setupIn, useSimulated } from '../data/simulated.js';
import NoBuild from '../parts/NoBuild.vue';
import { saveSvg } from '../charts/save.js';
import { useSettings } from '../state/settings.js';
import AssumedTable from './AssumedTable.vue';
import DifferencePane from './DifferencePane.vue';
import { saveSweep } from './exportSweep.js';
import HeadAsks from './HeadAsks.vue';
import InsidePane from './InsidePane.vue';
import type { ReadyHead } from './ready.js';
import SweepTable from './SweepTable.vue';
import SweepView from './SweepView.vue';
import { useSweep, type Curve } from './useSweep.js';
import WhatIf from './WhatIf.vue';

// active.value!: the page is shown only with a build at hand.
// curveOf()!: filtered behind it.

/** Each head in this engine, breath by breath: its curve over speed, what is sure of the difference, and the cam it wants. */
const settings = useSettings();
const { active, heads, shown, loading, error } = useComparison();
const judging = useJudging();

const asked = computed(() =>
  shown.value.map((h): ReadyHead | { readonly h: CompareHead; readonly problem: string } => {
    const [first] = heads.value;
    const setup = setupIn(
      active.value!,
      { whole: h.whole, evaluation: h },
      first && { whole: first.whole, evaluation: first },
      judging.value,
    );
    return typeof setup === 'string' ? { h, problem: setup } : { ...h, setup };
  }),
);
const ready = computed(() => asked.value.filter((a): a is ReadyHead => 'setup' in a));
const refused = computed(() => asked.value.flatMap((a) => ('problem' in a ? [a] : [])));
const target = computed(() => active.value?.core.speed ?? 1);
const speeds = computed(() => sweepSpeeds(target.value));
const sweep = useSweep(
  () => ready.value.map(({ id, setup }) => ({ id, setup })),
  () => speeds.value,
  () => target.value,
);
const byId = computed(() => new Map(sweep.curves.value.map((c) => [c.id, c])));
const curveOf = (h: ReadyHead): Curve | undefined => byId.value.get(h.id);

// A head that was run to its end is judged by that from now on, on every page.
const simulated = useSimulated();
watch(
  () => sweep.curves.value.map((c) => [c.id, c.whole, c.sensitive.length] as const),
  () => {
    for (const h of ready.value) {
      const curve = curveOf(h);
      const point = curve?.points.find((p) => Math.abs(p.speed - target.value) < 1e-6);
      if (curve && point && curve.sensitive.length >= 2 && (curve.whole || runnerKnown(h.setup)))
        simulated.keep(h.setup, curve.sensitive, point);
    }
  },
);
const decides = computed(() => ready.value.some((h) => h.verdict.byRules));

const anyPoint = computed(() => sweep.curves.value.some((c) => c.points.length > 0));
/** Speeds the build works in. */
const working = computed(() => workingSpeeds(active.value!.build, target.value));
const chart = ref<InstanceType<typeof SweepView>>();
const fileName = computed(() => `${active.value?.build.name ?? 'engine'} simulated`);
const share = computed(() =>
  sweep.asked.value === 0 ? 100 : Math.round((100 * sweep.done.value) / sweep.asked.value),
);
const running = computed(() => sweep.done.value < sweep.asked.value);
</script>

<template>
  <section v-if="active?.target && !loading && !error">
    <header>
      <h1>Simulate</h1>
      <span class="note">
        each head in this engine, breath by breath; differences first, absolute power second; SAE J1349 air
      </span>
      <span class="acts no-print">
        <el-button size="small" :disabled="!ready.length" @click="chart?.svg && saveSvg(chart.svg, fileName)">
          Export SVG
        </el-button>
        <el-button
          size="small"
          :disabled="!ready.length"
          @click="
            saveSweep(
              fileName,
              ready.map((h) => ({ name: h.name, setup: h.setup, curve: curveOf(h)! })).filter((h) => h.curve),
            )
          "
        >
          Export CSV
        </el-button>
      </span>
    </header>
    <p v-for="r in refused" :key="r.h.id" class="caution">
      {{ r.h.letter }} {{ r.h.name }} is not run: {{ r.problem }}
    </p>
    <template v-if="ready.length">
      <div class="progress" aria-live="polite">
        <template v-if="running">
          <el-progress
            :percentage="share"
            :stroke-width="6"
            :show-text="false"
            aria-label="How much of the simulation has run"
          />
          <span class="note">{{ sweep.done.value }} of {{ sweep.asked.value }} runs</span>
          <el-button size="small" @click="sweep.cancel">Stop</el-button>
        </template>
        <template v-else-if="sweep.stopped.value">
          <span class="note">Stopped: what was run stands.</span>
          <el-button size="small" @click="sweep.begin">Go on</el-button>
        </template>
        <p v-if="sweep.problem.value" class="loss" role="alert">{{ sweep.problem.value }}</p>
      </div>
      <div class="two">
        <div>
          <SweepView
            ref="chart"
            :heads="ready"
            :curves="byId"
            :power="active.core.power"
            :target="target"
            :working="working"
            :empty="anyPoint ? '' : running ? 'The speed wanted is run first.' : 'Nothing has been run yet.'"
          />
          <p class="note">
            Shaded: the working speeds of
            {{ active.build.workingFrom ? 'this build' : `a ${active.build.use} engine` }}, and the 95 % range of one
            head, most of which all heads share. Thin: one runner length alone; the curve is the mean over what is not
            known of it.
          </p>
          <SweepTable :heads="ready" :curves="byId" :target="target" :working="working" />
          <p v-if="decides" class="reading" role="status">
            <RouterLink :to="{ name: 'match' }">The verdict</RouterLink>
            takes this from now on, in the place of the rules of thumb.
          </p>
          <template v-for="h in ready" :key="h.id">
            <p v-for="f in curveOf(h)?.failed ?? []" :key="f.speed" class="caution">
              {{ h.letter }} at {{ settings.say.of(f.speed, 'rotation') }}: {{ f.reason }} The line breaks there.
            </p>
          </template>
        </div>
        <div>
          <DifferencePane :heads="ready" :curves="byId" :target="target" :working="working" />
        </div>
      </div>
      <HeadAsks :heads="ready" :pool="sweep.pool" :speeds="speeds" :target="target" :working="working" />
      <h2>What if</h2>
      <WhatIf :heads="ready" :speeds="speeds" :target="target" :build="active.build" />
      <InsidePane :heads="ready" :pool="sweep.pool" :speeds="speeds" :target="target" :file-name="fileName" />
      <h2>What was assumed</h2>
      <AssumedTable :heads="ready" />
      <p class="caution">
        A model of the breathing: it knows nothing of detonation, valve float, oil or the strength of parts. No figure
        here is a licence to run an engine harder or to cut deeper.
      </p>
    </template>
    <p v-else-if="heads.length === 0" class="reading">
      No head is in the lineup yet. Open one under
      <RouterLink to="/heads">Heads</RouterLink>
      and add it.
    </p>
  </section>
  <p v-else-if="active && !active.target" class="reading">
    {{ active.problem }}
    <RouterLink :to="{ name: 'target', query: { build: active.build.id } }">Correct the target</RouterLink>
  </p>
  <NoBuild v-else :loading="loading" :error="error" />
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 22px;
}
.acts {
  margin-left: auto;
}
.progress {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 30px;
}
.progress .el-progress {
  width: 220px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(300px, 2fr);
  gap: 34px;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
h2 {
  margin: 14px 0 6px;
}
.reading {
  margin: 4px 0 8px;
  font-size: 16px;
}
</style>
