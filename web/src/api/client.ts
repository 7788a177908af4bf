import type { Attachment, Noun, RecordOf, Written } from '@alluvium/records';

export interface FieldProblem {
  readonly field: string;
  readonly message: string;
}

/** What the server answered instead of doing it: a sentence, the fields at fault, and in a conflict the stored record. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly fields: readonly FieldProblem[] = [],
    readonly current?: unknown,
  ) {
    super(message);
  }
}

const UNREACHABLE = 'The server does not answer. What you typed is kept here; start Alluvium again and save.';

async function send(method: string, path: string, body?: unknown): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
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
    throw new ApiProblem(0, UNREACHABLE);
  }
  if (response.ok) return response;
  const problem = (await response.json().catch(() => ({}))) as {
    detail?: string;
    fields?: FieldProblem[];
    current?: unknown;
  };
  throw new ApiProblem(
    response.status,
    problem.detail ?? `The server answered ${response.status}.`,
    problem.fields,
    problem.current,
  );
}

/** A request answered in JSON. @throws ApiProblem with a sentence to show. */
export const request = async <T>(method: string, path: string, body?: unknown): Promise<T> =>
  (await (await send(method, path, body)).json()) as T;

/** A file as the server gives it. @throws ApiProblem with a sentence to show. */
export const fileAt = async (path: string): Promise<Blob> => (await send('GET', path)).blob();

export const get = <T>(path: string) => request<T>('GET', path);
export const add = <N extends Noun>(noun: N, record: object) =>
  request<Written<RecordOf<N>>>('POST', `/api/${noun}`, record);
/** Replaces a record; the version it was read at goes along. */
export const save = <N extends Noun>(noun: N, record: Partial<RecordOf<N>> & { id: string; version: number }) =>
  request<Written<RecordOf<N>>>('PUT', `/api/${noun}/${record.id}`, record);
/** Sends a photo to where it belongs. */
export const addPhoto = (
  file: File,
  to: {
    head?: string | undefined;
    source?: string | undefined;
    finding?: string | undefined;
    inspection?: string | undefined;
    session?: string | undefined;
  },
) => {
  const query = new URLSearchParams({ name: file.name.slice(0, 200) || 'photo' });
  for (const [what, id] of Object.entries(to)) if (id) query.set(what, id);
  return request<Written<Attachment>>('POST', `/api/attachment?${query}`, file);
};
export const drop = (noun: Noun, id: string) => request<{ batch: number }>('DELETE', `/api/${noun}/${id}`);
export const undoBatch = (batch: number) => request<{ batch: number }>('POST', `/api/change/${batch}/undo`);

/** Reads a stream of JSON lines as they come. */
export async function* lines<T>(method: string, path: string, body: string): AsyncGenerator<T> {
  const response = await send(method, path, body);
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    rest += value ?? '';
    const parts = rest.split('\n');
    rest = done ? '' : parts.pop()!;
    for (const part of parts) if (part.trim()) yield JSON.parse(part) as T;
    if (done) return;
  }
}
