/** Instruments held in a hand: they give one value when asked. */
import type { InstrumentModel } from './instrument.js';

/** Draws 20 inHg on a port; what is left after a few seconds. */
export const sealTester: InstrumentModel = {
  hello: {
    id: 'stand-in-seal',
    name: 'Stand-in seal tester',
    kind: 'seal tester',
    quantities: [{ name: 'pressure', kind: 'pressure', min: 0, max: 101_325 }],
    takes: ['read', 'fault'],
  },
  read: (world, _, near) => Math.max(0, Math.min(101_325, world.near(near ?? 66_000, 900, 169.32))),
};

/** Liquid in a port or a chamber, by weight of water, m³. */
export const scale: InstrumentModel = {
  hello: {
    id: 'stand-in-scale',
    name: 'Stand-in scale for liquid',
    kind: 'scale',
    quantities: [{ name: 'volume', kind: 'volume', min: 0, max: 0.002 }],
    takes: ['read', 'fault'],
  },
  read: (world, _, near) => Math.max(0, world.near(near ?? 64e-6, 0.15e-6, 0.1e-6)),
};

export const calipers: InstrumentModel = {
  hello: {
    id: 'stand-in-calipers',
    name: 'Stand-in calipers',
    kind: 'calipers',
    quantities: [{ name: 'length', kind: 'length', min: 0, max: 0.3 }],
    takes: ['read', 'fault'],
  },
  read: (world, _, near) => Math.max(0, world.near(near ?? 0.0413, 0.00002, 0.00001)),
};
