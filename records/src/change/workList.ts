/** Where each line of a work list stands. */
import { follows, stopState, type StopState } from '@alluvium/core';
import type { Task } from '../nouns/change.js';

export const taskState = (task: Task): StopState =>
  stopState({
    found: task.found?.si,
    wanted: task.wanted?.si,
    limit: task.limit?.si,
    way: task.size === 'wall' ? 'down' : 'up',
  });

/** The pattern port a line follows: the line of the same cut that is one. */
const patternOf = (tasks: readonly Task[], task: Task): Task | undefined =>
  tasks.find(
    (t) =>
      t.pattern && t.id !== task.id && t.operation === task.operation && t.side === task.side && t.size === task.size,
  );

/** Whether a port lies as near to its pattern as was agreed; undefined where that cannot be said yet. */
export function followsPattern(tasks: readonly Task[], task: Task): boolean | undefined {
  const pattern = patternOf(tasks, task);
  if (!pattern?.found || !task.found || !pattern.within) return undefined;
  return follows(pattern.found.si, task.found.si, pattern.within.si);
}

/** Lines that say stop before anything else is cut. */
export const stopped = (tasks: readonly Task[]): Task[] =>
  tasks.filter((t) => ['stop', 'passed'].includes(taskState(t)) && t.done === null);

export interface WorkTotal {
  readonly lines: number;
  readonly done: number;
  /** Hours still to work, s. */
  readonly left: number;
  /** Of the lines not done that say one. */
  readonly times: readonly number[];
}
export function workTotal(tasks: readonly Task[]): WorkTotal {
  const cuts = tasks.filter((t) => t.kind !== 'keep out');
  const done = cuts.filter((t) => t.done !== null);
  const times = cuts.flatMap((t) => (t.done === null && t.time ? [t.time.si] : []));
  return {
    lines: cuts.length,
    done: done.length,
    times,
    left: times.reduce((s, t) => s + t, 0),
  };
}
