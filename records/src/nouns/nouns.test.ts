import fc from 'fast-check';
import { USUAL_ASSUMPTIONS, evaluateTarget, horsepowerPerCfm, millimetres } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { readBundle, writeBundle } from '../files/bundle.js';
import { workingSpeeds } from '../decide/matters.js';
import { fingerprint } from '../fingerprint.js';
import { quantitySchema, resolutionOf } from '../quantity.js';
import { toCoreBuild } from '../toCore.js';
import {
  Assumption,
  Build,
  assumptionsOf,
  MEASURE_ITEMS,
  MEASURE_ITEM_NAMES,
  NOUNS,
  NOUN_NAMES,
  NOUN_WORDS,
  Setup,
  Sheet,
} from './index.js';

const message = (result: { success: boolean; error?: { issues: { message: string }[] } }) =>
  result.success ? '' : result.error!.issues[0]!.message;

describe('a quantity', () => {
  const bore = quantitySchema('length', { min: millimetres(20), max: millimetres(600), sentence: 'Out of reason.' });
  it('is read from its text, or beside its SI value', () => {
    expect(bore.parse('98.0 mm')).toEqual({ si: expect.closeTo(0.098, 12), typed: '98.0 mm' });
    expect(bore.parse({ si: 0.098, typed: '98.0 mm' })).toEqual({ si: 0.098, typed: '98.0 mm' });
  });
  it.each([
    ['a bare number', 98, 'Write this as text with its unit, such as "98 mm".'],
    ['nothing', null, 'Write this as text with its unit, such as "98 mm".'],
    ['words', 'wide', '“wide” is not a length. Type it like 2.02, 1 7/8 or 51 mm.'],
    ['another kind', '28 inH2O', '“inH2O” is not a unit of length. Type it like 2.02, 1 7/8 or 51 mm.'],
    ['something out of reason', '7 m', 'Out of reason.'],
    [
      'a value that is not its text',
      { si: 0.1, typed: '98.0 mm' },
      'The text “98.0 mm” and the value 0.1 do not agree.',
    ],
    ['a novel', 'x'.repeat(100), 'Keep a size under 60 letters.'],
  ])('%s is refused', (_, input, sentence) => {
    expect(message(bore.safeParse(input))).toBe(sentence);
  });
});

describe('a build', () => {
  const least = {
    id: 'k',
    name: 'K',
    bore: '98 mm',
    stroke: '93 mm',
    cylinders: 6,
    power: '290 hp',
    speed: '5600 rpm',
  };
  it('keeps its working speeds and its what-ifs as they were typed', () => {
    const build = Build.parse({
      ...least,
      workingFrom: '3200 rpm',
      workingTo: '6000 rpm',
      variants: [{ name: 'milled', changes: [{ what: 'compression', value: '10.5:1' }] }],
    });
    expect(workingSpeeds(build, 93)).toEqual([3200 / 60, 6000 / 60]);
    expect(workingSpeeds({ ...build, workingFrom: null, workingTo: null }, 100)).toEqual([50, 100]);
    expect(build.variants[0]!.changes[0]).toEqual({ what: 'compression', value: { si: 10.5, typed: '10.5:1' } });
  });
  it('needs little, and takes its defaults', () => {
    const build = Build.parse(least);
    expect(build).toMatchObject({
      fuel: 'petrol',
      induction: { kind: 'natural' },
      cam: null,
      valvesPerCylinder: 2,
      version: 1,
    });
    expect(build.watchLifts.map((w) => w.typed)).toEqual(['.300 in', '.400 in', '.500 in', '.600 in']);
  });
  it.each([
    [{ name: '  ' }, 'Give it a name.'],
    [{ cylinders: 2.5 }, 'Cylinders are a whole number.'],
    [{ cylinders: 30 }, 'At most 24 cylinders.'],
    [{ compression: '60:1' }, 'Compression must lie between 4:1 and 30:1.'],
    [{ cam: { intakeLift: '3 in' } }, 'Valve lift must lie between .060 and 2.000 in.'],
    [{ valvesPerCylinder: 6 }, 'Two to five valves per cylinder.'],
    [{ due: 'spring' }, 'Write the date as 2026-05-31.'],
    [{ workingFrom: '3000 rpm' }, 'Give both ends of the working speeds, or neither.'],
    [{ workingFrom: '5000 rpm', workingTo: '3000 rpm' }, 'The working speeds end above where they begin.'],
    [{ workingFrom: '30 rpm', workingTo: '3000 rpm' }, 'A working speed must lie between 200 and 25,000 rpm.'],
    [{ variants: [{ name: ' ', changes: [{ what: 'bore', value: '100 mm' }] }] }, 'Name it.'],
    [
      { variants: [{ name: 'x', changes: [{ what: 'bore', value: '28 inH2O' }] }] },
      '“inH2O” is not a unit of length. Type it like 2.02, 1 7/8 or 51 mm.',
    ],
    [{ id: '../etc' }, 'An id is up to 64 letters, figures, dots and dashes.'],
    [
      { induction: { kind: 'boosted', pressureRatio: '0.5', chargeTemperature: '50 °C', ambientTemperature: '15 °C' } },
      'The pressure ratio must lie between 1 and 8.',
    ],
    [{ bore: null }, 'Give bore and stroke, or the displacement.'],
    [{ displacement: '467 ci' }, 'Bore, stroke and cylinders make 256.8 in³ (4.21 L): one of them is mistyped.'],
    [{ power: null }, 'Say which power or torque is wanted.'],
    [{ torque: '300 lb ft' }, 'At that speed the power is 272 lb ft of torque (369 N·m): leave one of them out.'],
  ])('with %j is refused in words', (change, sentence) => {
    expect(message(Build.safeParse({ ...least, ...change })).replaceAll('\u00a0', ' ')).toBe(sentence);
  });
});

describe('an engine known by its displacement and a torque', () => {
  it('has the target of one whose bore and stroke make as much, and its power is that of the torque', () => {
    const whole = Build.parse({
      id: 'k',
      name: 'K',
      bore: '98 mm',
      stroke: '93 mm',
      cylinders: 6,
      power: '290 hp',
      speed: '5600 rpm',
    });
    const known = evaluateTarget(toCoreBuild(whole));
    const { bore: _b, stroke: _s, power: _p, ...rest } = whole;
    const plain = Build.parse({ ...rest, displacement: '4.2090 L', torque: '271.98 lb ft' });
    const target = evaluateTarget(toCoreBuild(plain));
    // 5252 × 290 / 5600 = 271.98 lb ft.
    expect(target.torque.value / known.torque.value).toBeCloseTo(1, 4);
    for (const figure of ['demand', 'areaNeeded', 'airflow', 'bmep'] as const)
      expect(target[figure]!.value / known[figure]!.value).toBeCloseTo(1, 3);
    // 467 ci of eight cylinders: 58.4 in³ each.
    const big = evaluateTarget(
      toCoreBuild(Build.parse({ ...rest, cylinders: 8, displacement: '467 ci', torque: '500 lb ft' })),
    );
    expect(big.cylinderVolume.value * 61023.744).toBeCloseTo(467 / 8, 3);
  });
});

describe('how finely a figure was written', () => {
  it.each([
    ['98.0 mm', 0.05e-3],
    ['2.08 in', 0.005 * 0.0254],
    ['.480 in', 0.0005 * 0.0254],
    ['98 mm', 0.5e-3],
    ['1 7/8 in', 0],
  ])('%s: half of its last figure', (typed, half) => {
    const si = quantitySchema('length').parse(typed).si;
    expect(resolutionOf({ si, typed })).toBeCloseTo(half, 9);
  });
});

describe('the shop’s own assumptions', () => {
  const own = (name: string, value: string) => Assumption.parse({ id: name, name, value });
  it('take the usual ones’ places; a triangle that does not rise is left as usual', () => {
    expect(assumptionsOf([])).toEqual(USUAL_ASSUMPTIONS);
    expect(assumptionsOf([own('setup', '0.6 %')]).setup).toBeCloseTo(0.006, 12);
    const factor = assumptionsOf([own('leastPowerPerFlow', '0.25 hp/cfm')]).powerPerFlow;
    expect(factor[0]).toBeCloseTo(horsepowerPerCfm(0.25), 6);
    expect(assumptionsOf([own('mostPowerPerFlow', '0.2 hp/cfm')]).powerPerFlow).toEqual(USUAL_ASSUMPTIONS.powerPerFlow);
  });
});

describe('a set-up', () => {
  it('leaves unknown what nobody stated', () => {
    expect(Setup.parse({})).toMatchObject({
      depression: null,
      bore: null,
      entry: 'unknown',
      exhaustPipe: 'unknown',
      valve: 'unknown',
      holesClosed: 'unknown',
      ranges: [],
    });
  });
});

describe('nouns', () => {
  it('each have their words, and every measured place its range', () => {
    for (const noun of NOUN_NAMES) expect(NOUN_WORDS[noun].many.length).toBeGreaterThan(3);
    for (const item of MEASURE_ITEM_NAMES) expect(MEASURE_ITEMS[item].limits.sentence).toMatch(/must lie/);
  });
  it('read what they wrote: a record parsed twice is the same', () => {
    const sheet = Sheet.parse({
      id: 's',
      stageId: 't',
      title: 'S',
      setup: { depression: '28 inH2O' },
      rows: [{ lift: '.300 in', intake: { pulls: ['149 cfm', '150 cfm'] } }],
    });
    expect(NOUNS.sheet.parse(sheet)).toEqual(sheet);
  });
});

describe('a bundle', () => {
  it('written and read again is the same, whatever the sizes', () => {
    const size = fc.integer({ min: 210, max: 5990 }).map((n) => `${(n / 10).toFixed(1)} mm`);
    const name = fc.string({ minLength: 1, maxLength: 40 }).filter((s) => s.trim() === s && s !== '');
    fc.assert(
      fc.property(
        fc.array(fc.record({ name, bore: size, stroke: size, cylinders: fc.integer({ min: 1, max: 24 }) }), {
          maxLength: 5,
        }),
        (builds) => {
          const first = readBundle({
            format: 'alluvium-bundle',
            version: 1,
            builds: builds.map((b, i) => ({ ...b, id: `b${i}`, power: '290 hp', speed: '5600 rpm' })),
          });
          expect(first.problems).toEqual([]);
          const again = readBundle(JSON.parse(writeBundle({ build: first.bundle.builds })));
          expect(again.problems).toEqual([]);
          expect(fingerprint(again.bundle)).toBe(fingerprint(first.bundle));
        },
      ),
    );
  });
  it('that is no bundle is refused, whatever it is', () => {
    fc.assert(fc.property(fc.jsonValue(), (value) => readBundle(value).problems.length > 0));
  });
});
