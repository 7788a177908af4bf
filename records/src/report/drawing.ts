/** The pictures of a report, as SVG with nothing but presentation attributes: paper and page draw the same. */
import { fromSi, unitFor, type Say } from '@alluvium/core';
import { scaleLinear } from 'd3-scale';
import { curveMonotoneX, line as lineOf } from 'd3-shape';

// at[]!, order[]!, placed[]!, ends[]!, names[]!: lists that are equally long.
// STROKES[]!: the remainder is a place of the list.

const INK = '#1D2A2E';
const SLATE = '#5C6B70';
const RULE = '#C9C4B6';
const GROUND = '#F5F2EA';
/** Told by dash and weight as well as by colour. */
const STROKES = [
  { colour: '#17707C', dash: '' },
  { colour: '#B4532A', dash: '7 3' },
  { colour: '#5B7F3A', dash: '2 3' },
  { colour: '#1D2A2E', dash: '9 3 2 3' },
  { colour: '#5C6B70', dash: '5 2' },
  { colour: '#7A5A0E', dash: '1 2' },
] as const;

const WIDTH = 520;
const FONT = 'Barlow Semi Condensed';

const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
const words = (
  x: number,
  y: number,
  text: string,
  {
    anchor = 'start',
    fill = INK,
    size = 11,
  }: { anchor?: 'start' | 'middle' | 'end'; fill?: string; size?: number } = {},
) =>
  `<text x="${x.toFixed(1)}" y="${y.toFixed(1)}" font-family="${FONT}" font-size="${size}" fill="${fill}" text-anchor="${anchor}">${escaped(text)}</text>`;
const rule = (x1: number, y1: number, x2: number, y2: number, stroke = RULE, more = '') =>
  `<line x1="${x1.toFixed(1)}" y1="${y1.toFixed(1)}" x2="${x2.toFixed(1)}" y2="${y2.toFixed(1)}" stroke="${stroke}" stroke-width="1"${more}/>`;
const sheet = (height: number, title: string, inside: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${height}" width="${WIDTH}" height="${height}" role="img" aria-label="${escaped(title)}"><rect x="0" y="0" width="${WIDTH}" height="${height}" fill="${GROUND}"/>${inside}</svg>`;

/** Labels moved apart so that none stands on another, in order of where they belong. */
export function apart(at: readonly number[], least: number): number[] {
  const order = at.map((_, i) => i).sort((a, b) => at[a]! - at[b]!);
  const placed = [...at];
  order.forEach((i, k) => {
    const before = k > 0 ? placed[order[k - 1]!]! : -Infinity;
    placed[i] = Math.max(placed[i]!, before + least);
  });
  return placed;
}

export interface DrawnCurve {
  readonly name: string;
  /** Lift m, flow m³/s. */
  readonly points: readonly { readonly lift: number; readonly flow: number }[];
}

/** Flow over lift, each curve named where it ends. With `hidden` the shape alone: no figure of flow is drawn. */
export function curvesSvg(
  curves: readonly DrawnCurve[],
  title: string,
  say: Say,
  { hidden = false, lift }: { readonly hidden?: boolean; readonly lift?: number | undefined } = {},
): string {
  const height = 250;
  const [left, right, top, bottom] = [hidden ? 14 : 44, 128, 26, 34];
  const liftUnit = unitFor('lift', say.system);
  const flowUnit = unitFor('flow', say.system);
  const all = curves.flatMap((c) => c.points);
  const x = scaleLinear([0, Math.max(1e-6, ...all.map((p) => fromSi(p.lift, liftUnit)))], [left, WIDTH - right]);
  const y = scaleLinear([0, Math.max(1e-6, ...all.map((p) => fromSi(p.flow, flowUnit)))], [height - bottom, top]).nice(
    5,
  );
  const grid = y
    .ticks(5)
    .map(
      (t) =>
        rule(left, y(t), WIDTH - right, y(t)) +
        (hidden ? '' : words(left - 5, y(t) + 4, String(t), { anchor: 'end', fill: SLATE })),
    );
  const lifts = x
    .ticks(6)
    .map((t) =>
      words(x(t), height - bottom + 15, say.of(t / fromSi(1, liftUnit), 'lift'), { anchor: 'middle', fill: SLATE }),
    );
  const cam =
    lift === undefined || lift > Math.max(0, ...all.map((p) => p.lift))
      ? ''
      : rule(
          x(fromSi(lift, liftUnit)),
          top,
          x(fromSi(lift, liftUnit)),
          height - bottom,
          SLATE,
          ' stroke-dasharray="3 3"',
        ) + words(x(fromSi(lift, liftUnit)), top - 4, 'this cam', { anchor: 'middle', fill: SLATE });
  const draw = lineOf<{ lift: number; flow: number }>(
    (p) => x(fromSi(p.lift, liftUnit)),
    (p) => y(fromSi(p.flow, flowUnit)),
  ).curve(curveMonotoneX);
  const ends = apart(
    curves.map((c) => y(fromSi(c.points.at(-1)?.flow ?? 0, flowUnit))),
    13,
  );
  const paths = curves.map((c, i) => {
    const { colour, dash } = STROKES[i % STROKES.length]!;
    const d = draw([...c.points]) ?? '';
    return (
      `<path d="${d}" fill="none" stroke="${colour}" stroke-width="2"${dash ? ` stroke-dasharray="${dash}"` : ''}/>` +
      words(WIDTH - right + 6, ends[i]! + 4, c.name.length > 24 ? `${c.name.slice(0, 23)}…` : c.name, { fill: colour })
    );
  });
  const axes = [
    ...(hidden ? [] : [words(left - 5, top - 10, `flow, ${flowUnit.symbol}`, { fill: SLATE })]),
    words(WIDTH - right, height - 4, say.system === 'inch' ? 'valve lift, in' : `valve lift, ${liftUnit.symbol}`, {
      anchor: 'end',
      fill: SLATE,
    }),
  ];
  return sheet(height, title, [...grid, ...lifts, cam, ...paths, ...axes].join(''));
}

export interface PricedWay {
  readonly name: string;
  readonly cost: number;
  readonly costU: number;
  readonly power: number;
  readonly powerU: number;
  readonly edge: boolean;
}

/** Price against power: a cross as wide as each is unsure; the edge is what nothing beats. */
export function priceSvg(ways: readonly PricedWay[], title: string, say: Say, currency: string): string {
  const height = 240;
  const [left, right, top, bottom] = [52, 20, 20, 36];
  const unit = unitFor('power', say.system);
  const power = (w: number) => fromSi(w, unit);
  const costs = ways.flatMap((w) => [w.cost - 2 * w.costU, w.cost + 2 * w.costU]);
  const powers = ways.flatMap((w) => [power(w.power - 2 * w.powerU), power(w.power + 2 * w.powerU)]);
  const x = scaleLinear([Math.min(0, ...costs), Math.max(1, ...costs) * 1.15], [left, WIDTH - right]).nice(5);
  const y = scaleLinear([Math.min(...powers), Math.max(...powers)], [height - bottom, top]).nice(5);
  const ticks = [
    ...y
      .ticks(5)
      .map(
        (t) =>
          rule(left, y(t), WIDTH - right, y(t)) + words(left - 5, y(t) + 4, String(t), { anchor: 'end', fill: SLATE }),
      ),
    ...x.ticks(5).map((t) => words(x(t), height - bottom + 15, say.of(t, 'money'), { anchor: 'middle', fill: SLATE })),
  ];
  const edge = ways
    .filter((w) => w.edge)
    .sort((a, b) => a.cost - b.cost)
    .map((w) => `${x(w.cost).toFixed(1)},${y(power(w.power)).toFixed(1)}`);
  const names = apart(
    ways.map((w) => y(power(w.power)) - 5),
    12,
  );
  const marks = ways.map((w, i) => {
    const { colour } = STROKES[i % STROKES.length]!;
    const [cx, cy] = [x(w.cost), y(power(w.power))];
    return (
      rule(x(w.cost - 2 * w.costU), cy, x(w.cost + 2 * w.costU), cy, colour) +
      rule(cx, y(power(w.power - 2 * w.powerU)), cx, y(power(w.power + 2 * w.powerU)), colour) +
      `<circle cx="${cx.toFixed(1)}" cy="${cy.toFixed(1)}" r="3.5" fill="${colour}"/>` +
      words(cx > WIDTH * 0.7 ? cx - 7 : cx + 7, names[i]!, w.name, {
        anchor: cx > WIDTH * 0.7 ? 'end' : 'start',
        fill: colour,
      })
    );
  });
  return sheet(
    height,
    title,
    [
      ...ticks,
      edge.length > 1
        ? `<polyline points="${edge.join(' ')}" fill="none" stroke="${SLATE}" stroke-width="1" stroke-dasharray="2 3"/>`
        : '',
      ...marks,
      words(left - 5, top - 7, `power, ${unit.symbol}`, { fill: SLATE }),
      words(WIDTH - right, height - 4, currency ? `price, ${currency}` : 'price', { anchor: 'end', fill: SLATE }),
    ].join(''),
  );
}
