<script setup lang="ts">
import { Plan, addition, blankSetup, removal, takenOver, type Session, setupInForce } from '@alluvium/records';
import { computed, defineAsyncComponent, onScopeDispose } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { newId } from '../data/ids.js';
import { useListOf } from '../data/queries.js';
import HeadInHand from '../parts/HeadInHand.vue';
import NoHead from '../parts/NoHead.vue';
import TabRow from '../parts/TabRow.vue';
import { today } from '../data/today.js';
import { useActiveBuild } from '../data/build.js';
import { useHeadInHand } from '../data/inHand.js';
import { useChange } from '../data/useChange.js';
import { useSettings } from '../state/settings.js';
import InstrumentsPane from './InstrumentsPane.vue';
import { useBenchLive } from './live.js';

const CalibrationPane = defineAsyncComponent(() => import('./CalibrationPane.vue'));
const EyePane = defineAsyncComponent(() => import('./EyePane.vue'));

/** The bench: the sessions of the head in hand, the bench itself, the eye that calls, the instruments. */
const props = defineProps<{ id?: string }>();
const settings = useSettings();
const route = useRoute();
const router = useRouter();
const change = useChange('here');
const { busy } = change;
const sources = useListOf('source');
const live = useBenchLive();
onScopeDispose(live.use());
const { active } = useActiveBuild();
const { whole, stage, error, loading, toStage } = useHeadInHand('bench', () => props.id ?? '');
const calibrations = useListOf('calibration');

const PANES = [
  ['sessions', 'sessions'],
  ['checks', 'calibration'],
  ['eye', 'prediction accuracy'],
  ['instruments', 'instruments'],
] as const;
type Pane = (typeof PANES)[number][0];
const pane = computed<Pane>(() => PANES.find(([p]) => p === route.query.pane)?.[0] ?? 'sessions');
const sessions = computed(() => [...(whole.value?.sessions ?? [])].reverse());
const stageName = (id: string) => whole.value?.stages.find((s) => s.id === id)?.name ?? '';
const problem = change.refusal;

/** A new session: the plan and the set-up of the last one of this head, else lifts up to past the cam. */
async function begin(): Promise<void> {
  if (!whole.value || !stage.value) return;
  const last = whole.value.sessions.at(-1);
  const lift = active.value?.build.cam?.intakeLift.si ?? 0.0122;
  const top = Math.ceil((lift / 0.0254) * 10 - 1e-9) / 10;
  const port = Math.min(3, whole.value.head.cylinders ?? 3);
  const id = newId();
  const made = await change.make(
    [
      addition('session', {
        id,
        headId: whole.value.head.id,
        stageId: stage.value.id,
        sourceId: last?.sourceId ?? sources.data.value?.find((s) => s.kind === 'own bench')?.id ?? null,
        title: `Test of ${today()}`,
        date: today(),
        plan: last?.plan ?? Plan.parse({ ports: [{ number: port }], step: '.100 in', to: `${top.toFixed(3)} in` }),
        setups: [last ? takenOver(setupInForce(last)) : blankSetup()],
      }),
    ],
    'A bench session is begun.',
  );
  if (made) await router.push({ name: 'session', params: { id } });
}
const remove = (s: Session) => change.make([removal('session', s.id)], `“${s.title}” removed; its sheets stay.`);
const state = (s: Session) => (s.finished ? 'finished' : 'open');
const gist = (s: Session) =>
  `port ${s.plan.ports.map((p) => p.number).join(', ')}; ${s.plan.sides.join(' and ')}${s.setups.length > 1 ? `; ${s.setups.length} set-ups` : ''}`;
</script>

<template>
  <section v-if="whole && stage">
    <header>
      <h1 class="unseen">Bench {{ whole.head.name }}</h1>
      <HeadInHand step="bench" :whole="whole" :stage="stage" @stage="toStage" />
      <TabRow
        class="panes"
        label="What is shown"
        :model-value="pane"
        :options="PANES"
        @update:model-value="
          router.replace({ query: { ...route.query, pane: $event === 'sessions' ? undefined : $event } })
        "
      />
    </header>
    <template v-if="pane === 'sessions'">
      <p>
        <el-button type="primary" :loading="busy" @click="begin">Start a session at “{{ stage.name }}”</el-button>
        <span class="note count">
          {{
            live.instruments.length
              ? `${live.instruments.length} instruments are connected.`
              : 'No instrument is connected: figures are typed.'
          }}
        </span>
      </p>
      <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
      <p v-if="sessions.length === 0" class="reading">
        This head has not been on the bench here. A session asks how it is set up before it takes a reading, calls the
        lifts, records when the air is steady, and forgets nothing.
      </p>
      <table v-else class="ruled">
        <thead>
          <tr>
            <th>session</th>
            <th>date</th>
            <th>stage</th>
            <th>what</th>
            <th>state</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in sessions" :key="s.id">
            <td>
              <RouterLink
                :to="{ name: 'session', params: { id: s.id }, query: { pane: s.finished ? 'sheet' : 'plan' } }"
              >
                {{ s.title }}
              </RouterLink>
            </td>
            <td>{{ settings.say.day(s.date ?? '') }}</td>
            <td>{{ stageName(s.stageId) }}</td>
            <td>{{ gist(s) }}</td>
            <td>{{ state(s) }}{{ s.stopped ? `: ${s.stopped}` : '' }}</td>
            <td>
              <el-button link :aria-label="`Remove ${s.title}`" @click="remove(s)">Remove</el-button>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <CalibrationPane v-else-if="pane === 'checks'" :calibrations="calibrations.data.value ?? []" />
    <EyePane v-else-if="pane === 'eye'" />
    <InstrumentsPane v-else />
  </section>
  <NoHead v-else :loading="loading" :error="error" />
</template>

<style scoped>
header {
  display: flex;
  gap: 22px;
  align-items: baseline;
  margin-bottom: 14px;
}
.panes {
  margin-left: auto;
}
.count {
  margin-left: 14px;
}
</style>
