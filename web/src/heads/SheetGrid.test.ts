import { inches } from '@alluvium/core';
import { emptyCells, readCells, Setup, type Cells } from '@alluvium/records';
import { afterEach, describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { mounted } from '../test/mounted.js';
import SheetGrid from './SheetGrid.vue';

let grid: ReturnType<typeof mounted> | undefined;
afterEach(() => {
  grid?.unmount();
  grid = undefined;
});

const flow = Setup.parse({});
const cell = (lift: string, intake = '', exhaust = ''): Cells => ({ ...emptyCells(), lift, intake, exhaust });
let held: Cells[];
async function show(cells: Cells[], props: Record<string, unknown> = {}): Promise<void> {
  held = cells;
  grid = mounted(SheetGrid, {
    props: {
      modelValue: cells,
      'onUpdate:modelValue': (next: Cells[]) => {
        held = next;
        void grid?.setProps({ modelValue: next });
      },
      reads: 'flow',
      problems: readCells(cells, flow, 'inch').problems,
      system: 'inch',
      watch: [inches(0.3)],
      ...props,
    },
  });
  await grid.setProps({ modelValue: held });
}
const at = (row: number, name: string) => grid!.find<HTMLInputElement>(`input[aria-label="Row ${row}, ${name}"]`);
const values = () => held.map((c) => [c.lift, c.intake, c.exhaust]);
async function paste(row: number, name: string, text: string): Promise<void> {
  const event = new Event('paste', { bubbles: true, cancelable: true });
  Object.assign(event, { clipboardData: { getData: () => text } });
  at(row, name).element.dispatchEvent(event);
  await nextTick();
}

describe('the grid of a sheet', () => {
  it('always has a spare row, and offers the next lift by the last step', async () => {
    await show([cell('.100', '58'), cell('.200', '109')]);
    await nextTick();
    expect(values()).toHaveLength(3);
    expect(at(3, 'lift').attributes('placeholder')).toBe('.300');
    await at(3, 'intake').setValue('149');
    expect(values()[2]).toEqual(['.300', '149', '']);
    expect(values()).toHaveLength(4);
  });

  it('offers nothing where there is no step to go by', async () => {
    await show([cell('three'), cell('')]);
    expect(at(2, 'lift').attributes('placeholder')).toBe('');
  });

  it('takes a pasted block where it is pasted, and grows', async () => {
    await show([cell('.100', '58')]);
    await paste(2, 'lift', '.200\t109\t83\r\n.300\t149\t110');
    expect(values().slice(0, 3)).toEqual([
      ['.100', '58', ''],
      ['.200', '109', '83'],
      ['.300', '149', '110'],
    ]);
    await paste(1, 'exhaust', '44\n83');
    expect(values().slice(0, 2)).toEqual([
      ['.100', '58', '44'],
      ['.200', '109', '83'],
    ]);
  });

  it('leaves a single value to the field', async () => {
    await show([cell('.100', '58')]);
    await paste(1, 'intake', '60');
    expect(values()[0]).toEqual(['.100', '58', '']);
  });

  it('three columns pasted at the lift pass over the range columns', async () => {
    await show([emptyCells()], { reads: 'percent' });
    await paste(1, 'lift', '.100 53.8 38.4');
    expect(held[0]).toMatchObject({
      lift: '.100',
      intake: '53.8',
      exhaust: '38.4',
      intakeRange: '',
    });
  });

  it('hands a table with headings or set-up lines on as a whole', async () => {
    await show([emptyCells()]);
    await paste(1, 'lift', 'depression,25 inH2O\nlift,exhaust,intake\n.100,44,58');
    const [table] = grid!.emitted('table')![0] as [{ setup: object; cells: Cells[] }];
    expect(table.setup).toEqual({ depression: '25 inH2O' });
    expect(table.cells[0]).toMatchObject({ lift: '.100', intake: '58', exhaust: '44' });
  });

  it('says what is wrong under the row, and marks the cell', async () => {
    await show([cell('.100', 'lots')]);
    expect(grid!.find('[role=alert]').text()).toBe('“lots” is not a flow. Type it like 188.9, or 89 L/s.');
    expect(at(1, 'intake').attributes('aria-invalid')).toBe('true');
    expect(at(1, 'exhaust').attributes('aria-invalid')).toBe('false');
  });

  it('dims what lies beyond the cam and lifts out the watch lifts', async () => {
    await show([cell('.300', '149'), cell('.500', '179')], { dimBeyond: inches(0.48) });
    expect(grid!.find('tr[data-row="0"]').classes()).toContain('watched');
    expect(grid!.find('tr[data-row="0"]').classes()).not.toContain('dim');
    expect(grid!.find('tr[data-row="1"]').classes()).toContain('dim');
  });

  it('takes a row out with Ctrl and Delete', async () => {
    await show([cell('.100', '58'), cell('.200', '109')]);
    await at(1, 'intake').trigger('keydown', { key: 'Delete', ctrlKey: true });
    expect(values()[0]).toEqual(['.200', '109', '']);
  });

  it('moves with Enter and the arrows', async () => {
    await show([cell('.100', '58'), cell('.200', '109')]);
    at(1, 'intake').element.focus();
    await at(1, 'intake').trigger('keydown', { key: 'Enter' });
    await nextTick();
    expect(document.activeElement?.getAttribute('aria-label')).toBe('Row 2, intake');
    await at(2, 'intake').trigger('keydown', { key: 'ArrowUp' });
    await nextTick();
    expect(document.activeElement?.getAttribute('aria-label')).toBe('Row 1, intake');
  });
});
