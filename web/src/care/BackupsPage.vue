<script setup lang="ts">
import type { BackupSummary } from '@alluvium/records';
import { computed, ref } from 'vue';
import { checkEverything, confirmClock, makeBackup, restoreBackup, signOut, useCare } from '../data/care.js';
import { sentenceOf } from '../data/library.js';
import { useChange } from '../data/useChange.js';
import WaitingNote from '../parts/WaitingNote.vue';
import { momentWords } from '../parts/moment.js';
import { useSettings } from '../state/settings.js';
import { sizeWords } from './words.js';

const settings = useSettings();

/** What keeps the library safe: its backups, and a look at everything in it. */
const care = useCare();
const change = useChange('here');
const error = computed(() => sentenceOf(care.error.value) ?? '');
/** How far a backup is put back, 0 to 1. */
const share = ref<number>();

const REASONS = {
  start: 'at a start',
  daily: 'once a day',
  import: 'before an import',
  restore: 'before another was put back',
  'by hand': 'by hand',
} as const satisfies Record<BackupSummary['reason'], string>;

const DAY_MS = 86_400_000;
const age = computed(() => {
  const newest = care.data.value?.backups[0];
  return newest ? Math.floor((Date.now() - Date.parse(newest.made)) / DAY_MS) : undefined;
});
const make = () =>
  change.run(
    makeBackup,
    ({ made, missing }) =>
      `The library is kept as it was at ${momentWords(made, settings.say)}${missing.length ? `, without ${photosWords(missing.length)} that cannot be read` : ''}.`,
  );
const photosWords = (n: number) => (n === 1 ? 'one photo' : `${n} photos`);
const check = () =>
  change.run(checkEverything, ({ damage, repaired }) =>
    damage.length > 0
      ? 'Something is damaged: see below.'
      : repaired.length > 0
        ? 'Everything was read; what was damaged is repaired.'
        : 'Everything was read, and is sound.',
  );
const trustClock = () => change.run(confirmClock, 'Old backups are removed again as before.');
async function putBack(backup: BackupSummary): Promise<void> {
  share.value = 0;
  await change.run(
    () => restoreBackup(backup.name, (s) => (share.value = s)),
    ({ lost }) =>
      `The library is what it was at ${momentWords(backup.made, settings.say)}${lost ? `, without ${photosWords(lost)} that the backup does not have` : ''}.`,
  );
  share.value = undefined;
}
async function leave(): Promise<void> {
  if (await change.run(signOut, 'Signed out.')) location.assign('/');
}
/** Reached over a network without a certificate. */
const open = !window.isSecureContext;
</script>

<template>
  <section class="backups">
    <h1>Backups</h1>
    <WaitingNote :loading="care.isPending.value" :error="error">
      <template v-if="care.data.value">
        <p v-if="care.data.value.folder === null" class="caution reading">
          Backups are switched off (ALLUVIUM_BACKUPS=none): nothing is kept but the library itself.
        </p>
        <p v-else class="reading">
          Everything, photos included, is kept by itself: at each start, once a day, before a large import, and before a
          backup is put back. Each is read again from end to end when it is made. The newest three stay, and one of each
          of the last seven days, four weeks and twelve months. A disk can fail as a whole: copy the folder of the
          backups to another machine now and then, or name one there with ALLUVIUM_BACKUPS. It is
          <code>{{ care.data.value.folder }}</code>
        </p>
        <p v-if="age !== undefined && age >= 7" class="caution" role="status">
          The newest backup is {{ age }} days old. Make one now.
        </p>
        <div v-if="care.data.value.clock" class="caution" role="alert">
          <p>
            This machine’s clock says {{ momentWords(care.data.value.clock.now, settings.say) }}; the library was last
            open at {{ momentWords(care.data.value.clock.known, settings.say) }}. Nothing old is removed until you say
            which is right. If the clock is wrong, set it; this note goes then.
          </p>
          <el-button :disabled="change.busy.value" @click="trustClock">The clock is right</el-button>
        </div>
        <div class="acts">
          <el-button type="primary" :disabled="care.data.value.folder === null || change.busy.value" @click="make">
            Make a backup now
          </el-button>
          <el-button :loading="change.busy.value && share === undefined" :disabled="change.busy.value" @click="check">
            Check everything
          </el-button>
          <el-button v-if="care.data.value.passphrase" @click="leave">Sign out of this browser</el-button>
          <span v-if="care.data.value.free !== null" class="note">
            {{ sizeWords(care.data.value.free, settings.say) }} free on the disk of the library
          </span>
        </div>
        <p v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</p>
        <el-progress
          v-if="share !== undefined"
          :percentage="Math.round(100 * share)"
          aria-label="How far the backup is put back"
        />
        <template v-if="care.data.value.check">
          <p v-if="care.data.value.check.damage.length === 0" class="note">
            Every record, index, photo and backup was read at {{ momentWords(care.data.value.check.at, settings.say) }}:
            {{ care.data.value.check.repaired.length ? 'sound now.' : 'all sound.' }}
          </p>
          <ul v-if="care.data.value.check.repaired.length" class="note">
            <li v-for="m in care.data.value.check.repaired" :key="m">{{ m }}</li>
          </ul>
          <div v-if="care.data.value.check.damage.length" class="loss" role="alert">
            <p>
              At {{ momentWords(care.data.value.check.at, settings.say) }} this was found damaged; put a backup back, or
              make a new one where a backup is what is damaged:
            </p>
            <ul>
              <li v-for="d in care.data.value.check.damage" :key="d">{{ d }}</li>
            </ul>
          </div>
        </template>
        <p v-if="care.data.value.backups.length === 0" class="reading">
          There is no backup yet. The first is made a moment after the next start, or now by hand.
        </p>
        <div v-else class="frame">
          <table class="ruled">
            <thead>
              <tr>
                <th scope="col">made</th>
                <th scope="col">why</th>
                <th scope="col" class="num">heads</th>
                <th scope="col" class="num">records</th>
                <th scope="col" class="num">photos</th>
                <th scope="col" class="num">size</th>
                <th scope="col"><span class="unseen">what can be done with it</span></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="b in care.data.value.backups" :key="b.name">
                <th scope="row">{{ momentWords(b.made, settings.say) }}</th>
                <td>{{ REASONS[b.reason] }}</td>
                <td class="num">{{ b.heads }}</td>
                <td class="num">{{ b.records }}</td>
                <td class="num">
                  <span v-if="b.missing.length" class="loss" :title="`Missing: ${b.missing.join(', ')}`">
                    {{ b.photos }} of {{ b.photos + b.missing.length }}
                  </span>
                  <template v-else>{{ b.photos || '' }}</template>
                </td>
                <td class="num">{{ sizeWords(b.bytes, settings.say) }}</td>
                <td>
                  <el-popconfirm
                    width="320"
                    :title="`Put the library back to ${momentWords(b.made, settings.say)}? What is here now is kept as a backup first.`"
                    confirm-button-text="Put it back"
                    cancel-button-text="Leave it"
                    @confirm="putBack(b)"
                  >
                    <template #reference>
                      <el-button link type="primary" :disabled="change.busy.value">Restore</el-button>
                    </template>
                  </el-popconfirm>
                  <a :href="`/api/backup/${b.name}/file`" download>Save the records</a>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <p v-if="open" class="note">
          This browser reaches the server without encryption: others on the network can read along, the passphrase
          included.
        </p>
      </template>
    </WaitingNote>
  </section>
</template>

<style scoped>
.backups {
  max-width: 940px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
  margin: 14px 0;
}
.acts .el-button {
  margin: 0;
}
.frame {
  overflow-x: auto;
}
tbody th {
  font-weight: 400;
  text-align: left;
  color: var(--ink);
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
}
td a {
  margin-left: 14px;
  color: inherit;
}
code,
li {
  overflow-wrap: anywhere;
}
</style>
