/** Rows of several sheets of one port as the rows of one. */
import { flowCurve, SAME_LIFT, type FlowPoint } from '../flow/curve.js';
import { mean } from '../method/mean.js';

// all.at()!, own.at()!: asked of lists that hold one.

/** Where a sheet has a flow at one of the joined lifts: in a row of its own, between two, or not at all. */
type Place = number | 'between' | 'beyond';

/** One joined row: the mean, and what each sheet gave to it; undefined for one that does not reach there. */
export interface JoinedRow extends FlowPoint {
  readonly flows: readonly (number | undefined)[];
}

/**
 * How sheets with rows at these lifts (rising) are joined: at each lift any of them has, the mean by `weights`. A sheet
 * without a row there is read between its rows. Where only some reach, those are first brought to the level of all, by what
 * they lie off over the lifts that all reach: else the curve would step where a sheet ends.
 */
export function joinRows(
  lifts: readonly (readonly number[])[],
  weights: readonly number[],
): (sheets: readonly (readonly FlowPoint[])[]) => JoinedRow[] {
  const all: number[] = [];
  for (const lift of lifts.flat().sort((a, b) => a - b))
    if (all.length === 0 || lift - all.at(-1)! >= SAME_LIFT) all.push(lift);
  const places = all.map((lift) =>
    lifts.map((own): Place => {
      const row = own.findIndex((l) => Math.abs(l - lift) < SAME_LIFT);
      if (row >= 0) return row;
      return own.length > 1 && lift > own[0]! && lift < own.at(-1)! ? 'between' : 'beyond';
    }),
  );
  const reached = places.map((at) => at.every((p) => p !== 'beyond'));
  const needsCurve = lifts.map((_, s) => places.some((at) => at[s] === 'between'));

  return (sheets) => {
    const curves = sheets.map((rows, s) => (needsCurve[s] ? flowCurve(rows) : undefined));
    const joined = all.map((nominal, g) => {
      let lift = 0;
      let weight = 0;
      places[g]!.forEach((p, s) => {
        if (typeof p !== 'number') return;
        lift += weights[s]! * sheets[s]![p]!.lift;
        weight += weights[s]!;
      });
      const at = weight > 0 ? lift / weight : nominal;
      const flows = places[g]!.map((p, s): number | undefined => {
        if (typeof p === 'number') return sheets[s]![p]!.flow;
        const curve = curves[s];
        return p === 'between' && curve
          ? curve.at(Math.min(Math.max(at, curve.first.lift), curve.last.lift))
          : undefined;
      });
      return { lift: at, flows };
    });
    const meanOf = (flows: readonly (number | undefined)[]): number => {
      let flow = 0;
      let weight = 0;
      flows.forEach((q, s) => {
        if (q === undefined) return;
        flow += weights[s]! * q;
        weight += weights[s]!;
      });
      return flow / weight;
    };
    const whole = joined.filter((_, g) => reached[g]);
    const levels = sheets.map((_, s) =>
      whole.length === 0 ? 1 : Math.exp(mean(whole.map(({ flows }) => Math.log(flows[s]! / meanOf(flows))))),
    );
    return joined.map(({ lift, flows }, g) => {
      const brought = reached[g] ? flows : flows.map((q, s) => (q === undefined ? undefined : q / levels[s]!));
      return { lift, flows: brought, flow: meanOf(brought) };
    });
  };
}
