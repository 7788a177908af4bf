import { unitFor, written, type System } from '@alluvium/core';
import { addition, replacement, type Assumption, type AssumptionName, type Step } from '@alluvium/records';
import { newId } from '../data/ids.js';

/** The steps that put figures of the shop's own in the place of usual ones, whether it had its own before or not. */
export const factorSteps = (
  values: readonly (readonly [AssumptionName, number])[],
  own: readonly Assumption[],
  system: System,
): Step[] =>
  values.map(([name, si]) => {
    const value = written(si, 'powerPerFlow', unitFor('powerPerFlow', system).symbol, 4);
    const before = own.find((a) => a.name === name);
    return before
      ? replacement('assumption', { ...before, value })
      : addition('assumption', { id: newId(), version: 1, name, value });
  });
