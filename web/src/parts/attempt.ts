import { ApiProblem } from '../api/client.js';

/** Does what the server may refuse; a refusal is told in its own sentence. True when it went through. */
export async function attempt(work: () => Promise<unknown>, tell: (sentence: string) => void): Promise<boolean> {
  try {
    await work();
    return true;
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    tell(error.message);
    return false;
  }
}
