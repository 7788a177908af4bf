import type {
  Attachment,
  Changed,
  ChecklistMake,
  Done,
  Health,
  ImportProgress,
  Step,
  WholeHead,
  Written,
} from '@alluvium/records';
import { heard, heardOfDamage } from './reach.js';

// response.body!: a stream that was answered has one.
// parts.pop()!: splitting gives one part at least.

export interface FieldProblem {
  readonly field: string;
  readonly message: string;
}

/** What the server answered instead of doing it: a sentence, the fields at fault, in a conflict the stored record, of a change the step. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly fields: readonly FieldProblem[] = [],
    readonly current?: unknown,
    readonly step = 0,
    /** What the server says of its own state, where that is the answer. */
    readonly health?: Health,
  ) {
    super(message);
  }

  /** Nothing was heard: whether it was done is not known. */
  get unanswered(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503 || this.status === 504;
  }
}

/** The page itself broke it off. */
const cancelled = () => new ApiProblem(499, 'Cancelled: nothing of it is kept.');
const UNREACHABLE = 'The server does not answer. What you typed is kept here; start Alluvium again and save.';

async function send(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      ...(signal ? { signal } : {}),
      ...(body === undefined
        ? {}
        : {
            headers: {
              'content-type': body instanceof Blob ? body.type || 'application/octet-stream' : 'application/json',
            },
            body: typeof body === 'string' || body instanceof Blob ? body : JSON.stringify(body),
          }),
    });
  } catch {
    if (signal?.aborted) throw cancelled();
    heard(false);
    throw new ApiProblem(0, UNREACHABLE);
  }
  heard(true);
  if (response.ok) return response;
  const problem = (await response.json().catch(() => ({}))) as {
    detail?: string;
    fields?: FieldProblem[];
    current?: unknown;
    step?: number;
    type?: string;
    status?: unknown;
  };
  if (problem.type?.endsWith('/rescue')) heardOfDamage();
  throw new ApiProblem(
    response.status,
    problem.detail ?? `The server answered ${response.status}.`,
    problem.fields,
    problem.current,
    problem.step,
    typeof problem.status === 'string' ? (problem as Health) : undefined,
  );
}

/** A request answered in JSON. @throws ApiProblem with a sentence to show. */
export const request = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
  const response = await send(method, path, body);
  return (response.status === 204 ? undefined : await response.json()) as T;
};

/** A file as the server gives it. @throws ApiProblem with a sentence to show. */
export const fileAt = async (path: string): Promise<Blob> => (await send('GET', path)).blob();

/** An export as the server gives it, and how many photos it lacks because their files are lost. @throws ApiProblem. */
export async function exportAt(path: string): Promise<{ readonly file: Blob; readonly missingPhotos: number }> {
  const response = await send('GET', path);
  return {
    missingPhotos: Number(response.headers.get('alluvium-missing-photos') ?? 0),
    file: await response.blob(),
  };
}

/** The report of a build as PDF. @throws ApiProblem with a sentence to show. */
export const reportPdf = async (buildId: string, asked: object): Promise<Blob> =>
  (await send('POST', `/api/build/${encodeURIComponent(buildId)}/report`, asked)).blob();

export const get = <T>(path: string) => request<T>('GET', path);

/** A whole list, page after page as the server gives it. @throws ApiProblem with a sentence to show. */
export async function getAll<T>(path: string): Promise<T[]> {
  const all: T[] = [];
  for (let next: string | undefined = path; next;) {
    const response: Response = await send('GET', next);
    all.push(...((await response.json()) as T[]));
    next = /<([^>]+)>; rel="next"/.exec(response.headers.get('link') ?? '')?.[1];
  }
  return all;
}

/** Makes one change of any number of steps: all of it or nothing. */
export const sendChange = (steps: readonly Step[]) => request<Changed>('POST', '/api/change', { steps });
/** Sends a photo to where it belongs. */
export const addPhoto = (
  file: File,
  to: {
    head?: string | undefined;
    source?: string | undefined;
    finding?: string | undefined;
    inspection?: string | undefined;
    session?: string | undefined;
    stage?: string | undefined;
  },
) => {
  const query = new URLSearchParams({ name: file.name.slice(0, 200) || 'photo' });
  for (const [what, id] of Object.entries(to)) if (id) query.set(what, id);
  return request<Written<Attachment>>('POST', `/api/attachment?${query}`, file);
};
/** Makes the checklist of a head, with the ports it has. */
export const makeChecklist = (headId: string, make: ChecklistMake) =>
  request<Written<WholeHead>>('POST', `/api/head/${headId}/checklist`, make);
/** One value from whichever instrument measures this; writes nothing. */
export const readInstrument = async (name: string, near?: number): Promise<number> =>
  (
    await request<{ value: number }>('POST', '/api/instruments/read', {
      name,
      ...(near === undefined ? {} : { near }),
    })
  ).value;
export const undoBatch = (batch: number) => request<Done>('POST', `/api/change/${batch}/undo`);

/** Reads a stream of JSON lines as they come. */
export async function* lines<T>(method: string, path: string, body: string, signal?: AbortSignal): AsyncGenerator<T> {
  const response = await send(method, path, body === '' ? undefined : body, signal);
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read().catch((error: unknown) => {
      if (signal?.aborted) throw cancelled();
      throw error;
    });
    rest += value ?? '';
    const parts = rest.split('\n');
    rest = done ? '' : parts.pop()!;
    for (const part of parts) if (part.trim()) yield JSON.parse(part) as T;
    if (done) return;
  }
}

type Finished = Extract<ImportProgress, { finished: true }>;

/** Imports a bundle, all or nothing, and tells how far it is. @throws ApiProblem with a sentence to show. */
export async function importBundle(
  text: string,
  changed: 'keep' | 'replace',
  tell: (progress: { done: number; of: number }) => void,
  signal?: AbortSignal,
): Promise<Finished> {
  for await (const line of lines<ImportProgress>('POST', `/api/bundle?changed=${changed}`, text, signal)) {
    if ('finished' in line) return line;
    if ('problem' in line) throw new ApiProblem(400, line.problem.detail);
    tell(line);
  }
  throw new ApiProblem(0, 'The server stopped before the import was done: nothing was written. Import it again.');
}
