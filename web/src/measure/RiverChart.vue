<script setup lang="ts">
import { format, type StationBudget, type SurveyResult } from '@alluvium/core';
import { computed, ref } from 'vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import type { Axis, Point } from '../charts/chart.js';
import { useSettings } from '../state/settings.js';
import RiverWater from './RiverWater.vue';
import { across, halfOf, metalAt, neighboursOf, riverRows, type RiverMode, type RiverRow } from './river.js';

// stations.value[]!, stations.value.at()!: drawn of two at least.
// needed!: shown where the target asks for an area.

/**
 * The port as a river: its length along x, the channel as wide as the port's area (or its height), banks of metal, and
 * what lies beyond them. The choke and the window are marked; what the target asks for is drawn as a line.
 */
const props = defineProps<{
  survey: SurveyResult;
  budget: readonly StationBudget[] | undefined;
  mode: RiverMode;
  needed: number | undefined;
  height: number;
}>();
const settings = useSettings();
const stations = computed(() => props.survey.stations);
const middle = computed(() => props.height / 2);
const isArea = computed(() => props.mode === 'area');
const most = computed(() =>
  Math.max(...stations.value.map((s) => across(s, props.mode)), isArea.value ? (props.needed ?? 0) : 0),
);
const mm = (si: number) => settings.say.number(si * 1000, 1);
const x = computed((): Axis => {
  const [from, to] = [stations.value[0]!.station, stations.value.at(-1)!.station];
  return { from, to, ticks: 0, name: 'station', say: (s) => `${mm(s)} mm` };
});
const y = computed((): Axis => ({ from: props.height, to: 0, ticks: 0, kind: isArea.value ? 'area' : 'length' }));
/** What is saved: the area, or the size, at each station. */
const drawn = computed(() => stations.value.map((s): Point => [s.station, across(s, props.mode)]));
const say = (si: number, kind: 'area' | 'length') => format(si, kind, settings.figures);
const value = (r: RiverRow) => say(across(r.s, props.mode), isArea.value ? 'area' : 'length');
const neededHalf = computed(() =>
  isArea.value && props.needed ? halfOf(props.needed, most.value, props.height) : undefined,
);
/** Two names that would run into each other stand one under the other, px. */
const CLOSE = 280;
const LOWER = 40;
function marksOf(rows: readonly RiverRow[]) {
  const of = (s: SurveyResult['choke'] | undefined) => rows.find((r) => r.s === s);
  const choke = of(props.survey.choke);
  const last = of(props.survey.window);
  const window = last === choke ? undefined : last;
  return {
    ...{ rows, choke, window, neighbours: neighboursOf(rows, props.mode) },
    lower: choke && window && Math.abs(window.x - choke.x) < CLOSE ? LOWER : 0,
    // Metal is written where it is scarce.
    scarce: [choke, window].flatMap((r) => (r ? metalAt(r, props.mode) : [])),
  };
}
const laid = (at: (station: number) => number) =>
  marksOf(riverRows(stations.value, props.mode, most.value, props.height, at));

const cursor = ref<number>();
const here = computed(() => {
  const s = stations.value.find((r) => r.station === cursor.value);
  if (!s) return undefined;
  const grown = props.budget?.find((b) => Math.abs(b.station - s.station) < 1e-6);
  const walls = s.sections.flatMap((p) =>
    Object.entries(p.section.walls).map(([side, w]) => `${side} ${mm(w.thickness)} to ${w.behind}`),
  );
  return [
    `${mm(s.station)} mm in`,
    say(s.area.value, 'area'),
    s.sections.map((p) => `${mm(p.width)} × ${mm(p.height)} mm`).join(' and '),
    grown && grown.largest > grown.area * 1.001 ? `could be ${say(grown.largest, 'area')}` : '',
    walls.join(', '),
  ]
    .filter(Boolean)
    .join(' · ');
});
</script>

<template>
  <div class="river">
    <ChartFrame
      v-model:cursor="cursor"
      label="The port as a river"
      :x="x"
      :y="y"
      :height="height"
      :left="30"
      :right="8"
      :top="0"
      :bottom="0"
      mute
    >
      <template #default="c">
        <ChartPoints :name="isArea ? 'area' : mode" :points="drawn" :size="0" stroke="none" />
        <template v-for="m in [laid(c.x)]" :key="m.rows.length">
          <RiverWater :rows="m.rows" :height="height" />
          <template v-if="neededHalf">
            <path
              v-for="k in [-1, 1]"
              :key="k"
              class="needed"
              :d="`M${c.left} ${middle + k * neededHalf}H${c.right}`"
            />
            <text class="asked" :x="c.left + 6" :y="middle + neededHalf - 6">
              target asks {{ say(needed!, 'area') }}
            </text>
          </template>
          <text v-for="n in m.neighbours" :key="`${n.name}${n.x}${n.y}`" class="aside beyond" :x="n.x" :y="n.y">
            {{ n.name }}
          </text>
          <g v-if="m.choke">
            <path class="mark" :d="`M${m.choke.x} ${m.choke.top}V${m.choke.bottom}`" />
            <text class="label" :x="m.choke.x + 8" :y="middle - 8">choke {{ value(m.choke) }}</text>
            <text class="sub" :x="m.choke.x + 8" :y="middle + 10">{{ mm(m.choke.s.station) }} mm in</text>
          </g>
          <g v-if="m.window" text-anchor="end">
            <path class="mark" :d="`M${m.window.x} ${m.window.top}V${m.window.bottom}`" />
            <text class="label" :x="m.window.x - 8" :y="middle - 8 + m.lower">window {{ value(m.window) }}</text>
            <text class="sub" :x="m.window.x - 8" :y="middle + 10 + m.lower">over the short turn</text>
          </g>
          <text v-for="t in m.scarce" :key="`${t.x}${t.y}`" class="metal" :x="t.x" :y="t.y">{{ mm(t.thickness) }}</text>
        </template>
      </template>
    </ChartFrame>
    <p class="here note" aria-live="polite">{{ here ?? 'Point at the river, or walk it with the arrows.' }}</p>
  </div>
</template>

<style scoped>
.river {
  min-width: 0;
}
.needed {
  stroke: var(--caution-line);
  stroke-width: 2;
  stroke-dasharray: 2 4;
}
.beyond {
  text-anchor: middle;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.mark {
  stroke: var(--ink);
  stroke-width: 1.8;
}
text.label {
  font-weight: 600;
  font-size: 15px;
}
text.sub {
  font: italic 15px var(--serif);
}
text.metal {
  font-size: 13px;
  font-weight: 600;
  fill: var(--loss);
  text-anchor: middle;
}
.here {
  min-height: 21px;
  margin: 2px 0 0;
}
</style>
