/** Small files to try the program with, cut out of the demo: a flow sheet, claims, a whole shop. */
import {
  readBundle,
  sheetNames,
  sheetTable,
  sheetWorkbook,
  toCsv,
  type Bundle,
  type Workbook,
} from '@alluvium/records';
import { scenario } from './scenario.js';

/** The engine whose shop is small enough to be looked through. */
const BUILD = 'tarrow-three';

const read = readBundle(JSON.parse(JSON.stringify(scenario))).bundle;
const sheet = read.sheets.find((s) => s.id === '417-quayside')!;
const names = sheetNames(sheet, read.sources, read.ports);

/** One engine with the heads of its lineup and what was measured of them. */
function shopOf(bundle: Bundle): object {
  const lineups = bundle.lineups.filter((l) => l.buildId === BUILD);
  const headIds = new Set(lineups.map((l) => bundle.stages.find((s) => s.id === l.stageId)!.headId));
  const stages = bundle.stages.filter((s) => headIds.has(s.headId));
  const stageIds = new Set(stages.map((s) => s.id));
  const ofStage = <T extends { readonly stageId: string }>(list: readonly T[]) =>
    list.filter((r) => stageIds.has(r.stageId));
  const sheets = ofStage(bundle.sheets).map((s) => ({ ...s, pageId: null }));
  const measures = ofStage(bundle.measures);
  const sourceIds = new Set([...sheets, ...measures].map((r) => r.sourceId));
  return {
    format: scenario.format,
    version: scenario.version,
    builds: bundle.builds.filter((b) => b.id === BUILD),
    sources: bundle.sources.filter((s) => sourceIds.has(s.id)),
    heads: bundle.heads.filter((h) => headIds.has(h.id)),
    stages,
    ports: bundle.ports.filter((p) => headIds.has(p.headId)),
    sheets,
    measures,
    lineups,
  };
}

const CLAIMS = [
  ['source', 'head', 'side', 'lift', 'flow', 'depression', 'bore', 'power', 'speed'],
  ['Pellam catalogue', 'P6-205', 'intake', '.300 in', '178 cfm', '28 inH2O', '', '', ''],
  ['Pellam catalogue', 'P6-205', 'intake', '.400 in', '201 cfm', '28 inH2O', '', '', ''],
  ['Pellam catalogue', 'P6-205', 'intake', '.500 in', '208 cfm', '28 inH2O', '', '', ''],
  ['Pellam catalogue', 'P6-205', '', '', '', '', '', '300 hp', '5600 rpm'],
];

/** The texts by their names, and the workbook of the sheet. */
export const exampleTexts: Readonly<Record<string, string>> = {
  'flow-sheet.csv': toCsv(sheetTable(sheet, names)),
  'claims.csv': toCsv(CLAIMS),
  'shop.json': `${JSON.stringify(shopOf(read), null, 1)}\n`,
};
export const exampleWorkbook: Workbook = sheetWorkbook(sheet, names, 'inch');
