<script setup lang="ts">
import { USUAL_REPEATABILITY, camLiftOf, compareSetups, compareWords, flowCurve, type FlowCurve } from '@alluvium/core';
import { useEventListener } from '@vueuse/core';
import NoBuild from '../parts/NoBuild.vue';
import { computed, ref, useTemplateRef } from 'vue';
import ArrivalNote from '../arrival/ArrivalNote.vue';
import DepositChart from '../charts/DepositChart.vue';
import FlowChart, { type Series } from '../charts/FlowChart.vue';
import { saveSvg, savePng } from '../charts/save.js';
import { isTyping } from '../app/keys.js';
import HeadMark from '../parts/HeadMark.vue';
import { useComparison, type CompareHead } from '../data/comparison.js';
import { useSettings } from '../state/settings.js';
import { useUndo } from '../data/undo.js';
import DifferenceTable from './DifferenceTable.vue';
import SheetChoice from './SheetChoice.vue';
import { saveComparison } from './export.js';
import { sameExhaust, setupFacts } from './facts.js';
import { useCompareView } from './view.js';

const settings = useSettings();
const undo = useUndo();
const { active, view: lineup, heads, shown, loading, error } = useComparison();
const { side, show, difference } = useCompareView();
const fill = ref(false);
const flowChart = useTemplateRef<InstanceType<typeof FlowChart>>('flowChart');

type Flowed = CompareHead & { readonly curve: FlowCurve };
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
const profile = computed(() =>
  side.value === 'intake' ? active.value?.target?.intakeCam : active.value?.target?.exhaustCam,
);
const demand = computed(() => (side.value === 'intake' ? active.value?.target?.demand?.value : undefined));
const topLift = computed(() => Math.max(camLift.value ?? 0, ...flowed.value.map((h) => h.curve.last.lift)) * 1.03);

const series = computed<Series[]>(() =>
  flowed.value.map((h) => ({
    letter: h.letter,
    name: h.name,
    index: h.index,
    curve: h.curve,
    claim: h.sheet!.kind === 'claim',
  })),
);
/** A curve of something other than flow, point by point; too few points draw nothing. */
function derived(points: (head: Flowed) => { lift: number; flow: number }[]): Series[] {
  return flowed.value.flatMap((h) => {
    const found = points(h);
    const curve = found.length > 1 ? flowCurve(found) : undefined;
    return curve ? [{ letter: h.letter, name: h.name, index: h.index, curve, claim: h.sheet!.kind === 'claim' }] : [];
  });
}
const coefficients = computed(() =>
  derived((h) =>
    h.result![side.value].points.flatMap((p) =>
      p.liftRatio !== undefined && p.coefficients.curtain
        ? [{ lift: p.liftRatio, flow: p.coefficients.curtain.value }]
        : [],
    ),
  ),
);
const ratios = computed(() => derived((h) => h.result!.ratios.map((r) => ({ lift: r.lift, flow: r.ratio.value }))));
const SHOWS = [
  ['flow', 'flow', 'flow at 28 in of water'],
  ['coefficients', 'coefficients', 'discharge coefficient on curtain area, over lift / valve diameter'],
  ['ratio', 'E/I', 'exhaust over intake at each lift'],
] as const;
const piped = computed(() => {
  const pipes = new Set(flowed.value.map((h) => h.sheet!.setup.exhaustPipe));
  return pipes.size > 1 ? flowed.value.filter((h) => h.sheet!.setup.exhaustPipe === 'piped').map((h) => h.letter) : [];
});
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

const fileName = computed(() => `${active.value?.build.name ?? 'heads'}-${side.value}`.replace(/[^\w.-]+/g, '-'));
async function savePicture(kind: 'svg' | 'png'): Promise<void> {
  const svg = flowChart.value?.svg;
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
        <button
          v-for="s in ['intake', 'exhaust'] as const"
          :key="s"
          class="plain side"
          type="button"
          :aria-pressed="side === s"
          @click="side = s"
        >
          {{ s === 'intake' ? 'Intake' : 'Exhaust' }}
        </button>
      </h1>
      <span class="note">
        {{ SHOWS.find(([name]) => name === show)![2] }}
      </span>
      <span class="actions no-print">
        <button
          v-for="[name, word] in SHOWS"
          :key="name"
          class="worded"
          type="button"
          :aria-pressed="show === name"
          :disabled="show === name"
          @click="show = name"
        >
          {{ word }}
        </button>
        <button class="worded" type="button" @click="fill = !fill">
          {{ fill ? 'back (Esc)' : 'fill the screen' }}
        </button>
        <button class="worded" type="button" @click="savePicture('svg')">SVG</button>
        <button class="worded" type="button" @click="savePicture('png')">PNG</button>
        <button
          class="worded"
          type="button"
          @click="saveComparison('csv', flowed, side, active, settings.system, fileName)"
        >
          CSV
        </button>
        <button
          class="worded"
          type="button"
          @click="saveComparison('xlsx', flowed, side, active, settings.system, fileName)"
        >
          XLSX
        </button>
      </span>
    </header>
    <div v-if="flowed.length" class="two">
      <div class="drawings">
        <FlowChart
          v-if="show === 'flow'"
          ref="flowChart"
          :series="series"
          :side="side"
          :demand="demand"
          :cam-lift="camLift"
          :cam="profile"
          :height="fill ? 620 : 392"
        />
        <FlowChart
          v-else-if="show === 'coefficients' && coefficients.length"
          ref="flowChart"
          :series="coefficients"
          :side="side"
          kind="ratio"
          x-kind="ratio"
          label="discharge coefficient over L/D"
          :height="fill ? 620 : 392"
        />
        <FlowChart
          v-else-if="show === 'ratio' && ratios.length"
          ref="flowChart"
          :series="ratios"
          :side="side"
          kind="percent"
          :cam-lift="camLift"
          label="exhaust over intake at each lift"
          :height="fill ? 620 : 392"
        />
        <p v-else-if="show === 'ratio'" class="reading">No head here was flowed on both sides at the same lifts.</p>
        <p v-else class="reading">
          No valve diameter is known for these heads: note it under their sizes, and the coefficients appear.
        </p>
        <p v-if="show === 'ratio' && piped.length" class="caution">
          {{ piped.join(' ') }} had a pipe on the exhaust, others not: those ratios are different quantities.
        </p>
        <template v-if="fair.length > 1 && show === 'flow' && !fill">
          <h2>Gain and loss against {{ fair[0]!.letter }}</h2>
          <DepositChart :base="fair[0]!.curve" :others="fair.slice(1)" :top-lift="topLift" :side="side" :height="176" />
        </template>
      </div>
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
        <DifferenceTable :heads="flowed" :side="side" :difference="difference" />
        <p class="note">
          Italic: read between rows. Press any figure to see its working. Differences in
          <button class="worded" type="button" @click="difference = difference === 'cfm' ? 'percent' : 'cfm'">
            {{ difference === 'cfm' ? 'flow, show percent' : 'percent, show flow' }}
          </button>
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
    <p v-else-if="heads.length === 0" class="reading">
      Nothing to compare yet. Open a head under
      <RouterLink to="/heads">Heads</RouterLink>
      and add it to the lineup; the first one is the baseline.
    </p>
    <p v-else-if="shown.length === 0" class="reading">Every head is hidden. Press its digit to show it again.</p>
    <p v-else class="reading">None of these heads has {{ side }} flow at the chosen stage.</p>
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
  grid-template-columns: minmax(0, 1fr) 428px;
  gap: 26px;
  margin-top: 6px;
}
.drawings {
  min-width: 0;
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
</style>
