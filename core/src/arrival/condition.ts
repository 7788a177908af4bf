import { work, type Working } from '../method/method.js';
import { mendingCost } from './methods.js';

/** What of a head's arrival its condition follows from: findings not yet mended, the newest look at each seat. */
export interface Arrival {
  readonly inspections: readonly {
    readonly title: string;
    readonly state: 'open' | 'fine' | 'unsure' | 'skipped';
    /** Something was found here. */
    readonly found: boolean;
  }[];
  readonly findings: readonly {
    readonly text: string;
    /** `cylinder 4, exhaust seat` */
    readonly place: string;
    readonly severity: 'note' | 'fix before use' | 'reject';
    readonly cost?: number;
  }[];
  readonly seats: readonly {
    readonly place: string;
    readonly result: 'untested' | 'seals' | 'leaks';
    /** What was done to it since it was looked at. */
    readonly since?: string;
  }[];
}

/** `unchecked`: nothing speaks against the head, but it was not looked at whole. */
export type Condition = 'unchecked' | 'usable' | 'usable after' | 'rejected';

export interface ArrivalResult {
  readonly condition: Condition;
  /** Why it is rejected; what must be mended first. */
  readonly rejectedFor: readonly string[];
  readonly fixFirst: readonly string[];
  readonly leaking: readonly string[];
  /** Seats worked on after they were looked at: `intake seat of cylinder 2 (valve job)`. */
  readonly notSince: readonly string[];
  readonly seatsTested: number;
  /** Lines of the checklist not looked at yet, of all there are. */
  readonly open: number;
  readonly of: number;
  readonly unsure: readonly string[];
  /** What mending the findings costs, where any cost is known. */
  readonly cost?: Working;
}

/** The condition of a head: the worst of its findings and seats decides; only a whole checklist makes it usable. */
export function arrivalCondition({ inspections, findings, seats }: Arrival): ArrivalResult {
  const say = (f: Arrival['findings'][number]) => (f.place ? `${f.place}: ${f.text}` : f.text);
  const of = (severity: string) => findings.filter((f) => f.severity === severity).map(say);
  const rejectedFor = of('reject');
  const fixFirst = of('fix before use');
  const leaking = seats.filter((s) => s.result === 'leaks').map((s) => s.place);
  const open = inspections.filter((i) => i.state === 'open' && !i.found).length;
  const costs = findings.flatMap((f) => (f.cost === undefined ? [] : [f.cost]));
  return {
    condition:
      rejectedFor.length > 0
        ? 'rejected'
        : fixFirst.length + leaking.length > 0
          ? 'usable after'
          : inspections.length === 0 || open > 0
            ? 'unchecked'
            : 'usable',
    rejectedFor,
    fixFirst,
    leaking,
    notSince: seats.flatMap((s) => (s.since ? [`${s.place} (${s.since})`] : [])),
    seatsTested: seats.filter((s) => s.result !== 'untested').length,
    open,
    of: inspections.length,
    unsure: inspections.filter((i) => i.state === 'unsure').map((i) => i.title),
    ...(costs.length > 0 ? { cost: work(mendingCost, { costs }) } : {}),
  };
}
