import {
  calibrationDoubts,
  measured,
  measuresAt,
  pickSheet,
  setupDoubts,
  type BenchSetup,
  type Calibration,
  type Session,
  type WholeHead,
} from '@alluvium/records';
import { computed, type Ref } from 'vue';
import { useActiveBuild } from '../data/build.js';
import type { SessionPage } from '../data/session.js';
import { today } from '../data/today.js';
import { useSettings } from '../state/settings.js';
import type { useBenchLive } from './live.js';

// bench.value!: a doubt of a range comes of an instrument.

interface Gate {
  readonly page: SessionPage;
  readonly session: Session;
  readonly whole: WholeHead;
}
type Bench = ReturnType<ReturnType<typeof useBenchLive>['ofKind']>;

/** What is odd about a set-up: against the engine, the sheet before it, what the bench says of itself, its last check. */
export function useGateDoubts(
  props: Gate,
  draft: Readonly<Ref<BenchSetup>>,
  bench: Readonly<Ref<Bench>>,
  checks: Readonly<Ref<Calibration[]>>,
) {
  const { active } = useActiveBuild();
  const settings = useSettings();
  const before = computed(
    () =>
      pickSheet(
        {
          ...props.whole,
          sheets: props.whole.sheets.filter(
            (s) => s.kind === 'measured' && !props.page.whole.value?.sheets.some((o) => o.id === s.id),
          ),
        },
        props.session.stageId,
      )?.setup ?? props.whole.sheets.findLast((s) => s.kind === 'measured')?.setup,
  );
  return computed(() => {
    const measures = measuresAt(props.whole, props.session.stageId);
    return [
      ...setupDoubts(draft.value, {
        engineBore: active.value?.build.bore?.si,
        valves: {
          intake: measured(measures, 'valve diameter', 'intake'),
          exhaust: measured(measures, 'valve diameter', 'exhaust'),
        },
        before: before.value,
      }),
      ...(bench.value?.ranges ?? []).flatMap((own) => {
        const said = draft.value.ranges.find((r) => r.name === own.name);
        const apart = (['intake', 'exhaust'] as const).some((side) => {
          const [a, b] = [said?.[side]?.si, own[side]];
          return a !== undefined && b !== null && Math.abs(a - b) > 0.002 * b;
        });
        return apart
          ? [`Range ${own.name} is not what ${bench.value!.name} says of itself: ask it for its ranges.`]
          : [];
      }),
      ...calibrationDoubts(checks.value, draft.value.calibration, props.session.date ?? today(), settings.say),
    ];
  });
}
