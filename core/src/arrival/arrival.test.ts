import { describe, expect, it } from 'vitest';
import { coilBindClearance, springForce } from '../head/ratios.js';
import { work } from '../method/method.js';
import { inches, millimetres, unitNamed } from '../quantity/units.js';
import { DRAWS } from '../uncertainty/propagate.js';
import { arrivalMark, arrivalObjections, arrivalWords } from '../words/arrival.js';
import { bestWords } from '../words/match.js';
import { arrivalCondition, type Arrival } from './condition.js';
import { coreShift, coreTilt, mendingCost, statedDifference, vacuumHeld } from './methods.js';

const lb = (x: number) => x * unitNamed('force', 'lb')!.factor;
const lbPerInch = (x: number) => x * unitNamed('rate', 'lb/in')!.factor;
const nothing: Arrival = { inspections: [], findings: [], seats: [] };
const line = (state: 'open' | 'fine' | 'unsure' | 'skipped', title = 'Threads', found = false) => ({
  title,
  state,
  found,
});

describe('a spring under the cam (worked examples of the method notes: common practice, no source)', () => {
  it('gains force as its installed height falls: 140 lb at 1.80 in and 262 lb/in give 150.5 lb at 1.76', () => {
    const force = work(springForce, {
      seatForce: lb(140),
      rate: lbPerInch(262),
      installedHeight: inches(1.8),
      height: inches(1.76),
    });
    expect(force.value / lb(1)).toBeCloseTo(150.48, 2);
  });
  it('at full lift: 155 + 265 × .610 = 316.7 lb', () => {
    const force = work(springForce, {
      seatForce: lb(155),
      rate: lbPerInch(265),
      installedHeight: inches(1.8),
      height: inches(1.8 - 0.61),
    });
    expect(force.value / lb(1)).toBeCloseTo(316.65, 2);
  });
  it('keeps its clearance to coil bind by subtraction', () => {
    const clearance = work(coilBindClearance, {
      installedHeight: inches(1.76),
      coilBind: inches(1.15),
      lift: inches(0.48),
    });
    expect(clearance.value / inches(1)).toBeCloseTo(0.13, 9);
  });
});

describe('core shift (plane geometry)', () => {
  it('is nothing for a port in the middle of its gasket, however small the port', () => {
    const s = millimetres(1.5);
    expect(coreShift.compute({ roof: s, floor: s, front: s, rear: s })).toBe(0);
  });
  it('is half the difference of opposite steps, both ways together by Pythagoras', () => {
    const shift = coreShift.compute({
      roof: millimetres(4),
      floor: millimetres(-2),
      front: millimetres(5),
      rear: millimetres(-3),
    });
    expect(shift).toBeCloseTo(millimetres(5), 12);
  });
  it('shows a tilt between the ends with its sign', () => {
    expect(coreTilt.compute({ first: millimetres(27.6), last: millimetres(25.9) })).toBeCloseTo(millimetres(-1.7), 12);
  });
});

describe('small arithmetic', () => {
  it('takes stated from found, one method a kind', () => {
    expect(statedDifference('volume').compute({ found: 67.5e-6, stated: 64e-6 })).toBeCloseTo(3.5e-6, 15);
    expect(statedDifference('volume')).toBe(statedDifference('volume'));
    expect(statedDifference('force').result.kind).toBe('force');
    expect(new Set([statedDifference('force').id, statedDifference('length').id]).size).toBe(2);
  });
  it('says what share of the vacuum was held, and nothing of none drawn', () => {
    expect(vacuumHeld.compute({ held: 19, drawn: 20 })).toBe(0.95);
    expect(() => vacuumHeld.compute({ held: 0, drawn: 0 })).toThrow('above zero');
  });
  it('adds the costs up', () => {
    expect(mendingCost.compute({ costs: [45, 60, 0] })).toBe(105);
  });
});

describe('the condition of a head', () => {
  const fix = { text: 'Springs stand short.', place: 'spring', severity: 'fix before use' as const, cost: 45 };
  const reject = { text: 'Cracked to water', place: 'cylinder 2, chamber', severity: 'reject' as const };
  const note = { text: 'Paint', place: '', severity: 'note' as const };

  it.each([
    ['nobody looked', nothing, 'unchecked'],
    ['lines are open', { ...nothing, inspections: [line('fine'), line('open')] }, 'unchecked'],
    [
      'an open line where something was found counts as looked at',
      { ...nothing, inspections: [line('open', 'x', true)] },
      'usable',
    ],
    ['all was looked at', { ...nothing, inspections: [line('fine'), line('skipped'), line('unsure')] }, 'usable'],
    ['a note stands against nothing', { ...nothing, inspections: [line('fine')], findings: [note] }, 'usable'],
    ['something must be mended', { ...nothing, inspections: [line('open')], findings: [fix] }, 'usable after'],
    [
      'a seat leaks',
      { ...nothing, seats: [{ place: 'intake seat of cylinder 1', result: 'leaks' as const }] },
      'usable after',
    ],
    [
      'one reason to reject outweighs all',
      { ...nothing, inspections: [line('fine')], findings: [fix, reject] },
      'rejected',
    ],
  ])('%s', (_, arrival, condition) => {
    expect(arrivalCondition(arrival).condition).toBe(condition);
  });

  it('is said with its reasons, what is left and what it costs', () => {
    const result = arrivalCondition({
      inspections: [line('fine'), line('open'), line('unsure', 'Casting marks')],
      findings: [fix, { ...note, cost: 60 }],
      seats: [
        { place: 'exhaust seat of cylinder 4', result: 'leaks' },
        { place: 'exhaust seat of cylinder 5', result: 'leaks' },
        { place: 'intake seat of cylinder 1', result: 'untested' },
      ],
    });
    expect(arrivalWords(result)).toBe(
      'Leaks: exhaust seat of cylinder 4 and exhaust seat of cylinder 5. To mend before use: spring: Springs stand short. 1 of 3 still to be looked at. Unsure: Casting marks.',
    );
    expect(arrivalMark(result)).toBe('2 seats leak');
    expect(result.seatsTested).toBe(2);
    expect(result.cost!.value).toBe(105);
  });
  it('says plainly that nothing was done, and that nothing stands against it', () => {
    expect(arrivalWords(arrivalCondition(nothing))).toBe('Not checked. No checklist yet.');
    expect(arrivalWords(arrivalCondition({ ...nothing, inspections: [line('open'), line('open')] }))).toBe(
      'Not checked. Nothing of the 2 on the checklist was looked at yet.',
    );
    const usable = arrivalCondition({ ...nothing, inspections: [line('fine')] });
    expect(arrivalWords(usable)).toBe('Usable: all was looked at and nothing stands against it.');
    expect([arrivalMark(usable), arrivalObjections(usable)]).toEqual([undefined, []]);
  });
  it('names three reasons and counts the rest', () => {
    const result = arrivalCondition({
      ...nothing,
      findings: [1, 2, 3, 4, 5].map((n) => ({ ...reject, text: `R${n}` })),
    });
    expect(arrivalObjections(result)[0]).toMatch(/R1; .*R2; .*R3; and 2 more\.$/);
    expect(arrivalMark(result)).toBe('rejected');
  });
});

describe('the best head', () => {
  const head = (
    letter: string,
    margin: number,
    arrival = arrivalCondition({ ...nothing, inspections: [line('fine')] }),
  ) => ({
    letter,
    name: `Head ${letter}`,
    match: { margin, schools: [] } as never,
    verdict: {
      degree: 'carries',
      odds: 0.99,
      margin: { mean: margin, u: 0.001 },
      draws: new Float64Array(DRAWS).fill(margin),
    } as never,
    arrival,
  });
  const rejected = arrivalCondition({
    ...nothing,
    findings: [{ text: 'Cracked', place: '', severity: 'reject' }],
  });
  const leaking = arrivalCondition({ ...nothing, seats: [{ place: 'intake seat of cylinder 1', result: 'leaks' }] });

  it('is never a rejected one, and says who was left out', () => {
    const words = bestWords([head('A', 0.001), head('B', 0.02, rejected)]);
    expect(words).toContain('A Head A carries the target');
    expect(words).toContain('B Head B is left out: rejected on arrival.');
  });
  it('is named with what must be mended first', () => {
    expect(bestWords([head('A', 0.02, leaking)])).toContain('But A is not ready. Leaks: intake seat of cylinder 1.');
  });
  it('is none when all are rejected', () => {
    expect(bestWords([head('A', 0.02, rejected)])).toBe(
      'No head is left to choose. A Head A is left out: rejected on arrival.',
    );
  });
});
