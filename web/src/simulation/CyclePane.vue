<script setup lang="ts">
import { unitFor, type Kind, type Trace, capital } from '@alluvium/core';
import { extent } from 'd3-array';
import { computed, ref } from 'vue';
import ChartCurve from '../charts/ChartCurve.vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartRule from '../charts/ChartRule.vue';
import type { Axis, Point } from '../charts/chart.js';
import { markOf } from '../charts/marks.js';
import IntakePicture from './IntakePicture.vue';
import { FROM, TO, inView } from './gasExchange.js';
import { useSettings } from '../state/settings.js';

// values()[]!, t.angle[]!, t.lift[][]!, t.flow[][]!, t.pressure[]!, t.chokeMach[]!: a trace's lists are equally long.

/** Inside the cycle: what lifts, flows and presses over crank angle, two heads over each other, and the intake as a picture. */
const props = defineProps<{
  traces: readonly { readonly name: string; readonly index: number; readonly trace: Trace }[];
}>();
const settings = useSettings();
/** Pressure at which the picture of the gas exchange ends, Pa: the cylinder's own peak would hide the ports. */
const CEILING = 3e5;
const SIDE = 58;
interface Row {
  readonly label: string;
  readonly kind: Kind;
  readonly digits: number;
  /** What is drawn in it, each with its name and colour. */
  readonly of: readonly (readonly [name: string, colour: string, values: (t: Trace) => readonly number[]])[];
}
const ROWS: readonly Row[] = [
  {
    ...{ label: 'valve lift', kind: 'lift', digits: 3 },
    of: [
      ['intake', 'var(--intake)', (t) => t.lift[0]],
      ['exhaust', 'var(--exhaust)', (t) => t.lift[1]],
    ],
  },
  {
    ...{ label: 'mass flow, in and out', kind: 'massFlow', digits: 0 },
    of: [
      ['in', 'var(--intake)', (t) => t.flow[0]],
      ['out', 'var(--exhaust)', (t) => t.flow[1]],
    ],
  },
  {
    ...{ label: 'pressure: cylinder, ports', kind: 'pressure', digits: 0 },
    of: [
      ['cylinder', 'var(--ink)', (t) => t.pressure],
      ['intake port', 'var(--intake)', (t) => t.port[0]],
      ['exhaust port', 'var(--exhaust)', (t) => t.port[1]],
    ],
  },
  {
    ...{ label: 'Mach number at the choke', kind: 'ratio', digits: 1 },
    of: [['choke', 'var(--intake)', (t) => t.chokeMach]],
  },
];
const angleWords = (angle: number) => {
  const at = Math.round((angle * 180) / Math.PI) - 360;
  return at === 0 ? 'TDC' : Math.abs(at) === 180 ? 'BDC' : `${Math.abs(at)}°`;
};
const x: Axis = {
  ...{ from: FROM, to: TO, say: angleWords, name: 'crank angle' },
  ticks: [180, 270, 360, 450, 540, 630].map((d) => (d * Math.PI) / 180),
};
const seen = computed(() => props.traces.map((t) => ({ ...t, view: inView(t.trace) })));
const rows = computed(() =>
  ROWS.map((row) => {
    const curves = seen.value.flatMap(({ name, index, trace, view }) =>
      row.of.map(([part, colour, values]) => ({
        name: `${name} ${part}`,
        colour,
        dash: markOf(index).dash,
        points: view.map(([angle, i]): Point => [angle, values(trace)[i]!]),
      })),
    );
    const pressed = row.kind === 'pressure';
    const [least = 0, most = 1] = extent(curves.flatMap((c) => c.points.map(([, v]) => v)));
    const to = pressed ? Math.min(most, CEILING) : most;
    const y: Axis = {
      ...{ from: pressed ? least : Math.min(0, least), to, kind: row.kind, digits: row.digits, ticks: 3 },
    };
    return {
      ...row,
      y,
      unit: unitFor(row.kind, settings.system).symbol,
      curves: curves.map((c) => ({ ...c, line: c.points.map(([a, v]): Point => [a, Math.min(v, to * 1.06)]) })),
    };
  }),
);
/** The place looked at in all of them, by crank angle. */
const cursor = ref<number>();
const said = computed(() => {
  const at = cursor.value;
  if (at === undefined) return '';
  const angle = Math.round((at * 180) / Math.PI) - 360;
  const of = ({ trace: t, name }: (typeof props.traces)[number]) => {
    const i = t.angle.reduce((best, a, k) => (Math.abs(a - at) < Math.abs(t.angle[best]! - at) ? k : best), 0);
    const say = (v: number, kind: Kind, digits?: number) => settings.say.of(v, kind, { digits });
    return `${name}: lift ${say(t.lift[0][i]!, 'lift')} and ${say(t.lift[1][i]!, 'lift')}, flow ${say(t.flow[0][i]!, 'massFlow')} in and ${say(t.flow[1][i]!, 'massFlow')} out, cylinder ${say(t.pressure[i]!, 'pressure')}, Mach ${say(t.chokeMach[i]!, 'ratio', 2)}`;
  };
  return `${Math.abs(angle)}° ${angle < 0 ? 'before' : 'after'} TDC. ${props.traces.map(of).join('; ')}.`;
});
</script>

<template>
  <div class="box">
    <ChartFrame
      v-for="(row, r) in rows"
      :key="row.label"
      v-model:cursor="cursor"
      :label="`${capital(row.label)} over the gas exchange`"
      :x="r === rows.length - 1 ? x : { ...x, ticks: 0 }"
      :y="row.y"
      :height="r === rows.length - 1 ? 122 : 104"
      :left="SIDE"
      :right="12"
      :top="20"
      :bottom="r === rows.length - 1 ? 24 : 6"
      :least="320"
      mute
    >
      <template #default="c">
        <ChartRule v-for="t in x.ticks as readonly number[]" :key="t" :x="t" stroke="var(--rule)" />
        <text :x="c.left + 4" y="13" class="name">{{ row.label }}{{ row.unit ? `, ${row.unit}` : '' }}</text>
        <ChartCurve
          v-for="k in row.curves"
          :key="k.name"
          :name="k.name"
          :points="k.line"
          :rows="k.points"
          :stroke="k.colour"
          :dash="k.dash"
        />
      </template>
    </ChartFrame>
    <p class="note read" aria-live="polite">
      {{
        said ||
        'Point at the curves, or walk them with the arrows: solid intake, then exhaust; pressures in the port too.'
      }}
    </p>
    <IntakePicture v-for="t in traces" :key="t.name" :name="t.name" :trace="t.trace" :left="SIDE" :right="12" />
  </div>
</template>

<style scoped>
.box {
  min-width: 0;
}
.read {
  min-height: 2.6em;
  margin: 2px 0;
}
</style>
