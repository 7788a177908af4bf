/** The quantities of a build, group by group as its page asks for them. */
import { PORT_VELOCITY_LIMIT, USUAL_POWER_PER_FLOW, unitFor, type Kind, type Say, type System } from '@alluvium/core';

/** One quantity of a build: where it is kept and how it is asked for. */
export interface BuildField {
  readonly name: string;
  readonly kind: Kind;
  readonly label: string;
  readonly required?: boolean;
  readonly hint?: string;
}

export const ENGINE: readonly BuildField[] = [
  { name: 'bore', kind: 'length', label: 'Bore' },
  { name: 'stroke', kind: 'length', label: 'Stroke' },
  { name: 'displacement', kind: 'displacement', label: 'or displacement' },
  { name: 'rod', kind: 'length', label: 'Rod length' },
  { name: 'compression', kind: 'compression', label: 'Compression' },
];
export const WANTED: readonly BuildField[] = [
  { name: 'power', kind: 'power', label: 'Power' },
  { name: 'torque', kind: 'torque', label: 'or torque' },
  { name: 'speed', kind: 'rotation', label: 'at', required: true },
  { name: 'budget', kind: 'money', label: 'Budget' },
];
/** What only the simulation asks for. */
export const PIPES: readonly BuildField[] = [
  { name: 'runnerLength', kind: 'length', label: 'Runner length', hint: 'assumed' },
  { name: 'runnerArea', kind: 'area', label: 'Runner area', hint: 'assumed' },
  { name: 'plenumVolume', kind: 'displacement', label: 'Plenum volume', hint: 'assumed' },
  { name: 'inletArea', kind: 'area', label: 'Throttle area', hint: 'assumed' },
  { name: 'primaryLength', kind: 'length', label: 'Exhaust pipe length', hint: 'assumed' },
  { name: 'primaryArea', kind: 'area', label: 'Exhaust pipe area', hint: 'assumed' },
  { name: 'backPressure', kind: 'pressure', label: 'Back pressure', hint: 'assumed' },
  { name: 'workingFrom', kind: 'rotation', label: 'Works from', hint: 'usual for its use' },
  { name: 'workingTo', kind: 'rotation', label: 'Works up to', hint: 'usual for its use' },
];
/** The factors of the calculations, each with what is taken where it is left empty. */
export const factorFields = (system: System, say: Say): readonly BuildField[] => [
  {
    name: 'powerPerFlow',
    kind: 'powerPerFlow',
    label: `Power per flow k, ${unitFor('powerPerFlow', system).symbol}`,
    hint: say.of(USUAL_POWER_PER_FLOW, 'powerPerFlow'),
  },
  {
    name: 'torquePerVolume',
    kind: 'torquePerVolume',
    label: `Torque per displacement t, ${unitFor('torquePerVolume', system).symbol}`,
    hint: 'as the target implies',
  },
  {
    name: 'velocityLimit',
    kind: 'velocity',
    label: 'Port velocity limit',
    hint: say.of(PORT_VELOCITY_LIMIT, 'velocity'),
  },
  { name: 'manifoldFlow', kind: 'flow', label: 'Manifold flow at 28 in' },
  { name: 'manifoldLoss', kind: 'flow', label: 'or lost in the manifold', hint: 'about 25 cfm' },
];
