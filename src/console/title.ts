/** What a page is called: in the browser's tabs and history, and by screen readers, which say it first. */
import { useEffect } from 'react';
import { useProject } from './data.ts';

/** Names the page: what it is about, the project, Sguardo. Needs `what` to be short; the rest comes by itself. */
export function useTitle(what: string): void {
  const name = useProject().data?.name;
  useEffect(() => {
    document.title = [what, ...(name ? [name] : []), 'Sguardo'].join(' · ');
  }, [what, name]);
}
