import { describe, expect, it } from 'vitest';
import { cfm, degrees, inches, rpm } from '../quantity/units.js';
import { simulationSetup, type SimulationSetup } from './setup.js';
import { WHAT_IFS, changedBy } from './whatIf.js';

const build = {
  bore: 0.098,
  stroke: 0.093,
  cylinders: 6,
  fuel: 'petrol' as const,
  induction: { kind: 'natural' as const },
  power: 216_000,
  speed: rpm(5600),
  use: 'street' as const,
  valvesPerCylinder: 2,
  cam: {
    intakeLift: inches(0.48),
    intakeDuration: degrees(224),
    rockerRatio: 1.5,
    lobeSeparation: degrees(110),
    intakeCentreline: degrees(106),
  },
};
const rows = [0.1, 0.2, 0.3, 0.4, 0.5].map((l, i) => ({ lift: inches(l), flow: cfm([58, 118, 170, 205, 222][i]!) }));
const port = [
  { x: 0, area: 1.5e-3 },
  { x: 0.04, area: 1.15e-3 },
  { x: 0.09, area: 1.4e-3 },
];
const setup: SimulationSetup = simulationSetup(
  build as Parameters<typeof simulationSetup>[0],
  { bore: 0.098, stroke: 0.093 },
  {
    ports: [{ name: '1', intake: rows, exhaust: rows, intakePort: port, exhaustPort: port }],
    sheet: { id: 's', intake: 0.01, exhaust: 0.01 },
  },
);
const by = (values: Record<string, number>) => changedBy(setup, values);
const flows = (s: SimulationSetup) => s.ports[0]!.intake.map((p) => p.flow);

describe('what if', () => {
  it('every change as it stands changes nothing that breathes; none of them touches the setup it was given', () => {
    const before = structuredClone(setup);
    for (const w of WHAT_IFS) {
      if (w.key === 'charge') continue;
      const { setup: then, wrong } = by({ [w.key]: w.now(setup) });
      expect(wrong, w.key).toEqual({});
      flows(then).forEach((f, i) => expect(f, w.key).toBeCloseTo(rows[i]!.flow, 9));
      expect(w.now(then)).toBeCloseTo(w.now(setup), 6);
    }
    expect(setup).toEqual(before);
  });
  it('25 cfm lost in the manifold are 25 cfm at the best lift, and less below it (1/Q² adds)', () => {
    const then = flows(by({ manifold: cfm(25) }).setup);
    expect(then.at(-1)).toBeCloseTo(cfm(222 - 25), 9);
    const of = 1 / (1 / cfm(197) ** 2 - 1 / cfm(222) ** 2);
    expect(then[0]).toBeCloseTo(1 / Math.sqrt(1 / cfm(58) ** 2 + 1 / of), 9);
    expect(cfm(58) - then[0]!).toBeLessThan(cfm(1));
  });
  it('a larger valve flows at the same lift over diameter with the diameter squared', () => {
    const { intake } = by({ valve: 1.05 }).setup.ports[0]!;
    expect(intake[2]!.lift).toBeCloseTo(1.05 * inches(0.3), 12);
    expect(intake[2]!.flow).toBeCloseTo(1.1025 * cfm(170), 12);
  });
  it('a choke opened gives most where the port and not the valve holds it back, and the narrow place is opened', () => {
    const wide = by({ choke: 1.3e-3 }).setup.ports[0]!;
    expect(Math.min(...wide.intakePort.map((p) => p.area))).toBeCloseTo(1.3e-3, 12);
    const gain = wide.intake.map((p, i) => p.flow / rows[i]!.flow - 1);
    expect(gain[0]).toBeGreaterThan(0);
    gain.slice(1).forEach((g, i) => expect(g).toBeGreaterThan(gain[i]!));
    // And back again: the same sheet.
    const back = changedBy({ ...setup, ports: [wide] }, { choke: 1.15e-3 });
    back.setup.ports[0]!.intake.forEach((p, i) => expect(p.flow).toBeCloseTo(rows[i]!.flow, 9));
  });
  it('1500 m above the sea the air has 845.6 mbar (U.S. Standard Atmosphere 1976, table)', () => {
    expect(by({ altitude: 1500 }).setup.around.p / 84_556).toBeCloseTo(1, 3);
    expect(by({ altitude: 0 }).setup.around.p).toBeCloseTo(101_325, 6);
  });
  it('what cannot be is a sentence, and the rest is still done', () => {
    const { setup: then, wrong } = by({ compression: 40, bore: 0.1, charge: 320 });
    expect(wrong).toEqual({
      compression: 'Compression must lie between 5:1 and 25:1.',
      charge: 'Give a pressure ratio first: without boost the charge is the air around.',
    });
    expect(then.bore).toBe(0.1);
    expect(then.compression).toBe(setup.compression);
    expect(by({ boost: 1.5, charge: 320 }).wrong).toEqual({});
    for (const [key, value] of [
      ['choke', 1],
      ['valve', 2],
      ['manifold', 1],
      ['altitude', 9000],
      ['lift', 1],
      ['area', 3],
    ] as const)
      expect(by({ [key]: value }).wrong[key]).toMatch(/\.$/);
  });
});
