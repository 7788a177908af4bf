<script setup lang="ts">
import { targetBook } from '@alluvium/core';
import { CircleHelp, Ellipsis, Moon, Search, Sun } from '@lucide/vue';
import { computed, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ChoiceList from '../parts/ChoiceList.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { useSettings } from '../state/settings.js';
import { guideAt } from './router.js';
import HoverNote from '../parts/HoverNote.vue';

/** The build at hand in one line and what follows from it; every screen is read against it. */
defineProps<{ tour?: string | undefined }>();
defineEmits<{ keys: []; glossary: []; find: []; take: []; tour: [] }>();
const print = () => window.print();
const settings = useSettings();
const { active, builds, loading, error } = useActiveBuild();
const judging = useJudging();
const book = computed(
  () => active.value?.target && targetBook(active.value.core, active.value.target, judging.value.assumptions),
);
const route = useRoute();
const router = useRouter();

// A link may name its build: the strip follows it.
watch(
  () => route.query.build,
  (id) => {
    if (typeof id === 'string' && id && builds.value.some((b) => b.id === id)) settings.buildId = id;
  },
  { immediate: true },
);
watch(builds, () => {
  const id = route.query.build;
  if (typeof id === 'string' && builds.value.some((b) => b.id === id)) settings.buildId = id;
});
/** What is archived is not offered, unless it is the one at hand. */
const inHand = computed(() => builds.value.filter((b) => !b.archived || b.id === active.value?.build.id));
/** The guide opens at the chapter of this page. */
const guide = computed(() => guideAt(route));
const NEW = '+';
const chosen = computed({
  get: () => active.value?.build.id ?? '',
  set: (id) => {
    if (id === NEW) return void router.push({ name: 'target', query: { new: '1' } });
    settings.buildId = id;
    void router.push({ query: { ...route.query, build: id, new: undefined, hide: undefined } });
  },
});
const COUNTS = [
  '',
  'single',
  'twin',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];
const engine = computed(() => {
  const a = active.value;
  if (!a?.target) return '';
  const litres = settings.say.number(a.target.displacement.value * 1e3, 2);
  return [
    `${litres} L ${COUNTS[a.build.cylinders] ?? a.build.cylinders}`,
    a.build.compression?.typed,
    a.build.cam ? `lift ${settings.say.of(a.build.cam.intakeLift.si, 'lift')}` : '',
  ]
    .filter(Boolean)
    .join(' · ');
});
</script>

<template>
  <header>
    <RouterLink class="name" to="/" aria-label="Alluvium: the shop at a glance">Alluvium</RouterLink>
    <template v-if="active">
      <ChoiceList
        v-model="chosen"
        class="build"
        label="Build at hand"
        :options="[...inHand.map((b) => [b.id, b.name] as const), [NEW, 'a new build …'] as const]"
      />
      <HoverNote says="Open the target">
        <RouterLink class="engine" :to="{ name: 'target', query: { build: active.build.id } }">
          {{ engine }}
          <span class="wanted">
            <b>{{ settings.say.of(active.core.power, 'power') }}</b>
            at {{ settings.say.of(active.build.speed.si, 'rotation').replace(/\D+$/, '') }}
          </span>
        </RouterLink>
      </HoverNote>
      <p v-if="active.target" class="asks">
        <template v-if="active.target.demand">
          so each port must carry
          <b><WorkedNumber :working="active.target.demand" :book="book" terse :digits="0" /></b>
          at 28 in ·
        </template>
        choke at least
        <b><WorkedNumber :working="active.target.areaNeeded" :book="book" terse /></b>
        <template v-if="active.target.usefulLift">
          · flow counts to
          <b>{{ settings.say.of(active.target.usefulLift, 'lift') }}</b>
        </template>
      </p>
      <p v-else class="asks caution">{{ active.problem }}</p>
    </template>
    <p v-else class="asks">
      {{ loading ? 'Loading the builds …' : error || 'No build yet: say which engine it is for.' }}
    </p>
    <div class="tools">
      <ChoiceList
        v-model="settings.system"
        class="units"
        label="Units"
        :options="[
          ['inch', 'inches'],
          ['metric', 'metric'],
        ]"
      />
      <el-button
        link
        class="plain"
        :aria-label="settings.theme === 'night' ? 'Light theme' : 'Night theme'"
        @click="settings.theme = settings.theme === 'night' ? 'light' : 'night'"
      >
        <Sun v-if="settings.theme === 'night'" :size="17" />
        <Moon v-else :size="17" />
      </el-button>
      <HoverNote says="Find: Ctrl K">
        <el-button link class="plain" aria-label="Find" @click="$emit('find')">
          <Search :size="17" />
        </el-button>
      </HoverNote>
      <RouterLink class="plain" :to="guide" aria-label="Guide"><CircleHelp :size="17" /></RouterLink>
      <el-dropdown trigger="click">
        <el-button link class="plain" aria-label="More"><Ellipsis :size="17" /></el-button>
        <template #dropdown>
          <el-dropdown-menu>
            <el-dropdown-item v-if="tour" @click="$emit('tour')">Tour of this page</el-dropdown-item>
            <el-dropdown-item @click="$emit('take')">Export this page …</el-dropdown-item>
            <el-dropdown-item @click="print">Print this page</el-dropdown-item>
            <el-dropdown-item divided @click="router.push({ name: 'settings' })">Settings</el-dropdown-item>
            <el-dropdown-item @click="router.push({ name: 'backups' })">Backups</el-dropdown-item>
            <el-dropdown-item @click="$emit('glossary')">Glossary</el-dropdown-item>
            <el-dropdown-item @click="$emit('keys')">Keys</el-dropdown-item>
          </el-dropdown-menu>
        </template>
      </el-dropdown>
    </div>
  </header>
</template>

<style scoped>
header {
  grid-area: strip;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 14px 0 20px;
  border-bottom: 1px solid var(--rule-strong);
  white-space: nowrap;
  overflow: hidden;
}
.name {
  width: 99px;
  font-size: 20px;
  font-weight: 600;
  color: inherit;
  text-decoration: none;
}
.build {
  flex: none;
  width: 132px;
  font-weight: 600;
}
.engine {
  color: inherit;
  text-decoration: none;
  overflow: hidden;
  text-overflow: ellipsis;
}
.wanted {
  margin-left: 12px;
}
b {
  font-weight: 600;
}
.asks {
  margin: 0;
  color: var(--slate);
  overflow: hidden;
  text-overflow: ellipsis;
}
.asks b {
  color: var(--ink);
}
.tools {
  margin-left: auto;
  display: flex;
  align-items: center;
  gap: 12px;
}
.tools .plain {
  display: flex;
  color: inherit;
  padding: 3px;
}
.units {
  flex: none;
  width: 66px;
}
@media (width < 700px) {
  .units,
  .asks {
    display: none;
  }
  .tools {
    gap: 6px;
  }
}
@media (max-width: 1150px) {
  .engine {
    display: none;
  }
}
</style>
