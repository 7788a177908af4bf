/** What an engine and its target owe before a verdict stands on measured figures. */
import type { Build } from '../nouns/build.js';
import { owing, type Owed } from './owed.js';

/** Everything a build owes; `lineup` counts the heads compared for it. */
export function owedOfBuild(build: Build, lineup: number): Owed[] {
  const { owed, owe } = owing(build.excused);
  if (build.bore === null) owe('bore', 'The bore is not known.', 'bore');
  if (build.stroke === null) owe('stroke', 'The stroke is not known.', 'stroke');
  if (build.rod === null) owe('rod', 'The rod length is not known.', 'rod');
  if (build.compression === null) owe('compression', 'The compression is not known.', 'compression');
  if (build.cam === null) owe('cam', 'No cam: flow beyond its lift counts as if it were used.', 'cam');
  else {
    if (build.cam.intakeDuration === null) owe('duration', 'The intake duration is not known.', 'cam.intakeDuration');
    if (build.cam.exhaustLift === null) owe('exhaust lift', 'The exhaust lift is not known.', 'cam.exhaustLift');
    if (build.cam.lobeSeparation === null) owe('separation', 'The lobe separation is not known.', 'cam.lobeSeparation');
    if (build.cam.kind === 'unknown') owe('cam kind', 'The kind of cam is not said.', 'cam.kind');
  }
  if (build.manifoldFlow === null && build.manifoldLoss === null)
    owe('manifold', 'What the manifold flows, or costs, is not known.', 'manifoldFlow');
  if (build.runnerLength === null) owe('runner', 'The runner length is not known.', 'runnerLength');
  if (build.budget === null) owe('budget', 'No budget.', 'budget');
  if (build.due === null) owe('due', 'No day it is due.', 'due');
  if (lineup === 0) owe('lineup', 'No head is compared for it yet.', 'lineup');
  return owed;
}
