<script setup lang="ts">
import { computed } from 'vue';
import notice from '../../../NOTICE.md?raw';
import { version } from '../../package.json';
import { useCare } from '../data/care.js';
import { standingOf, useListOf } from '../data/queries.js';
import LetterheadForm from '../decide/LetterheadForm.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import TextField from '../parts/TextField.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { NUMBERS, TEXT_SIZES, useSettings } from '../state/settings.js';

/** What is the user's own in this browser, what is the shop's, and what this program is. */
const settings = useSettings();
const letterheads = useListOf('letterhead');
const { loading, error } = standingOf(letterheads);
const care = useCare();
const kept = computed(() => care.data.value);
const DAYS = [
  ['year first', '2026-05-31'],
  ['day first', '31 May 2026'],
  ['month first', 'May 31, 2026'],
] as const;
</script>

<template>
  <section class="settings">
    <h1>Settings</h1>
    <div class="mine">
      <h2>This browser</h2>
      <ChoiceField
        v-model="settings.system"
        label="Units of figures"
        :options="[
          ['inch', 'inches, cfm, horsepower'],
          ['metric', 'millimetres, L/s, kilowatts'],
        ]"
      />
      <ChoiceField
        v-model="settings.numbers"
        label="Numbers"
        :options="NUMBERS.map(([example]) => [example, example] as const)"
      />
      <ChoiceField v-model="settings.days" label="Dates" :options="DAYS" />
      <TextField v-model="settings.currency" label="Currency of a new engine" placeholder="USD" />
      <ChoiceField
        v-model="settings.theme"
        label="Theme"
        :options="[
          ['light', 'light'],
          ['night', 'night'],
        ]"
      />
      <ChoiceField v-model="settings.textSize" label="Text size" :options="TEXT_SIZES" />
      <ChoiceField
        v-model="settings.sound"
        label="Sounds of the bench"
        :options="[
          [false, 'off'],
          [true, 'on'],
        ]"
      />
      <p class="note wide">Figures are kept as they were typed, whatever the units shown.</p>
    </div>
    <WaitingNote :loading="loading" :error="error">
      <LetterheadForm :letterhead="letterheads.data.value?.[0]" />
    </WaitingNote>
    <div class="shop">
      <h2>The shop’s own figures</h2>
      <ul>
        <li>
          <RouterLink :to="{ name: 'match' }">Assumptions</RouterLink>
          <span class="note">what is taken where nothing was measured</span>
        </li>
        <li>
          <RouterLink :to="{ name: 'bench', query: { pane: 'checks' } }">Benches</RouterLink>
          <span class="note">meters, full scales, control head</span>
        </li>
        <li>
          <RouterLink :to="{ name: 'claims', query: { pane: 'sources' } }">Sources</RouterLink>
          <span class="note">who says what, and how far it is believed</span>
        </li>
        <li>
          <RouterLink :to="{ name: 'backups' }">Backups</RouterLink>
          <span class="note">{{ kept?.folder ?? '' }}</span>
        </li>
      </ul>
    </div>
    <div class="about">
      <h2>About</h2>
      <p>Alluvium {{ version }}. It runs on this machine alone, and needs no network.</p>
      <p v-if="kept?.free" class="note">
        {{ settings.say.number(kept.free / 1e9, 1) }} GB free where the library is kept.
      </p>
      <p class="note">
        Flow figures guide work on engines; they do not replace a licensed engine builder’s judgement, the makers’
        limits or local rules.
      </p>
      <details>
        <summary>Licences of what ships with it</summary>
        <pre>{{ notice }}</pre>
      </details>
    </div>
  </section>
</template>

<style scoped>
.settings {
  max-width: 820px;
}
h2 {
  margin: 18px 0 6px;
  font-size: 16px;
  border-bottom: 1px solid var(--rule-strong);
}
.mine {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 8px 24px;
}
.mine h2,
.wide {
  grid-column: 1 / -1;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
.note {
  margin: 4px 0 4px 10px;
}
p.note {
  margin-left: 0;
}
pre {
  white-space: pre-wrap;
  font-size: 13px;
}
</style>
