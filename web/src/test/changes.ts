import type { Step } from '@alluvium/records';

/** One step of a change, told as the request for that record alone. */
export interface Sent {
  readonly method: string;
  readonly url: string;
  readonly body: any;
}

/** The steps of a change that was sent, one by one; anything else as it is. */
export function sentIn(method: string, url: string, body: any): Sent[] {
  if (url !== '/api/change') return [{ method, url, body }];
  return (body.steps as Step[]).map((step) =>
    step.do === 'remove'
      ? { method: 'DELETE', url: `/api/${step.noun}/${step.id}`, body: {} }
      : step.do === 'save'
        ? { method: 'PUT', url: `/api/${step.noun}/${String(step.record.id)}`, body: step.record }
        : { method: 'POST', url: `/api/${step.noun}`, body: step.record },
  );
}

/** The answer to a change whose every step went through: each record as sent, its version one on. */
export const changed = (steps: readonly Sent[], batch: number) => ({
  records: steps.map((s) =>
    s.method === 'DELETE' ? null : { ...s.body, version: s.method === 'PUT' ? s.body.version + 1 : 1 },
  ),
  batch,
  touched: 'all',
});
