/** Milling and sinking, and a bore that moves. */
import type { Method } from '../method/method.js';
import { refusal } from '../refusal/refusal.js';

export const chamberAfter: Method<{ now: number; sunk: number; face: number; milled: number }> = {
  id: 'chamber-after',
  title: 'Chamber once the seats are sunk and the face is milled',
  formula: "V' = V + \\Delta V_{sunk} - r\\,m",
  inputs: {
    now: { label: 'chamber now', symbol: 'V', kind: 'volume' },
    sunk: { label: 'gained by sinking the valves', symbol: '\\Delta V_{sunk}', kind: 'volume' },
    face: { label: 'face area the cut sees', symbol: 'r', kind: 'area' },
    milled: { label: 'milled off', symbol: 'm', kind: 'length' },
  },
  result: { label: 'chamber then', symbol: "V'", kind: 'volume' },
  source: 'Arithmetic; holds while the chamber’s walls stand upright.',
  caution: 'Sink first, mill afterwards: the other way round the last cut is a guess.',
  compute: ({ now, sunk, face, milled }) => {
    const left = now + sunk - face * milled;
    if (left <= 0) throw refusal('chamberMilledAway');
    return left;
  },
};

export const valveRoomAfter: Method<{ room: number; sunk: number; milled: number }> = {
  id: 'valve-room-after',
  title: 'Valve-to-piston room once the seats are sunk and the face is milled',
  formula: "c' = c + d - m",
  inputs: {
    room: { label: 'valve-to-piston room now', symbol: 'c', kind: 'length' },
    sunk: { label: 'sunk by', symbol: 'd', kind: 'length' },
    milled: { label: 'milled off', symbol: 'm', kind: 'length' },
  },
  result: { label: 'valve-to-piston room then', symbol: "c'", kind: 'length' },
  source: 'Geometry along the bore’s axis, for a valve that does not lean.',
  caution:
    'Check it with clay on the piston, valve by valve, at the cam as installed. About 2 mm (.080 in) intake and 2.5 mm (.100 in) exhaust are usual; common practice, no source.',
  compute: ({ room, sunk, milled }) => room + sunk - milled,
};

export const boreAxisMoved: Method<{ towards: number; away: number }> = {
  id: 'bore-axis-moved',
  title: 'Axis of an offset bore',
  formula: 'e = \\frac{a - b}{2}',
  inputs: {
    towards: { label: 'taken on the side it moves to', symbol: 'a', kind: 'length' },
    away: { label: 'taken on the other side', symbol: 'b', kind: 'length' },
  },
  result: { label: 'axis moves by', symbol: 'e', kind: 'length' },
  source: 'Plane geometry.',
  compute: ({ towards, away }) => (towards - away) / 2,
};

export const boredTo: Method<{ bore: number; towards: number; away: number }> = {
  id: 'bored-to',
  title: 'Bore once it is bored',
  formula: "B' = B + a + b",
  inputs: {
    bore: { label: 'bore now', symbol: 'B', kind: 'length' },
    towards: { label: 'taken on the side it moves to', symbol: 'a', kind: 'length' },
    away: { label: 'taken on the other side', symbol: 'b', kind: 'length' },
  },
  result: { label: 'bored to', symbol: "B'", kind: 'length' },
  source: 'Plane geometry.',
  caution: 'What the block allows is measured: sonic-test the walls first, on the side the bore moves to above all.',
  compute: ({ bore, towards, away }) => {
    if (towards < 0 || away < 0) throw refusal('boreShrinks');
    return bore + towards + away;
  },
};

export const boreAsSeen: Method<{ bore: number; moved: number }> = {
  id: 'bore-as-seen',
  title: 'Bore as the valve on the side it moved to sees it',
  formula: 'B_s = B + 2\\,s',
  inputs: {
    bore: { label: 'bore or fixture', symbol: 'B', kind: 'length' },
    moved: { label: 'wall further out by, on that side', symbol: 's', kind: 'length' },
  },
  result: { label: 'reads as a bore of', symbol: 'B_s', kind: 'length' },
  source: 'Plane geometry: a centred bore whose wall stood as far out.',
  caution: 'A centred fixture shifted sideways and an offset bore of the same size are not the same test: name both.',
  compute: ({ bore, moved }) => bore + 2 * moved,
};

export const notchRoom: Method<{ land: number; deck: number; margin: number }> = {
  id: 'notch-room',
  title: 'How deep a notch or a relieved edge may reach',
  formula: 'd_{max} = h + c - s',
  inputs: {
    land: { label: 'piston crown to the top of the first ring', symbol: 'h', kind: 'length' },
    deck: { label: 'piston below the deck at top centre', symbol: 'c', kind: 'length' },
    margin: { label: 'kept above the ring', symbol: 's', kind: 'length' },
  },
  result: { label: 'deepest notch', symbol: 'd_{max}', kind: 'length' },
  source: 'Geometry at top centre.',
  caution: 'The ring must never see the notch: it loses its seal and its edge.',
  compute: ({ land, deck, margin }) => {
    const room = land + deck - margin;
    if (room <= 0) throw refusal('ringNearDeck');
    return room;
  },
};
