import { describe, expect, it } from 'vitest';
import { Template, templatesOf } from '../index.js';

const stored = (of: string, content: object, name = 'ours') =>
  Template.safeParse({ id: 't', version: 1, name, of, content });

describe('templates', () => {
  it('hold what their record would, and say field by field what is wrong', () => {
    expect(stored('head', { intakeValves: 2, intake: '34 mm' }).success).toBe(true);
    const wrong = stored('head', { intakeValves: 9, intake: '3 m' });
    expect(wrong.error!.issues.map((i) => [i.path.join('.'), i.message])).toEqual([
      ['content.intakeValves', 'One to three intake valves per cylinder.'],
      ['content.intake', 'A valve must be between 5 and 250 mm.'],
    ]);
    expect(stored('set-up', { depression: '28 inH2O', entry: 'radius' }).success).toBe(true);
    expect(stored('set-up', { entry: 'sideways' }).success).toBe(false);
    expect(stored('engine', {}).success).toBe(false);
  });

  it('are offered with the shop’s own first; one that no longer fits is left out', () => {
    const own = [
      stored('head', { intakeValves: 2 }, 'b').data!,
      stored('head', { intakeValves: 1 }, 'a').data!,
      { ...stored('head', {}, 'c').data!, content: { intakeValves: 9 } },
      stored('bench', {}, 'not a head').data!,
    ];
    const offered = templatesOf('head', own);
    expect(offered.filter((t) => t.id).map((t) => t.name)).toEqual(['a', 'b']);
    expect(offered.findIndex((t) => t.id === undefined)).toBe(2);
    expect(offered[1]!.content.intakeValves).toBe(2);
    for (const of of ['head', 'bench', 'set-up'] as const)
      for (const t of templatesOf(of, [])) expect(stored(of, t.content).error).toBeUndefined();
  });
});
