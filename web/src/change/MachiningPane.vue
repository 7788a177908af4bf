<script setup lang="ts">
import {
  boreAsSeen,
  boreAxisMoved,
  boredTo,
  chamberAfter,
  compressionRatio,
  joined,
  listed,
  millingRateFromPairs,
  notchRoom,
  noted,
  sunkVolume,
  topCutLeft,
  valveRoomAfter,
  workIf,
  type Kind,
  type Quantity,
} from '@alluvium/core';
import {
  changedSince,
  compressionParts,
  measuresAt,
  olderPours,
  sizeBook,
  sizeOf,
  type MeasureItem,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed, reactive } from 'vue';
import { useActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import QuantityField from '../parts/QuantityField.vue';
import { tried } from '../parts/tried.js';
import WorkedNumber from '../parts/WorkedNumber.vue';

/** Sink the seats first, then mill; a bore that moves its axis; how deep a notch may reach. */
const props = defineProps<{ whole: WholeHead; stage: Stage }>();
const { active } = useActiveBuild();
const judging = useJudging();
const FIELDS = {
  sunk: ['Seats sunk by', 'length'],
  milled: ['Then milled off', 'length'],
  before: ['Chamber before the last cut', 'volume'],
  after: ['Chamber after it', 'volume'],
  taken: ['Taken off by it', 'length'],
  room: ['Valve-to-piston room now', 'length'],
  bore: ['Bore now', 'length'],
  towards: ['Taken on the intake’s side', 'length'],
  away: ['Taken on the other side', 'length'],
  fixture: ['Bore of the fixture', 'length'],
  shifted: ['Fixture shifted by', 'length'],
  land: ['Crown to the first ring', 'length'],
  deck: ['Piston below the deck', 'length'],
  margin: ['Kept above the ring', 'length'],
} as const satisfies Record<string, readonly [string, Kind]>;
type Field = keyof typeof FIELDS;
const GROUPS: readonly { readonly title: string; readonly fields: readonly Field[] }[] = [
  { title: 'Sink first, then mill', fields: ['sunk', 'milled', 'before', 'after', 'taken', 'room'] },
  { title: 'A bore that moves', fields: ['bore', 'towards', 'away', 'fixture', 'shifted'] },
  { title: 'Notch or relieved edge', fields: ['land', 'deck', 'margin'] },
];
const typed = reactive<Partial<Record<Field, Quantity | null>>>({});
const si = (field: Field) => typed[field]?.si;
const holding = computed(() => measuresAt(props.whole, props.stage.id));
const ofCompression = computed(() => compressionParts(holding.value, active.value?.target));
const book = computed(() =>
  joined(sizeBook(holding.value, undefined, judging.value.assumptions), ofCompression.value.book),
);
const size = (item: MeasureItem, side: 'intake' | 'exhaust' | null = null) => sizeOf(holding.value, item, side);

const face = computed(() =>
  tried(() => workIf(millingRateFromPairs, { before: si('before'), after: si('after'), taken: si('taken') })),
);
const sunkBy = computed(() =>
  tried(() =>
    workIf(sunkVolume, {
      diameter: size('valve diameter', 'intake'),
      depth: si('sunk'),
      valves: props.whole.head.intakeValves,
    }),
  ),
);
const chamber = computed(() =>
  tried(() =>
    workIf(chamberAfter, {
      now: size('chamber volume'),
      sunk: sunkBy.value.working ?? noted(0, 'not sunk'),
      face: face.value.working ?? (si('milled') ? undefined : noted(0, 'not milled')),
      milled: si('milled') ?? noted(0, 'not milled'),
    }),
  ),
);
const bore = computed(() => si('bore') ?? active.value?.build.bore?.si);
const results = computed(() => [
  [
    { label: 'chamber gained by sinking', ...sunkBy.value },
    { label: 'face area the cut sees', ...face.value },
    { label: 'chamber then', ...(si('sunk') || si('milled') ? chamber.value : {}) },
    {
      label: ofCompression.value.missing.length
        ? `compression then, ${listed(ofCompression.value.missing)} not measured`
        : 'compression then',
      ...tried(() =>
        si('sunk') || si('milled')
          ? workIf(compressionRatio, {
              ...ofCompression.value.parts,
              chamber: chamber.value.working,
            })
          : undefined,
      ),
    },
    {
      label: 'top cut left',
      ...tried(() =>
        workIf(topCutLeft, {
          width: size('top cut width', 'intake'),
          milled: si('milled'),
          angle: size('top cut angle', 'intake'),
        }),
      ),
    },
    {
      label: 'valve-to-piston room then',
      ...tried(() =>
        workIf(valveRoomAfter, {
          room: si('room'),
          sunk: si('sunk') ?? noted(0, 'not sunk'),
          milled: si('milled') ?? noted(0, 'not milled'),
        }),
      ),
    },
  ],
  [
    { label: 'axis moves by', ...tried(() => workIf(boreAxisMoved, { towards: si('towards'), away: si('away') })) },
    {
      label: 'bored to',
      ...tried(() => workIf(boredTo, { bore: bore.value, towards: si('towards'), away: si('away') })),
    },
    {
      label: 'on the intake’s side it reads as a bore of',
      ...tried(() => workIf(boreAsSeen, { bore: bore.value, moved: si('towards') })),
    },
    {
      label: 'the shifted fixture reads as a bore of',
      ...tried(() => workIf(boreAsSeen, { bore: si('fixture'), moved: si('shifted') })),
    },
  ],
  [
    {
      label: 'deepest notch',
      ...tried(() => workIf(notchRoom, { land: si('land'), deck: si('deck'), margin: si('margin') })),
    },
  ],
]);
/** Sheets taken before a size was changed. */
const older = computed(() => [
  ...olderPours(props.whole, props.stage.id).map((o) => `${o}.`),
  ...props.whole.sheets
    .filter((s) => s.stageId === props.stage.id)
    .flatMap((s) => {
      const what = changedSince(props.whole, s);
      return what.length > 0 ? [`“${s.title}” is older than: ${what.join('; ')}.`] : [];
    }),
]);
</script>

<template>
  <div>
    <p class="note">
      Nothing here is stored: measure the chamber again after the cut, and note it under Measure. Wanted compression and
      milling for it stand under
      <RouterLink :to="{ name: 'measure', params: { id: whole.head.id }, query: { pane: 'chamber', stage: stage.id } }">
        its chamber
      </RouterLink>
      .
    </p>
    <p v-for="o in older" :key="o" class="caution">{{ o }}</p>
    <section v-for="(g, i) in GROUPS" :key="g.title">
      <h2>{{ g.title }}</h2>
      <div class="fields">
        <QuantityField
          v-for="f in g.fields"
          :key="f"
          :model-value="typed[f] ?? null"
          :kind="FIELDS[f][1]"
          :label="FIELDS[f][0]"
          :placeholder="f === 'bore' ? (active?.build.bore?.typed ?? '') : ''"
          @update:model-value="typed[f] = $event"
        />
      </div>
      <dl>
        <template v-for="r in results[i]" :key="r.label">
          <dt>{{ r.label }}</dt>
          <dd>
            <WorkedNumber v-if="r.working" :working="r.working" :book="book" />
            <span v-else-if="r.problem" class="loss" role="alert">{{ r.problem }}</span>
            <span v-else class="quiet">–</span>
          </dd>
        </template>
      </dl>
    </section>
    <p class="note">
      Sinking a valve shortens the short turn and stands its stem higher; milling moves manifold, pushrods and the room
      over the piston. Check each with the parts in hand.
    </p>
  </div>
</template>

<style scoped>
section {
  padding: 6px 0 10px;
  border-bottom: 1px solid var(--rule);
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 6px 20px;
  max-width: 980px;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 2px 20px;
  margin: 8px 0 0;
}
dd {
  margin: 0;
}
</style>
