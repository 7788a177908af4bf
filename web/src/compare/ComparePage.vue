<script setup lang="ts">
import { USUAL_REPEATABILITY, camLiftOf, compareSetups, compareWords, type Quantity } from '@alluvium/core';
import { useEventListener } from '@vueuse/core';
import { replacement } from '@alluvium/records';
import EmptyNote from '../parts/EmptyNote.vue';
import PressArea from '../parts/PressArea.vue';
import NoBuild from '../parts/NoBuild.vue';
import { computed, ref, useTemplateRef } from 'vue';
import ArrivalNote from '../arrival/ArrivalNote.vue';
import { saveSvg, savePng } from '../charts/save.js';
import { isTyping } from '../app/keys.js';
import HeadMark from '../parts/HeadMark.vue';
import { useComparison } from '../data/comparison.js';
import { useSettings } from '../state/settings.js';
import WatchSets from '../parts/WatchSets.vue';
import { useChange } from '../data/useChange.js';
import { useUndo } from '../data/undo.js';
import CompareCharts, { type Flowed } from './CompareCharts.vue';
import DifferenceSheets from './DifferenceSheets.vue';
import DifferenceTable from './DifferenceTable.vue';
import FamilyPane from './FamilyPane.vue';
import SheetChoice from './SheetChoice.vue';
import { saveComparison } from './export.js';
import { sameExhaust, setupFacts } from './facts.js';
import { useCompareView } from './view.js';

const settings = useSettings();
const undo = useUndo();
const { active, view: lineup, heads, shown, loading, error } = useComparison();
const { side, show, difference } = useCompareView();
const fill = ref(false);
const charts = useTemplateRef<InstanceType<typeof CompareCharts>>('charts');

const flowed = computed(() =>
  shown.value.flatMap((h): Flowed[] =>
    h.result?.[side.value].curve ? [{ ...h, curve: h.result[side.value].curve! }] : [],
  ),
);
const silent = computed(() => shown.value.filter((h) => !h.result?.[side.value].curve));
/** Heads without a curve: nothing known, or one row, which is a point and no curve. */
const silentWords = computed(() =>
  silent.value
    .map((h) => {
      const [only] = h.result?.[side.value].points ?? [];
      return `${h.letter} ${h.name}: ${only ? `one row, ${settings.say.of(only.flow.value, 'flow')} at ${settings.say.of(only.lift, 'lift')}; no curve is drawn through one point` : `no ${side.value} flow at this stage`}.`;
    })
    .join(' '),
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
const fair = computed(() => flowed.value.filter((h) => side.value === 'intake' || sameExhaust(h, flowed.value[0]!)));
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
const alike = computed(() => compareSetups(setupFacts(flowed.value, side.value, lineup.value?.sources ?? [])));
const apart = computed(() =>
  alike.value.unequal.map((u) => {
    const groups = new Map<string, string[]>();
    u.values.forEach((v, i) =>
      groups.set(v ?? 'unknown', [...(groups.get(v ?? 'unknown') ?? []), flowed.value[i]!.letter]),
    );
    const mind = u.what === 'depression' ? ', brought to 28 in' : u.what === 'exhaust' ? ', not compared' : '';
    return `${u.what}: ${[...groups].map(([v, l]) => `${l.join(' ')} ${v}`).join(', ')}${mind}`;
  }),
);

const change = useChange();
/** The shop's lifts become those of this build. */
const watch = (lifts: readonly Quantity[]) =>
  change.make(
    [replacement('build', { ...active.value!.build, watchLifts: [...lifts] })],
    'These lifts are watched for this build now.',
  );
const fileName = computed(() => `${active.value?.build.name ?? 'heads'}-${side.value}`.replace(/[^\w.-]+/g, '-'));
async function savePicture(kind: 'svg' | 'png'): Promise<void> {
  const svg = charts.value?.svg();
  if (!svg) return;
  try {
    if (kind === 'svg') saveSvg(svg, fileName.value);
    else await savePng(svg, fileName.value);
  } catch {
    undo.announce('The browser could not draw the picture; save it as SVG instead.');
  }
}
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
        <el-button link @click="savePicture('svg')">SVG</el-button>
        <el-button link @click="savePicture('png')">PNG</el-button>
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
        <p class="equal">
          <b>Equal</b>
          {{ alike.equal.join(' · ') || 'nothing that is known' }}
        </p>
        <p v-for="a in apart" :key="a" class="equal caution">
          <b>Not equal</b>
          {{ a }}
        </p>
        <p v-if="alike.unknown.length" class="equal caution">
          <b>Unknown for some</b>
          {{ alike.unknown.join(', ') }}
        </p>
        <div class="framed">
          <DifferenceTable :heads="flowed" :side="side" :difference="difference" />
        </div>
        <p class="note">
          Italic: read between rows. Press any figure to see its working. Differences in
          <el-button link @click="difference = difference === 'cfm' ? 'percent' : 'cfm'">
            {{ difference === 'cfm' ? 'flow, show percent' : 'percent, show flow' }}
          </el-button>
        </p>
        <table class="ruled key">
          <tbody>
            <tr v-for="h in shown" :key="h.id">
              <td><HeadMark :index="h.index" /></td>
              <td>{{ h.letter }} {{ h.name }}</td>
              <td><SheetChoice :head="h" :all="heads" /></td>
            </tr>
          </tbody>
        </table>
        <p v-if="silent.length" class="note">
          {{ silentWords }}
        </p>
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
.equal {
  margin: 0 0 4px;
  font-size: 14px;
}
.equal b {
  font-weight: 600;
}
.key {
  font-size: 14px;
}
.key td {
  max-width: 190px;
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
