import {
  camWanted,
  FitStore,
  holdsBack,
  LIVE,
  lookAt,
  moreCam,
  sensitivities,
  solvePoint,
  sweepPoint,
  testBench,
  traceOf,
  sizeWanted,
  type CamAt,
  type CamFound,
  type CamHold,
  type CamLimits,
  type MoreCam,
  type HeldBack,
  type RunBefore,
  type Seed,
  type Sensitivity,
  type Settled,
  type SimulationSetup,
  type SweepPoint,
  type BenchTest,
  type SizeWanted,
  type Trace,
  type Values,
} from '@alluvium/core';

/** Jobs are independent of each other: any worker takes any. */
export type Job =
  | {
      readonly kind: 'single';
      readonly setup: SimulationSetup;
      readonly speed: number;
      readonly cam?: CamAt;
      readonly values?: Values;
    }
  | { readonly kind: 'look'; readonly setup: SimulationSetup; readonly speed: number; readonly from?: Seed }
  /** `middle`: the likeliest runner's point, run before. */
  | { readonly kind: 'sweep'; readonly setup: SimulationSetup; readonly speed: number; readonly middle: Settled }
  | {
      readonly kind: 'sensitivities';
      readonly setup: SimulationSetup;
      readonly speed: number;
      readonly before: RunBefore;
    }
  | { readonly kind: 'trace'; readonly setup: SimulationSetup; readonly speed: number }
  | { readonly kind: 'holdback'; readonly setup: SimulationSetup; readonly speed: number }
  | { readonly kind: 'size'; readonly setup: SimulationSetup; readonly speeds: readonly number[] }
  | { readonly kind: 'bench'; readonly setup: SimulationSetup }
  | {
      readonly kind: 'cam';
      readonly setup: SimulationSetup;
      readonly speeds: readonly number[];
      readonly hold?: CamHold;
      readonly limits?: CamLimits;
    }
  | { readonly kind: 'more'; readonly setup: SimulationSetup; readonly speeds: readonly number[] };

export interface Answers {
  single: Settled;
  look: Settled;
  sweep: SweepPoint;
  sensitivities: Sensitivity[] | string;
  trace: Trace | string;
  holdback: HeldBack | string;
  cam: CamFound | string;
  more: MoreCam[] | string;
  size: SizeWanted[] | string;
  bench: BenchTest | string;
}

const fits = new FitStore();

function answer(job: Job): Answers[Job['kind']] {
  switch (job.kind) {
    case 'single':
      return solvePoint(job, fits);
    case 'look':
      return lookAt(job, fits, job.from);
    case 'sweep':
      return sweepPoint(job.setup, job.speed, fits, LIVE, job.middle);
    case 'sensitivities':
      return sensitivities(job.setup, job.speed, fits, job.before);
    case 'trace':
      return traceOf(job, fits);
    case 'holdback':
      return holdsBack(job.setup, job.speed, fits);
    case 'size':
      return sizeWanted(job.setup, job.speeds, fits);
    case 'bench':
      try {
        return testBench(job.setup, fits.of(job.setup, LIVE.cell));
      } catch (e) {
        return (e as Error).message;
      }
    case 'cam':
      return camWanted(job.setup, job, fits);
    case 'more':
      return moreCam(job.setup, job.speeds, fits);
  }
}

self.onmessage = ({ data }: MessageEvent<{ id: number; job: Job }>) => {
  self.postMessage({ id: data.id, answer: answer(data.job) });
};
