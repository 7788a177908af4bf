import { cfm } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { NOUNS } from './nouns/index.js';
import { quantitySchema } from './quantity.js';
import { custom, issue, refusal, sentence, sentenceOfIssue } from './refusal.js';
import { readBundle } from './files/bundle.js';
import { readTable } from './files/table.js';
import { sectionProblem } from './sections.js';
import { SENTENCES } from './sentences.js';

const firstIssue = (schema: z.ZodType, input: unknown) => {
  const { error } = schema.safeParse(input);
  return sentenceOfIssue(error!.issues[0]!);
};

describe('refusals of records and files', () => {
  it('are told by Zod as custom issues that carry our code', () => {
    const schema = z.object({ a: z.string().refine((a) => a !== 'x', custom('needed')) }).superRefine((o, ctx) => {
      if (o.a === 'y') ctx.addIssue(issue(['a'], 'idTwice', 'y'));
    });
    expect(firstIssue(schema, { a: 'x' })).toEqual({ code: 'needed', message: 'This is needed.' });
    expect(firstIssue(schema, { a: 'y' })).toEqual({ code: 'idTwice', message: 'The id “y” stands twice.' });
    expect(schema.safeParse({ a: 'y' }).error!.issues[0]!.path).toEqual(['a']);
    // What Zod finds itself keeps Zod's code.
    expect(firstIssue(schema, { a: 3 }).code).toBe('invalid_type');
  });

  it('pass on the computation’s own code through a schema', () => {
    const bore = quantitySchema('length', { min: 0, max: 1, sentence: 'The bore must lie between 0 and 1 m.' });
    expect(firstIssue(bore, 'x').code).toBe('notThisKind');
    expect(firstIssue(bore, '3 furlongs')).toEqual({
      code: 'notAUnit',
      message: expect.stringContaining('“furlongs” is not a unit'),
    });
    expect(firstIssue(bore, '3000 mm')).toEqual({
      code: 'unbelievable',
      message: 'The bore must lie between 0 and 1 m.',
    });
    expect(firstIssue(bore, { si: 0.1, typed: '98 mm' }).code).toBe('textAgainstValue');
  });

  it('stand beside their place in what a file is told', () => {
    expect(readBundle({}).problems[0]).toMatchObject({ place: 'file', code: 'notABundle' });
    expect(readTable([['Dear customer']]).problems[0]).toMatchObject({ line: 1, code: 'lineUnknown' });
    expect(sectionProblem({ shape: 'round', width: null, height: null, radius: null, outline: [] })).toEqual({
      field: 'width',
      ...sentence('sectionWithout', 'round', 'width'),
    });
  });

  it('1,250 cfm is twelve hundred and fifty, in a file as in a field, and what both could be is asked', () => {
    const flow = quantitySchema('flow');
    expect(flow.parse('1,250 cfm').si / cfm(1)).toBeCloseTo(1250, 9);
    expect(flow.parse('212,5 cfm').si / cfm(1)).toBeCloseTo(212.5, 9);
    // What is stored says its own number.
    expect(flow.parse(flow.parse('1,250 cfm')).typed).toBe('1250 cfm');
  });

  it('reach the record’s field', () => {
    const { error } = NOUNS.pull.safeParse({});
    expect(error!.issues.length).toBeGreaterThan(0);
    for (const found of error!.issues) expect(sentenceOfIssue(found).code).not.toBe('');
  });

  it('speak in whole sentences, each under one code', () => {
    const fixed = Object.values(SENTENCES).filter((s) => typeof s === 'string');
    expect(new Set(fixed).size).toBe(fixed.length);
    for (const s of fixed) expect(s).toMatch(/^[“\p{Lu}].*[.?]$/u);
    expect(refusal('tooManyRows', 60, 61).message).toBe('A sheet has at most 60 rows; here are 61.');
  });
});
