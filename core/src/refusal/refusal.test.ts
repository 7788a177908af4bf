import { describe, expect, it } from 'vitest';
import { depressionCorrection, differentialReading } from '../flow/reading.js';
import { noted, work } from '../method/method.js';
import { quantity, parseQuantity } from '../quantity/parse.js';
import { columnStyle } from '../quantity/style.js';
import { budgetOfWorking } from '../uncertainty/working.js';
import { Refusal, refusal, refusalsFrom, refusedBy } from './refusal.js';
import { SENTENCES } from './sentences.js';

const caught = (act: () => unknown): unknown => {
  try {
    return act();
  } catch (error) {
    return error;
  }
};

describe('refusals', () => {
  it('carry their code, what they were told with, and the sentence of their table', () => {
    const why = refusal('tooManyLifts', 60);
    expect(why).toMatchObject({ code: 'tooManyLifts', given: [60], message: 'A run has at most 60 lifts.' });
    expect(refusal('liftTwice')).toMatchObject({ code: 'liftTwice', given: [], message: SENTENCES.liftTwice });
    const own = refusalsFrom({ here: (n: number) => `Here are ${n}.` });
    expect(own('here', 3).message).toBe('Here are 3.');
  });

  it('are told apart by code wherever a calculation is refused', () => {
    expect(caught(() => differentialReading.compute({ reading: -0.1, fullScale: 0.1 }))).toMatchObject({
      code: 'pressureNegative',
    });
    expect(parseQuantity('', 'lift')).toMatchObject({ ok: false, refusal: { code: 'nothingTyped' } });
    expect(parseQuantity('abc', 'lift')).toMatchObject({ ok: false, refusal: { code: 'notThisKind' } });
    expect(parseQuantity('3 furlongs', 'length')).toMatchObject({ ok: false, refusal: { code: 'notAUnit' } });
    expect(caught(() => quantity('x', 'flow'))).toBeInstanceOf(Refusal);
    expect(caught(() => columnStyle(['1.5', '1,5']))).toMatchObject({ code: 'decimalsMixed', given: ['1.5', '1,5'] });
  });

  it('are not taken for faults of the program, nor these for them', () => {
    expect(refusedBy(refusal('costsNothing')).code).toBe('costsNothing');
    const fault = new RangeError('Maximum call stack size exceeded');
    expect(() => refusedBy(fault)).toThrow(fault);
    // The ends of what is not known are tried: one that cannot be is left out, one that breaks is a fault.
    const budget = (thrown: Error) => {
      const beyond: typeof depressionCorrection = {
        ...depressionCorrection,
        compute: ({ flow }) => {
          if (flow > 0.1) throw thrown;
          return flow;
        },
      };
      const spread = { shape: 'normal', u: 0.01 } as const;
      const leaf = { id: 'x', label: 'reading', value: 0.1, spread, source: 'common practice, no source' };
      return budgetOfWorking(work(beyond, { flow: noted(0.1, 'as read', 'x'), depression: 7e3, reference: 7e3 }), {
        leaves: new Map([['x', leaf]]),
        made: new Map(),
      });
    };
    expect(budget(refusal('costsNothing'))?.u ?? 0).toBe(0);
    expect(() => budget(fault)).toThrow(fault);
  });

  it('speak in whole sentences, each under one code', () => {
    const fixed = Object.values(SENTENCES).filter((s) => typeof s === 'string');
    expect(new Set(fixed).size).toBe(fixed.length);
    for (const s of fixed) expect(s).toMatch(/^\p{Lu}.*[.]$/u);
  });
});
