<script setup lang="ts">
import {
  inches,
  measuredShrouding,
  concentricGap,
  crowdedShare,
  noted,
  reliefAt,
  valveCentreAt,
  shroudAt,
  work,
  workIf,
  type Bore,
  type ShroudAtLift,
  type ShroudedValve,
  type Working,
} from '@alluvium/core';
import { evaluateSheetOf, measured, measuresAt, type MeasureItem, type Stage, type WholeHead } from '@alluvium/records';
import { computed, ref } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import GapTable from './GapTable.vue';
import { useActiveBuild } from '../data/build.js';
import { useSettings } from '../state/settings.js';
import { vLegible } from '../charts/legible.js';
import WideFrame from '../parts/WideFrame.vue';

/** The valve in its bore: how near the wall crowds it all round, at each lift; and what two fixtures measured of it. */
const props = defineProps<{ whole: WholeHead; stage: Stage; side: 'intake' | 'exhaust' }>();
const settings = useSettings();
const { active } = useActiveBuild();
const holding = computed(() => measuresAt(props.whole, props.stage.id));
const size = (item: MeasureItem, side: 'intake' | 'exhaust' = props.side) => measured(holding.value, item, side);

const boreChange = ref(0);
const shift = ref(0);
const relief = ref(0);
const lift = ref(12);
const SLIDERS = [
  ['bore', boreChange, -3, 3, 0.1, 'bore larger or smaller'],
  ['axis', shift, -1.5, 1.5, 0.05, 'axis moved along, away from the valve’s wall'],
  ['relief', relief, 0, 4, 0.1, 'edge relieved'],
  ['lift', lift, 0, 20, 0.25, 'lift shown'],
] as const;
const mm = (v: number) => v / 1000;

const nominal = computed(() => active.value?.core.bore);
const bore = computed<Bore | undefined>(() => {
  if (nominal.value === undefined) return undefined;
  // Moving the axis towards the valve's side gives its wall that much more room.
  const towards = Math.sign(size('valve offset, along') ?? 1) || 1;
  return {
    diameter: nominal.value + mm(boreChange.value),
    x: towards * mm(shift.value),
    y: 0,
    relief: mm(relief.value),
    reliefDepth: 0.012,
  };
});
function valveOf(side: 'intake' | 'exhaust'): ShroudedValve | undefined {
  const [diameter, x, y] = [
    size('valve diameter', side),
    size('valve offset, along', side),
    size('valve offset, across', side),
  ];
  if (diameter === undefined || x === undefined || y === undefined) return undefined;
  const lean = size('valve inclination', side) ?? 0;
  // A leaning valve moves towards the bore's middle as it opens.
  return { diameter, x, y, inclination: lean, leanTowards: Math.atan2(-y, -x) };
}
const valve = computed(() => valveOf(props.side));
const otherValve = computed(() => valveOf(props.side === 'intake' ? 'exhaust' : 'intake'));
const at = (l: number): ShroudAtLift | undefined => {
  if (!valve.value || !bore.value) return undefined;
  try {
    return shroudAt(valve.value, bore.value, l);
  } catch {
    return undefined;
  }
};
const LIFTS = [0.1, 0.2, 0.3, 0.4, 0.5, 0.6].map(inches);
/** Gap and crowded share at one lift, each with its working: the valve where it stands by then, the relief where it reaches. */
const rows = computed(() =>
  LIFTS.map((l) => {
    const [v, b] = [valve.value, bore.value];
    if (!v || !b) return { lift: l };
    const centre = valveCentreAt(v, l);
    const offset = noted(Math.hypot(centre.x - b.x, centre.y - b.y), 'moved by its lean at this lift');
    const relieved = reliefAt(v, b, l);
    const width = noted(b.diameter + 2 * relieved, relieved > 0 ? 'with its edge relieved' : 'with the slider');
    return {
      lift: l,
      gap: work(concentricGap, { bore: width, valve: v.diameter, offset }),
      crowded: work(crowdedShare, { bore: width, valve: v.diameter, offset, lift: l }),
    };
  }),
);
const shown = computed(() => at(mm(lift.value)));
const least = computed(() =>
  workIf(concentricGap, {
    bore: bore.value && noted(bore.value.diameter, 'with the slider'),
    valve: valve.value?.diameter,
    offset:
      valve.value && bore.value && noted(Math.hypot(valve.value.x - bore.value.x, valve.value.y), 'from its offsets'),
  }),
);

/** Two sheets of one port at this stage in two bores: what the wall cost, measured. */
const pair = computed(() => {
  const sheets = props.whole.sheets.filter(
    (s) => s.stageId === props.stage.id && s.kind === 'measured' && s.setup.bore,
  );
  for (const wide of sheets) {
    for (const narrow of sheets) {
      const port = props.side === 'intake' ? 'intakePortId' : 'exhaustPortId';
      if (
        narrow.setup.bore!.si < wide.setup.bore!.si - 1e-4 &&
        narrow.sourceId === wide.sourceId &&
        narrow[port] === wide[port]
      ) {
        const [a, b] = [wide, narrow].map((s) => evaluateSheetOf(props.whole, s)[props.side].curve);
        if (!a || !b) continue;
        const lost = new Map<number, Working>();
        for (const l of LIFTS) {
          const [q, p] = [a.at(l), b.at(l)];
          if (q !== undefined && p !== undefined) lost.set(l, work(measuredShrouding, { wide: q, narrow: p }));
        }
        return { wide, narrow, lost };
      }
    }
  }
  return undefined;
});

const SIZE = 330;
const scale = computed(() => (bore.value ? (SIZE - 30) / (bore.value.diameter + 2 * mm(4)) : 1));
const c = (v: number) => SIZE / 2 + v * scale.value;
const moved = computed(() => valve.value && valveCentreAt(valve.value, mm(lift.value)));
/** The stretch of the valve's edge that the wall crowds, as an arc of short strokes. */
const crowded = computed(() => {
  const s = shown.value;
  if (!s || !valve.value || !moved.value) return '';
  const r = valve.value.diameter / 2;
  return s.gaps
    .flatMap((g, i) => {
      if (g >= s.lift) return [];
      const t = (2 * Math.PI * i) / s.gaps.length;
      const p = (q: number) =>
        `${c(moved.value!.x + q * Math.cos(t)).toFixed(1)} ${c(-(moved.value!.y + q * Math.sin(t))).toFixed(1)}`;
      return [`M${p(r)}L${p(r + Math.max(0.0006, Math.min(g, 0.02)))}`];
    })
    .join('');
});
const say = (si: number) => settings.say.of(si, 'length');
</script>

<template>
  <div class="shroud">
    <div>
      <svg
        v-if="valve && bore"
        v-legible
        :viewBox="`0 0 ${SIZE} ${SIZE}`"
        role="img"
        aria-label="The valves in the bore, from above, to scale"
      >
        <circle
          v-if="relief > 0"
          class="relief"
          :cx="c(bore.x)"
          :cy="c(0)"
          :r="(bore.diameter / 2 + bore.relief) * scale"
        />
        <circle class="bore" :cx="c(bore.x)" :cy="c(0)" :r="(bore.diameter / 2) * scale" />
        <circle v-if="nominal" class="nominal" :cx="c(0)" :cy="c(0)" :r="(nominal / 2) * scale" />
        <circle
          v-if="otherValve"
          class="other"
          :cx="c(otherValve.x)"
          :cy="c(-otherValve.y)"
          :r="(otherValve.diameter / 2) * scale"
        />
        <path :d="crowded" class="crowd" />
        <circle v-if="moved" class="valve" :cx="c(moved.x)" :cy="c(-moved.y)" :r="(valve.diameter / 2) * scale" />
        <text v-if="moved" :x="c(moved.x)" :y="c(-moved.y) + 5">{{ side }}</text>
      </svg>
      <p v-else class="reading">
        To draw it, the valve’s diameter and its offsets along and across from the bore’s centre are needed: note them
        under
        <RouterLink :to="{ name: 'head', params: { id: whole.head.id }, query: { stage: stage.id } }">sizes</RouterLink>
        {{ nominal === undefined ? ', and a build for its bore' : '' }}.
      </p>
    </div>
    <div>
      <div class="sliders">
        <div v-for="[key, model, min, max, step, words] in SLIDERS" :key="key">
          <span>
            {{ words }}
            <b>{{ settings.say.number(model.value, step < 0.1 ? 2 : 1) }} mm</b>
          </span>
          <el-slider
            v-model="model.value"
            :min="min"
            :max="max"
            :step="step"
            :aria-label="words"
            :show-tooltip="false"
          />
        </div>
      </div>
      <p v-if="bore" class="note">
        Bore {{ say(bore.diameter) }}; least gap, valve shut
        <WorkedNumber :working="least" />
        <template v-if="shift">
          · cut from the near wall {{ settings.say.number(boreChange / 2 + shift, 2) }} mm, from the far one
          {{ settings.say.number(boreChange / 2 - shift, 2) }} mm
        </template>
      </p>
      <WideFrame>
        <table class="ruled">
          <thead>
            <tr>
              <th>lift</th>
              <th class="num">least gap</th>
              <th class="num">curtain crowded</th>
              <th v-if="pair" class="num">measured loss</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in rows" :key="r.lift">
              <td>{{ settings.say.of(r.lift, 'lift') }}</td>
              <td class="num"><WorkedNumber :working="r.gap" /></td>
              <td class="num"><WorkedNumber :working="r.crowded" :digits="0" /></td>
              <td v-if="pair" class="num"><WorkedNumber :working="pair.lost.get(r.lift)" :digits="1" /></td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p v-if="pair" class="note">
        Measured on “{{ pair.narrow.title }}” ({{ pair.narrow.setup.bore!.typed }}) against “{{ pair.wide.title }}” ({{
          pair.wide.setup.bore!.typed
        }}).
      </p>
      <p class="note">Crowded: the share of the valve’s edge whose gap to the wall is less than the lift.</p>
      <GapTable :whole="whole" :stage="stage" :side="side" :bore="nominal" />
      <p class="caution">Sonic-test the cylinder walls before offset boring; leave it to a licensed machine shop.</p>
    </div>
  </div>
</template>

<style scoped>
.shroud {
  display: grid;
  grid-template-columns: 360px 1fr;
  gap: 44px;
}
@media (width < 760px) {
  .shroud {
    grid-template-columns: minmax(0, 1fr);
  }
}
svg {
  display: block;
  width: 100%;
}
.bore {
  fill: var(--paper-deep);
  stroke: var(--ink);
  stroke-width: 2;
}
.nominal {
  fill: none;
  stroke: var(--slate);
  stroke-dasharray: 4 4;
}
.relief {
  fill: none;
  stroke: var(--caution-line);
  stroke-width: 1.6;
}
.valve {
  fill: var(--paper-raised);
  stroke: var(--intake);
  stroke-width: 2.4;
}
.other {
  fill: none;
  stroke: var(--slate);
}
.crowd {
  stroke: var(--loss);
  stroke-width: 1.4;
}
text {
  text-anchor: middle;
  fill: var(--ink);
}
.sliders {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 28px;
  margin-bottom: 10px;
}
.sliders span {
  display: flex;
  justify-content: space-between;
}
</style>
