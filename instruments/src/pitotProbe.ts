import type { InstrumentModel } from './instrument.js';

/** Pressure at the tip, Pa; held where it is told. */
export const pitotProbe: InstrumentModel = {
  hello: {
    id: 'stand-in-pitot',
    name: 'Stand-in pitot',
    kind: 'pitot',
    quantities: [{ name: 'pitot', kind: 'depression', min: -2000, max: 20_000 }],
    takes: ['stream', 'read', 'probe', 'fault'],
  },
  sample: (world) => ({ values: { pitot: Math.round(world.pitot() * 10) / 10 }, probe: world.probe }),
  read: (world) => world.pitot(),
  obey: (world, command) => {
    if (command.do === 'probe') world.probe = { x: command.x, y: command.y };
  },
};
