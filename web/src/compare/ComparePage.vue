<script setup lang="ts">
import { USUAL_REPEATABILITY, camLiftOf, compareWords, onePointCurve, type Quantity } from '@alluvium/core';
import { useEventListener } from '@vueuse/core';
import { replacement } from '@alluvium/records';
import EmptyNote from '../parts/EmptyNote.vue';
import PressArea from '../parts/PressArea.vue';
import NoBuild from '../parts/NoBuild.vue';
import { computed, ref, useTemplateRef } from 'vue';
import ArrivalNote from '../arrival/ArrivalNote.vue';
import { saveSvg, savePng } from '../charts/save.js';
import { isTyping } from '../app/keys.js';
import { useComparison } from '../data/comparison.js';
import { useSettings } from '../state/settings.js';
import WatchSets from '../parts/WatchSets.vue';
import { useChange } from '../data/useChange.js';
import { useAttempt } from '../exchange/takeAway.js';
import CompareCharts, { type Flowed } from './CompareCharts.vue';
import ComparedHeads from './ComparedHeads.vue';
import DifferenceSheets from './DifferenceSheets.vue';
import DifferenceTable from './DifferenceTable.vue';
import EqualSetups from './EqualSetups.vue';
import FamilyPane from './FamilyPane.vue';
import { saveComparison } from './export.js';
import { sameExhaust } from './facts.js';
import { useCompareView } from './view.js';

// flowed.value[]!: filtered from it.
// active.value!: the page is shown only with a build at hand.
// find()!: one of the list is chosen.

const settings = useSettings();
const { active, view: lineup, heads, shown, loading, error } = useComparison();
const { side, show, difference } = useCompareView();
const fill = ref(false);
const charts = useTemplateRef<InstanceType<typeof CompareCharts>>('charts');

const flowed = computed(() =>
  shown.value.flatMap((h): Flowed[] => {
    const { curve, points } = h.result?.[side.value] ?? {};
    const [only] = points ?? [];
    if (curve) return [{ ...h, curve }];
    return only ? [{ ...h, curve: onePointCurve({ lift: only.lift, flow: only.flow.value }) }] : [];
  }),
);
const camLift = computed(() => {
  const cam = active.value?.core.cam;
  return cam && camLiftOf(cam, side.value);
});
const SHOWS = [
  ['flow', 'flow', 'flow at 28 in of water'],
  ['coefficients', 'coefficients', 'discharge coefficient on curtain area, over lift / valve diameter'],
  ['ratio', 'E/I', 'exhaust over intake at each lift'],
] as const;
/** Heads of one kind of exhaust with a curve: what can be said of one row against a curve stands in the table. */
const fair = computed(() =>
  flowed.value.filter(
    (h) => h.curve.points.length > 1 && (side.value === 'intake' || sameExhaust(h, flowed.value[0]!)),
  ),
);
const words = computed(() =>
  fair.value.length
    ? compareWords(
        fair.value.map((h) => ({ ...h, degree: side.value === 'intake' ? h.verdict.degree : undefined })),
        camLift.value ?? Infinity,
        USUAL_REPEATABILITY,
        settings.say,
      )
    : undefined,
);
const change = useChange();
/** The shop's lifts become those of this build. */
const watch = (lifts: readonly Quantity[]) =>
  change.make(
    [replacement('build', { ...active.value!.build, watchLifts: [...lifts] })],
    'These lifts are watched for this build now.',
  );
const fileName = computed(() => `${active.value?.build.name ?? 'heads'}-${side.value}`.replace(/[^\w.-]+/g, '-'));
const attempt = useAttempt();
const savePicture = (save: typeof saveSvg | typeof savePng) =>
  attempt(() => {
    const svg = charts.value?.svg();
    return svg && save(svg, fileName.value);
  });
useEventListener('keydown', (event) => {
  if (event.key === 'Escape' && fill.value) fill.value = false;
  if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === 'i') side.value = 'intake';
  else if (event.key === 'e') side.value = 'exhaust';
  else if (event.key === 'f') fill.value = !fill.value;
});
</script>

<template>
  <section v-if="active && lineup" class="compare" :class="{ fill }">
    <header>
      <h1>
        <PressArea
          v-for="s in ['intake', 'exhaust'] as const"
          :key="s"
          class="side"
          :aria-pressed="side === s"
          @click="side = s"
        >
          {{ s === 'intake' ? 'Intake' : 'Exhaust' }}
        </PressArea>
      </h1>
      <span class="note">
        {{ SHOWS.find(([name]) => name === show)![2] }}
      </span>
      <span class="actions no-print">
        <el-button
          v-for="[name, word] in SHOWS"
          :key="name"
          link
          :aria-pressed="show === name"
          :disabled="show === name"
          @click="show = name"
        >
          {{ word }}
        </el-button>
        <el-button link @click="fill = !fill">
          {{ fill ? 'Leave full screen (Esc)' : 'Full screen' }}
        </el-button>
        <el-button link @click="savePicture(saveSvg)">SVG</el-button>
        <el-button link @click="savePicture(savePng)">PNG</el-button>
        <el-button link @click="saveComparison('csv', flowed, side, active, settings.system, fileName)">CSV</el-button>
        <el-button link @click="saveComparison('xlsx', flowed, side, active, settings.system, fileName)">
          XLSX
        </el-button>
      </span>
    </header>
    <div v-if="flowed.length" class="two">
      <CompareCharts ref="charts" :flowed="flowed" :fair="fair" :side="side" :show="show" :fill="fill" />
      <div v-if="!fill" class="words">
        <p class="reading" aria-live="polite">{{ words }}</p>
        <ArrivalNote v-for="h in shown" :key="h.id" :head="h" named />
        <EqualSetups :flowed="flowed" :side="side" :sources="lineup.sources" />
        <div class="framed">
          <DifferenceTable :heads="flowed" :side="side" :difference="difference" />
        </div>
        <p class="note">
          Italic: read between rows. Press any figure to see its working. Differences in
          <el-button link @click="difference = difference === 'cfm' ? 'percent' : 'cfm'">
            {{ difference === 'cfm' ? 'flow, show percent' : 'percent, show flow' }}
          </el-button>
        </p>
        <ComparedHeads :shown="shown" :all="heads" :side="side" />
      </div>
    </div>
    <EmptyNote v-else-if="heads.length === 0">
      Nothing to compare yet. Open a head under
      <RouterLink to="/heads">Heads</RouterLink>
      and add it to the lineup; the first one is the baseline.
    </EmptyNote>
    <EmptyNote v-else-if="shown.length === 0">Every head is hidden. Press its digit to show it again.</EmptyNote>
    <EmptyNote v-else>None of these heads has {{ side }} flow at the chosen stage.</EmptyNote>
    <template v-if="!fill">
      <FamilyPane :all="heads" :shown="shown" :side="side" :cam-lift="camLift" />
      <DifferenceSheets :heads="shown" :side="side" />
      <WatchSets v-if="heads.length" class="watch no-print" :lifts="active.build.watchLifts" @take="watch" />
    </template>
  </section>
  <NoBuild v-else :loading="loading" :error="error" />
</template>

<style scoped>
header {
  display: flex;
  align-items: baseline;
  gap: 22px;
}
.side {
  color: var(--faint);
  margin-right: 14px;
  font-weight: 500;
}
.side[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
}
.actions {
  margin-left: auto;
  display: flex;
  gap: 16px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 500px;
  gap: 26px;
  margin-top: 6px;
}
.watch {
  max-width: 460px;
  margin-top: 22px;
}
.words .reading {
  margin: 0 0 8px;
}
.fill {
  position: fixed;
  z-index: 1200;
  inset: 0;
  padding: 20px 30px;
  background: #000;
  --paper: #000;
  --paper-deep: #16191a;
  --ink: #fff;
  --slate: #d6d6d6;
  --faint: #bbb;
  --rule: #3c3c3c;
  --intake: #7fe3f0;
  --exhaust: #ffb08c;
  --caution: #ffd24a;
  --caution-line: #ffd24a;
  color: #fff;
}
.fill .two {
  display: block;
}
@media (max-width: 1100px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 800px) {
  header,
  .actions {
    flex-wrap: wrap;
    gap: 6px 16px;
  }
  .actions {
    margin-left: 0;
  }
}
</style>
