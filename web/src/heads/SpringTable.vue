<script setup lang="ts">
import { camLiftOf, springForce, work, type Quantity, type Side, type Working } from '@alluvium/core';
import { addition, measuresOf, replacement, sizeOf, type Measure } from '@alluvium/records';
import { computed, reactive, ref, watch } from 'vue';
import { newId } from '../data/ids.js';
import { useActiveBuild } from '../data/build.js';
import { useListOf } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import QuantityField from '../parts/QuantityField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';

// advertised.lift!: what is advertised is at a lift.

/** What the springs press with at this cam's lift and at the lift they were advertised at, against what the shop lets run on such a cam. */
const props = defineProps<{ measures: readonly Measure[] }>();
const settings = useSettings();
const change = useChange('here');
const { active } = useActiveBuild();
const limits = useListOf('springlimit');
const camKind = computed(() => active.value?.build.cam?.kind ?? 'unknown');
const limit = computed(() => limits.data.value?.find((l) => l.camKind === camKind.value));

/** Force by seat force and rate with the valve open this far. */
function at(side: Side, lift: number | undefined): Working | undefined {
  const seatForce = sizeOf(props.measures, 'spring seat force', side);
  const rate = sizeOf(props.measures, 'spring rate', side);
  if (!seatForce || !rate || lift === undefined) return undefined;
  // The valve's lift squeezes it, however high it stands.
  return work(springForce, { seatForce, rate, installedHeight: lift, height: 0 });
}
const rows = computed(() =>
  (['intake', 'exhaust'] as const).flatMap((side) => {
    const cam = active.value?.core.cam;
    const advertised = measuresOf(props.measures, 'spring open force', side).find((m) => m.lift);
    const here = at(side, cam && camLiftOf(cam, side));
    const there = advertised && at(side, advertised.lift!.si);
    const most = limit.value?.open;
    const over = most && here && here.value > most.si ? here.value - most.si : 0;
    return here || there ? [{ side, here, there, advertised, over }] : [];
  }),
);
const seats = computed(() =>
  (['intake', 'exhaust'] as const).flatMap((side) => {
    const force = sizeOf(props.measures, 'spring seat force', side);
    const most = limit.value?.seat;
    return force && most && force.value > most.si ? [{ side, over: force.value - most.si }] : [];
  }),
);
const force = (si: number) => settings.say.of(si, 'force', { digits: 0 });

const typed = reactive<{ seat: Quantity | null; open: Quantity | null }>({ seat: null, open: null });
watch(limit, (now) => Object.assign(typed, { seat: now?.seat ?? null, open: now?.open ?? null }), { immediate: true });
const unreadable = ref('');
async function keep(): Promise<void> {
  if (unreadable.value) return;
  await change.make(
    [
      limit.value
        ? replacement('springlimit', { ...limit.value, ...typed })
        : addition('springlimit', { id: newId(), camKind: camKind.value, ...typed }),
    ],
    `The shop’s limit for springs on a cam of this kind is kept.`,
  );
}
</script>

<template>
  <section v-if="rows.length" aria-label="Springs">
    <h2>Springs</h2>
    <table class="ruled">
      <thead>
        <tr>
          <th></th>
          <th class="num">at this cam’s lift</th>
          <th class="num">at the lift advertised</th>
          <th class="num">advertised</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.side">
          <td>{{ r.side }}</td>
          <td class="num" :class="{ loss: r.over > 0 }"><WorkedNumber :working="r.here ?? null" :digits="0" /></td>
          <td class="num"><WorkedNumber :working="r.there ?? null" :digits="0" /></td>
          <td class="num">
            {{ r.advertised ? `${r.advertised.value.typed} at ${r.advertised.lift!.typed}` : '–' }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-for="r in rows.filter((x) => x.over > 0)" :key="r.side" class="loss">
      The {{ r.side }} springs are {{ force(r.over) }} over the shop’s limit open, on a cam of the kind “{{ camKind }}”.
    </p>
    <p v-for="s in seats" :key="s.side" class="loss">
      The {{ s.side }} springs are {{ force(s.over) }} over the shop’s limit on the seat.
    </p>
    <p v-if="camKind === 'unknown'" class="note">
      Say on Target which kind of cam it is: the shop’s limit depends on it.
    </p>
    <details v-else>
      <summary>{{ limit ? 'the shop’s limit' : 'Set the shop’s limit' }} for {{ camKind }}</summary>
      <form class="limit" data-own-keys @submit.prevent="keep">
        <QuantityField
          v-model="typed.seat"
          kind="force"
          label="At most on the seat"
          placeholder="no limit"
          @update:problem="unreadable = $event"
        />
        <QuantityField
          v-model="typed.open"
          kind="force"
          label="At most open"
          placeholder="no limit"
          @update:problem="unreadable = $event"
        />
        <el-button native-type="submit" :loading="change.busy.value">Save the limit</el-button>
      </form>
    </details>
    <p v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</p>
  </section>
</template>

<style scoped>
.limit {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 8px 18px;
  align-items: end;
}
summary {
  cursor: pointer;
  color: var(--slate);
}
</style>
