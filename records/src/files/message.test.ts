import { describe, expect, it } from 'vitest';
import { readMessage } from './message.js';

describe('figures in a message', () => {
  it('with a lift before each pair are read, whatever stands between them', () => {
    for (const text of [
      '300: 149/110, 400: 172/126',
      'it went 300 149/110 and 400 172/126 on his bench',
      '.300 = 149 / 110; .400 - 172/126',
    ]) {
      const read = readMessage(text)!;
      expect(read.sure, text).toBe(true);
      expect(read.rows('lift / flow').map((r) => [Number(r.lift.replace('.', '')), r.intake, r.exhaust])).toEqual([
        [300, '149', '110'],
        [400, '172', '126'],
      ]);
    }
  });
  it('of pairs alone are asked about: lift and flow, or intake and exhaust', () => {
    const read = readMessage('He says 200/115, 320/180.')!;
    expect(read.sure).toBe(false);
    expect(read.rows('lift / flow')).toEqual([
      { lift: '200', intake: '115', exhaust: '' },
      { lift: '320', intake: '180', exhaust: '' },
    ]);
    expect(read.rows('intake / exhaust')[1]).toEqual({ lift: '', intake: '320', exhaust: '180' });
  });
  it('are not guessed at: a table, one pair, several pulls of a point, or figures left over are no message', () => {
    for (const text of [
      '.100\t58/44',
      '188.2 / 188.9',
      'hello',
      '',
      '200/115 320/180 at 25',
      '1/2/3 4/5/6',
      '05/31/2026 06/01/2026',
    ])
      expect(readMessage(text), text).toBeUndefined();
  });
  it('take a decimal comma', () => {
    expect(readMessage('7,5: 60/44 10: 80,5/61')!.rows('lift / flow')[0]!.lift).toBe('7.5');
  });
});
