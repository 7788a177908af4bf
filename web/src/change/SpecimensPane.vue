<script setup lang="ts">
import { format, type Side } from '@alluvium/core';
import { replacement, specimensOf, type WholeHead } from '@alluvium/records';
import { computed, ref } from 'vue';
import { refDebounced } from '@vueuse/core';
import { standingOf, useLibrary, useSpecimens } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import WaitingNote from '../parts/WaitingNote.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import { useChangeContext } from './useChangeData.js';

/** Several specimens of one article: how far they lie apart, and what the next one may read. */
const props = defineProps<{ whole: WholeHead; side: Side }>();
const settings = useSettings();
const change = useChange();
const context = useChangeContext();
const query = useSpecimens(() => props.whole.head.id);
const standing = standingOf(query);
const found = computed(() => (query.data.value ? specimensOf(query.data.value, props.side, context.value) : undefined));
const search = ref('');
const settled = refDebounced(search, 150);
const library = useLibrary(() => ({ search: settled.value, size: 30 }));
const others = computed(() =>
  (library.data.value?.items ?? [])
    .map((i) => i.head)
    .filter((h) => h.id !== props.whole.head.id && h.specimenOf === null),
);
const link = (specimenOf: string | null) =>
  change.make(
    [replacement('head', { ...props.whole.head, specimenOf: specimenOf || null })],
    specimenOf ? 'Linked as another specimen of that article.' : 'No longer another specimen.',
  );
const flow = (q: number, signed = false) => format(q, 'flow', settings.figures, { digits: 0, signed });
</script>

<template>
  <div>
    <p class="pick no-print">
      <label>
        <span class="note">Another specimen of</span>
        <el-select
          :model-value="whole.head.specimenOf ?? ''"
          filterable
          remote
          clearable
          :remote-method="(text: string) => (search = text)"
          aria-label="Another specimen of"
          placeholder="nothing: it is the first"
          @change="link"
        >
          <el-option
            v-if="whole.head.specimenOf && !others.some((h) => h.id === whole.head.specimenOf)"
            :value="whole.head.specimenOf"
            :label="query.data.value?.[0]?.head.name ?? whole.head.specimenOf"
          />
          <el-option v-for="h in others" :key="h.id" :value="h.id" :label="h.name" />
        </el-select>
      </label>
    </p>
    <WaitingNote v-if="!found" :loading="standing.loading.value" :error="standing.error.value" />
    <template v-else>
      <p v-if="found.apart.length < 2" class="reading">
        Fewer than two specimens of this article were flowed alike as they came: nothing can be said of their spread.
      </p>
      <table v-else class="ruled">
        <thead>
          <tr>
            <th>specimen</th>
            <th>sheet</th>
            <th class="num">peak, {{ side }}</th>
            <th class="num">against the others</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="a in found.apart" :key="a.specimen.whole.head.id">
            <td>
              <RouterLink
                :to="{ name: 'change', params: { id: a.specimen.whole.head.id }, query: { pane: 'specimens' } }"
              >
                {{ a.specimen.whole.head.name }}
              </RouterLink>
            </td>
            <td class="note">{{ a.specimen.sheet.title }}</td>
            <td class="num">{{ flow(a.value) }}</td>
            <td class="num">{{ flow(a.off, true) }}</td>
            <td>
              {{
                a.outside === undefined
                  ? 'the others are too few to say'
                  : a.outside
                    ? 'further off than one more of them would be'
                    : 'as they lie'
              }}
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="found.next">
        The next one may read
        <WorkedNumber :working="found.next" :digits="0" label="next specimen, either side of the mean" />
        either side of their mean, 95 %.
      </p>
      <p v-for="l in found.leftOut" :key="l" class="note">Left out: {{ l }}.</p>
    </template>
  </div>
</template>

<style scoped>
.pick {
  max-width: 320px;
}
.pick label span {
  display: block;
}
</style>
