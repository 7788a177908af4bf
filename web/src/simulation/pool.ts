import type { Answers, Job } from './simulation.worker.js';

// this.waiting.shift()!: one is waiting.

interface Waiting {
  readonly id: number;
  readonly job: Job;
  readonly done: (answer: never) => void;
  readonly failed: (reason: Error) => void;
}

/** Most workers: the page and the server need room beside them. */
const MOST = 4;

export class Cancelled extends Error {}

/** Workers that take jobs in the order they are asked, those that somebody waits for first; cancelling drops what waits and stops what runs. */
export class Pool {
  private readonly waiting: Waiting[] = [];
  private readonly idle: Worker[] = [];
  private readonly busy = new Map<Worker, Waiting>();
  private next = 0;
  private readonly most: number;

  constructor(most = Math.min(MOST, Math.max(1, navigator.hardwareConcurrency || 2))) {
    this.most = most;
  }

  /** `soon`: somebody waits for it, so it goes before what was asked for the whole sweep. */
  ask<K extends Job['kind']>(job: Extract<Job, { kind: K }>, soon = false): Promise<Answers[K]> {
    return new Promise((done, failed) => {
      const ask = { id: ++this.next, job, done: done as (answer: never) => void, failed };
      if (soon) this.waiting.unshift(ask);
      else this.waiting.push(ask);
      this.go();
    });
  }

  /** Stops everything; what was asked fails as cancelled. Workers that stand idle keep what they know. */
  cancel(): void {
    const dropped = [...this.waiting.splice(0), ...this.busy.values()];
    for (const worker of this.busy.keys()) worker.terminate();
    this.busy.clear();
    for (const w of dropped) w.failed(new Cancelled('cancelled'));
  }

  close(): void {
    this.cancel();
    for (const worker of this.idle.splice(0)) worker.terminate();
  }

  private go(): void {
    while (this.waiting.length > 0 && (this.idle.length > 0 || this.busy.size < this.most)) {
      const worker = this.idle.pop() ?? this.hire();
      const ask = this.waiting.shift()!;
      this.busy.set(worker, ask);
      worker.postMessage({ id: ask.id, job: JSON.parse(JSON.stringify(ask.job)) as Job });
    }
  }

  private hire(): Worker {
    const worker = new Worker(new URL('./simulation.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<{ id: number; answer: never }>) => {
      const ask = this.busy.get(worker);
      if (!ask || ask.id !== data.id) return;
      this.busy.delete(worker);
      this.idle.push(worker);
      ask.done(data.answer);
      this.go();
    };
    worker.onerror = (event) => {
      event.preventDefault();
      const ask = this.busy.get(worker);
      this.busy.delete(worker);
      worker.terminate();
      ask?.failed(new Error('The simulation stopped: its worker could not be run.'));
      this.go();
    };
    return worker;
  }
}
