<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import { Measure, addition, removal, type Stage, type WholeHead, firstRefused } from '@alluvium/records';
import { computed, reactive, ref } from 'vue';
import { newId } from '../data/ids.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import QuantityField from '../parts/QuantityField.vue';
import ChoiceRow from '../parts/ChoiceRow.vue';
import TextField from '../parts/TextField.vue';
import { useSettings } from '../state/settings.js';
import { vLegible } from '../charts/legible.js';
import WideFrame from '../parts/WideFrame.vue';

// said.value!: it was read.
// find()!: every place is in the list.

/** Wall thickness at named points, by sound or by gauge: where on the drawing, how it was taken, where work stops. */
const props = defineProps<{ whole: WholeHead; stage: Stage }>();
const settings = useSettings();
const change = useChange('here');
const PLACES = [
  ['wall thickness', 'the head, from its deck'],
  ['bore wall', 'the bore, from above'],
] as const;
type Item = (typeof PLACES)[number][0];
const item = ref<Item>('wall thickness');
const WIDTH = 520;
const HEIGHT = 200;
const cylinders = computed(() => props.whole.head.cylinders ?? 4);
const points = computed(() =>
  props.whole.measures
    .filter((m) => m.stageId === props.stage.id && m.item === item.value)
    .map((m, i) => ({ m, letter: String(i + 1), spare: m.least ? m.value.si - m.least.si : undefined })),
);
const thin = computed(() => points.value.filter((p) => p.spare !== undefined && p.spare <= 0));

const said = reactive<{ place: string; value: Quantity | null; least: Quantity | null; instrument: string }>({
  place: '',
  value: null,
  least: null,
  instrument: '',
});
const spot = ref<{ x: number; y: number } | null>(null);
const unreadable = ref('');
const problem = ref('');
function put(event: MouseEvent): void {
  const box = (event.currentTarget as SVGElement).getBoundingClientRect();
  const share = (at: number, from: number, size: number) => Math.min(1, Math.max(0, (at - from) / size));
  spot.value = { x: share(event.clientX, box.left, box.width), y: share(event.clientY, box.top, box.height) };
}
const across = (axis: 'x' | 'y') =>
  computed({
    get: () => Math.round((spot.value?.[axis] ?? 0.5) * 100),
    set: (percent) => (spot.value = { ...(spot.value ?? { x: 0.5, y: 0.5 }), [axis]: percent / 100 }),
  });
const [x, y] = [across('x'), across('y')];
async function keep(): Promise<void> {
  if (unreadable.value) return void (problem.value = unreadable.value);
  const parsed = Measure.safeParse({
    id: newId(),
    stageId: props.stage.id,
    item: item.value,
    side: null,
    ...said,
    spot: spot.value,
    date: today(),
  });
  if (!parsed.success)
    return void (problem.value = said.value === null ? 'Type the thickness.' : firstRefused(parsed.error).message);
  const made = await change.make([addition('measure', parsed.data)], `${said.place}: ${said.value!.typed}.`);
  problem.value = change.refusal.value;
  if (!made) return;
  Object.assign(said, { place: '', value: null });
  spot.value = null;
}
const remove = (m: Measure) => change.make([removal('measure', m.id)], `${m.place} removed.`);
const length = (si: number) => settings.say.of(si, 'length');
</script>

<template>
  <div class="walls">
    <div>
      <ChoiceRow v-model="item" label="Which wall" :options="PLACES" />
      <svg
        v-legible
        :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
        role="img"
        :aria-label="`${PLACES.find(([i]) => i === item)![1]}, with ${points.length} points`"
        @click="put"
      >
        <template v-if="item === 'wall thickness'">
          <rect class="deck" x="4" y="20" :width="WIDTH - 8" :height="HEIGHT - 40" rx="12" />
          <ellipse
            v-for="c in cylinders"
            :key="c"
            class="chamber"
            :cx="((c - 0.5) * (WIDTH - 8)) / cylinders + 4"
            :cy="HEIGHT / 2"
            :rx="(0.4 * (WIDTH - 8)) / cylinders"
            ry="56"
          />
        </template>
        <circle v-else class="chamber" :cx="WIDTH / 2" :cy="HEIGHT / 2" r="80" />
        <g v-for="p in points" :key="p.m.id">
          <template v-if="p.m.spot">
            <circle
              :cx="p.m.spot.x * WIDTH"
              :cy="p.m.spot.y * HEIGHT"
              r="10"
              class="point"
              :class="{ thin: p.spare !== undefined && p.spare <= 0 }"
            />
            <text :x="p.m.spot.x * WIDTH" :y="p.m.spot.y * HEIGHT + 5">{{ p.letter }}</text>
          </template>
        </g>
        <path
          v-if="spot"
          class="new"
          :d="`M${spot.x * WIDTH - 9} ${spot.y * HEIGHT}h18M${spot.x * WIDTH} ${spot.y * HEIGHT - 9}v18`"
        />
      </svg>
      <p class="note">Press the drawing where the point is, or set it beside.</p>
      <p v-if="thin.length" class="loss" role="alert">
        Work stops here: {{ thin.map((p) => p.m.place).join(', ') }} {{ thin.length === 1 ? 'is' : 'are' }} down to the
        limit.
      </p>
    </div>
    <div>
      <div v-if="points.length" class="framed">
        <WideFrame>
          <table class="ruled" aria-label="Walls">
            <thead>
              <tr>
                <th></th>
                <th>point</th>
                <th class="num">thickness</th>
                <th class="num">work stops at</th>
                <th class="num">left</th>
                <th>with</th>
                <th></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="p in points" :key="p.m.id">
                <td>{{ p.letter }}</td>
                <td>{{ p.m.place }}</td>
                <td class="num">{{ p.m.value.typed }}</td>
                <td class="num">{{ p.m.least?.typed ?? '–' }}</td>
                <td class="num" :class="{ loss: p.spare !== undefined && p.spare <= 0 }">
                  {{ p.spare === undefined ? '–' : length(p.spare) }}
                </td>
                <td class="note">{{ p.m.instrument }}</td>
                <td>
                  <el-button link :aria-label="`Remove ${p.m.place}`" @click="remove(p.m)">Remove</el-button>
                </td>
              </tr>
            </tbody>
          </table>
        </WideFrame>
      </div>
      <form class="new-point" data-own-keys @submit.prevent="keep">
        <TextField v-model="said.place" label="Point" placeholder="intake, behind the pushrod" />
        <QuantityField v-model="said.value" kind="length" label="Thickness" @update:problem="unreadable = $event" />
        <QuantityField v-model="said.least" kind="length" label="Work stops at" @update:problem="unreadable = $event" />
        <TextField v-model="said.instrument" label="With" placeholder="sonic tester, pit gauge" />
        <div>
          <span class="note">across {{ x }} %</span>
          <el-slider v-model="x" aria-label="Across, per cent" :show-tooltip="false" />
        </div>
        <div>
          <span class="note">down {{ y }} %</span>
          <el-slider v-model="y" aria-label="Down, per cent" :show-tooltip="false" />
        </div>
        <el-button native-type="submit">Add the wall</el-button>
      </form>
      <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
      <p class="caution">Castings differ: a wall that was not tested is not known. Test it before cutting.</p>
    </div>
  </div>
</template>

<style scoped>
.walls {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 34px;
}
@media (max-width: 900px) {
  .walls {
    grid-template-columns: minmax(0, 1fr);
  }
}
svg {
  display: block;
  width: 100%;
  cursor: crosshair;
}
.deck {
  fill: var(--paper-deep);
  stroke: var(--slate);
}
.chamber {
  fill: var(--paper);
  stroke: var(--slate);
}
.point {
  fill: var(--paper-raised);
  stroke: var(--intake);
  stroke-width: 2;
}
.point.thin {
  stroke: var(--loss);
}
svg text {
  text-anchor: middle;
  fill: var(--ink);
  font-size: max(14px, calc(12px * var(--per-px, 0)));
}
.new {
  stroke: var(--caution-line);
  stroke-width: 2.5;
}
.new-point {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 20px;
  align-items: end;
  margin-top: 12px;
}
</style>
