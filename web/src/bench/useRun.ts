import {
  depressionVerdict,
  depressionWords,
  format,
  noted,
  rangeAdvice,
  rangeUse,
  rangeWords,
  standardFlow,
  work,
  written,
  type Quantity,
  type RangeAdvice,
  type Side,
  type Steadiness,
  type Working,
} from '@alluvium/core';
import {
  isMetric,
  kept,
  liftQuantity,
  oddPulls,
  plannedPoints,
  samePoint,
  sheetSetup,
  toCoreSetup,
  unanswered,
  type PlannedPoint,
  type RawReading,
  type ReadingWrite,
  type Setup,
  type WholeSession,
} from '@alluvium/records';
import { computed, ref, shallowRef, watch, type ComputedRef, type Ref } from 'vue';
import { useBenchLive } from './live.js';
import type { SessionPage } from '../data/session.js';
import { useSettings } from '../state/settings.js';
import { newId } from '../data/ids.js';
import { tone } from './sound.js';
import { useStream } from './useStream.js';

// setup.value!, setup.value.depression!, depression.value!, point.value!, points.value[]!: orders are given at a point of a plan whose set-up was answered.
// raw.value!, bench.value!, byHand.value.value!, samples[]!: looked at where the bench, or a hand, gave a figure.

/** How far the dial may stand from the lift that is called, m: two thousandths. */
const DIAL_TOLERANCE = 0.0000508;

export interface ByHand {
  value: Quantity | null;
  depression: Quantity | null;
  range: string;
  swirl: Quantity | null;
}

/** What the operator is told in a line: nothing, a fact, or what stands in the way. */
export interface RunMessage {
  readonly text: string;
  readonly tone: 'fact' | 'ask' | 'stop';
}

export interface Run {
  readonly points: ComputedRef<readonly PlannedPoint[]>;
  readonly point: ComputedRef<PlannedPoint | undefined>;
  readonly next: ComputedRef<PlannedPoint | undefined>;
  readonly lift: (si: number) => string;
  readonly recordedHere: ComputedRef<RawReading | undefined>;
  /** The port and side on the bench, once the operator said so. */
  readonly standing: Ref<{ number: number; side: Side } | undefined>;
  readonly needsTurn: ComputedRef<boolean>;
  readonly byHand: Ref<ByHand>;
  readonly manual: ComputedRef<boolean>;
  readonly auto: Ref<boolean>;
  readonly again: Ref<boolean>;
  readonly state: ComputedRef<Steadiness & { readonly silent: boolean }>;
  readonly reads: ComputedRef<Working | undefined>;
  readonly depression: ComputedRef<number | undefined>;
  readonly range: ComputedRef<string>;
  readonly advice: ComputedRef<RangeAdvice | undefined>;
  /** Share of the range in use. */
  readonly use: ComputedRef<Working | undefined>;
  readonly adviceWords: ComputedRef<string>;
  readonly depressionSays: ComputedRef<string>;
  readonly dial: ComputedRef<number | undefined>;
  readonly swirl: ComputedRef<number | undefined>;
  readonly message: Ref<RunMessage | undefined>;
  readonly setup: ComputedRef<Setup | undefined>;
  readonly gate: ComputedRef<readonly string[]>;
  readonly busy: Ref<boolean>;
  readonly record: () => Promise<void>;
  readonly move: (by: number) => void;
  readonly retake: () => void;
  readonly noise: () => Promise<void>;
  readonly skip: (reason: string) => Promise<void>;
  readonly undo: () => Promise<void>;
  readonly shiftRange: (by: number) => void;
  /** Puts what the hand typed. */
  readonly typed: (change: Partial<ByHand>) => void;
}

/**
 * The run of a session: which point is called, whether the reading is steady, what stands in the way of recording it,
 * and what follows when it is recorded. `factor` is what the calibration gave.
 */
export function useRun(
  session: SessionPage,
  factor: () => number | undefined,
  options: { sound: () => boolean; onTurn?: (to: PlannedPoint) => void },
): Run {
  const live = useBenchLive();
  const settings = useSettings();
  const whole = computed<WholeSession | undefined>(() => session.whole.value);
  const plan = computed(() => whole.value?.session.plan);
  const readings = computed(() => kept(whole.value?.readings ?? []));
  const points = computed(() => (plan.value ? plannedPoints(plan.value) : []));
  const metric = computed(() => plan.value !== undefined && isMetric(plan.value));
  const at = ref(0);
  const standing = ref<{ number: number; side: Side }>();
  const byHand = ref<ByHand>({ value: null, depression: null, range: '', swirl: null });
  const put = (change: Partial<ByHand>) => (byHand.value = { ...byHand.value, ...change });
  const auto = ref(false);
  const again = ref(false);
  const busy = ref(false);
  const message = shallowRef<RunMessage>();
  /** Pressed once while it still settled: the second press records it as noisy. */
  let insisted = false;
  /** What is told is what stood in the way: it goes when nothing does any more. */
  let blocked = false;

  const answers = computed(() => whole.value?.session.setups.at(-1));
  const setup = computed(() => (answers.value ? sheetSetup(answers.value, factor()) : undefined));
  const gate = computed(() =>
    answers.value && plan.value ? unanswered(answers.value, plan.value.sides).map((u) => u.sentence) : [],
  );
  const point = computed(() => points.value[at.value]);
  const readingAt = (p: PlannedPoint | undefined) => p && readings.value.find((r) => samePoint(p, r));
  const recordedHere = computed(() => readingAt(point.value));
  /** The next point from an index on that is neither recorded nor skipped; then any left before it. */
  const openFrom = (from: number): number => {
    const open = (p: PlannedPoint) => !readingAt(p);
    const after = points.value.findIndex((p, i) => i >= from && open(p));
    return after >= 0 ? after : points.value.findIndex(open);
  };
  const next = computed(() => {
    const i = points.value.findIndex((p, k) => k > at.value && !readingAt(p));
    return i < 0 ? undefined : points.value[i];
  });
  const needsTurn = computed(
    () =>
      point.value !== undefined &&
      (standing.value?.number !== point.value.number || standing.value.side !== point.value.side),
  );

  const stream = useStream(
    () => (setup.value?.reads === 'flow' ? 'flow' : 'percent'),
    () => plan.value?.steady,
  );
  const { bench, manual, state, dial, fresh } = stream;
  const range = computed(() => stream.range.value ?? (byHand.value.range || setup.value?.ranges[0]?.name || ''));
  const swirl = computed(() => (plan.value?.swirl && point.value?.side === 'intake' ? stream.swirl.value : undefined));
  const depression = computed(() => (manual.value ? byHand.value.depression?.si : stream.depression.value));
  const ranges = computed(() => {
    const { side } = point.value ?? { side: 'intake' as Side };
    return (setup.value?.ranges ?? []).flatMap((r) => {
      const fullScale = r[side]?.si;
      return fullScale ? [{ name: r.name, fullScale }] : [];
    });
  });
  const fullScale = computed(() => ranges.value.find((r) => r.name === range.value)?.fullScale);
  /** The reading as it stands: share of the range, or flow. */
  const raw = computed(() =>
    manual.value ? byHand.value.value?.si : state.value.samples.length ? state.value.mean : undefined,
  );
  const reads = computed(() => {
    if (raw.value === undefined || !setup.value || !point.value) return undefined;
    try {
      return standardFlow(
        {
          pulls: [raw.value],
          ...(fullScale.value === undefined ? {} : { fullScale: fullScale.value }),
          ...(depression.value === undefined ? {} : { depression: depression.value }),
        },
        toCoreSetup({ setup: setup.value }),
        point.value.side,
      );
    } catch {
      return undefined;
    }
  });
  const advice = computed(() => {
    if (setup.value?.reads !== 'percent' || raw.value === undefined || fullScale.value === undefined) return undefined;
    return rangeAdvice(raw.value * fullScale.value, ranges.value, range.value);
  });
  const use = computed(() =>
    advice.value && fullScale.value
      ? work(rangeUse, { flow: noted(raw.value! * fullScale.value, 'as read'), fullScale: fullScale.value })
      : undefined,
  );
  const adviceWords = computed(() => (advice.value ? rangeWords(advice.value, settings.say) : ''));
  const verdict = computed(() => {
    const set = setup.value?.depression?.si;
    return set && depression.value !== undefined
      ? depressionVerdict(set, depression.value, plan.value?.depression)
      : 'held';
  });
  const depressionSays = computed(() =>
    verdict.value === 'held'
      ? ''
      : depressionWords(verdict.value, setup.value!.depression!.si, depression.value!, settings.say),
  );

  const say = (text: string, how: RunMessage['tone'] = 'fact') => {
    message.value = { text, tone: how };
    blocked = false;
    if (how !== 'fact' && options.sound()) tone('wrong');
  };
  /** From now on only samples of this very point count. */
  function restart(): void {
    stream.restart();
    insisted = false;
  }
  function call(index: number): void {
    if (index < 0 || index >= points.value.length) return;
    at.value = index;
    restart();
    put({ value: null, swirl: null });
    if (!needsTurn.value) live.order('dial indicator', { do: 'lift', to: points.value[index]!.lift });
  }
  function turned(): void {
    const to = point.value!;
    standing.value = { number: to.number, side: to.side };
    options.onTurn?.(to);
    live.order('flow bench', { do: 'direction', to: to.side });
    if (setup.value?.depression) live.order('flow bench', { do: 'depression', to: setup.value.depression.si });
    live.order('dial indicator', { do: 'lift', to: to.lift });
    restart();
    message.value = undefined;
  }

  // Opening a session: where it stood.
  let opened = '';
  watch(
    () => whole.value?.session.id,
    (id) => {
      if (!id || id === opened) return;
      opened = id;
      // No motor opens a valve before a hand said so, here as at the beginning.
      const start = openFrom(0);
      at.value = Math.max(0, start);
      if (start < 0 && points.value.length > 0) say('All points are recorded. See what is still owed under “sheet”.');
      else if (readings.value.length > 0) say('Gone on where it stood.');
    },
    { immediate: true },
  );

  /** Why this page may not record; undefined when it may. */
  function handElsewhere(): string | undefined {
    if (!live.recorder || live.recorder.mine) return undefined;
    return live.recorder.taken
      ? 'Another browser records this session. Ask to take over, or look on.'
      : 'Nobody records now: take over to go on.';
  }

  /** What stands in the way of recording the live reading; undefined when nothing does. */
  function obstacle(): RunMessage | undefined {
    const stop = (text: string): RunMessage => ({ text, tone: 'stop' });
    if (session.pending.value) return stop('The last reading is not on the server yet. It is kept and sent again.');
    const elsewhere = handElsewhere();
    if (elsewhere) return stop(elsewhere);
    if (recordedHere.value && !again.value) return stop('This point is recorded. R takes it again; an arrow goes on.');
    if (manual.value && !byHand.value.value) return stop('Type the reading first.');
    if (setup.value?.reads !== 'flow') {
      if (fullScale.value === undefined)
        return stop(
          `Range ${range.value || '?'} has no full scale in the ${point.value!.side} direction: see the set-up.`,
        );
      if (raw.value !== undefined && raw.value > 1) return stop('Past the end of the range: go up a range.');
    }
    if (!manual.value) {
      if (state.value.silent) return stop(`${bench.value!.name} is silent. Nothing is recorded until it speaks again.`);
      if (state.value.state === 'frozen')
        return stop(`${bench.value!.name} shows the very same figure all the time: it is stuck.`);
      if (state.value.state === 'waiting') return stop('Not enough of the stream yet: wait a moment.');
      if (dial.value !== undefined && Math.abs(dial.value - point.value!.lift) > DIAL_TOLERANCE)
        return stop(`The dial stands at ${liftShown(dial.value)}: open to ${liftShown(point.value!.lift)}.`);
    }
    if (verdict.value === 'refused') return stop(depressionSays.value);
    if (!manual.value && state.value.state === 'settling' && !insisted)
      return { text: 'Still settling. Wait, or press again to record it as noisy.', tone: 'ask' };
    return undefined;
  }

  const blank = (p: PlannedPoint): ReadingWrite => ({
    id: newId(),
    number: p.number,
    side: p.side,
    pull: p.pull,
    lift: liftQuantity(p.lift, metric.value),
    again: again.value,
  });

  function composed(p: PlannedPoint): ReadingWrite {
    const { samples, state: how, spread, mean: middle } = state.value;
    const value = raw.value!;
    const shownValue = manual.value
      ? byHand.value.value!
      : setup.value!.reads === 'flow'
        ? written(value, 'flow', 'cfm', 2)
        : written(value, 'percent', '%', 3);
    const turning = swirl.value === undefined ? null : written(swirl.value, 'rotation', 'rpm', 0);
    const last = samples.at(-1)?.at ?? 0;
    const pressures = fresh('depression');
    return {
      ...blank(p),
      ...(setup.value!.reads === 'flow' ? { flow: shownValue } : { percent: shownValue, range: range.value }),
      depression:
        depression.value === undefined
          ? null
          : manual.value
            ? byHand.value.depression
            : written(depression.value, 'depression', 'inH2O', 2),
      swirl: manual.value ? byHand.value.swirl : turning,
      noisy: !manual.value && how !== 'steady',
      ...(manual.value
        ? {}
        : {
            spread: middle === 0 ? 0 : Math.min(1, Math.abs(spread / middle)),
            seconds: samples.length ? Number((last - samples[0]!.at).toFixed(2)) : 0,
            samples: samples.slice(-400).map((s) => {
              const pressure = pressures.find((x) => x.at === s.at)?.value ?? null;
              return [Number((s.at - last).toFixed(3)), Number(s.value.toFixed(6)), pressure] as [
                number,
                number,
                number | null,
              ];
            }),
          }),
    };
  }

  async function send(reading: ReadingWrite): Promise<void> {
    busy.value = true;
    const from = at.value;
    try {
      const answer = await session.record(reading);
      again.value = false;
      if (!answer) return say(session.trouble.value, 'stop');
      if (options.sound()) tone('recorded');
      const odd = oddPulls(whole.value?.readings ?? []).find((r) => r.id === answer.reading.id);
      const ahead = openFrom(from + 1);
      if (odd) say(`Pull ${odd.pull + 1} stands apart from the others: R takes it again, or go on.`, 'ask');
      else message.value = undefined;
      if (ahead >= 0) call(ahead);
      else say('All points are recorded. See what is still owed under “sheet”.');
    } catch (error) {
      again.value = false;
      say((error as Error).message, 'stop');
      auto.value = false;
    } finally {
      busy.value = false;
    }
  }

  async function record(): Promise<void> {
    if (busy.value || !point.value) return;
    if (gate.value.length > 0) return say(`The set-up is not complete. ${gate.value[0]}`, 'stop');
    const elsewhere = handElsewhere();
    if (elsewhere) return say(elsewhere, 'stop');
    if (needsTurn.value) return turned();
    const wrong = obstacle();
    if (wrong) {
      insisted = wrong.tone === 'ask';
      say(wrong.text, wrong.tone);
      blocked = true;
      return;
    }
    await send(composed(point.value));
  }

  const liftShown = (si: number) => format(si, 'lift', metric.value ? 'metric' : 'inch');

  // The test that runs itself: record when steady, follow the range advice, never turn the head round by itself.
  watch(
    () => [auto.value, state.value.state, advice.value?.go, needsTurn.value] as const,
    () => {
      if (!auto.value || busy.value || needsTurn.value || recordedHere.value) return;
      const past = advice.value?.go === 'up' && advice.value.use > 1;
      if (advice.value && advice.value.go !== 'stay' && advice.value.to && (past || state.value.state === 'steady')) {
        if (bench.value?.takes.includes('range')) {
          live.order('flow bench', { do: 'range', to: advice.value.to.name });
          restart();
          return;
        }
      }
      if (state.value.state === 'steady' && obstacle() === undefined) void record();
    },
    { flush: 'post' },
  );
  watch(
    () => state.value.state,
    (now, before) => {
      if (now === 'steady' && blocked && obstacle() === undefined) message.value = undefined;
      if (now === 'steady' && before === 'settling' && !auto.value && options.sound()) tone('steady');
    },
  );

  return {
    points,
    point,
    next,
    lift: liftShown,
    recordedHere,
    standing,
    needsTurn,
    byHand,
    manual,
    auto,
    again,
    state,
    reads,
    depression,
    range,
    advice,
    use,
    adviceWords,
    depressionSays,
    dial,
    swirl,
    message,
    setup,
    gate,
    busy,
    record,
    move: (by) => {
      again.value = false;
      call(at.value + by);
      message.value = undefined;
    },
    retake: () => {
      if (!recordedHere.value) {
        const last = readings.value.at(-1);
        const index = last ? points.value.findIndex((p) => samePoint(p, last)) : -1;
        if (index < 0) return say('Nothing is recorded yet.', 'stop');
        call(index);
      } else restart();
      again.value = true;
      say(`Take ${liftShown(point.value!.lift)} again.`);
    },
    noise: async () => {
      const last = readings.value.at(-1);
      if (!last) return say('Nothing is recorded yet.', 'stop');
      try {
        await session.noise(last.id, !last.noisy);
        say(`${liftShown(last.lift.si)}: ${last.noisy ? 'no longer marked noisy' : 'marked noisy'}.`);
      } catch (error) {
        say((error as Error).message, 'stop');
      }
    },
    skip: async (reason) => {
      if (point.value && reason.trim()) await send({ ...blank(point.value), skipped: reason.trim(), again: true });
    },
    undo: async () => {
      try {
        const { reading } = await session.takeBack();
        const index = points.value.findIndex((p) => samePoint(p, reading));
        if (index >= 0) call(index);
        say(`${liftShown(reading.lift.si)} set aside.`);
      } catch (error) {
        say((error as Error).message, 'stop');
      }
    },
    typed: put,
    shiftRange: (by) => {
      const rising = [...ranges.value].sort((a, b) => a.fullScale - b.fullScale);
      const to = rising[rising.findIndex((r) => r.name === range.value) + by];
      if (!to) return;
      if (manual.value) put({ range: to.name });
      else live.order('flow bench', { do: 'range', to: to.name });
      restart();
    },
  };
}
