import type { InstrumentModel } from './instrument.js';
import { RANGES } from './world.js';

/** Six ranges, reads percent of range, its own blower; the reading has steps of a tenth of a percent of range over 20 samples. */
export const flowBench: InstrumentModel = {
  hello: {
    id: 'stand-in-bench',
    name: 'Stand-in bench',
    kind: 'flow bench',
    quantities: [
      { name: 'percent', kind: 'percent', min: 0, max: 1.05 },
      { name: 'depression', kind: 'depression', min: 0, max: 16_000 },
      { name: 'meterTemperature', kind: 'temperature', min: 250, max: 350 },
      { name: 'portTemperature', kind: 'temperature', min: 250, max: 350 },
    ],
    ranges: RANGES,
    takes: ['stream', 'range', 'depression', 'direction', 'mount', 'fault'],
  },
  sample: (world) => ({
    values: {
      // Past its end the pointer rests on the stop.
      percent: Math.min(1.05, Math.round(world.reading() * 1e5) / 1e5),
      depression: Math.round(world.depressionNow() * 100) / 100,
      meterTemperature: Math.round(world.meterTemperature * 100) / 100,
      portTemperature: world.portTemperature,
    },
    range: world.range,
    direction: world.side,
  }),
  obey: (world, command) => {
    if (command.do === 'range' && RANGES.some((r) => r.name === command.to)) world.range = command.to;
    else if (command.do === 'depression') world.depressionSet = Math.max(0, Math.min(15_000, command.to));
    else if (command.do === 'direction') world.side = command.to;
    else if (command.do === 'mount') world.head = command.head;
  },
};
