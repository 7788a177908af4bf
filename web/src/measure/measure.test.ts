import { readFileSync } from 'node:fs';
import { budgetStations, evaluateSurvey, floorsFor, inches, plainStations } from '@alluvium/core';
import {
  emptySection,
  readBundle,
  readSections,
  toCoreSections,
  writeSection,
  wholesOf,
  type SectionCells,
} from '@alluvium/records';
import { afterEach, describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { mounted } from '../test/mounted.js';
import AreaChart from './AreaChart.vue';
import PourPane from './PourPane.vue';
import RingDrawing from './RingDrawing.vue';
import RiverChart from './RiverChart.vue';
import SectionDrawing from './SectionDrawing.vue';
import SectionTable from './SectionTable.vue';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const sections = toCoreSections(bundle.surveys.find((s) => s.id === '417-sawn')!);
const survey = evaluateSurvey(sections);
const budget = budgetStations(plainStations(survey), floorsFor('intake'));

let page: ReturnType<typeof mounted> | undefined;
afterEach(() => page?.unmount());

describe('the table of sections', () => {
  let sent: SectionCells[] = [];
  const show = (rows: SectionCells[]) =>
    (page = mounted(SectionTable, {
      props: {
        modelValue: rows,
        problems: readSections(rows, 'inch').problems,
        chosen: 0,
        'onUpdate:modelValue': (now: SectionCells[]) => (sent = now),
      },
    }));
  const at = (row: number, name: string) => page!.find<HTMLInputElement>(`[data-cell="${row}|${name}"]`);
  const last = () => sent;
  const row = (cells: Partial<SectionCells>) => ({ ...emptySection(), ...cells });

  it('always has a spare row, and steps the station by the last difference', async () => {
    show([
      row({ station: '0 mm', shape: 'oval', width: '30 mm', height: '40 mm' }),
      row({ station: '5 mm', shape: 'oval', width: '30 mm', height: '40 mm' }),
    ]);
    expect(last()).toHaveLength(3);
    page!.unmount();
    show([...last()]);
    expect(at(2, 'station').attributes('placeholder')).toBe('10 mm');
    await at(2, 'width').setValue('31 mm');
    // Typing a size takes the offered station and the shape of the row above.
    expect(last()[2]).toMatchObject({ station: '10 mm', shape: 'oval', width: '31 mm' });
  });
  it('takes a block where it is pasted', async () => {
    show([emptySection()]);
    const event = new Event('paste', { bubbles: true, cancelable: true });
    Object.assign(event, { clipboardData: { getData: () => '0\t\tround\t40\n5\t\tround\t38' } });
    at(0, 'station').element.dispatchEvent(event);
    await nextTick();
    expect(last().map((r) => [r.station, r.shape, r.width])).toEqual([
      ['0', 'round', '40'],
      ['5', 'round', '38'],
      ['', '', ''],
    ]);
  });
  it('moves down with Enter, and takes a row out with Ctrl and Delete', async () => {
    const rows = bundle.surveys[0]!.sections.slice(0, 3).map(writeSection);
    show([...rows, emptySection()]);
    at(0, 'width').element.focus();
    await at(0, 'width').trigger('keydown', { key: 'Enter' });
    await nextTick();
    expect(document.activeElement).toBe(at(1, 'width').element);
    await at(1, 'width').trigger('keydown', { key: 'Delete', ctrlKey: true });
    expect(last()).toHaveLength(3);
  });
  it('says under the row what is wrong with it, and closes the fields a shape does not have', () => {
    show([row({ station: '0 mm', shape: 'round', width: 'wide' }), emptySection()]);
    expect(page!.find('[role=alert]').text()).toContain('“wide” is not a length.');
    expect(at(0, 'width').attributes('aria-invalid')).toBe('true');
    expect([at(0, 'height'), at(0, 'radius')].map((c) => c.attributes('disabled'))).toEqual(['', '']);
  });
});

describe('the river', () => {
  const show = (mode: string) =>
    (page = mounted(RiverChart, { props: { survey, budget, mode, needed: 1155e-6, height: 320 } }));
  it('marks choke and window, the target’s line, the metal where it is scarce, and what lies beyond', () => {
    show('area');
    const text = page!.text().replaceAll('\u00a0', ' ');
    for (const words of ['choke 1.74 in²', 'window 2.00 in²', 'target asks 1.79 in²', '3.9', 'spring seat', 'water'])
      expect(text).toContain(words);
  });
  it('is as wide as the port is high, or wide, when asked', () => {
    show('height');
    expect(page!.text()).toContain('choke 1.8');
    expect(page!.text()).not.toContain('target asks');
    page!.unmount();
    show('width');
    expect(page!.text()).toContain('pushrod');
  });
  it('is read station by station with the arrows', async () => {
    show('area');
    const svg = page!.find('svg');
    for (let i = 0; i < 4; i++) await svg.trigger('keydown', { key: 'PageDown' });
    for (let i = 0; i < 6; i++) await svg.trigger('keydown', { key: 'ArrowRight' });
    const here = page!.find('.here').text().replaceAll('\u00a0', ' ');
    expect(here).toContain('30.0 mm in · 1.74 in² · 25.7 × 45.9 mm · could be 1.8');
    expect(here).toContain('rear 2.9 to pushrod');
  });
});

describe('the drawings beside it', () => {
  it('area along the port has a letter for each line and bars for the rate', () => {
    const other = evaluateSurvey(toCoreSections(bundle.surveys.find((s) => s.id === 'p6-mould')!));
    page = mounted(AreaChart, {
      props: {
        own: survey,
        letter: 'A',
        others: [{ letter: 'C', index: 2, survey: other }],
        budget,
        needed: 1e-3,
        height: 200,
      },
    });
    expect(page.findAll('.end').map((t) => t.text())).toEqual(['A', 'C']);
    expect(page.findAll('rect')).toHaveLength(survey.taper.length);
    expect(page.find('path[fill="var(--paper-deep)"]').attributes('d')).not.toBe('');
  });
  it('a section shows its walls, the thin one marked', () => {
    const at30 = sections.find((s) => Math.abs(s.station - 0.03) < 1e-9)!;
    const thin = { ...at30, walls: { ...at30.walls, rear: { thickness: 0.0019, behind: 'pushrod' as const } } };
    const [station] = budgetStations(plainStations(evaluateSurvey([thin])), floorsFor('intake'));
    page = mounted(SectionDrawing, { props: { section: thin, budget: station!.sections[0] } });
    expect(page.findAll('text').map((t) => t.text())).toEqual(['3.9', '4.6', '4.2', '1.9']);
    expect(page.findAll('.thin')).toHaveLength(1);
  });
  it('the ring is drawn to scale: throat and valve keep their ratio', () => {
    page = mounted(RingDrawing, { props: { valve: inches(1.85), throat: inches(1.665), seatAngle: Math.PI / 4 } });
    const throat = page.find('.measure');
    const under = page.find('.under');
    const length = (l: typeof throat) => Number(l.attributes('x2')) - Number(l.attributes('x1'));
    expect(length(throat) / length(under)).toBeCloseTo(0.9, 3);
    expect(page.text()).toContain('90.0 %');
    expect(page.text()).toContain('45° seat');
    expect(page.find('.guide').classes()).toContain('usual');
  });
  it('the guide is drawn to scale once it is measured', () => {
    page = mounted(RingDrawing, { props: { valve: inches(1.85), stem: 0.008, guide: 0.014 } });
    const guide = page.find('.guide');
    expect(guide.classes()).not.toContain('usual');
    const [from, to] = [/M([\d.]+)/, /H([\d.]+)/].map((r) => Number(r.exec(guide.attributes('d')!)![1]));
    const valve = page.find('.under');
    const width = Number(valve.attributes('x2')) - Number(valve.attributes('x1'));
    expect(Math.abs(to! - from!) / width).toBeCloseTo(0.003 / inches(1.85), 4);
  });
});

describe('the pour', () => {
  it('counts the ports chosen, their spare and packs', async () => {
    localStorage.setItem('alluvium.pack', JSON.stringify({ si: 1e-4, typed: '100 cc' }));
    localStorage.setItem('alluvium.pack-price', JSON.stringify({ si: 24, typed: '24' }));
    const whole = wholesOf(bundle).find((w) => w.head.id === 'corrow-417')!;
    page = mounted(PourPane, { props: { whole, stage: whole.stages[0]! } });
    const boxes = page.findAll('input[type=checkbox]');
    expect(boxes).toHaveLength(12);
    await boxes[0]!.setValue(true);
    await nextTick();
    const rows = page.findAll('tr').map((r) => r.text().replaceAll('\u00a0', ' '));
    // 121.5 cc and 15 % over are 140 cc: two packs of 100.
    expect(rows[0]).toContain('140 cc');
    expect(rows[1]).toContain('2');
    expect(rows[2]).toContain('48');
    localStorage.clear();
  });
});
