import { describe, expect, it } from 'vitest';
import {
  calibrationWords,
  cellWords,
  cfm,
  depressionWords,
  eyeWords,
  feetPerSecond,
  inchesOfWater,
  mapWords,
  rangeAdvice,
  rangeWords,
  readMap,
  sayIn,
} from '../index.js';

const say = sayIn('inch');
const plain = (s: string) => s.replaceAll('\u00a0', ' ');

describe('the bench in words', () => {
  const ranges = [
    { name: '3', fullScale: cfm(150) },
    { name: '4', fullScale: cfm(300) },
  ];
  it('range', () => {
    expect(plain(rangeWords(rangeAdvice(cfm(90), ranges, '4'), say))).toBe(
      'Range 3 would read finer: steps of 0.15 cfm instead of 0.30 cfm.',
    );
    expect(plain(rangeWords(rangeAdvice(cfm(149), ranges, '3'), say))).toBe(
      'Go up to range 4: 99 % of this one is used. It reads in steps of 0.30 cfm instead of 0.15 cfm.',
    );
    expect(rangeWords(rangeAdvice(cfm(310), ranges, '4'), say)).toContain('lower the depression');
    expect(rangeWords(rangeAdvice(cfm(200), ranges, '4'), say)).toBe('');
  });
  it('depression', () => {
    const [set, read] = [inchesOfWater(28), inchesOfWater(25)];
    expect(plain(depressionWords('corrected', set, read, say))).toContain(
      '25.0 inH2O instead of 28.0 inH2O: corrected',
    );
    expect(depressionWords('refused', set, read, say)).toContain('too far off');
    expect(depressionWords('held', set, set, say)).toBe('');
  });
  it('a place in a map, by which side is the cylinder wall', () => {
    expect(cellWords({ row: 0, column: 0 }, 5, 5, 'left')).toBe('roof, on the cylinder-wall side');
    expect(cellWords({ row: 4, column: 2 }, 5, 5, 'left')).toBe('floor centre');
    expect(cellWords({ row: 2, column: 2 }, 5, 5, 'left')).toBe('the centre');
    expect(cellWords({ row: 2, column: 4 }, 5, 5, 'left')).toBe('mid height, away from the cylinder wall');
    expect(cellWords({ row: 0, column: 4 }, 5, 5, 'right')).toBe('roof, on the cylinder-wall side');
    expect(cellWords({ row: 0, column: 4 }, 5, 5, 'unknown')).toBe('roof, on the right');
    expect(cellWords({ row: 0, column: 0 }, 1, 1, 'left')).toBe('the centre');
  });
  it('a map', () => {
    const cells = [400, 350, 300, 60].map((v, i) => ({
      row: Math.floor(i / 2),
      column: i % 2,
      velocity: feetPerSecond(v),
      bounce: 0,
      area: 1,
    }));
    const grid = { rows: 2, columns: 2, wall: 'left', place: 'short turn' } as const;
    expect(plain(mapWords(readMap(cells)!, grid, say))).toBe(
      'In the short turn it is fast at the roof, on the cylinder-wall side (400 ft/s), and dead at the floor, away from the cylinder wall.',
    );
    expect(mapWords(readMap(cells.slice(0, 3))!, grid, say)).toContain('nowhere dead');
  });
  it('an eye', () => {
    expect(eyeWords(undefined, say)).toContain('No call');
    expect(plain(eyeWords({ count: 1, bias: -0.04, spread: undefined }, say))).toContain('4.0 % too low');
    expect(plain(eyeWords({ count: 9, bias: 0.05, spread: 0.02 }, say))).toContain('calls 5.0 % too high');
    expect(plain(eyeWords({ count: 9, bias: 0.01, spread: 0.05 }, say))).toContain(
      'no leaning that can be told (+1.0 %)',
    );
  });
  it('a calibration', () => {
    expect(calibrationWords(1.004, 20, 1.001, say)).toBe('');
    expect(plain(calibrationWords(0.98, 20, undefined, say))).toContain('reads 2.0 % too high');
    expect(calibrationWords(1.002, 200, undefined, say)).toContain('200 days');
    expect(calibrationWords(1.0, undefined, undefined, say)).toContain('Nobody knows');
    expect(plain(calibrationWords(1.009, 1, 0.995, say))).toContain('moved 1.4 %');
  });
});
