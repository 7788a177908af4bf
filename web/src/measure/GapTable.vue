<script setup lang="ts">
import { crowdedShare, inches, offsetFromGap, noted, work, written, type Side, type Working } from '@alluvium/core';
import { measured, measuresAt, sameLift, type Stage, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import PlaceCell from '../parts/PlaceCell.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import WideFrame from '../parts/WideFrame.vue';

/** The gap from the valve's edge to the wall, measured lift by lift; and the shrouding it means, where nobody measured the valve's offsets. */
const props = defineProps<{ whole: WholeHead; stage: Stage; side: Side; bore: number | undefined }>();
const settings = useSettings();
const LIFTS = [0.1, 0.2, 0.3, 0.4, 0.5, 0.6].map((l) => written(inches(l), 'lift', 'in', 3));
const holding = computed(() => measuresAt(props.whole, props.stage.id));
const valve = computed(() => measured(holding.value, 'valve diameter', props.side));
const gapAt = (lift: number) =>
  holding.value.filter(
    (m) => m.item === 'edge to wall' && m.side === props.side && m.lift && sameLift(m.lift.si, lift),
  );

interface Row {
  readonly lift: (typeof LIFTS)[number];
  readonly crowded?: Working;
  readonly problem?: string;
}
const rows = computed(() =>
  LIFTS.map((lift): Row => {
    const gaps = gapAt(lift.si);
    if (gaps.length === 0 || valve.value === undefined || props.bore === undefined) return { lift };
    const gap = noted(Math.min(...gaps.map((m) => m.value.si)), `measured at ${lift.typed}`);
    try {
      const offset = work(offsetFromGap, { bore: props.bore, valve: valve.value, gap });
      return { lift, crowded: work(crowdedShare, { bore: props.bore, valve: valve.value, offset, lift: lift.si }) };
    } catch (error) {
      return { lift, problem: (error as Error).message };
    }
  }),
);
const own = (lift: number) =>
  gapAt(lift)
    .filter((m) => m.stageId === props.stage.id && m.portId === null)
    .at(-1);
</script>

<template>
  <section>
    <h2>Gap to the wall, measured</h2>
    <WideFrame>
      <table class="ruled" aria-label="Gap to the wall, by lift">
        <thead>
          <tr>
            <th>lift</th>
            <th>gap, edge to wall</th>
            <th class="num">curtain crowded</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.lift.typed">
            <td>{{ settings.say.of(r.lift.si, 'lift') }}</td>
            <td>
              <PlaceCell
                :key="`${side}${r.lift.typed}${stage.id}`"
                :stage-id="stage.id"
                item="edge to wall"
                :side="side"
                :port-id="null"
                :valve="null"
                :lift="r.lift"
                :label="`Gap to the wall at ${r.lift.typed}, ${side}`"
                :measure="own(r.lift.si)"
              />
            </td>
            <td class="num">
              <WorkedNumber :working="r.crowded ?? null" :digits="0" />
              <span v-if="r.problem" class="loss">{{ r.problem }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <p class="note">
      {{
        bore === undefined
          ? 'A build with its bore is needed to make shrouding of a gap.'
          : valve === undefined
            ? 'The valve’s diameter is needed to make shrouding of a gap.'
            : 'Taken with the head on this bore, the valve held open: the least gap beside its edge.'
      }}
    </p>
  </section>
</template>
