/** What the address says of a page, and how a page changes it. */
import { useSearchParams } from 'react-router';

/** The entries of the address, and a function that changes some of them in its place; null takes one away. */
export function useAddress(): [URLSearchParams, (entries: Record<string, string | null>) => void] {
  const [query, setQuery] = useSearchParams();
  const set = (entries: Record<string, string | null>): void =>
    setQuery(
      (former) => {
        const next = new URLSearchParams(former);
        for (const [name, value] of Object.entries(entries)) {
          if (value === null) next.delete(name);
          else next.set(name, value);
        }
        return next;
      },
      { replace: true },
    );
  return [query, set];
}
