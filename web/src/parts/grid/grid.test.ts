import { afterEach, describe, expect, it } from 'vitest';
import { nextTick, ref } from 'vue';
import { mounted } from '../../test/mounted.js';
import CellGrid from './CellGrid.vue';
import { blockFrom, edgesOf, laidOver, toHtml, toTabs } from './block.js';

type Row = Record<'lift' | 'intake' | 'exhaust', string>;
const blank = (): Row => ({ lift: '', intake: '', exhaust: '' });
const row = (lift: string, intake = '', exhaust = ''): Row => ({ lift, intake, exhaust });

let grid: ReturnType<typeof mounted>;
afterEach(() => grid?.unmount());
const held = ref<Row[]>([]);
function show(rows: Row[], props: Record<string, unknown> = {}): void {
  held.value = rows;
  const put = async (next: unknown) => {
    held.value = next as Row[];
    await grid.setProps({ modelValue: held.value });
  };
  grid = mounted(CellGrid, {
    props: {
      modelValue: held.value,
      'onUpdate:modelValue': (next: unknown) => (grid ? put(next) : ((held.value = next as Row[]), undefined)),
      label: 'Rows',
      columns: (['lift', 'intake', 'exhaust'] as const).map((key) => ({ key, title: key, name: key })),
      blank,
      ...props,
    },
  });
}
const at = (line: number, name: string) => grid.find<HTMLInputElement>(`[aria-label="Row ${line}, ${name}"]`);
const values = () => held.value.map((r) => [r.lift, r.intake, r.exhaust].join(' ').trim());
const press = (line: number, name: string, key: string, more: object = {}) =>
  at(line, name).trigger('keydown', { key, ...more });
async function focus(line: number, name: string): Promise<void> {
  at(line, name).element.focus();
  await nextTick();
}
/** What a clipboard would hold after a copy. */
function clipboard(kind: 'copy' | 'cut', line: number, name: string): Map<string, string> {
  const got = new Map<string, string>();
  const event = new Event(kind, { bubbles: true, cancelable: true });
  Object.assign(event, { clipboardData: { setData: (type: string, text: string) => got.set(type, text) } });
  at(line, name).element.dispatchEvent(event);
  return got;
}
async function paste(line: number, name: string, data: Record<string, string>): Promise<void> {
  const event = new Event('paste', { bubbles: true, cancelable: true });
  Object.assign(event, { clipboardData: { getData: (type: string) => data[type] ?? '' } });
  at(line, name).element.dispatchEvent(event);
  await nextTick();
}
const three = () => [row('.100', '58', '44'), row('.200', '109', '83'), row('.300', '149', '110'), blank()];

describe('a block of cells', () => {
  it('is written with tabs, quoted where it must be, and as a table', () => {
    expect(
      toTabs([
        ['.100', 'a\tb'],
        ['say "x"', ''],
      ]),
    ).toBe('.100\t"a\tb"\n"say ""x"""\t');
    expect(toHtml([['<1', '2']])).toBe('<table><tr><td>&lt;1</td><td>2</td></tr></table>');
  });
  it('is read from the table of a page before its text, without empty lines', () => {
    const html = '<meta><table><tr><td>.100</td><td>58</td></tr><tr><td></td><td> </td></tr></table>';
    expect(blockFrom({ getData: (t) => (t === 'text/html' ? html : 'other') }).block).toEqual([['.100', '58']]);
    expect(blockFrom({ getData: (t) => (t === 'text/html' ? '<b>x</b>' : '1\t2') }).block).toEqual([['1', '2']]);
  });
  it('fills a range that is a multiple of it, else stands once', () => {
    const over = edgesOf({ from: { row: 3, column: 1 }, to: { row: 0, column: 1 } });
    expect(laidOver([['x'], ['y']], over).map((e) => `${e.row}${e.text}`)).toEqual(['0x', '1y', '2x', '3y']);
    expect(laidOver([['x'], ['y'], ['z']], over)).toHaveLength(3);
  });
});

describe('the grid', () => {
  it('draws a range by Shift and the arrows, copies it, cuts it', async () => {
    show(three());
    await focus(1, 'intake');
    await press(1, 'intake', 'ArrowDown', { shiftKey: true });
    await press(1, 'intake', 'ArrowRight', { shiftKey: true });
    expect(grid.findAll('td.picked')).toHaveLength(4);
    expect(clipboard('copy', 1, 'intake').get('text/plain')).toBe('58\t44\n109\t83');
    expect(values()[0]).toBe('.100 58 44');
    expect(clipboard('cut', 1, 'intake').get('text/html')).toContain('<td>109</td>');
    await nextTick();
    expect(values().slice(0, 2)).toEqual(['.100', '.200']);
  });

  it('draws a range by the mouse; a text that is dragged moves nothing', async () => {
    show(three());
    const cells = grid.findAll('td');
    await cells[0]!.trigger('mousedown', { button: 0 });
    await cells[4]!.trigger('mouseenter', { buttons: 1 });
    expect(grid.findAll('td.picked')).toHaveLength(4);
    dispatchEvent(new Event('mouseup'));
    await cells[8]!.trigger('mouseenter', { buttons: 0 });
    expect(grid.findAll('td.picked')).toHaveLength(4);
    await cells[8]!.trigger('mousedown', { button: 0, shiftKey: true });
    expect(grid.findAll('td.picked')).toHaveLength(9);
    const drag = new Event('dragstart', { bubbles: true, cancelable: true });
    at(1, 'lift').element.dispatchEvent(drag);
    expect(drag.defaultPrevented).toBe(true);
  });

  it('leaves a copy of one cell to the field', () => {
    show(three());
    expect(clipboard('copy', 1, 'intake').size).toBe(0);
  });

  it('fills down: a range by its upper row, one cell by the one above', async () => {
    show(three());
    await focus(2, 'exhaust');
    await press(2, 'exhaust', 'd', { ctrlKey: true });
    expect(values()[1]).toBe('.200 109 44');
    await focus(1, 'intake');
    for (const key of ['ArrowDown', 'ArrowDown']) await press(1, 'intake', key, { shiftKey: true });
    await press(1, 'intake', 'd', { ctrlKey: true });
    expect(values().slice(0, 3)).toEqual(['.100 58 44', '.200 58 44', '.300 58 110']);
  });

  it('goes back and forth: typing in a cell is one act', async () => {
    show(three());
    await focus(1, 'intake');
    await at(1, 'intake').setValue('5');
    await at(1, 'intake').setValue('59');
    await focus(2, 'intake');
    await at(2, 'intake').setValue('1');
    await press(2, 'intake', 'z', { ctrlKey: true });
    expect(values().slice(0, 2)).toEqual(['.100 59 44', '.200 109 83']);
    await press(2, 'intake', 'z', { ctrlKey: true });
    expect(values()[0]).toBe('.100 58 44');
    await press(2, 'intake', 'z', { ctrlKey: true, shiftKey: true });
    await press(2, 'intake', 'y', { ctrlKey: true });
    expect(values().slice(0, 2)).toEqual(['.100 59 44', '.200 1 83']);
  });

  it('goes back to nothing that was another table', async () => {
    show(three());
    await focus(1, 'intake');
    await at(1, 'intake').setValue('5');
    await grid.setProps({ modelValue: (held.value = [row('.500', '200', '150'), blank()]) });
    await press(1, 'intake', 'z', { ctrlKey: true });
    expect(values()[0]).toBe('.500 200 150');
  });

  it('leaves the old value on Esc', async () => {
    show(three());
    await focus(1, 'intake');
    await at(1, 'intake').setValue('5');
    await press(1, 'intake', 'Escape');
    expect(values()[0]).toBe('.100 58 44');
  });

  it('inserts and removes rows, several at once, and always keeps a spare one', async () => {
    show(three());
    await focus(2, 'lift');
    await press(2, 'lift', 'Insert', { ctrlKey: true });
    expect(values()).toEqual(['.100 58 44', '', '.200 109 83', '.300 149 110', '']);
    await focus(2, 'lift');
    await press(2, 'lift', 'ArrowDown', { shiftKey: true });
    await press(2, 'lift', 'Delete', { ctrlKey: true });
    expect(values()).toEqual(['.100 58 44', '.300 149 110', '']);
    await at(3, 'lift').setValue('.400');
    expect(values()).toHaveLength(4);
  });

  it('takes a pasted block where it is pasted, over a range as often as it goes in', async () => {
    show(three());
    await paste(3, 'intake', { text: '150\t111\n160\t120' });
    expect(values().slice(2)).toEqual(['.300 150 111', '160 120', '']);
    await focus(1, 'exhaust');
    await press(1, 'exhaust', 'ArrowDown', { shiftKey: true });
    await paste(1, 'exhaust', { text: '7' });
    expect(values().slice(0, 2)).toEqual(['.100 58 7', '.200 109 7']);
  });

  it('of fixed rows none is added and none is lost', async () => {
    show([row('a'), row('b')], { blank: undefined, enter: 'across' });
    await paste(2, 'lift', { text: '1\t2\t3\n4\t5\t6' });
    expect(values()).toEqual(['a', '1 2 3']);
    await press(1, 'lift', 'Delete', { ctrlKey: true });
    expect(values()).toHaveLength(2);
    expect(grid.text()).not.toContain('Insert row');
    await press(2, 'exhaust', 'Enter');
    expect(grid.emitted('end')).toHaveLength(1);
  });
});
