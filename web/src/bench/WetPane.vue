<script setup lang="ts">
import {
  WET_MARKS,
  addition,
  portOf,
  removal,
  replacement,
  type Step,
  type WetFlow,
  type WholeHead,
  type WholeSession,
} from '@alluvium/records';
import { computed, ref } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import FilePick from '../parts/FilePick.vue';
import PressArea from '../parts/PressArea.vue';
import { addPhoto } from '../data/client.js';
import TextField from '../parts/TextField.vue';
import { PICTURES, pictureProblem } from '../parts/picture.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';

// session.plan.sides[]!, session.plan.ports[]!: a plan has one of each at least.
// look.marks[]!: a line of the list is a mark.

/** How fluid runs through the port: a photo, and marks where it streams, stays dry, pools or shears off. */
const props = defineProps<{ whole: WholeSession; head: WholeHead }>();
const change = useChange('here');
const problem = ref('');
const busy = ref(false);
const kind = ref<(typeof WET_MARKS)[number]>('stream');
const looks = computed(() => props.whole.wetFlows);

async function make(step: Step, what: string): Promise<void> {
  await change.make([step], what);
  problem.value = change.refusal.value;
}
async function take([file]: File[]): Promise<void> {
  if (!file) return;
  problem.value = pictureProblem(file);
  if (problem.value) return;
  busy.value = true;
  const { session } = props.whole;
  const photo = await change.run(
    () => addPhoto(file, { head: session.headId, session: session.id }),
    'The photo is kept.',
  );
  problem.value = change.refusal.value;
  const side = session.plan.sides[0]!;
  if (photo)
    await make(
      addition('wetflow', {
        stageId: session.stageId,
        sessionId: session.id,
        portId: portOf(props.head.ports, side, session.plan.ports[0]!.number)?.id ?? null,
        side,
        attachmentId: photo.record.id,
        date: today(),
      }),
      'A wet-flow photo is kept.',
    );
  busy.value = false;
}
const put = (look: WetFlow, to: Partial<WetFlow>, what: string) =>
  make(replacement('wetflow', { ...look, ...to }), what);
function mark(look: WetFlow, event: MouseEvent): void {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  // Enter on the picture puts the mark in its middle, to be moved by the arrows.
  const x = event.detail === 0 ? 0.5 : (event.clientX - box.left) / box.width;
  const y = event.detail === 0 ? 0.5 : (event.clientY - box.top) / box.height;
  void put(look, { marks: [...look.marks, { x, y, kind: kind.value, text: '' }] }, `Marked: ${kind.value}.`);
}
const changeMark = (look: WetFlow, i: number, to: Partial<WetFlow['marks'][number]>) =>
  put(look, { marks: look.marks.map((m, k) => (k === i ? { ...m, ...to } : m)) }, 'The mark is changed.');
/** What is typed beside a mark, until the field is left. */
const texts = ref<Record<string, string>>({});
async function name(look: WetFlow, i: number): Promise<void> {
  const text = texts.value[look.id + i];
  if (text !== undefined && text.trim() !== look.marks[i]!.text) await changeMark(look, i, { text });
  delete texts.value[look.id + i];
}
const STEP: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-0.02, 0],
  ArrowRight: [0.02, 0],
  ArrowUp: [0, -0.02],
  ArrowDown: [0, 0.02],
};
function nudge(look: WetFlow, i: number, event: KeyboardEvent): void {
  const step = STEP[event.key];
  const m = look.marks[i]!;
  if (event.key === 'Delete') void put(look, { marks: look.marks.filter((_, k) => k !== i) }, 'The mark is removed.');
  if (!step) return;
  event.preventDefault();
  const within = (v: number) => Math.max(0, Math.min(1, v));
  void changeMark(look, i, { x: within(m.x + step[0]), y: within(m.y + step[1]) });
}
const remove = (look: WetFlow) => make(removal('wetflow', look.id), 'The wet-flow look is removed.');
</script>

<template>
  <div class="wet" data-own-keys>
    <p class="acts">
      <FilePick :accept="PICTURES" :disabled="busy" @files="take">
        {{ busy ? 'Saving …' : '+ photo of the wet port' }}
      </FilePick>
      <ChoiceField
        v-if="looks.length"
        v-model="kind"
        label="The next mark is"
        :options="WET_MARKS.map((k) => [k, k] as const)"
      />
    </p>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
    <p v-if="looks.length === 0" class="reading">
      No wet-flow look yet. Use a fluid that is made for it, out of reach of flame and sparks, and mind your eyes; then
      photograph where it streams and where it stays dry.
    </p>
    <figure v-for="look in looks" :key="look.id">
      <div class="picture">
        <PressArea :aria-label="`Put a mark (${kind})`" @click="mark(look, $event)">
          <img :src="`/api/attachment/${look.attachmentId}/picture`" alt="Wet port" />
        </PressArea>
        <PressArea
          v-for="(m, i) in look.marks"
          :key="i"
          class="mark"
          :class="m.kind"
          :style="{ left: `${m.x * 100}%`, top: `${m.y * 100}%` }"
          :aria-label="`Mark ${i + 1}, ${m.kind} ${m.text}: arrows move it, Delete takes it out`"
          @keydown="nudge(look, i, $event)"
        >
          {{ i + 1 }}
        </PressArea>
      </div>
      <figcaption>
        <ol>
          <li v-for="(m, i) in look.marks" :key="i">
            <b>{{ m.kind }}</b>
            <TextField
              :model-value="texts[look.id + i] ?? m.text"
              :label="`What mark ${i + 1} shows`"
              @update:model-value="texts[look.id + i] = $event"
              @focusout="name(look, i)"
            />
          </li>
        </ol>
        <p v-if="look.marks.length === 0" class="note">Press on the picture to mark a place.</p>
        <el-button link @click="remove(look)">Remove this look</el-button>
      </figcaption>
    </figure>
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  gap: 24px;
  align-items: center;
}
figure {
  display: grid;
  grid-template-columns: minmax(0, 620px) 1fr;
  gap: 24px;
  margin: 12px 0;
}
@media (width < 760px) {
  figure {
    grid-template-columns: minmax(0, 1fr);
  }
}
.picture {
  position: relative;
  align-self: start;
}
.picture img {
  display: block;
  width: 100%;
  cursor: crosshair;
}
.mark {
  position: absolute;
  transform: translate(-50%, -50%);
  width: 24px;
  height: 24px;
  border-radius: 50%;
  text-align: center;
  line-height: 24px;
  font-size: 14px;
  background: var(--paper);
  border: 2px solid var(--ink);
}
.mark.stream {
  border-color: var(--intake);
}
.mark.dry {
  border-style: dashed;
}
.mark.pool {
  border-radius: 4px;
}
.mark.shear {
  border-color: var(--loss);
}
ol {
  padding-left: 20px;
  margin: 0;
}
</style>
