import type { ClaimTable, ImportPreview, claimBundle } from '@alluvium/records';
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import { knownHere, previewBundle, sentenceOf } from '../data/library.js';
import { useSettings } from '../state/settings.js';
import { useUndo } from '../data/undo.js';

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
  | {
      readonly kind: 'sheet';
      readonly name: string;
      readonly title: string;
      readonly table: readonly (readonly string[])[];
    };

const LARGEST = 64 * 1024 * 1024;

export const useExchange = defineStore('exchange', () => {
  const pending = shallowRef<Pending>();
  const undo = useUndo();
  const settings = useSettings();

  async function take(file: File): Promise<void> {
    if (file.size > LARGEST) return undo.refused(`${file.name} is larger than 64 MB and was not read.`);
    const reader = await import('./readFile.js').catch(() => undefined);
    if (!reader)
      return undo.refused(`The server does not answer: ${file.name} was not read. Drop it again in a moment.`);
    try {
      if (/\.json$/i.test(file.name)) return await takeBundle(file.name, await file.text());
      const table = /\.xlsx$/i.test(file.name)
        ? await reader.workbookCells(file)
        : reader.splitTable(await file.text());
      if (reader.isClaimTable(table))
        return await takeClaims(file.name, reader.readClaimTable(table, settings.system), reader.claimBundle);
      pending.value = { kind: 'sheet', name: file.name, title: file.name.replace(/\.\w+$/, ''), table };
    } catch (error) {
      undo.refused(
        (error instanceof reader.TooLarge ? error.message : sentenceOf(error)) ??
          `${file.name} cannot be read: it is no bundle, CSV or XLSX that this program understands.`,
      );
    }
  }

  async function takeBundle(name: string, text: string): Promise<void> {
    try {
      JSON.parse(text);
    } catch {
      return undo.refused(`${name} is not well-formed JSON.`);
    }
    pending.value = {
      kind: 'bundle',
      name,
      text,
      preview: await previewBundle(text),
    };
  }
  /** A table of claims comes in by the door of the bundle it makes. */
  async function takeClaims(name: string, claims: ClaimTable, bundleOf: typeof claimBundle): Promise<void> {
    const { text, problems, questions } = bundleOf(
      claims,
      await knownHere(claims.heads),
      settings.system,
      settings.say,
    );
    const preview = await previewBundle(text);
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
