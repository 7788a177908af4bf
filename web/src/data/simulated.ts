import {
  simulatedPower,
  verdictBySimulation,
  type HeadVerdict,
  type FoundAt,
  type SimulatedPower,
  type SimulationSetup,
  type SpeedResult,
  refusedBy,
} from '@alluvium/core';
import { fingerprint, toSimulation, type JudgingContext, type SimulatedHead } from '@alluvium/records';
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { ActiveBuild } from './build.js';

// target!: a head is simulated only with a target.

/** What the simulation asks of a head in the build at hand, beside the lineup's first; a sentence where it cannot be run. */
export function setupIn(
  { build, core, target }: ActiveBuild,
  head: SimulatedHead,
  first: SimulatedHead | undefined,
  judging: JudgingContext,
): SimulationSetup | string {
  try {
    return toSimulation(build, core, target!, head, first, judging);
  } catch (error) {
    return refusedBy(error).message;
  }
}

const PLACE = 'alluvium.simulated';
/** Heads of a few lineups. */
const MOST = 60;
/** What this tab ran before the page was loaded anew; nothing where it cannot be read. */
function kept(): ReadonlyMap<string, SimulatedPower> {
  try {
    const text = sessionStorage.getItem(PLACE);
    return new Map(text ? (JSON.parse(text) as [string, SimulatedPower][]) : []);
  } catch {
    return new Map();
  }
}

/**
 * Powers the simulation made at the speed wanted, by everything they were made of: a head, an engine or an assumption
 * that changes has none until it is run again. Kept with this tab of the browser.
 */
export const useSimulated = defineStore('simulated', () => {
  const found = shallowRef<ReadonlyMap<string, SimulatedPower>>(kept());
  const key = (setup: SimulationSetup) => fingerprint(setup);
  function keep(setup: SimulationSetup, sensitive: readonly FoundAt[], point: SpeedResult): void {
    const own = key(setup);
    if (found.value.get(own)?.power === point.power) return;
    found.value = new Map([...found.value].slice(-MOST)).set(own, simulatedPower(setup, sensitive, point));
    try {
      sessionStorage.setItem(PLACE, JSON.stringify([...found.value]));
    } catch {
      // Without room it is kept until the page is left, and run again then.
    }
  }
  /** The verdict on a head once the engine was run with it; the rules' own until then. */
  function verdictOf(
    active: ActiveBuild,
    head: SimulatedHead,
    first: SimulatedHead | undefined,
    judging: JudgingContext,
  ): HeadVerdict {
    const rules = head.evaluation.verdict;
    if (found.value.size === 0) return rules;
    const setup = setupIn(active, head, first, judging);
    const power = typeof setup === 'string' ? undefined : found.value.get(key(setup));
    if (!power) return rules;
    return verdictBySimulation(rules, power, active.core.power);
  }
  return { found, keep, verdictOf };
});
