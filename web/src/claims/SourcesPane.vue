<script setup lang="ts">
import { gainWords, inches, listed, noted, offsetInterval, sourceReads, work, type Side } from '@alluvium/core';
import { computed, ref } from 'vue';
import { useOffsets } from '../data/offsets.js';
import ChoiceField from '../parts/ChoiceField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import CatalogueThrough from './CatalogueThrough.vue';
import OffsetChart from './OffsetChart.vue';
import SourceForm from './SourceForm.vue';
import type { Claims } from './useClaims.js';
import WideFrame from '../parts/WideFrame.vue';

// net!, net.value!, own!, net.value.sources[]!, heads[]!, shared[]!, sources[]!: what was solved numbers the sources of its net.

/** The sources, what each states of its tests, and how far each reads from our bench by heads that several tested. */
const props = defineProps<{ claims: Claims; side: Side }>();
const settings = useSettings();
const sources = computed(() => props.claims.sources.value);
const own = computed(() => props.claims.own.value);
/** The source whose particulars are open; `new` for one that is not here yet. */
const open = ref<string>();
const BANDS = [
  ['all', 'all lifts'],
  ['low', 'up to .300 in'],
  ['high', 'from .300 in up'],
] as const;
const band = ref<(typeof BANDS)[number][0]>('all');
const lifts = computed(() =>
  band.value === 'low'
    ? { from: 0, to: inches(0.3) }
    : band.value === 'high'
      ? { from: inches(0.3), to: Infinity }
      : { from: 0, to: Infinity },
);
const { net, result, progress, gains, problem } = useOffsets(() =>
  own.value === undefined
    ? undefined
    : {
        side: props.side,
        from: lifts.value.from,
        to: Number.isFinite(lifts.value.to) ? lifts.value.to : undefined,
        version: props.claims.library.value.version,
        weigh: true,
      },
);
const name = (id: string) => sources.value.find((s) => s.id === id)?.name ?? id;
const rows = computed(() =>
  (result.value?.offsets ?? []).map((o) => ({
    ...o,
    id: net.value!.sources[o.source]!,
    heads: net.value!.heads[o.source]!,
    sharedHeads: net.value!.shared[o.source]!,
    percent: Math.expm1(o.offset),
    reads: o.tied && o.differences.length > 0 ? work(sourceReads, o) : undefined,
    plus:
      Number.isFinite(o.half) && o.error > 0
        ? work(offsetInterval, { error: o.error, coverage: noted(o.half / o.error, 'of the figures left over') })
        : undefined,
  })),
);
const tied = computed(() => rows.value.filter((r) => r.tied));
const untied = computed(() => rows.value.filter((r) => !r.tied));
/** The heads worth testing next, the best three, in words. */
const advice = computed(() =>
  gains.value
    .slice(0, 3)
    .map((g) =>
      gainWords(g, net.value!.names[g.key] ?? g.key, (index) => name(net.value!.sources[index]!), settings.say),
    ),
);
/** Sources without a table on this side: there is nothing to tie them by. */
const silent = computed(() => sources.value.filter((s) => !rows.value.some((r) => r.id === s.id)));
</script>

<template>
  <div class="sources">
    <SourceForm v-if="open" :key="open" :source="sources.find((s) => s.id === open)" @done="open = undefined" />
    <p class="acts">
      <ChoiceField v-model="band" class="band" label="Lifts" :options="BANDS" />
      <el-button v-if="open !== 'new'" link class="no-print" @click="open = 'new'">A new source</el-button>
    </p>
    <p v-if="!own" class="reading">
      Name your own bench as a source first: it is the zero the others are held against.
    </p>
    <p v-else-if="problem" class="reading" role="alert">{{ problem }}</p>
    <p v-else-if="!result" class="reading">Solving the net of sources … {{ Math.round(progress * 100) }} %</p>
    <template v-else>
      <p class="reading">
        Against {{ name(own!) }}, from heads that several of them tested; odd sheets weigh less.
        {{ untied.length ? `Nothing ties ${untied.map((u) => name(u.id)).join(', ')} to the bench.` : '' }}
      </p>
      <OffsetChart :offsets="tied.map((r) => ({ name: name(r.id), value: r.percent, plus: r.plus?.value }))" />
      <WideFrame>
        <table class="ruled">
          <thead>
            <tr>
              <th>source</th>
              <th class="num">reads</th>
              <th class="num">Uncertainty (±)</th>
              <th class="num">heads</th>
              <th class="num">shared</th>
              <th class="num">sheets compared</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in rows" :key="r.id">
              <td>
                <el-button link @click="open = r.id">{{ name(r.id) }}</el-button>
              </td>
              <td class="num">
                <WorkedNumber v-if="r.reads" :working="r.reads" signed />
                <template v-else>{{ r.tied ? '0 %' : 'not tied' }}</template>
              </td>
              <td class="num">
                <template v-if="r.tied && r.plus && r.id !== own">
                  ±
                  <WorkedNumber :working="r.plus" />
                </template>
              </td>
              <td class="num">{{ r.heads }}</td>
              <td class="num">{{ r.sharedHeads }}</td>
              <td class="num">{{ r.shared }}</td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p v-if="silent.length" class="note">
        Nothing on this side of
        <template v-for="(s, i) in silent" :key="s.id">
          {{ i ? ', ' : '' }}
          <el-button link @click="open = s.id">{{ s.name }}</el-button>
        </template>
      </p>
      <p v-if="net!.pipeUnsaid.length" class="reading">
        Ask {{ listed(net!.pipeUnsaid.map(name)) }} whether the exhaust was bare or piped: until that is known, no test
        of yours is like theirs.
      </p>
      <template v-if="advice.length">
        <h2>What to test next</h2>
        <p v-for="a in advice" :key="a" class="reading">{{ a }}</p>
        <p class="note">
          Test it as your other heads: same bore, entry and depression. To sharpen one source, lend it a head you have
          tested, and take its sheet in.
        </p>
      </template>
      <p class="note">
        Lifts of one sheet err together, so the errors stand for the least there is. Bare and piped exhausts are never
        laid beside each other.
      </p>
      <CatalogueThrough :tied="tied.filter((r) => r.id !== own)" :side="side" :name="name" />
    </template>
  </div>
</template>

<style scoped>
.sources {
  max-width: 760px;
}
.acts {
  display: flex;
  gap: 24px;
  align-items: flex-end;
  margin: 0;
}
.band {
  width: 200px;
}
h2 {
  margin-top: 16px;
}
</style>
