export * from './dialIndicator.js';
export * from './flowBench.js';
export * from './handInstruments.js';
export * from './head.js';
export * from './instrument.js';
export * from './pitotProbe.js';
export * from './swirlMeter.js';
export * from './world.js';

import { dialIndicator } from './dialIndicator.js';
import { flowBench } from './flowBench.js';
import { calipers, scale, sealTester } from './handInstruments.js';
import { pitotProbe } from './pitotProbe.js';
import { swirlMeter } from './swirlMeter.js';

/** Every stand-in that ships, by the word it is chosen with. */
export const STAND_INS = {
  bench: flowBench,
  dial: dialIndicator,
  swirl: swirlMeter,
  pitot: pitotProbe,
  seal: sealTester,
  scale,
  calipers,
} as const;
export type StandIn = keyof typeof STAND_INS;
export { normal, random } from '@alluvium/core';
