/** Has the service asked again for what has changed there. */
import type { QueryClient, QueryKey } from '@tanstack/react-query';

/**
 * Has everything under a key asked for again, or everything that is known. What is being asked for the first time is
 * asked for once more when its answer has come, which may tell of the time before the change: the library cancels only
 * what asks again, and would take that answer for the new one.
 */
export function askAgain(queries: QueryClient, queryKey: QueryKey = []): void {
  const asked = queries
    .getQueryCache()
    .findAll({ queryKey, fetchStatus: 'fetching' })
    .filter(({ state }) => state.data === undefined);
  for (const query of asked)
    void query
      .fetch()
      .catch(() => undefined)
      .then(() => queries.invalidateQueries({ queryKey: query.queryKey, exact: true }));
  void queries.invalidateQueries({ queryKey });
}
