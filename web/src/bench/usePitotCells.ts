import { computed, ref, watch, type Ref } from 'vue';
import type { RecordForm } from '../data/form.js';
import { useSettings } from '../state/settings.js';
import { useBenchLive } from './live.js';
import { livePitot, readPitot, samplesAt, sayPitot } from './pitotCell.js';

/**
 * The cells of a velocity map as they are typed, or taken from the pitot by Space. `on.say` is handed what is wrong, ''
 * when nothing is; `on.go` moves the cursor to the next place.
 */
export function usePitotCells(
  form: RecordForm<'velocitymap'>,
  mapId: () => string | undefined,
  rows: Readonly<Ref<number>>,
  columns: Readonly<Ref<number>>,
  on: { readonly say: (text: string) => void; readonly go: (row: number, column: number) => void },
) {
  const settings = useSettings();
  const live = useBenchLive();
  const { draft } = form;
  const cellAt = (r: number, c: number) => (draft.value.cells ?? []).find((x) => x.row === r && x.column === c);

  /** Texts that cannot be read yet, by their place. */
  const texts = ref<Record<string, string>>({});
  watch(mapId, () => (texts.value = {}));
  const textOf = (r: number, c: number) => texts.value[`${r},${c}`] ?? sayPitot(cellAt(r, c));
  function type(r: number, c: number, text: string): void {
    const key = `${r},${c}`;
    texts.value[key] = text;
    const read = readPitot(text, settings.system);
    form.typing(`cells.${key}`, read && 'problem' in read ? read.problem : '');
    if (read && 'problem' in read) return;
    const others = (draft.value.cells ?? []).filter((x) => x.row !== r || x.column !== c);
    form.set('cells', read ? [...others, { row: r, column: c, ...read }] : others);
  }
  /** What is wrong with a cell as it is typed. */
  function faultOf(r: number, c: number): string {
    const text = readPitot(textOf(r, c), settings.system);
    return text && 'problem' in text ? text.problem : '';
  }
  function leaveCell(r: number, c: number): void {
    if (!faultOf(r, c)) delete texts.value[`${r},${c}`];
  }

  const pitot = computed(() => live.ofKind('pitot'));
  let held = 0;
  const middleOf = (r: number, c: number) => ({ x: (c + 0.5) / columns.value, y: (r + 0.5) / rows.value });
  /** The probe goes where the cursor is, for a stand-in or a motor. */
  function hold(r: number, c: number): void {
    held = live.samples('pitot').at(-1)?.at ?? 0;
    live.order('pitot', { do: 'probe', ...middleOf(r, c) });
  }
  /** The map as cells, and what was typed into them. */
  const cellTexts = computed<Record<string, string>[]>({
    get: () =>
      Array.from({ length: rows.value }, (_, r) =>
        Object.fromEntries(Array.from({ length: columns.value }, (__, c) => [String(c), textOf(r, c)])),
      ),
    set: (next) =>
      next.forEach((row, r) =>
        Object.entries(row).forEach(([c, text]) => {
          if (text !== textOf(r, Number(c))) type(r, Number(c), text);
        }),
      ),
  });
  const headings = computed(() =>
    Array.from({ length: columns.value }, (_, c) => ({
      key: String(c),
      title: String(c + 1),
      name: `column ${c + 1}`,
    })),
  );
  /** Space takes what the pitot shows, and goes on to the next place. */
  function key(event: KeyboardEvent, r: number, c: number): void {
    if (event.key !== ' ' || !pitot.value || textOf(r, c) !== '') return;
    event.preventDefault();
    const fresh = samplesAt(live.samples('pitot'), middleOf(r, c), held);
    const taken = livePitot(
      fresh.slice(-40).map((s) => s.value),
      settings.system,
    );
    if (!taken) {
      on.say(`${pitot.value.name} has said too little yet: hold it a moment.`);
      return;
    }
    on.say('');
    type(r, c, sayPitot(taken));
    leaveCell(r, c);
    const next = r * columns.value + c + 1;
    if (next < rows.value * columns.value) on.go(Math.floor(next / columns.value), next % columns.value);
  }
  return { cellTexts, headings, pitot, faultOf, leaveCell, hold, key };
}
