<script setup lang="ts">
import { oddsWords } from '@alluvium/core';
import { PROGRAM, addition, keptContent, movedSince, removal, type FrozenVerdict } from '@alluvium/records';
import { computed, ref } from 'vue';
import type { ActiveBuild } from '../data/build.js';
import type { CompareHead } from '../data/comparison.js';
import { useListOf } from '../data/queries.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import { useSettings } from '../state/settings.js';
import { download } from '../charts/save.js';

// active.target!: a verdict is given against a target.

/** Verdicts kept as they were said, with the versions of the records they rested on: read again, printed, saved. */
const props = defineProps<{ active: ActiveBuild; heads: readonly CompareHead[]; best: string }>();
const settings = useSettings();
const change = useChange('here');
const list = useListOf('verdict');
const kept = computed(() =>
  (list.data.value ?? [])
    .filter((v: FrozenVerdict) => v.buildId === props.active.build.id)
    .toSorted((a, b) => b.made.localeCompare(a.made) || b.id.localeCompare(a.id)),
);
const open = ref<FrozenVerdict>();
const now = computed(() =>
  keptContent(props.active.build, props.active.target!, props.heads, props.best, PROGRAM, settings.say),
);
const keep = () =>
  change.make(
    [addition('verdict', { buildId: props.active.build.id, made: today(), content: now.value })],
    'The verdict is kept as it stands.',
  );
const remove = (v: FrozenVerdict) => change.make([removal('verdict', v.id)], `The verdict of ${v.made} is removed.`);
const moved = (v: FrozenVerdict): string => {
  const { changed, gone, added } = movedSince(v.content, now.value.records);
  const parts = [changed && `${changed} changed`, gone && `${gone} removed`, added && `${added} new`].filter(Boolean);
  return parts.length ? `records since: ${parts.join(', ')}` : 'rests on what stands now';
};
const print = () => window.print();
const save = (v: FrozenVerdict) => download(`verdict-${v.made}.json`, JSON.stringify(v, null, 2), 'application/json');
</script>

<template>
  <section class="kept" aria-label="Verdicts kept">
    <h2>
      Verdicts kept
      <el-button class="no-print" size="small" :loading="change.busy.value" @click="keep">Save this verdict</el-button>
    </h2>
    <p v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</p>
    <ul v-if="kept.length">
      <li v-for="v in kept" :key="v.id">
        <el-button link @click="open = v">{{ settings.say.day(v.made) }}</el-button>
        <span>{{ v.content.best.split('. ')[0] }}.</span>
        <span class="note">{{ moved(v) }}</span>
        <el-button class="no-print" link :aria-label="`Remove the verdict of ${v.made}`" @click="remove(v)">
          Remove
        </el-button>
      </li>
    </ul>
    <p v-else class="note">None yet. A kept verdict stays as it was said, whatever is measured later.</p>
    <el-dialog v-if="open" :model-value="true" :title="`Verdict of ${open.made}`" width="760" @close="open = undefined">
      <div class="to-print">
        <p>{{ open.content.target }}</p>
        <p class="reading">{{ open.content.best }}</p>
        <article v-for="h in open.content.heads" :key="h.letter">
          <h3>
            {{ h.letter }} {{ h.name }}
            <small>{{ [h.stage, h.sheet].filter(Boolean).join(', ') }}</small>
          </h3>
          <p>{{ h.words }}</p>
          <p class="note">
            <template v-for="l in h.limits" :key="l.runner + l.id">
              {{ l.runner }} {{ l.id === 'flow' ? 'flow' : 'port area' }} {{ oddsWords(l.odds) }} (margin
              {{ settings.say.number(100 * l.margin, 1) }} % ± {{ settings.say.number(100 * l.u, 1) }}) ·
            </template>
          </p>
        </article>
        <p class="note">
          {{ moved(open) }}. Said by Alluvium {{ open.content.program }}, from
          {{ open.content.records.length }} records.
        </p>
        <p class="no-print">
          <el-button @click="print">Print</el-button>
          <el-button @click="save(open)">Export JSON</el-button>
        </p>
      </div>
    </el-dialog>
  </section>
</template>

<style scoped>
.kept {
  margin-top: 18px;
}
h2 {
  display: flex;
  gap: 14px;
  align-items: center;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: baseline;
}
h3 {
  margin: 10px 0 2px;
}
h3 small {
  font-weight: 400;
  color: var(--slate);
}
p {
  margin: 4px 0;
}
</style>
