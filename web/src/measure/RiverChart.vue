<script setup lang="ts">
import { format, type StationBudget, type StationResult, type SurveyResult } from '@alluvium/core';
import { scaleLinear } from 'd3-scale';
import { area, curveMonotoneX, line } from 'd3-shape';
import { useElementSize } from '@vueuse/core';
import { computed, ref, useId, useTemplateRef } from 'vue';
import { useSettings } from '../state/settings.js';
import { vLegible } from '../charts/legible.js';

/**
 * The port as a river: its length along x, the channel as wide as the port's area (or its height), banks of metal, and
 * what lies beyond them. The choke and the window are marked; what the target asks for is drawn as a line.
 */
const props = defineProps<{
  survey: SurveyResult;
  budget: readonly StationBudget[] | undefined;
  /** Channel drawn as area, as height (roof and floor) or as width (front and rear). */
  mode: 'area' | 'height' | 'width';
  needed: number | undefined;
  height: number;
}>();
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const svg = useTemplateRef<SVGSVGElement>('svg');
defineExpose({ svg });
const { width: measured } = useElementSize(box);
const width = computed(() => Math.max(420, measured.value || 720));
const id = useId();
const PAD = 8;

const stations = computed(() => props.survey.stations);
const x = computed(() =>
  scaleLinear([stations.value[0]!.station, stations.value.at(-1)!.station], [PAD + 22, width.value - PAD]),
);
const middle = computed(() => props.height / 2);
/** What the channel's full width stands for at a station: an area, or a size. */
const across = (s: StationResult): number =>
  props.mode === 'area'
    ? s.area.value
    : s.sections.reduce((sum, p) => sum + (props.mode === 'height' ? p.height : p.width), 0);
const most = computed(() => Math.max(...stations.value.map(across), props.mode === 'area' ? (props.needed ?? 0) : 0));
/** Channel takes a little over half of the height, the banks the rest. */
const channel = computed(() => scaleLinear([0, most.value], [0, props.height * 0.27]));
const THICKEST = 0.012;
const bank = computed(() => scaleLinear([0, THICKEST], [0, props.height * 0.19]).clamp(true));
const SIDES = computed(() => (props.mode === 'width' ? (['front', 'rear'] as const) : (['roof', 'floor'] as const)));

interface Row {
  readonly s: StationResult;
  readonly x: number;
  readonly top: number;
  readonly bottom: number;
  readonly bankTop: number | undefined;
  readonly bankBottom: number | undefined;
}
const rows = computed(() =>
  stations.value.map((s): Row => {
    const half = channel.value(across(s));
    const wall = (side: 'roof' | 'floor' | 'front' | 'rear') => {
      const known = s.sections.flatMap((p) => p.section.walls[side]?.thickness ?? []);
      return known.length > 0 ? Math.min(...known) : undefined;
    };
    const [up, down] = SIDES.value;
    const [t, b] = [wall(up), wall(down)];
    return {
      s,
      x: x.value(s.station),
      top: middle.value - half,
      bottom: middle.value + half,
      bankTop: t === undefined ? undefined : middle.value - half - bank.value(t),
      bankBottom: b === undefined ? undefined : middle.value + half + bank.value(b),
    };
  }),
);
const shape = (list: readonly Row[], y0: (r: Row) => number, y1: (r: Row) => number) =>
  area<Row>()
    .x((r) => r.x)
    .y0(y0)
    .y1(y1)
    .curve(curveMonotoneX)(list) ?? '';
const edge = (list: readonly Row[], y: (r: Row) => number) =>
  line<Row>()
    .x((r) => r.x)
    .y(y)
    .curve(curveMonotoneX)(list) ?? '';
const water = computed(() =>
  shape(
    rows.value,
    (r) => r.bottom,
    (r) => r.top,
  ),
);
const streams = computed(() =>
  [-0.72, -0.4, -0.12, 0.16, 0.44, 0.74].map((f) =>
    edge(rows.value, (r) => middle.value + (f * (r.bottom - r.top)) / 2),
  ),
);
const BEYOND = 30;
/** Both banks where their metal is known: the metal, its far edge, and what lies beyond. */
const banks = computed(() =>
  (['top', 'bottom'] as const).flatMap((side) => {
    const up = side === 'top';
    const edgeOf = (r: Row) => (up ? r.bankTop : r.bankBottom);
    const known = rows.value.filter((r) => edgeOf(r) !== undefined);
    if (known.length < 2) return [];
    const out = (r: Row) => edgeOf(r)!;
    return [
      {
        side,
        metal: shape(known, (r) => (up ? r.top : r.bottom), out),
        far: edge(known, out),
        beyond: shape(known, out, (r) => (up ? Math.max(0, out(r) - BEYOND) : Math.min(props.height, out(r) + BEYOND))),
      },
    ];
  }),
);
/** Stretches of one neighbour behind a bank, to name it once. */
const neighbours = computed(() =>
  SIDES.value.flatMap((side, k) => {
    const stretches: { name: string; from: number; to: number }[] = [];
    for (const r of rows.value) {
      const behind = r.s.sections[0]!.section.walls[side]?.behind;
      if (!behind) continue;
      const last = stretches.at(-1);
      if (last?.name === behind) last.to = r.x;
      else stretches.push({ name: behind, from: r.x, to: r.x });
    }
    return stretches
      .filter((s) => s.to - s.from > 40)
      .map((s) => {
        const at = (s.from + s.to) / 2;
        const near = rows.value.reduce((b, r) => (Math.abs(r.x - at) < Math.abs(b.x - at) ? r : b));
        const y = k === 0 ? (near.bankTop ?? near.top) - 10 : (near.bankBottom ?? near.bottom) + 18;
        return { name: s.name, x: at, y };
      });
  }),
);
const rowOf = (s: StationResult | undefined) => rows.value.find((r) => r.s === s);
const choke = computed(() => rowOf(props.survey.choke));
const windowRow = computed(() => {
  const row = rowOf(props.survey.window);
  return row === choke.value ? undefined : row;
});
const say = (si: number, kind: 'area' | 'length') => format(si, kind, settings.figures);
const value = (r: Row) => (props.mode === 'area' ? say(r.s.area.value, 'area') : say(across(r.s), 'length'));
const neededHalf = computed(() => (props.mode === 'area' && props.needed ? channel.value(props.needed) : undefined));
const mm = (si: number) => settings.say.number(si * 1000, 1);
/** Metal is written where it is scarce: at the choke and the window. */
const scarce = computed(() =>
  [choke.value, windowRow.value].flatMap((r) => {
    if (!r) return [];
    return SIDES.value.flatMap((side, k) => {
      const known = r.s.sections.flatMap((p) => p.section.walls[side]?.thickness ?? []);
      if (known.length === 0) return [];
      const y = k === 0 ? (r.top + r.bankTop!) / 2 + 5 : (r.bottom + r.bankBottom!) / 2 + 5;
      return [{ x: r.x, y, text: mm(Math.min(...known)) }];
    });
  }),
);

const hovered = ref<number>();
function hover(event: PointerEvent): void {
  const rect = svg.value!.getBoundingClientRect();
  const px = ((event.clientX - rect.left) * width.value) / rect.width;
  let best = 0;
  rows.value.forEach((r, i) => {
    if (Math.abs(r.x - px) < Math.abs(rows.value[best]!.x - px)) best = i;
  });
  hovered.value = best;
}
function step(event: KeyboardEvent): void {
  const move = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
  if (!move) return;
  hovered.value = Math.max(0, Math.min(rows.value.length - 1, (hovered.value ?? -1) + move));
  event.preventDefault();
}
const told = computed(() => {
  const r = hovered.value === undefined ? undefined : rows.value[hovered.value];
  if (!r) return undefined;
  const grown = props.budget?.find((b) => Math.abs(b.station - r.s.station) < 1e-6);
  const walls = r.s.sections.flatMap((p) =>
    Object.entries(p.section.walls).map(([side, w]) => `${side} ${mm(w.thickness)} to ${w.behind}`),
  );
  return {
    x: r.x,
    text: [
      `${mm(r.s.station)} mm in`,
      say(r.s.area.value, 'area'),
      r.s.sections.map((p) => `${mm(p.width)} × ${mm(p.height)} mm`).join(' and '),
      grown && grown.largest > grown.area * 1.001 ? `could be ${say(grown.largest, 'area')}` : '',
      walls.join(', '),
    ]
      .filter(Boolean)
      .join(' · '),
  };
});
/** Two names that would run into each other stand one under the other. */
const CLOSE = 280;
const lower = computed(() =>
  choke.value && windowRow.value && Math.abs(windowRow.value.x - choke.value.x) < CLOSE ? 40 : 0,
);
</script>

<template>
  <div ref="box" class="river">
    <svg
      ref="svg"
      v-legible
      :viewBox="`0 0 ${width} ${height}`"
      :height="height"
      width="100%"
      tabindex="0"
      role="img"
      aria-label="The port as a river; arrows read it station by station"
      @pointermove="hover"
      @pointerleave="hovered = undefined"
      @keydown="step"
    >
      <defs>
        <pattern :id="`${id}-metal`" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="8" class="hatch" />
        </pattern>
        <pattern :id="`${id}-waves`" width="26" height="13" patternUnits="userSpaceOnUse">
          <path d="M0 6q6.5 -6 13 0t13 0" class="wave" />
        </pattern>
        <linearGradient :id="`${id}-water`">
          <stop offset="0" stop-color="var(--water)" stop-opacity="0.45" />
          <stop offset="1" stop-color="var(--water)" />
        </linearGradient>
      </defs>
      <g v-for="b in banks" :key="b.side">
        <path :d="b.beyond" :fill="`url(#${id}-waves)`" />
        <path :d="b.metal" class="bank" />
        <path :d="b.metal" :fill="`url(#${id}-metal)`" />
        <path :d="b.far" class="far" />
      </g>
      <path :d="water" :fill="`url(#${id}-water)`" />
      <path v-for="(d, i) in streams" :key="i" :d="d" class="stream" />
      <path :d="edge(rows, (r) => r.top)" class="shore" />
      <path :d="edge(rows, (r) => r.bottom)" class="shore" />
      <template v-if="neededHalf">
        <line
          v-for="k in [-1, 1]"
          :key="k"
          class="needed"
          :x1="rows[0]!.x"
          :x2="rows.at(-1)!.x"
          :y1="middle + k * neededHalf"
          :y2="middle + k * neededHalf"
        />
        <text class="asks" :x="rows[0]!.x + 6" :y="middle + neededHalf - 6">
          target asks {{ say(needed!, 'area') }}
        </text>
      </template>
      <text v-for="n in neighbours" :key="`${n.name}${n.x}${n.y}`" class="beyond" :x="n.x" :y="n.y">{{ n.name }}</text>
      <g v-if="choke">
        <line class="mark" :x1="choke.x" :x2="choke.x" :y1="choke.top" :y2="choke.bottom" />
        <text class="label" :x="choke.x + 8" :y="middle - 8">choke {{ value(choke) }}</text>
        <text class="sub" :x="choke.x + 8" :y="middle + 10">{{ mm(choke.s.station) }} mm in</text>
      </g>
      <g v-if="windowRow">
        <line class="mark" :x1="windowRow.x" :x2="windowRow.x" :y1="windowRow.top" :y2="windowRow.bottom" />
        <text class="label end" :x="windowRow.x - 8" :y="middle - 8 + lower">window {{ value(windowRow) }}</text>
        <text class="sub end" :x="windowRow.x - 8" :y="middle + 10 + lower">over the short turn</text>
      </g>
      <text v-for="m in scarce" :key="`${m.x}${m.y}`" class="metal" :x="m.x" :y="m.y">{{ m.text }}</text>
      <line v-if="told" class="cursor" :x1="told.x" :x2="told.x" y1="0" :y2="height" />
    </svg>
    <p class="told note" aria-live="polite">{{ told?.text ?? 'Point at the river, or walk it with the arrows.' }}</p>
  </div>
</template>

<style scoped>
.river {
  min-width: 0;
}
svg {
  display: block;
}
.hatch {
  stroke: var(--slate);
  stroke-width: 1;
  opacity: 0.35;
}
.wave {
  fill: none;
  stroke: var(--intake);
  stroke-width: 1;
  opacity: 0.55;
}
.bank {
  fill: var(--paper-deep);
}
.far {
  fill: none;
  stroke: var(--slate);
  stroke-width: 1.2;
}
.stream {
  fill: none;
  stroke: var(--paper);
  stroke-width: 1.2;
  opacity: 0.85;
}
.shore {
  fill: none;
  stroke: var(--intake);
  stroke-width: 2.4;
}
.needed {
  stroke: var(--caution-line);
  stroke-width: 2;
  stroke-dasharray: 2 4;
}
.asks,
.sub,
.beyond {
  font: italic 15px var(--serif);
}
.asks {
  fill: var(--caution);
}
.beyond {
  fill: var(--slate);
  text-anchor: middle;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.mark {
  stroke: var(--ink);
  stroke-width: 1.8;
}
.label {
  font-weight: 600;
  font-size: max(15px, calc(12px * var(--per-px, 0)));
  fill: var(--ink);
}
.sub {
  fill: var(--ink);
}
.end {
  text-anchor: end;
}
.metal {
  font-size: max(13px, calc(12px * var(--per-px, 0)));
  font-weight: 600;
  fill: var(--loss);
  text-anchor: middle;
}
.cursor {
  stroke: var(--ink);
  stroke-width: 0.8;
  stroke-dasharray: 3 3;
}
.told {
  min-height: 21px;
  margin: 2px 0 0;
}
</style>
