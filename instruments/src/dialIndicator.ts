import type { InstrumentModel } from './instrument.js';

const STEP = 0.0000127;
const to = (lift: number) => Math.round(lift / STEP) * STEP;

/** Half a thou a step; a motor on the opener takes the valve where it is told. */
export const dialIndicator: InstrumentModel = {
  hello: {
    id: 'stand-in-dial',
    name: 'Stand-in dial indicator',
    kind: 'dial indicator',
    quantities: [{ name: 'lift', kind: 'lift', min: 0, max: 0.0254 }],
    takes: ['stream', 'lift', 'read', 'fault'],
  },
  sample: (world) => ({ values: { lift: to(world.lift) } }),
  read: (world) => to(world.lift),
  obey: (world, command) => {
    if (command.do === 'lift') world.liftWanted = Math.max(0, Math.min(0.0254, command.to));
  },
};
