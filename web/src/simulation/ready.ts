import type { SimulationSetup } from '@alluvium/core';
import type { CompareHead } from '../data/comparison.js';

/** A head of the lineup that can be run. */
export type ReadyHead = CompareHead & { readonly setup: SimulationSetup };
