/** Writes demo/bundle.json from the scenario, and from it the files the program offers to be tried with. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import writeExcel from 'write-excel-file/node';
import { exampleTexts, exampleWorkbook } from './examples.js';
import { scenario } from './scenario.js';

writeFileSync(new URL('../bundle.json', import.meta.url), `${JSON.stringify(scenario, null, 1)}\n`);
const examples = new URL('../../web/public/examples/', import.meta.url);
mkdirSync(examples, { recursive: true });
for (const [name, text] of Object.entries(exampleTexts)) writeFileSync(new URL(name, examples), text);
const { rows, widths, name } = exampleWorkbook;
await writeExcel(
  rows.map((row) =>
    row.map((value) => (typeof value === 'number' ? { type: Number, value } : { type: String, value })),
  ),
  { sheet: name, columns: widths.map((width) => ({ width })) },
).toFile(fileURLToPath(new URL('flow-sheet.xlsx', examples)));
