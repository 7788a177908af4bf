import { quantity } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { fieldProblem, fieldSchema } from './fieldProblem.js';

describe('a value while it is typed', () => {
  it.each([
    ['build', 'bore', quantity('980 mm', 'length'), /bore must lie between/i],
    ['build', 'speed', quantity('56000 rpm', 'rotation'), 'The speed must lie between 300 and 25,000 rpm.'],
    ['build', 'cam.intakeLift', quantity('4.8 in', 'lift'), 'Valve lift must lie between .060 and 2.000 in.'],
    ['sheet', 'setup.bore', quantity('98 in', 'length'), 'The bore fixture must lie between 20 and 600 mm.'],
    ['report', 'power', quantity('0.2 hp', 'power'), /./],
  ] as const)('%s %s', (noun, field, value, sentence) => {
    expect(fieldProblem(noun, field, value)).toMatch(sentence);
  });
  it('is let be where it makes sense, where nothing stands, and where there is no such field', () => {
    expect(fieldProblem('build', 'bore', quantity('98 mm', 'length'))).toBeUndefined();
    expect(fieldProblem('build', 'bore', null)).toBeUndefined();
    expect(fieldSchema('build', 'nothing.at.all')).toBeUndefined();
  });
});
