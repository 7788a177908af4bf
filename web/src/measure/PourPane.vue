<script setup lang="ts">
import {
  USUAL_SPARE,
  compoundNeeded,
  evaluateSurvey,
  noted,
  packsCost,
  packsNeeded,
  work,
  workIf,
  type Quantity,
} from '@alluvium/core';
import { measured, measuresAt, surveyAt, toCoreSections, type Stage, type WholeHead } from '@alluvium/records';
import { useStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import QuantityField from '../parts/QuantityField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';

/** Planning a pour of moulding compound: which ports, how much, how many packs, what it costs, and the steps in order. */
const props = defineProps<{ whole: WholeHead; stage: Stage }>();
const settings = useSettings();
const none = (): Quantity | null => null;
const serializer = {
  read: (t: string) => JSON.parse(t) as Quantity | null,
  write: (q: Quantity | null) => JSON.stringify(q),
};
// The shop buys the same packs each time: kept in this browser.
const pack = useStorage<Quantity | null>('alluvium.pack', none(), undefined, { serializer });
const price = useStorage<Quantity | null>('alluvium.pack-price', none(), undefined, { serializer });
const spare = ref<Quantity | null>({ si: USUAL_SPARE, typed: '15 %' });
const problems = ref<Record<string, string>>({});
const chosen = ref(new Set<string>());

const holding = computed(() => measuresAt(props.whole, props.stage.id));
const ports = computed(() =>
  props.whole.ports.map((p) => {
    const survey = surveyAt(props.whole, props.stage.id, p.side, p.id);
    const ofSections = survey ? evaluateSurvey(toCoreSections(survey)).volume?.value : undefined;
    const poured = measured(holding.value, 'port volume', p.side, p.id);
    return {
      id: p.id,
      name: `${p.side} ${p.nickname || p.number}`,
      volume: poured ?? ofSections,
      from: poured !== undefined ? 'poured before' : ofSections !== undefined ? 'from its sections' : 'not known',
    };
  }),
);
const toPour = computed(() => ports.value.filter((p) => chosen.value.has(p.id)));
const unknown = computed(() => toPour.value.filter((p) => p.volume === undefined).map((p) => p.name));
function toggle(id: string): void {
  const next = new Set(chosen.value);
  if (!next.delete(id)) next.add(id);
  chosen.value = next;
}
const needed = computed(() => {
  const volumes = toPour.value.flatMap((p) => p.volume ?? []);
  return volumes.length && spare.value && spare.value.si >= 0
    ? work(compoundNeeded, { volumes, spare: spare.value.si })
    : undefined;
});
const packs = computed(() => {
  const size = pack.value?.si;
  return needed.value && size !== undefined && size > 0
    ? work(packsNeeded, { needed: needed.value, pack: size })
    : undefined;
});
const cost = computed(() =>
  workIf(packsCost, { packs: packs.value, price: price.value ? noted(price.value.si, 'of one pack') : undefined }),
);
const STEPS = [
  'Read the compound’s sheet: gloves, ventilation, working time, shelf life.',
  'Clean and dry the ports. Put the valves in shut, seats smeared with grease so that nothing runs past.',
  'Level the head within about a degree, flange up; check both ways.',
  'Lubricate port, guide and seat with the release agent the sheet names; wipe off what stands.',
  'Stop the guide and any hole; stand a cup of card round the flange for the spare.',
  'Mix by weight, slowly, so that no air is stirred in; do not mix more packs than can be poured in time.',
  'Pour thin, in one stream, at the lowest place, until it stands over the flange.',
  'Mark the mould: head, port, side, date. Let it stand as long as the sheet says.',
  'Take the valve out; loosen the mould all round with air at low pressure (eye protection) and pull with care, without twisting.',
  'Section it every 5 mm, or measure it whole; note its temperature when it is measured, since it shrinks.',
];
const print = () => window.print();
</script>

<template>
  <div class="pour">
    <div>
      <h2>Ports to pour</h2>
      <p v-if="ports.length === 0" class="note">
        This head has no ports yet: make its checklist under Arrival, or note a sheet with its port.
      </p>
      <ul>
        <li v-for="p in ports" :key="p.id">
          <el-checkbox :model-value="chosen.has(p.id)" @change="toggle(p.id)">
            {{ p.name }}
            <span class="note">
              {{
                p.volume === undefined ? 'volume not known' : `${settings.say.number(p.volume * 1e6, 1)} cc, ${p.from}`
              }}
            </span>
          </el-checkbox>
        </li>
      </ul>
    </div>
    <div>
      <h2>What it takes</h2>
      <div class="fields no-print">
        <QuantityField
          v-model="spare"
          kind="percent"
          label="Spare"
          :problem="(spare?.si ?? 0) < 0 ? 'The spare cannot be negative.' : problems.spare"
          @update:problem="problems.spare = $event"
        />
        <QuantityField
          v-model="pack"
          kind="volume"
          label="One pack yields"
          placeholder="500 cc"
          :problem="pack && pack.si <= 0 ? 'A pack yields more than nothing.' : problems.pack"
          @update:problem="problems.pack = $event"
        />
        <QuantityField v-model="price" kind="money" label="Price of a pack" @update:problem="problems.price = $event" />
      </div>
      <table class="ruled">
        <tbody>
          <tr>
            <td>compound needed</td>
            <td class="num"><WorkedNumber :working="needed" :digits="0" /></td>
          </tr>
          <tr>
            <td>packs to open</td>
            <td class="num"><WorkedNumber :working="packs" /></td>
          </tr>
          <tr>
            <td>cost</td>
            <td class="num"><WorkedNumber :working="cost" /></td>
          </tr>
        </tbody>
      </table>
      <p v-if="unknown.length" class="caution">
        Not counted, since nothing is known of their volume: {{ unknown.join(', ') }}.
      </p>
      <h2>
        In order
        <el-button link class="no-print" @click="print">Print</el-button>
      </h2>
      <ol>
        <li v-for="s in STEPS" :key="s">{{ s }}</li>
      </ol>
    </div>
  </div>
</template>

<style scoped>
.pour {
  display: grid;
  grid-template-columns: 1fr 2fr;
  gap: 44px;
}
@media (width < 760px) {
  .pour {
    grid-template-columns: minmax(0, 1fr);
  }
}
ul {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(max(120px, 30%), 1fr));
  gap: 20px;
  margin: 6px 0 10px;
}
h2 {
  display: flex;
  gap: 18px;
  align-items: baseline;
}
h2 .el-button {
  font-weight: 400;
  font-size: 15px;
}
ol {
  padding-left: 22px;
  margin: 6px 0;
}
ol li {
  padding: 1px 0;
}
</style>
