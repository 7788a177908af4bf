<script setup lang="ts">
import { latestSeats, type Finding, type SeenSeat, type WholeHead } from '@alluvium/records';
import { computed, nextTick, useTemplateRef } from 'vue';
import { vLegible } from '../charts/legible.js';

/**
 * The head seen from its deck, cylinder by cylinder: each seat as it sealed, and a flag where something was found.
 * Arrows walk the seats; P notes that one seals, L that it leaks.
 */
const props = defineProps<{
  whole: WholeHead;
  stageId: string;
  standing: readonly Finding[];
  chosen: { side: 'intake' | 'exhaust'; cylinder: number; valve: number } | undefined;
}>();
const emit = defineEmits<{
  choose: [{ side: 'intake' | 'exhaust'; cylinder: number; valve: number }];
  note: [{ side: 'intake' | 'exhaust'; cylinder: number; valve: number }, 'seals' | 'leaks'];
}>();
const svg = useTemplateRef<SVGSVGElement>('svg');
const PITCH = 100;
const HEIGHT = 104;
const cylinders = computed(() => props.whole.head.cylinders ?? 0);
const seen = computed(() => latestSeats(props.whole, props.stageId));

interface Spot {
  readonly side: 'intake' | 'exhaust';
  readonly cylinder: number;
  readonly valve: number;
  readonly x: number;
  readonly y: number;
  readonly r: number;
  readonly seat: SeenSeat | undefined;
}
const spots = computed<Spot[]>(() => {
  const { intakeValves, exhaustValves } = props.whole.head;
  const many = intakeValves + exhaustValves > 2;
  return Array.from({ length: cylinders.value }, (_, c) => c + 1).flatMap((cylinder) =>
    (['intake', 'exhaust'] as const).flatMap((side) => {
      const count = side === 'intake' ? intakeValves : exhaustValves;
      return Array.from({ length: count }, (_, v): Spot => {
        const centre = PITCH * (cylinder - 0.5);
        // Two valves lie in line along the head; four stand in two rows, intakes above.
        const x = many ? centre + (v - (count - 1) / 2) * 40 : centre + (side === 'intake' ? -20 : 22);
        const y = many ? HEIGHT / 2 + (side === 'intake' ? -19 : 19) : HEIGHT / 2;
        const r = (side === 'intake' ? 20 : 16.5) * (many ? 0.82 : 1);
        return {
          side,
          cylinder,
          valve: v + 1,
          x,
          y,
          r,
          seat: seen.value.find((s) => s.side === side && s.cylinder === cylinder && s.valve === v + 1),
        };
      });
    }),
  );
});
const flags = computed(() =>
  Array.from({ length: cylinders.value }, (_, c) => ({
    x: PITCH * (c + 0.5),
    found: props.standing.filter((f) => f.cylinder === c + 1),
  })).filter((f) => f.found.length > 0),
);
const isChosen = (s: Spot) =>
  props.chosen?.side === s.side && props.chosen.cylinder === s.cylinder && props.chosen.valve === s.valve;
const say = (s: Spot) => {
  const name = `${s.side} seat${s.valve > 1 ? ` ${s.valve}` : ''}, cylinder ${s.cylinder}`;
  const held = s.seat?.held ? `, held ${s.seat.held.typed}` : '';
  const result = s.seat?.since ? `not looked at since (${s.seat.since})` : (s.seat?.result ?? 'untested');
  return `${name}: ${result}${held}`;
};
function onKey(event: KeyboardEvent, spot: Spot): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const at = spots.value.indexOf(spot);
  const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
  const key = event.key.toLowerCase();
  if (step) {
    const next = spots.value[at + step];
    if (next) {
      emit('choose', next);
      void nextTick(() => svg.value?.querySelectorAll<SVGElement>('.seat')[at + step]?.focus());
    }
  } else if (key === 'enter' || key === ' ') emit('choose', spot);
  else if (key === 'p') emit('note', spot, 'seals');
  else if (key === 'l') emit('note', spot, 'leaks');
  else return;
  event.preventDefault();
  event.stopPropagation();
}
</script>

<template>
  <svg
    ref="svg"
    v-legible
    class="plan"
    data-own-keys
    :viewBox="`-6 0 ${cylinders * PITCH + 12} ${HEIGHT + 12}`"
    role="group"
    aria-label="Seats, seen from the deck"
  >
    <rect class="deck" x="-4" y="2" :width="cylinders * PITCH + 8" :height="HEIGHT - 4" rx="9" />
    <g v-for="c in cylinders" :key="c">
      <ellipse class="chamber" :cx="PITCH * (c - 0.5)" :cy="HEIGHT / 2" rx="45" ry="40" />
      <text class="number" :x="PITCH * (c - 0.5)" :y="HEIGHT + 9">{{ c }}</text>
      <circle v-if="c < cylinders" class="bolt" :cx="PITCH * c" cy="13" r="4" />
      <circle v-if="c < cylinders" class="bolt" :cx="PITCH * c" :cy="HEIGHT - 13" r="4" />
    </g>
    <g
      v-for="s in spots"
      :key="`${s.side}${s.cylinder}${s.valve}`"
      class="seat"
      :class="[s.side, s.seat?.result ?? 'untested', { here: isChosen(s) }]"
      role="button"
      tabindex="0"
      :aria-label="say(s)"
      :aria-pressed="isChosen(s)"
      @click="$emit('choose', s)"
      @keydown="onKey($event, s)"
    >
      <title>{{ say(s) }}</title>
      <circle class="ring" :cx="s.x" :cy="s.y" :r="s.r" />
      <circle class="face" :cx="s.x" :cy="s.y" :r="s.r - 5" />
      <path
        v-if="s.seat?.result === 'leaks'"
        class="drop"
        :d="`M${s.x} ${s.y - 8}c5 7 6 9 6 11a6 6 0 0 1-12 0c0-2 1-4 6-11z`"
      />
      <path v-else-if="s.seat?.result === 'seals'" class="tight" :d="`M${s.x - 5} ${s.y}l4 4l7-8`" />
    </g>
    <g v-for="f in flags" :key="f.x" class="flag">
      <path :d="`M${f.x} 30V8l12 5l-12 5`" />
      <text :x="f.x - 10" y="19">{{ f.found.length }}</text>
      <title>{{ f.found.map((x) => x.text).join('; ') }}</title>
    </g>
  </svg>
</template>

<style scoped>
.plan {
  display: block;
  width: 100%;
  max-height: 132px;
}
.deck {
  fill: var(--paper-raised);
  stroke: var(--slate);
  stroke-width: 1.2;
}
.chamber {
  fill: var(--paper-deep);
  stroke: var(--rule-strong);
  stroke-width: 0.8;
}
.bolt {
  fill: var(--paper);
  stroke: var(--slate);
}
.number {
  font-size: max(10px, calc(12px * var(--per-px, 0)));
  text-anchor: middle;
  fill: var(--slate);
}
.seat {
  cursor: pointer;
  outline: none;
}
.ring {
  fill: var(--paper);
  stroke-width: 2.4;
  stroke: var(--intake);
}
.exhaust .ring {
  stroke: var(--exhaust);
}
.untested .ring {
  stroke-dasharray: 3 3;
  stroke-width: 1.4;
}
.leaks .ring {
  stroke: var(--loss);
  stroke-width: 3;
  stroke-dasharray: 9 4;
}
.face {
  fill: none;
  stroke: var(--rule);
}
.here .face {
  fill: var(--water);
}
.seat:focus-visible .ring {
  stroke-width: 4.5;
}
.drop {
  fill: var(--loss);
}
.tight {
  fill: none;
  stroke: var(--gain);
  stroke-width: 2.2;
}
.flag path {
  fill: var(--caution-line);
  stroke: var(--ink);
  stroke-width: 1;
}
.flag text {
  font-size: max(10px, calc(12px * var(--per-px, 0)));
  text-anchor: middle;
  font-weight: 600;
  fill: var(--ink);
}
</style>
