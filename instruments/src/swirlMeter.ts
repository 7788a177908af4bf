import type { InstrumentModel } from './instrument.js';

/** Signed turns per second; gives no signal while it stands still, as such meters do. */
export const swirlMeter: InstrumentModel = {
  hello: {
    id: 'stand-in-swirl',
    name: 'Stand-in swirl meter',
    kind: 'swirl meter',
    quantities: [{ name: 'swirl', kind: 'rotation', min: -200, max: 200 }],
    takes: ['stream', 'read', 'fault'],
  },
  sample: (world) => {
    const speed = world.swirl();
    return Math.abs(speed) < 0.4 ? undefined : { values: { swirl: Math.round(speed * 100) / 100 } };
  },
  read: (world) => world.swirl(),
};
