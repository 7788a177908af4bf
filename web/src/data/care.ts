import type { Care, CareProgress, Health, Rescue } from '@alluvium/records';
import { useQuery } from '@tanstack/vue-query';
import { ApiProblem, fileAt, get, lines, request } from './client.js';
import { KEYS } from './keys.js';

/** The backups there are, the last check, the room on the disk. */
export const useCare = () => useQuery({ queryKey: KEYS.care, queryFn: () => get<Care>('/api/care') });

const OFTEN_MS = 60_000;
/** What keeps the server from writing, or from being believed; looked at once a minute. */
export const useHealth = () =>
  useQuery({
    queryKey: KEYS.health,
    // A server in trouble answers with an error and says why in the same words.
    queryFn: async (): Promise<Health> => {
      try {
        return await get<Health>('/api/health');
      } catch (error) {
        if (error instanceof ApiProblem && error.health) return error.health;
        throw error;
      }
    },
    refetchInterval: OFTEN_MS,
    retry: false,
  });

/** A change of nothing that can be undone. */
const plain = { batch: null } as const;

export const makeBackup = async () => ({
  ...plain,
  ...(await request<{ name: string; made: string; missing: string[] }>('POST', '/api/backup')),
});
export const checkEverything = async () => ({
  ...plain,
  ...(await request<{ at: string; damage: string[]; repaired: string[] }>('POST', '/api/check')),
});
/** The clock of the server's machine is right: what is past its time is removed again. */
export const confirmClock = async () => {
  await request<unknown>('POST', '/api/clock');
  return plain;
};

type OnProgress = (share: number) => void;
async function follow(path: string, body: unknown, onProgress: OnProgress) {
  for await (const line of lines<CareProgress>('POST', path, body === undefined ? '' : JSON.stringify(body))) {
    if ('finished' in line) return { ...plain, lost: line.lost ?? 0 };
    if ('problem' in line) throw new ApiProblem(400, line.problem.detail);
    onProgress(line.done / Math.max(1, line.of));
  }
  throw new ApiProblem(0, 'The server stopped on the way. Start it again: nothing is half done.');
}
/** Puts a backup in place of what is here. @throws ApiProblem with a sentence to show. */
export const restoreBackup = (name: string, onProgress: OnProgress) =>
  follow(`/api/backup/${name}/restore`, undefined, onProgress);

/** What is wrong with a library that is not served, and what can be done; read anew each time it is looked at. */
export const useRescue = () =>
  useQuery({ queryKey: KEYS.rescue, queryFn: () => get<Rescue>('/api/rescue'), staleTime: Infinity });
/** Puts the damaged library aside and a backup in its place; null begins an empty one. @throws ApiProblem with a sentence to show. */
export const rescueWith = (name: string | null, onProgress: OnProgress) =>
  follow('/api/rescue/restore', { name }, onProgress);
export const readableOfDamaged = async () => ({ ...plain, file: await fileAt('/api/rescue/readable') });
/** Whether a whole library is served again. */
export const isServed = async (): Promise<boolean> => {
  try {
    return (await get<Health>('/api/health')).status !== 'damaged';
  } catch {
    return false;
  }
};

/** This browser has to give the passphrase again. */
export const signOut = async () => {
  await request<unknown>('DELETE', '/door');
  return plain;
};
