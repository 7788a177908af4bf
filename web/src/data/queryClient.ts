import { QueryClient } from '@tanstack/vue-query';
import { ApiProblem } from './client.js';

/** While the server is away a page asks again by itself; what it refused it refuses again. */
export const makeQueryClient = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      queries: {
        staleTime: 5_000,
        // The server is on this machine: a browser that thinks itself offline is not asked.
        networkMode: 'always',
        retry: (_count, error) => error instanceof ApiProblem && error.unanswered,
        retryDelay: (count) => Math.min(500 * 2 ** count, 3_000),
      },
    },
  });
