import { parseQuantity, selfCrossing } from '@alluvium/core';
import { PICTURE_TYPES } from '@alluvium/records';
import { computed, onBeforeUnmount, ref, type Ref } from 'vue';
import { ARROWS, dotAt, useCross, type Dot } from '../parts/dots.js';
import { useSettings } from '../state/settings.js';

// svg.value!: it is pointed at.
// perPixel.value!: looked for in front of it.

/** What is set on the photo, in its pixels. */
interface State {
  readonly scale: readonly Dot[];
  readonly outline: readonly Dot[];
}
/**
 * The tracing of a section on its photo `svg`: the two points of its scale, then the outline, by mouse, touch or keys, with
 * the way back. `points`: the outline in metres, y up, once the scale is known.
 */
export function useTrace(svg: Readonly<Ref<SVGSVGElement | null>>) {
  const settings = useSettings();
  const url = ref('');
  const size = ref({ width: 1000, height: 700 });
  const state = ref<State>({ scale: [], outline: [] });
  const past = ref<State[]>([]);
  const distance = ref('');
  const chosen = ref(-1);
  const problem = ref('');
  onBeforeUnmount(() => url.value && URL.revokeObjectURL(url.value));

  function open(file: File | undefined): void {
    if (!file) return;
    if (!Object.keys(PICTURE_TYPES).includes(file.type)) {
      problem.value = `“${file.name}” is no picture this program takes: JPEG, PNG or WebP.`;
      return;
    }
    problem.value = '';
    if (url.value) URL.revokeObjectURL(url.value);
    url.value = URL.createObjectURL(file);
    const image = new Image();
    image.onload = () => (size.value = { width: image.naturalWidth, height: image.naturalHeight });
    image.onerror = () => {
      problem.value = `“${file.name}” cannot be shown as a picture.`;
      url.value = '';
    };
    image.src = url.value;
  }
  function change(next: Partial<State>): void {
    past.value.push(state.value);
    state.value = { ...state.value, ...next };
  }
  function back(): void {
    const before = past.value.pop();
    if (before) state.value = before;
    chosen.value = -1;
  }
  const at = (event: PointerEvent) => dotAt(svg.value!, event);
  const { cross, step } = useCross(() => size.value);
  function place(p: Dot): void {
    if (!url.value) return;
    if (state.value.scale.length < 2) change({ scale: [...state.value.scale, p] });
    else change({ outline: [...state.value.outline, p] });
  }
  let dragging = -1;
  function press(event: PointerEvent): void {
    const dot = (event.target as Element).getAttribute('data-dot');
    if (dot !== null) {
      dragging = Number(dot);
      chosen.value = dragging;
      past.value.push(state.value);
      svg.value!.setPointerCapture(event.pointerId);
      return;
    }
    if (!url.value) return;
    const p = at(event);
    if (state.value.scale.length < 2) change({ scale: [...state.value.scale, p] });
    else {
      // A new point goes in after the one chosen, else at the end.
      const outline = state.value.outline.slice();
      const place = chosen.value >= 0 ? chosen.value + 1 : outline.length;
      outline.splice(place, 0, p);
      change({ outline });
      chosen.value = place;
    }
  }
  function drag(event: PointerEvent): void {
    if (dragging < 0) return;
    const outline = state.value.outline.slice();
    outline[dragging] = at(event);
    state.value = { ...state.value, outline };
  }
  const release = () => (dragging = -1);
  function onKey(event: KeyboardEvent): void {
    if ((event.target as HTMLElement).tagName === 'INPUT') return;
    const move = ARROWS[event.key];
    const point = state.value.outline[chosen.value];
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') back();
    else if (move && !point) step(move, event.shiftKey);
    else if ((event.key === ' ' || event.key === 'Enter') && cross.value && (event.target as Element) === svg.value)
      place(cross.value);
    else if (move && point) {
      const outline = state.value.outline.slice();
      const by = event.shiftKey ? 10 : 1;
      outline[chosen.value] = [point[0] + move[0] * by, point[1] + move[1] * by];
      change({ outline });
    } else if ((event.key === 'Delete' || event.key === 'Backspace') && point) {
      change({ outline: state.value.outline.filter((_, i) => i !== chosen.value) });
      chosen.value = Math.min(chosen.value, state.value.outline.length - 1);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }
  const known = computed(() => {
    const parsed = parseQuantity(distance.value, 'length', settings.system);
    return parsed.ok && parsed.quantity.si > 0 ? parsed.quantity.si : undefined;
  });
  /** Metres in a pixel of the photo. */
  const perPixel = computed(() => {
    const [a, b] = state.value.scale;
    if (!a || !b || known.value === undefined) return undefined;
    const pixels = Math.hypot(a[0] - b[0], a[1] - b[1]);
    return pixels > 1 ? known.value / pixels : undefined;
  });
  const points = computed(() =>
    perPixel.value === undefined
      ? []
      : state.value.outline.map(([x, y]): [number, number] => [x * perPixel.value!, -y * perPixel.value!]),
  );
  const crossing = computed(() => (points.value.length > 3 ? selfCrossing(points.value) : undefined));
  const crossingAt = computed(() => {
    const c = crossing.value;
    return c && perPixel.value ? ([c.at[0] / perPixel.value, -c.at[1] / perPixel.value] as Dot) : undefined;
  });
  return {
    url,
    size,
    state,
    past,
    distance,
    chosen,
    problem,
    cross,
    known,
    points,
    crossing,
    crossingAt,
    open,
    change,
    back,
    press,
    drag,
    release,
    onKey,
  };
}
