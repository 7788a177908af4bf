import { describe, expect, it } from 'vitest';
import { drawingsOf, tablesOf, valueOf } from './pageParts.js';

const page = (html: string) => {
  const root = document.createElement('main');
  root.innerHTML = html;
  document.body.replaceChildren(root);
  return root;
};

describe('the tables of a page', () => {
  it('are named by themselves or their heading, told apart, as they are shown, fields by what stands in them', () => {
    const root = page(`
      <h2>Sizes</h2>
      <table><tr><th>item</th><th>mm</th></tr><tr><td>throat</td><td>41.35</td></tr></table>
      <table><tr><th>lift</th><th>change</th></tr><tr><td>.300</td><td>−1.5</td></tr>
        <tr><td>.400</td><td><input value="188 @ 27.5"></td></tr></table>
      <table aria-label="Walls: of the port"><tr><th>a</th></tr><tr><td>12 mm <button class="el-button">Remove</button></td></tr></table>
      <table><tr><th>only a heading</th></tr></table>`);
    expect(tablesOf(root)).toEqual([
      {
        title: 'Sizes',
        rows: [
          ['item', 'mm'],
          ['throat', '41.35'],
        ],
      },
      {
        title: 'Sizes (2)',
        rows: [
          ['lift', 'change'],
          ['.300', '−1.5'],
          ['.400', '188 @ 27.5'],
        ],
      },
      { title: 'Walls', rows: [['a'], ['12 mm']] },
    ]);
  });
  it('hold figures and what is no figure apart, for a workbook', () => {
    expect(['.300', '−1.5', '+4.9', '52.0 −1.1', '83 %', ''].map(valueOf)).toEqual([
      0.3,
      -1.5,
      4.9,
      '52.0 −1.1',
      '83 %',
      '',
    ]);
  });
  it('keep a figure beside a figure apart', () => {
    const root = page('<table><tr><th>peak</th></tr><tr><td><b>180.0</b> <small>.550</small> .</td></tr></table>');
    expect(tablesOf(root)[0]!.rows[1]).toEqual(['180.0 .550.']);
  });
  it('keep their columns where a cell spans several', () => {
    const root = page(
      '<table><tr><th colspan="2">both</th><th>c</th></tr><tr><td>1</td><td>2</td><td>3</td></tr></table>',
    );
    expect(tablesOf(root)[0]!.rows).toEqual([
      ['both', '', 'c'],
      ['1', '2', '3'],
    ]);
  });
  it('are none where there is none', () => {
    expect(tablesOf(page('<p>words</p>'))).toEqual([]);
    expect(drawingsOf(page('<svg width="12"></svg>'))).toEqual([]);
  });
});
