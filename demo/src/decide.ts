/** Ways to go for the demo's builds: what each costs, whether it fits, and one decision. */
import { lists, type Json } from './tables.js';

const quote = (kind: string, price: string, more: Json = {}): Json => ({ kind, price, tax: 'included', ...more });
const guess = (kind: string, price: string, more: Json = {}): Json => quote(kind, price, { guess: '20 %', ...more });
const hours = (kind: string, quantity: number, more: Json = {}): Json => quote(kind, '55', { quantity, ...more });

export function decide(): void {
  const slate = lists.builds.find((b) => b.id === 'slate-six')!;
  Object.assign(slate, {
    currency: 'sov',
    tax: '19 %',
    rates: [{ currency: 'tal', rate: 0.42, date: '2026-05-20' }],
    matters: [
      { name: 'power', weight: 3 },
      { name: 'price', weight: 4 },
      { name: 'risk', weight: 4 },
      { name: 'time', weight: 1 },
      { name: 'keeps the riser', weight: 3 },
    ],
  });
  const way = (id: string, position: number, fields: Json) =>
    lists.ways.push({ id, buildId: 'slate-six', position, ...fields });
  way('slate-keep', 0, {
    name: 'Keep the 417',
    kind: 'keep the stock head',
    stageId: '417-received',
    days: 5,
    marks: { 'keeps the riser': 10 },
    lines: [
      quote('cleaning', '60'),
      quote('crack check', '80'),
      quote('guides', '14', { quantity: 12 }),
      hours('valve job', 5, { text: 'seats trued, no more' }),
      quote('gaskets', '95'),
    ],
    fit: [
      { item: 'exhaust flange', state: 'fits' },
      { item: 'ports against the manifold', state: 'fits' },
    ],
  });
  way('slate-rework', 1, {
    name: 'Rework the 417',
    kind: 'rework it',
    stageId: '417-pinch',
    days: 18,
    marks: { 'keeps the riser': 10 },
    lines: [
      quote('cleaning', '60'),
      quote('crack check', '80'),
      quote('guides', '14', { quantity: 12 }),
      quote('seats', '22', { quantity: 12 }),
      hours('valve job', 7),
      hours('porting', 22, { text: 'bowls and pinch, twelve ports' }),
      hours('bench', 4),
      guess('springs and retainers', '180'),
      quote('gaskets', '95'),
      guess('contingency', '150'),
    ],
    fit: [{ item: 'exhaust flange', state: 'fits' }],
  });
  way('slate-p6', 2, {
    name: 'P6-205 with a valve job',
    kind: 'an aftermarket head with work',
    stageId: 'p6-valve-job',
    days: 35,
    marks: { 'keeps the riser': 9 },
    lines: [
      quote('head or core', '1,480', { supplier: 'Pellam' }),
      quote('freight', '240', { currency: 'tal' }),
      guess('duty', '95'),
      hours('valve job', 5, { text: 'one seat leaks: cut and lapped' }),
      quote('springs and retainers', '210', { text: 'installed height is short of the claim' }),
      quote('gaskets', '120', { tax: 'added' }),
      hours('milling', 2, { text: 'chamber 3.5 cc too large' }),
      guess('adapter', '60', { text: 'pushrod and guide plate' }),
    ],
    fit: [
      { item: 'exhaust flange', state: 'fits' },
      { item: 'pushrod and guide plate', state: 'needs an adapter', note: 'guide plates from the maker' },
    ],
  });
  way('slate-longreach', 3, {
    name: 'Longreach 212',
    kind: 'an aftermarket head as it comes',
    stageId: 'longreach-received',
    days: 48,
    marks: { 'keeps the riser': 0 },
    lines: [
      quote('head or core', '2,390', { supplier: 'Ferrule & Dray' }),
      quote('freight', '160'),
      hours('mending', 2, { text: 'exhaust seat of cylinder 4 leaks' }),
      quote('gaskets', '120', { tax: 'added' }),
      guess('adapter', '420', { text: 'riser flange, made for it' }),
    ],
    fit: [{ item: 'exhaust flange', state: 'stops it', note: 'raised port, the marine riser does not line up' }],
  });
  // What the shop usually charges and pays; the set is what a core rework takes.
  const listed = (id: string, line: Json, ...sets: string[]) => lists.priceList.push({ id, line, sets });
  const REWORK = 'core rework';
  listed('price-cleaning', quote('cleaning', '60'), REWORK);
  listed('price-crack', quote('crack check', '80'), REWORK);
  listed('price-guide', quote('guides', '14', { text: 'iron guide, fitted', quantity: 12 }), REWORK);
  listed('price-valve-job', hours('valve job', 7), REWORK);
  listed('price-gaskets', quote('gaskets', '95'), REWORK);
  listed('price-springs', quote('springs and retainers', '180', { text: 'to .550 lift' }));
  listed('price-rockers', guess('rockers', '260', { text: 'ratio 1.6' }));
  listed('price-flange', guess('adapter', '420', { text: 'riser flange, made for it' }));
  lists.letterheads.push({
    id: 'letterhead',
    name: 'Sill & Weir Cylinder Heads',
    lines: 'Lower Quay 4\nNetherholm',
    paper: 'A4',
    foot: 'Prices hold for thirty days from the day of this sheet.',
  });
  // On the ice racer the weights turn the choice: cheap and soon, or strong.
  const racer = (id: string, position: number, fields: Json) =>
    lists.ways.push({ id, buildId: 'vennick-five', position, ...fields });
  racer('vennick-keep', 0, {
    name: 'Keep the standard head',
    kind: 'keep the stock head',
    stageId: 'vennick-v5-received',
    days: 6,
    lines: [quote('cleaning', '70'), hours('valve job', 8), quote('gaskets', '140')],
  });
  racer('vennick-4v', 1, {
    name: 'OM-4V as it comes',
    kind: 'an aftermarket head as it comes',
    stageId: 'ottermoor-4v-received',
    days: 40,
    lines: [quote('head or core', '2,950'), guess('freight', '220'), quote('gaskets', '140'), guess('manifold', '600')],
  });
}

/** What was decided of the jet boat’s engine, with what it was decided on. */
export const decision = (content: Json): Json => ({
  id: 'slate-decision',
  buildId: 'slate-six',
  made: '2026-05-28',
  by: 'owner and shop',
  reasons: 'Carries the target, keeps the riser, and stays within the budget.',
  rejected: 'Keep the 417: short of the target. P6-205: chamber and springs not as claimed. Longreach: the riser.',
  risks: 'Port 1 is thin at the pinch: its wall decides how far it goes.',
  content,
});
