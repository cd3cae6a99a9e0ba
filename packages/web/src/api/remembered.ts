import { QueryClient } from '@tanstack/react-query';

/** What this window remembers of the server's answers, and for how long it asks nothing anew. */
export const remembered = new QueryClient({
  defaultOptions: { queries: { staleTime: 5_000, retry: 1, refetchOnWindowFocus: true } },
});
