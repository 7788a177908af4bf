import { describe, expect, it } from 'vitest';
import { lacking, requiredOf } from './required.js';

describe('what a record needs', () => {
  it('is read from its schema; what a form fills in itself is none of it', () => {
    expect([...requiredOf('build')]).toEqual(['name', 'cylinders', 'speed']);
    expect([...requiredOf('report')]).toEqual(['power', 'speed']);
  });
  it('is said by the words of its fields, spaces counting as nothing', () => {
    expect(lacking('build', { name: '  ', cylinders: 6, speed: null })).toEqual(['name', 'speed']);
    expect(lacking('head', { name: 'x' })).toEqual([]);
  });
});
