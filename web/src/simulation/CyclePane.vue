<script setup lang="ts">
import { unitFor, type Trace } from '@alluvium/core';
import { extent, max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { computed, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue';
import { useElementSize } from '@vueuse/core';
import { markOf } from '../charts/marks.js';
import { unitTicks } from '../charts/ticks.js';
import { useSettings } from '../state/settings.js';

/** Inside the cycle: what lifts, flows and presses over crank angle, two heads over each other, and the intake as a picture. */
const props = defineProps<{
  traces: readonly { readonly name: string; readonly index: number; readonly trace: Trace }[];
}>();
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const { width: measured } = useElementSize(box);
const width = computed(() => Math.max(320, measured.value || 760));
const LEFT = 58;
const RIGHT = 12;
const ROW = 112;
/** Pressure at which the picture of the gas exchange ends, Pa. */
const CEILING = 3e5;
const FROM = Math.PI * 0.6;
const TO = Math.PI * 3.6;
/** The gas exchange: from before the exhaust opens until after the intake has shut. */
const inView = (t: Trace) => t.angle.map((a, i) => [a, i] as const).filter(([a]) => a >= FROM && a <= TO);
const x = computed(() => scaleLinear([FROM, TO], [LEFT, width.value - RIGHT]));
interface Row {
  readonly label: string;
  readonly kind: 'lift' | 'massFlow' | 'pressure' | 'ratio';
  readonly of: (t: Trace) => readonly (readonly number[])[];
}
const ROWS: readonly Row[] = [
  { label: 'valve lift', kind: 'lift', of: (t) => t.lift },
  { label: 'mass flow, in and out', kind: 'massFlow', of: (t) => t.flow },
  { label: 'pressure: cylinder, ports', kind: 'pressure', of: (t) => [t.pressure, t.port[0], t.port[1]] },
  { label: 'Mach number at the choke', kind: 'ratio', of: (t) => [t.chokeMach] },
];
const COLOURS = ['var(--intake)', 'var(--exhaust)', 'var(--slate)'];
const rows = computed(() =>
  ROWS.map((row, r) => {
    const values = props.traces.flatMap(({ trace }) =>
      row.of(trace).flatMap((list) => inView(trace).map(([, i]) => list[i]!)),
    );
    const [least = 0, most = 1] = extent(values);
    // The cylinder's own peak would hide the ports.
    const high = row.kind === 'pressure' ? Math.min(most, CEILING) : most;
    const low = row.kind === 'pressure' ? least : Math.min(0, least);
    const y = scaleLinear([low, high], [(r + 1) * ROW - 16, r * ROW + 18]);
    return {
      ...row,
      y,
      paths: props.traces.flatMap(({ name, index, trace }) =>
        row.of(trace).map((list, k) => ({
          key: `${name} ${k}`,
          colour: row.kind === 'pressure' ? ['var(--ink)', 'var(--intake)', 'var(--exhaust)'][k]! : COLOURS[k]!,
          dash: markOf(index).dash,
          d:
            line<readonly [number, number]>()
              .x(([a]) => x.value(a))
              .y(([, i]) => Math.max(r * ROW + 6, y(list[i]!)))(inView(trace)) ?? '',
        })),
      ),
      ticks: unitTicks(low, high, row.kind, settings.system, 3),
      unit: unitFor(row.kind, settings.system).symbol,
    };
  }),
);
const degrees = [180, 270, 360, 450, 540, 630];
const height = ROWS.length * ROW + 26;
const number = (v: number, kind: Row['kind']) =>
  settings.say.of(v, kind, { digits: kind === 'lift' ? 3 : kind === 'ratio' ? 1 : 0 }).split('\u00a0')[0];

/** The place looked at, read by mouse, touch or the arrow keys. */
const cursor = ref<number>();
const svg = useTemplateRef<SVGSVGElement>('svg');
function look(event: PointerEvent): void {
  const { left, width: shown } = svg.value!.getBoundingClientRect();
  const angle = x.value.invert(((event.clientX - left) * width.value) / shown);
  cursor.value = Math.min(TO, Math.max(FROM, angle));
}
const STEP = Math.PI / 180;
function walk(event: KeyboardEvent): void {
  const by = { ArrowRight: 1, ArrowLeft: -1, PageUp: 10, PageDown: -10 }[event.key];
  if (event.key === 'Escape') cursor.value = undefined;
  if (by === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  cursor.value = Math.min(TO, Math.max(FROM, (cursor.value ?? 2 * Math.PI) + by * STEP));
}
const said = computed(() => {
  const at = cursor.value;
  if (at === undefined) return '';
  const angle = Math.round((at * 180) / Math.PI) - 360;
  const of = ({ trace: t, name }: (typeof props.traces)[number]) => {
    const i = t.angle.reduce((best, a, k) => (Math.abs(a - at) < Math.abs(t.angle[best]! - at) ? k : best), 0);
    const say = (v: number, kind: Row['kind'], digits?: number) => settings.say.of(v, kind, { digits });
    return `${name}: lift ${say(t.lift[0][i]!, 'lift')} and ${say(t.lift[1][i]!, 'lift')}, flow ${say(t.flow[0][i]!, 'massFlow')} in and ${say(t.flow[1][i]!, 'massFlow')} out, cylinder ${say(t.pressure[i]!, 'pressure')}, Mach ${say(t.chokeMach[i]!, 'ratio', 2)}`;
  };
  return `${Math.abs(angle)}° ${angle < 0 ? 'before' : 'after'} TDC. ${props.traces.map(of).join('; ')}.`;
});

/** Pressure along the intake against crank angle, drawn into a canvas: rows of pixels are cells, columns angles. */
const pictures = useTemplateRef<HTMLCanvasElement[]>('pictures');
function paint(): void {
  props.traces.forEach(({ trace }, k) => {
    const canvas = pictures.value?.[k];
    const context = canvas?.getContext('2d');
    if (!canvas || !context) return;
    const seen = inView(trace);
    const cells = trace.place.length;
    canvas.width = seen.length;
    canvas.height = cells;
    const flat = seen.flatMap(([, i]) => trace.path[i]!);
    const [low = 0, high = 1] = extent(flat);
    const style = getComputedStyle(canvas);
    const middle = style.getPropertyValue('--paper-raised').trim() || '#f9f7f1';
    const ink = (name: string, otherwise: string) => style.getPropertyValue(name).trim() || otherwise;
    const about = (low + high) / 2;
    const colour = scaleLinear<string>(
      [low, about, high],
      [ink('--intake', '#17707c'), middle, ink('--exhaust', '#b4532a')],
    );
    seen.forEach(([, i], column) => {
      for (let c = 0; c < cells; c++) {
        context.fillStyle = colour(trace.path[i]![c]!);
        context.fillRect(column, c, 1, 1);
      }
    });
  });
}
const range = (t: Trace) => {
  const flat = inView(t).flatMap(([, i]) => t.path[i]!);
  return `${settings.say.of(Math.min(...flat), 'pressure')} (blue) to ${settings.say.of(max(flat) ?? 0, 'pressure')} (red)`;
};
onMounted(paint);
watch(
  () => props.traces,
  () => void nextTick(paint),
);
</script>

<template>
  <div ref="box" class="box">
    <svg
      ref="svg"
      class="chart"
      :width="width"
      :viewBox="`0 0 ${width} ${height}`"
      tabindex="0"
      role="img"
      aria-label="Lift, flow, pressure and Mach number over the gas exchange; the arrow keys read it"
      @pointermove="look"
      @pointerdown="look"
      @pointerleave="cursor = undefined"
      @keydown="walk"
    >
      <g v-for="d in degrees" :key="d">
        <line
          :x1="x((d * Math.PI) / 180)"
          :x2="x((d * Math.PI) / 180)"
          y1="6"
          :y2="height - 22"
          :stroke="d === 360 ? 'var(--slate)' : 'var(--rule)'"
        />
        <text :x="x((d * Math.PI) / 180)" :y="height - 6" text-anchor="middle" class="tick">
          {{ d === 360 ? 'TDC' : d === 180 || d === 540 ? 'BDC' : `${Math.abs(d - 360)}°` }}
        </text>
      </g>
      <g v-for="(row, r) in rows" :key="row.label">
        <text :x="LEFT + 4" :y="r * ROW + 16" class="name">{{ row.label }}{{ row.unit ? `, ${row.unit}` : '' }}</text>
        <text v-for="t in row.ticks" :key="t" :x="LEFT - 6" :y="row.y(t) + 5" text-anchor="end" class="tick">
          {{ number(t, row.kind) }}
        </text>
        <path
          v-for="p in row.paths"
          :key="p.key"
          :d="p.d"
          fill="none"
          :stroke="p.colour"
          stroke-width="1.8"
          :stroke-dasharray="p.dash"
        />
      </g>
      <line
        v-if="cursor !== undefined"
        :x1="x(cursor)"
        :x2="x(cursor)"
        y1="6"
        :y2="height - 22"
        stroke="var(--caution-line)"
      />
    </svg>
    <p class="note read" aria-live="polite">
      {{
        said ||
        'Point at the curves, or walk them with the arrows: solid intake, then exhaust; pressures in the port too.'
      }}
    </p>
    <div v-for="t in traces" :key="t.name" class="picture">
      <p class="note">
        {{ t.name }}: pressure along the intake, plenum at the top, valve at the bottom; {{ range(t.trace) }}
      </p>
      <canvas
        ref="pictures"
        :style="{ marginLeft: `${LEFT}px`, width: `${width - LEFT - RIGHT}px` }"
        role="img"
        :aria-label="`Pressure along the intake of ${t.name} against crank angle`"
      />
    </div>
  </div>
</template>

<style scoped>
.box {
  min-width: 0;
  overflow: hidden;
}
.read {
  min-height: 2.6em;
  margin: 2px 0;
}
canvas {
  display: block;
  height: 110px;
  image-rendering: auto;
}
.picture .note {
  margin: 6px 0 2px;
}
</style>
