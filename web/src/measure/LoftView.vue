<script setup lang="ts">
import { loft, writeStl, type Loft, type Section, type StationBudget } from '@alluvium/core';
import { useElementSize } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue';
import { download } from '../charts/save.js';
import ChoiceField from '../parts/ChoiceField.vue';
import { useSettings } from '../state/settings.js';
import type { LoftBody, LoftScene } from './loftScene.js';

// norm[]!: one for each section.
// w.front!, w.rear!, w.roof!, w.floor!: looked for in front of it.
// made.value.loft!, canvas.value!: drawn and exported once it is made.

/** The lofted port, turnable, coloured by area or by metal left, the same port of another head beside it, saved as STL. */
const props = defineProps<{
  name: string;
  sections: readonly Section[];
  budget: readonly StationBudget[] | undefined;
  others: readonly { letter: string; name: string; sections: readonly Section[] }[];
}>();
const settings = useSettings();
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
const box = useTemplateRef<HTMLElement>('box');
const { width } = useElementSize(box);
const problem = ref('');
const colour = ref<'area' | 'metal'>('area');
const beside = ref('');
let scene: LoftScene | undefined;

const made = computed(() => {
  try {
    return { loft: loft(props.sections), problem: '' };
  } catch (error) {
    return { loft: undefined, problem: (error as Error).message };
  }
});
/** Thin metal reads as 1, 8 mm and more as 0. */
const THICK = 0.008;
function shadeOf(body: Loft, sections: readonly Section[], by: 'area' | 'metal'): number[][] {
  const areaOf = (s: Section) =>
    props.budget
      ?.find((b) => Math.abs(b.station - s.station) < 1e-6)
      ?.sections.find((x) => x.section.branch === s.branch)?.area;
  const values = sections.map((s) => {
    if (by === 'area') return areaOf(s) ?? 0;
    const walls = Object.values(s.walls).map((w) => w.thickness);
    return walls.length ? 1 - Math.min(1, Math.min(...walls) / THICK) : 0;
  });
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const norm = values.map((v) => (by === 'metal' ? v : high > low ? 1 - (v - low) / (high - low) : 0));
  const sorted = [...sections].sort((a, b) => a.station - b.station);
  return ([0, 1, 2] as const)
    .map((branch) => sorted.filter((s) => s.branch === branch))
    .filter((list) => list.length > 1)
    .slice(0, body.tubes.length)
    .map((list) => list.map((s) => norm[sections.indexOf(s)]!));
}
/** Sections grown by their walls: the skin of metal round the port. */
const skin = computed(() => {
  if (props.sections.some((s) => Object.keys(s.walls).length < 4)) return undefined;
  const grown = props.sections.map((s): Section => {
    const w = s.walls;
    const width = 'width' in s.shape ? s.shape.width : undefined;
    if (width === undefined) return s;
    const height = 'height' in s.shape ? s.shape.height : width;
    return {
      ...s,
      shape: {
        kind: 'rectangle',
        width: width + w.front!.thickness + w.rear!.thickness,
        height: height + w.roof!.thickness + w.floor!.thickness,
        radius: Math.min(width, height) * 0.3,
      },
    };
  });
  return loft(grown, 48);
});
const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** A second port stands beside the first, moved over by both their widths. */
function moved(body: Loft): Loft {
  const own = made.value.loft!;
  const reach = (l: Loft) =>
    Math.max(...l.tubes.flatMap((t) => [...t.positions].filter((_, i) => i % 3 === 2).map(Math.abs)));
  const shift = (reach(own) + reach(body)) * 1.25;
  return {
    ...body,
    tubes: body.tubes.map((t) => ({ ...t, positions: t.positions.map((v, i) => (i % 3 === 2 ? v + shift : v)) })),
  };
}
/** The port at once; its skin follows in the next frame, so that the first picture does not wait for it. */
function paint(withSkin: boolean): void {
  if (!scene || !made.value.loft) return;
  const other = props.others.find((o) => o.letter === beside.value);
  const bodies: LoftBody[] = [
    { loft: made.value.loft, shade: shadeOf(made.value.loft, props.sections, colour.value) },
    ...(withSkin && skin.value && !other ? [{ loft: skin.value, skin: true }] : []),
    ...(other ? [{ loft: moved(loft(other.sections)) }] : []),
  ];
  scene.show(bodies, {
    low: css('--water'),
    high: colour.value === 'metal' ? css('--loss') : css('--intake'),
    metal: css('--caution-line'),
  });
  if (!withSkin && !other) requestAnimationFrame(() => paint(true));
}
const HEIGHT = 430;
onMounted(async () => {
  try {
    const { openLoftScene } = await import('./loftScene.js');
    scene = openLoftScene(canvas.value!);
    scene.resize(Math.max(320, width.value), HEIGHT);
    paint(false);
  } catch {
    problem.value =
      'This browser shows no 3-D (WebGL is off or missing). The sections and the river say the same; STL can be saved all the same.';
  }
});
onBeforeUnmount(() => scene?.close());
watch(width, (w) => scene?.resize(Math.max(320, w), HEIGHT));
watch([() => props.sections, () => props.budget, colour, beside, () => settings.theme], () => paint(true));

function onKey(event: KeyboardEvent): void {
  const turns: Record<string, [number, number]> = {
    ArrowLeft: [0.15, 0],
    ArrowRight: [-0.15, 0],
    ArrowUp: [0, 0.12],
    ArrowDown: [0, -0.12],
  };
  const turn = turns[event.key];
  if (!turn) return;
  scene?.turn(...turn);
  event.preventDefault();
}
function saveStl(): void {
  const stl = writeStl(made.value.loft!.tubes);
  download(`${props.name.replace(/[^\w.-]+/g, '-')}.stl`, new Blob([stl], { type: 'model/stl' }));
}
</script>

<template>
  <div>
    <p class="bar">
      <ChoiceField
        v-model="colour"
        label="Coloured by"
        :options="[
          ['area', 'area, deep where narrow'],
          ['metal', 'metal left, red where thin'],
        ]"
      />
      <ChoiceField
        v-model="beside"
        label="Beside it"
        :options="[
          ['', 'nothing, the metal as a skin'] as const,
          ...others.map((o) => [o.letter, `${o.letter} ${o.name}`] as const),
        ]"
      />
      <el-button link :disabled="!made.loft" @click="saveStl">Export STL, millimetres</el-button>
      <span class="note">drag or use the arrows to turn, wheel to come nearer</span>
    </p>
    <p v-if="made.problem" class="reading">{{ made.problem }}</p>
    <p v-if="problem" class="reading" role="alert">{{ problem }}</p>
    <div v-show="!problem && !made.problem" ref="box" class="stage">
      <canvas ref="canvas" tabindex="0" role="img" :aria-label="`The lofted port of ${name}`" @keydown="onKey" />
    </div>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 24px;
  align-items: end;
  margin: 0 0 8px;
}
.bar .field {
  width: 220px;
}
.stage {
  height: 430px;
  border: 1px solid var(--rule);
}
canvas {
  display: block;
  width: 100%;
  height: 430px;
  cursor: grab;
}
</style>
