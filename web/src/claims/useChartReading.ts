import { format, type Side } from '@alluvium/core';
import type { Attachment, Sheet, Stage, WholeHead } from '@alluvium/records';
import { computed, ref, watch, type Ref } from 'vue';
import { useSettings } from '../state/settings.js';
import {
  MARKS,
  chartProblem,
  chartWords,
  emptyChart,
  markValue,
  pointsOf,
  readerOf,
  stateOf,
  type ChartState,
  type MarkName,
} from './chartReading.js';

interface Read {
  readonly whole: WholeHead;
  readonly stage: Stage;
  readonly sheet?: Sheet;
  readonly side: Side;
}

/**
 * The reading of one chart: its picture, two marks on each axis, points along the curves, with the way back; kept in this
 * browser until it is taken or given up. `placed` is told of a mark that was just set: its value is typed next.
 */
export function useChartReading(props: Read, placed: (mark: MarkName) => void) {
  const settings = useSettings();
  interface Kept {
    picture: Pick<Attachment, 'id' | 'width' | 'height'> | null;
    state: ChartState;
  }
  const before = props.sheet?.chart ?? undefined;
  const photo = props.whole.attachments.find((a) => a.id === before?.attachmentId);
  /** What is set stays in this browser until it is taken or given up. */
  const key = `alluvium.chart.${props.sheet?.id ?? props.stage.id}`;
  const left = localStorage.getItem(key);
  const kept = ref<Kept>(
    left
      ? (JSON.parse(left) as Kept)
      : {
          picture: photo ? { id: photo.id, width: photo.width, height: photo.height } : null,
          state: before ? stateOf(before) : emptyChart,
        },
  ) as Ref<Kept>;
  const unkeep = watch(kept, (now) => localStorage.setItem(key, JSON.stringify(now)));
  function forget(): void {
    unkeep();
    localStorage.removeItem(key);
  }
  const state = computed({ get: () => kept.value.state, set: (s) => (kept.value = { ...kept.value, state: s }) });
  const past = ref<ChartState[]>([]);
  function change(next: ChartState): void {
    past.value.push(state.value);
    state.value = next;
  }
  function back(): void {
    const earlier = past.value.pop();
    if (earlier) state.value = earlier;
  }

  const side = ref<Side>(props.side);
  const round = ref(true);
  const chosen = ref(-1);
  /** The mark that is set anew, else the first that is missing; undefined: a click puts a point. */
  const anew = ref<MarkName>();
  const placing = computed(() => anew.value ?? MARKS.find((m) => !state.value.at[m]));
  const PLACES: Record<MarkName, string> = {
    lift1: 'a place on the lift axis whose value is printed, near its beginning',
    lift2: 'another place on the lift axis, far along it',
    flow1: 'a place on the flow axis whose value is printed, near its beginning',
    flow2: 'another place on the flow axis, far along it',
  };
  function place(dot: [number, number]): void {
    const mark = placing.value;
    if (mark) {
      change({ ...state.value, at: { ...state.value.at, [mark]: dot } });
      anew.value = undefined;
      placed(mark);
    } else {
      change({ ...state.value, points: [...state.value.points, { side: side.value, dot }] });
      chosen.value = state.value.points.length - 1;
    }
  }
  function move(index: number, dot: [number, number], first: boolean): void {
    const next = { ...state.value, points: state.value.points.map((p, i) => (i === index ? { ...p, dot } : p)) };
    if (first) change(next);
    else state.value = next;
  }
  function takeOut(index: number): void {
    change({ ...state.value, points: state.value.points.filter((_, i) => i !== index) });
    chosen.value = Math.min(index, state.value.points.length - 1);
  }
  const value = (mark: MarkName, text: string) =>
    (state.value = { ...state.value, values: { ...state.value.values, [mark]: text } });
  const valueProblem = (mark: MarkName) => {
    if (!state.value.at[mark] || !state.value.values[mark]) return '';
    const v = markValue(state.value, mark, settings.system);
    return typeof v === 'string' ? v : '';
  };

  const reader = computed(() => readerOf(state.value, settings.system));
  const points = computed(() =>
    typeof reader.value === 'string' ? [] : pointsOf(state.value, reader.value, settings.system, round.value),
  );
  const says = computed(() => {
    if (!kept.value.picture) return 'Choose or drop a picture of the chart: a scan, a photo, a page of a catalogue.';
    if (placing.value) return `Click ${PLACES[placing.value]}.`;
    if (typeof reader.value === 'string') return reader.value;
    return `${chartWords(reader.value, (si, kind) => format(si, kind, settings.figures, kind === 'lift' ? { digits: 4 } : { digits: 2 }))} Click along the ${side.value} curve; drag points, arrows nudge, Delete takes one out.`;
  });
  const stands = computed(() =>
    typeof reader.value === 'string'
      ? reader.value || 'Set both axes first.'
      : chartProblem(points.value, settings.system),
  );
  return {
    before,
    photo,
    kept,
    state,
    past,
    back,
    forget,
    side,
    round,
    chosen,
    anew,
    placing,
    place,
    move,
    takeOut,
    value,
    valueProblem,
    reader,
    points,
    says,
    stands,
  };
}
