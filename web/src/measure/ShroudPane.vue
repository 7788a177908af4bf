<script setup lang="ts">
import {
  inches,
  concentricGap,
  crowdedShare,
  noted,
  reliefAt,
  valveCentreAt,
  work,
  workIf,
  type Bore,
  type ShroudedValve,
} from '@alluvium/core';
import { measured, measuresAt, type MeasureItem, type Stage, type WholeHead } from '@alluvium/records';
import { computed, ref } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import GapTable from './GapTable.vue';
import ShroudDrawing from './ShroudDrawing.vue';
import { wallLoss } from './wallLoss.js';
import { useActiveBuild } from '../data/build.js';
import { useSettings } from '../state/settings.js';
import WideFrame from '../parts/WideFrame.vue';

// setup.bore!: a pair is two bores.

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
const least = computed(() =>
  workIf(concentricGap, {
    bore: bore.value && noted(bore.value.diameter, 'with the slider'),
    valve: valve.value?.diameter,
    offset:
      valve.value && bore.value && noted(Math.hypot(valve.value.x - bore.value.x, valve.value.y), 'from its offsets'),
  }),
);

const pair = computed(() => wallLoss(props.whole, props.stage.id, props.side, LIFTS));
const say = (si: number) => settings.say.of(si, 'length');
</script>

<template>
  <div class="shroud">
    <div>
      <ShroudDrawing
        v-if="valve && bore"
        :valve="valve"
        :other="otherValve"
        :bore="bore"
        :nominal="nominal"
        :lift="mm(lift)"
        :side="side"
      />
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
