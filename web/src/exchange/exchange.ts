import {
  claimBundle,
  isClaimTable,
  readClaimTable,
  readSheetTable,
  readTable,
  splitTable,
  type HeadPage,
  type ImportPreview,
  type KnownHere,
  type SheetFile,
  type Source,
  type WholeHead,
} from '@alluvium/records';
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import { ApiProblem, get, request } from '../api/client.js';
import { useSettings } from '../state/settings.js';
import { useUndo } from '../state/undo.js';

/** A file that was brought in and waits for the user to accept it. */
export type Pending =
  | {
      readonly kind: 'bundle';
      readonly name: string;
      readonly text: string;
      readonly preview: ImportPreview;
      /** What is asked about its content; nothing of it keeps it out. */
      readonly questions?: readonly string[];
    }
  | { readonly kind: 'sheet'; readonly name: string; readonly file: SheetFile };

const LARGEST = 64 * 1024 * 1024;

/** Cells of the first sheet of a workbook, as text. The reader is loaded when first needed. */
async function workbookCells(file: File): Promise<string[][]> {
  const { readSheet } = await import('read-excel-file/browser');
  const rows = await readSheet(file);
  return rows.map((row) =>
    row.map((cell) => (cell === null ? '' : cell instanceof Date ? cell.toISOString().slice(0, 10) : String(cell))),
  );
}

/** The heads of these names that are here, whole, and every source. */
async function knownHere(names: readonly string[]): Promise<KnownHere> {
  const ids = new Set<string>();
  for (const name of names) {
    const page = await get<HeadPage>(`/api/library?${new URLSearchParams({ search: name, size: '50' })}`);
    for (const { head } of page.items) if (head.name.toLowerCase() === name.trim().toLowerCase()) ids.add(head.id);
  }
  return {
    sources: await get<Source[]>('/api/source'),
    heads: await Promise.all([...ids].map((id) => get<WholeHead>(`/api/head/${id}/whole`))),
  };
}

export const useExchange = defineStore('exchange', () => {
  const pending = shallowRef<Pending>();
  const undo = useUndo();
  const settings = useSettings();

  async function take(file: File): Promise<void> {
    if (file.size > LARGEST) return undo.announce(`${file.name} is larger than 64 MB and was not read.`);
    try {
      if (/\.json$/i.test(file.name)) return await takeBundle(file.name, await file.text());
      const table = /\.xlsx$/i.test(file.name) ? await workbookCells(file) : splitTable(await file.text());
      if (isClaimTable(table)) return await takeClaims(file.name, table);
      pending.value = {
        kind: 'sheet',
        name: file.name,
        file: readSheetTable(readTable(table), file.name.replace(/\.\w+$/, ''), settings.system),
      };
    } catch (error) {
      undo.announce(
        error instanceof ApiProblem
          ? error.message
          : `${file.name} cannot be read: it is no bundle, CSV or XLSX that this program understands.`,
      );
    }
  }

  async function takeBundle(name: string, text: string): Promise<void> {
    try {
      JSON.parse(text);
    } catch {
      return undo.announce(`${name} is not well-formed JSON.`);
    }
    pending.value = {
      kind: 'bundle',
      name,
      text,
      preview: await request<ImportPreview>('POST', '/api/bundle/preview', text),
    };
  }
  /** A table of claims comes in by the door of the bundle it makes. */
  async function takeClaims(name: string, table: string[][]): Promise<void> {
    const claims = readClaimTable(table, settings.system);
    const { text, problems, questions } = claimBundle(
      claims,
      await knownHere(claims.heads),
      settings.system,
      settings.say,
    );
    const preview = await request<ImportPreview>('POST', '/api/bundle/preview', text);
    pending.value = {
      kind: 'bundle',
      name,
      text,
      questions,
      preview: { ...preview, problems: [...problems, ...preview.problems] },
    };
  }
  const clear = () => (pending.value = undefined);
  return { pending, take, clear };
});
