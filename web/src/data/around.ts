/**
 * Looking around in the demo, kept apart from the shop's own: the server gives this browser another library, and what the
 * browser keeps for itself (drafts, the engine and head in hand, what was simulated) is laid aside until one leaves.
 */
import { ref } from 'vue';
import { request } from './client.js';

// getItem()!: its key was listed.

export const inDemo = (): boolean => document.cookie.split(';').some((pair) => pair.trim() === 'alluvium-shop=demo');

/** What is the person's, not the shop's. */
const STAYS = new Set(['alluvium.system', 'alluvium.theme', 'alluvium.textSize', 'alluvium.bench.sound']);
const ASIDE = 'aside.';
const own = (key: string) => key.startsWith('alluvium.') && !STAYS.has(key);

function empty(): void {
  for (const key of Object.keys(localStorage).filter(own)) localStorage.removeItem(key);
  for (const key of Object.keys(sessionStorage).filter(own)) sessionStorage.removeItem(key);
}
export function layAside(): void {
  for (const key of Object.keys(localStorage).filter(own))
    localStorage.setItem(ASIDE + key, localStorage.getItem(key)!);
  empty();
}
export function takeUp(): void {
  empty();
  for (const key of Object.keys(localStorage).filter((k) => k.startsWith(ASIDE))) {
    localStorage.setItem(key.slice(ASIDE.length), localStorage.getItem(key)!);
    localStorage.removeItem(key);
  }
}

/** The page is opened anew: nothing that was read of one shop is shown in the other. @throws ApiProblem. */
export async function lookAround(): Promise<void> {
  await request('POST', '/api/look-around');
  layAside();
  location.assign('/');
}
export async function leaveDemo(): Promise<void> {
  await request('DELETE', '/api/look-around');
  takeUp();
  location.assign('/');
}

/** A way into the demo or out of it, for a button: whether it is being gone, and why it could not be. */
export function useWay(through: () => Promise<void>) {
  const going = ref(false);
  const problem = ref('');
  async function go(): Promise<void> {
    going.value = true;
    try {
      await through();
    } catch (error) {
      going.value = false;
      problem.value = (error as Error).message;
    }
  }
  return { going, problem, go };
}
