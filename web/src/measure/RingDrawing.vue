<script setup lang="ts">
import { computed } from 'vue';
import { spreadLabels } from '../charts/ticks.js';
import { useSettings } from '../state/settings.js';
import { vLegible } from '../charts/legible.js';

// ys[]!: one for each label.

/** Valve, seat, ring, throat and bowl in section, drawn to scale from their sizes (m, rad). What is not known is drawn as usual, thinner. */
const props = defineProps<{
  valve: number;
  stem?: number | undefined;
  seatWidth?: number | undefined;
  seatAngle?: number | undefined;
  topCutWidth?: number | undefined;
  topCutAngle?: number | undefined;
  throat?: number | undefined;
  bowl?: number | undefined;
  ringOutside?: number | undefined;
  ringInside?: number | undefined;
  backCut?: number | undefined;
  /** Outside of the guide; drawn as usual ones are while it is not known. */
  guide?: number | undefined;
}>();
const settings = useSettings();
const W = 330;
const H = 186;
const scale = computed(() => 128 / props.valve);
const cx = 158;
const faceY = 160;
const s = (m: number) => m * scale.value;
const angle = computed(() => props.seatAngle ?? Math.PI / 4);
const width = computed(() => props.seatWidth ?? 0.0015);
const throat = computed(() => props.throat ?? props.valve * 0.9);
const bowl = computed(() => props.bowl ?? props.valve * 0.98);
const stem = computed(() => props.stem ?? 0.008);

/** Half the head's metal, from the deck inwards and up: top cut, seat, throat, bowl. */
const half = computed(() => {
  const R = s(props.valve) / 2;
  const seatIn = R - s(width.value) * Math.cos(angle.value);
  const seatUp = s(width.value) * Math.sin(angle.value);
  const t = s(throat.value) / 2;
  const b = s(bowl.value) / 2;
  const cut = s(props.topCutWidth ?? 0.001);
  const down = cut * Math.tan(props.topCutAngle ?? Math.PI / 6);
  const ro = props.ringOutside ? s(props.ringOutside) / 2 : undefined;
  // From the seat the throat goes up straight, then opens into the bowl.
  const margin = 5;
  const seatY = faceY - margin;
  const throatY = seatY - seatUp - Math.max(8, (seatIn - t) * 1.2);
  return { R, seatIn, seatY, seatUp, t, b, cut, down, ro, throatY, top: throatY - 34 };
});
const metal = (k: 1 | -1) => {
  const h = half.value;
  const X = (r: number) => cx + k * r;
  const outer = Math.max((h.ro ?? 0) + 14, h.R + h.cut + 26);
  return [
    `M${X(outer)} ${h.seatY + h.down}`,
    `L${X(h.R + h.cut)} ${h.seatY + h.down}`,
    `L${X(h.R)} ${h.seatY}`,
    `L${X(h.seatIn)} ${h.seatY - h.seatUp}`,
    `L${X(h.t)} ${h.throatY}`,
    `L${X(h.t)} ${h.throatY - 8}`,
    `Q${X(h.b)} ${h.throatY - 22} ${X(h.b)} ${h.top - 16}`,
    `L${X(h.b + 2)} 8`,
    `L${X(outer)} 8Z`,
  ].join('');
};
const ringLine = (k: 1 | -1) => {
  const h = half.value;
  return h.ro ? `M${cx + k * h.ro} ${h.seatY + h.down}V${h.throatY - 4}H${cx + k * h.t}` : '';
};
/** The guide's wall beside the stem, to where the bowl begins; 2.5 mm thick where it was not measured. */
const guideWall = (k: number) => {
  const r = s(stem.value) / 2;
  const wall = props.guide ? Math.max(0, s(props.guide) / 2 - r) : s(0.0025);
  return `M${cx + k * r} 4V${half.value.top - 8}H${cx + k * (r + wall)}V4Z`;
};
const valvePath = computed(() => {
  const h = half.value;
  const r = s(stem.value) / 2;
  const inner = h.seatIn - 1;
  const up = h.seatY - h.seatUp;
  const back = Math.tan(props.backCut ?? Math.PI / 6) * 7;
  return `M${cx - r} 4V${up - 46}C${cx - r} ${up - 22} ${cx - inner * 0.6} ${up - 12} ${cx - inner + 7} ${up - back}L${cx - inner} ${up}L${cx - h.R} ${h.seatY}V${faceY}H${cx + h.R}V${h.seatY}L${cx + inner} ${up}L${cx + inner - 7} ${up - back}C${cx + inner * 0.6} ${up - 12} ${cx + r} ${up - 22} ${cx + r} ${up - 46}V4Z`;
});
const say = (m: number) => settings.say.of(m, 'length').replace(/\s*\D+$/, '');
/** Words at the right, pushed apart so that none covers another. */
const labels = computed(() => {
  const h = half.value;
  const list = [
    ...(props.throat ? [{ text: `throat ${say(props.throat)}`, at: h.throatY - 16, strong: false }] : []),
    ...(props.throat
      ? [{ text: `${settings.say.number((100 * props.throat) / props.valve, 1)} %`, at: h.throatY, strong: true }]
      : []),
    ...(props.seatAngle ? [{ text: `${degrees(props.seatAngle)} seat`, at: h.seatY + 6, strong: false }] : []),
  ];
  const ys = spreadLabels(
    list.map((l) => l.at),
    16,
    14,
    H - 4,
  );
  return list.map((l, i) => ({ ...l, y: ys[i]! }));
});
const degrees = (rad: number) => `${Math.round((rad * 180) / Math.PI)}°`;
</script>

<template>
  <svg v-legible :viewBox="`0 0 ${W} ${H}`" role="img" aria-label="Valve, seat and throat in section, to scale">
    <defs>
      <pattern id="ring-metal" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="7" class="hatch" />
      </pattern>
    </defs>
    <g v-for="k in [-1, 1] as const" :key="k">
      <path :d="metal(k)" class="metal" />
      <path :d="metal(k)" fill="url(#ring-metal)" class="edge" />
      <path v-if="ringLine(k)" :d="ringLine(k)" class="ring" />
    </g>
    <path v-for="k in [-1, 1]" :key="`g${k}`" :d="guideWall(k)" class="guide" :class="{ usual: !props.guide }" />
    <path :d="valvePath" class="valve" />
    <line
      class="measure"
      :class="{ usual: throat && !props.throat }"
      :x1="cx - half.t"
      :x2="cx + half.t"
      :y1="half.throatY - 4"
      :y2="half.throatY - 4"
    />
    <text v-for="l in labels" :key="l.text" class="right" :class="{ strong: l.strong }" :x="W - 2" :y="l.y">
      {{ l.text }}
    </text>
    <text v-if="props.bowl" x="2" :y="half.top - 14">
      bowl {{ settings.say.number((100 * props.bowl) / valve, 0) }} %
    </text>
    <text v-if="ringOutside && ringInside" x="2" :y="half.throatY + 2">
      ring {{ settings.say.number(((ringOutside - ringInside) / 2) * 1000, 1) }} mm
    </text>
    <line class="under" :x1="cx - half.R" :x2="cx + half.R" :y1="faceY + 20" :y2="faceY + 20" />
    <text class="middle strong" :x="cx" :y="faceY + 15">valve {{ say(valve) }}</text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-width: 330px;
}
.hatch {
  stroke: var(--slate);
  opacity: 0.4;
}
.metal {
  fill: var(--paper-deep);
}
.edge {
  stroke: var(--ink);
  stroke-width: 1.4;
}
.ring {
  fill: none;
  stroke: var(--slate);
  stroke-dasharray: 4 3;
}
.guide.usual {
  stroke-dasharray: 3 3;
}
.guide {
  fill: var(--paper);
  stroke: var(--slate);
}
.valve {
  fill: var(--paper-raised);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.measure {
  stroke: var(--intake);
  stroke-dasharray: 3 3;
}
.measure.usual {
  opacity: 0.4;
}
.under {
  stroke: var(--slate);
}
text {
  font-size: max(13.5px, calc(12px * var(--per-px, 0)));
  fill: var(--ink);
}
.right {
  text-anchor: end;
}
.middle {
  text-anchor: middle;
}
.strong {
  font-weight: 600;
}
</style>
