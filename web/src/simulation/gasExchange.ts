import type { Trace } from '@alluvium/core';

/** The gas exchange, crank angle: from before the exhaust opens until after the intake has shut. */
export const FROM = Math.PI * 0.6;
export const TO = Math.PI * 3.6;

/** Angles of a trace within it, each with its place in the trace. */
export const inView = (t: Trace): (readonly [angle: number, index: number])[] =>
  t.angle.map((a, i) => [a, i] as const).filter(([a]) => a >= FROM && a <= TO);
