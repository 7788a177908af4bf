import { inches } from '@alluvium/core';
import type { Draft } from '../data/form.js';

const lift = (typed: string) => ({ si: inches(Number.parseFloat(`0${typed}`)), typed: `${typed} in` });

/** A build before anything was typed. */
export const blankBuild = (): Draft<'build'> => ({
  id: null,
  version: 1,
  name: '',
  note: '',
  bore: null,
  stroke: null,
  displacement: null,
  cylinders: null,
  rod: null,
  valvesPerCylinder: 2,
  compression: null,
  fuel: 'petrol',
  use: 'street',
  induction: { kind: 'natural' },
  cam: null,
  currency: '',
  tax: null,
  rates: [],
  matters: [],
  workingFrom: null,
  workingTo: null,
  variants: [],
  runnerLength: null,
  runnerArea: null,
  plenumVolume: null,
  inletArea: null,
  primaryLength: null,
  primaryArea: null,
  backPressure: null,
  manifoldFlow: null,
  manifoldLoss: null,
  excused: {},
  power: null,
  torque: null,
  speed: null,
  powerPerFlow: null,
  torquePerVolume: null,
  velocityLimit: null,
  budget: null,
  due: null,
  fixed: '',
  watchLifts: ['.300', '.400', '.500', '.600'].map(lift),
});

/** A cam of which nothing is known but that there is one. */
export const blankCam = () => ({
  kind: 'unknown' as const,
  intakeLift: null,
  exhaustLift: null,
  intakeDuration: null,
  exhaustDuration: null,
  height: null,
  second: null,
  lobeSeparation: null,
  intakeCentreline: null,
  rockerRatio: { si: 1.5, typed: '1.5' },
});
