<script setup lang="ts">
import { capDepth } from '@alluvium/core';
import { computed } from 'vue';
import { vLegible } from '../charts/legible.js';
import { useSettings } from '../state/settings.js';

// width!: shown where it is known.

/**
 * The chamber over the bore in section, its width and the bore to scale: where it hangs over the edge, the plane milling
 * leaves, and where the seats come to lie. Its depth is that of a plain dome of its volume: nobody measured the roof.
 */
const props = defineProps<{
  width?: number | undefined;
  bore?: number | undefined;
  volume?: number | undefined;
  milled?: number | undefined;
  sunk?: number | undefined;
  /** Valve diameters, intake first. */
  valves: readonly (number | undefined)[];
}>();
const settings = useSettings();
const [W, H, DECK] = [420, 190, 118];
const span = computed(() => Math.max(props.width ?? 0, props.bore ?? 0) || undefined);
const scale = computed(() => (span.value ? 320 / span.value : 1));
const x = (metres: number) => W / 2 + metres * scale.value;
const depth = computed(() =>
  props.volume && props.width ? Math.min(capDepth(props.volume, props.width / 2), props.width / 2) : undefined,
);
const dome = computed(() => {
  const { width } = props;
  if (!width) return '';
  const h = (depth.value ?? width / 8) * scale.value;
  const a = (width / 2) * scale.value;
  const r = (a * a + h * h) / (2 * h);
  return `M${x(-width / 2)} ${DECK} A${r} ${r} 0 0 1 ${x(width / 2)} ${DECK}`;
});
/** Milling and sinking are a few tenths: drawn larger, so that they are seen. */
const LARGER = 8;
const mill = computed(() => DECK - (props.milled ?? 0) * scale.value * LARGER);
const over = computed(() => (props.width && props.bore ? (props.width - props.bore) / 2 : 0));
const heads = computed(() => {
  const [intake = 0, exhaust = 0] = props.valves;
  // Side by side in the middle: where they stand across the bore is told under shrouding.
  const y = DECK - (depth.value ?? (props.width ?? 0) / 8) * scale.value * 0.16;
  const left = -(intake + exhaust) / 2;
  return [
    { side: 'intake', from: left, to: left + intake },
    { side: 'exhaust', from: left + intake, to: left + intake + exhaust },
  ]
    .filter(({ from, to }) => to > from)
    .map(({ side, from, to }) => ({
      side,
      x1: x(from) + 3,
      x2: x(to) - 3,
      y: y - (props.sunk ?? 0) * scale.value * LARGER,
    }));
});
const say = (metres: number) => settings.say.of(metres, 'length');
</script>

<template>
  <svg v-if="span" v-legible :viewBox="`0 0 ${W} ${H}`" role="img" aria-label="The chamber over the bore, in section">
    <path :d="`M14 20 H${W - 14} V${DECK} H14 Z`" class="metal" />
    <path :d="dome" class="dome" />
    <g v-if="bore">
      <path
        :d="`M${x(-bore / 2)} ${H - 22} V${DECK + 3} H14 M${x(bore / 2)} ${H - 22} V${DECK + 3} H${W - 14}`"
        class="wall"
      />
      <text :x="W / 2" :y="H - 8" class="mid">bore {{ say(bore) }}</text>
      <template v-if="over > 0">
        <line
          v-for="s in [-1, 1]"
          :key="s"
          :x1="x((s * bore) / 2)"
          :x2="x((s * width!) / 2)"
          :y1="DECK + 3"
          :y2="DECK + 3"
          class="over"
        />
        <text :x="x(width! / 2)" :y="DECK + 20" class="mid bad">over by {{ say(over) }}</text>
      </template>
    </g>
    <line v-for="v in heads" :key="v.side" :x1="v.x1" :x2="v.x2" :y1="v.y" :y2="v.y" :class="['valve', v.side]" />
    <g v-if="milled">
      <line x1="14" :x2="W - 14" :y1="mill" :y2="mill" class="mill" />
      <text :x="W - 16" :y="mill - 5" class="end">milled off {{ say(milled) }}</text>
    </g>
    <text v-if="width" :x="W / 2" :y="34" class="mid">
      chamber {{ say(width) }}{{ volume ? `, ${settings.say.of(volume, 'volume')}` : '' }}
    </text>
  </svg>
  <p v-else class="note">Type the chamber’s width, and it is drawn here over the bore.</p>
  <p v-if="span" class="note">
    Width and bore to scale; a plain dome of its volume, since nobody measured its roof.
    {{ milled || sunk ? `Milling and sinking drawn ${LARGER} times as large.` : '' }}
  </p>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 520px;
}
.metal {
  fill: var(--paper-deep);
}
.dome {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.wall {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.over {
  stroke: var(--loss);
  stroke-width: 5;
}
.valve {
  stroke-width: 5;
}
.intake {
  stroke: var(--intake);
}
.exhaust {
  stroke: var(--exhaust);
}
.mill {
  stroke: var(--caution-line);
  stroke-dasharray: 5 4;
}
text {
  font-size: max(13px, calc(12px * var(--per-px, 0)));
  fill: var(--ink);
}
.mid {
  text-anchor: middle;
}
.end {
  text-anchor: end;
}
.bad {
  fill: var(--loss);
}
</style>
