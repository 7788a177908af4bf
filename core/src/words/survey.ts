import type { MetalBudget } from '../section/carries.js';
import { CLOSURE_LIMIT, type SurveyResult } from '../section/survey.js';
import type { Say } from '../quantity/format.js';

const inMm =
  (say: Say) =>
  (si: number, digits = 0): string =>
    `${say.number(si * 1000, digits)} mm`;

/** Whether sections and liquid agree, and if not, what usually lies behind it. `over` is the closure as a fraction. */
export function closureWords(over: number, say: Say): string {
  const share = say.of(Math.abs(over), 'percent', { digits: 1 });
  if (Math.abs(over) <= CLOSURE_LIMIT) return `They agree within ${share}.`;
  return over > 0
    ? `The sections make ${share} more than the liquid. Look first at the pour (valve or plug standing in the port, air under the plate), then at corners taken as square and cuts that were not square to the flow.`
    : `The sections make ${share} less than the liquid. Look first for a station missing at the flange or in the bowl, then at the pour (liquid past the valve, a port longer than the sections reach).`;
}

/** What the metal allows, in words: the wall that holds the port back, and what the opened choke would carry. */
export function budgetWords(survey: SurveyResult, budget: MetalBudget, speed: number | undefined, say: Say): string[] {
  const mm = inMm(say);
  const { choke, thin } = budget;
  const sentences: string[] = [];
  for (const { station, wall } of thin.slice(0, 3))
    sentences.push(
      `At ${mm(station)} the ${wall.side} is ${mm(wall.thickness, 1)} to the ${wall.behind}, under its floor of ${mm(wall.floor, 1)} already.`,
    );
  if (!choke) return ['No section is measured yet.'];
  const holds = choke.sections.flatMap((s) => (s.holds ? [s.holds] : [])).sort((a, b) => a.spare - b.spare)[0];
  if (!holds) return [...sentences, 'No wall is measured at the choke: nothing can be said of what the metal allows.'];
  const area = say.of(choke.largest, 'area');
  if (choke.largest > choke.area * 1.001) {
    if (holds.spare > 0)
      sentences.push(
        `At ${mm(choke.station)} the ${holds.side} has ${mm(holds.spare, 1)} to give before its ${mm(holds.floor, 1)} floor.`,
      );
    const narrowest = survey.choke && Math.abs(survey.choke.station - choke.station) < 1e-6;
    sentences.push(
      `Opened as far as the walls go, the choke ${narrowest ? 'grows' : `moves to ${mm(choke.station)} and grows`} to ${area}${speedWords(budget, speed, say)}`,
    );
  } else {
    sentences.push(
      `The choke at ${mm(choke.station)} cannot grow: the ${holds.side} holds it at ${area}${speedWords(budget, speed, say)}`,
    );
  }
  const next = [...budget.stations].filter((s) => s !== choke).sort((a, b) => a.largest - b.largest)[0];
  if (next) sentences.push(`The next place to hold it is ${mm(next.station)} in, at ${say.of(next.largest, 'area')}.`);
  return sentences;
}

function speedWords(budget: MetalBudget, speed: number | undefined, say: Say): string {
  if (!budget.speed || speed === undefined) return '.';
  const at = say.of(Math.round((budget.speed.value * 60) / 10) / 6, 'rotation');
  const off = budget.speed.value - speed;
  const gap = say.of(Math.round((Math.abs(off) * 60) / 10) / 6, 'rotation', { digits: 0 });
  return `: enough for ${at}, ${gap} ${off >= 0 ? 'past' : 'short of'} the target.`;
}
