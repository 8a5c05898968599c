/** The board: all looks as a contact sheet, in groups by folder and component. */
import { useMemo, useRef } from 'react';
import type { BoardLook } from '../../core/run/board.ts';
import { useBoard, useProject } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Button } from '../parts/Button.tsx';
import { FilterBar } from './FilterBar.tsx';
import { Rows } from './Rows.tsx';
import { WithoutLooks } from './WithoutLooks.tsx';
import { foldersOf, groupKeys } from './layout.ts';
import { useFilters } from './useFilters.ts';
import { useFolds } from './useFolds.ts';
import { useTitle } from '../title.ts';

const none: ReadonlySet<string> = new Set();

export function Board() {
  useTitle('Board');
  return (
    <>
      <h1 className="sr-only">Board</h1>
      <Looks />
    </>
  );
}

function Looks() {
  const board = useBoard();
  if (board.isPending) return <Waiting what="Laying out the board…" />;
  if (board.isError) return <Trouble error={board.error} />;
  if (board.data.length > 0) return <Sheet looks={board.data} />;
  return (
    <Blank title="Nothing has been run yet">
      <p>
        Run all looks from here, or in a terminal with <code className="font-mono">sguardo run</code>. Each one appears
        as soon as it is done.
      </p>
      <WithoutLooks />
    </Blank>
  );
}

/** What is there, found and folded. What is in sight is a matter of the rows alone: it changes at every frame. */
function Sheet({ looks }: { looks: BoardLook[] }) {
  const search = useRef<HTMLInputElement>(null);
  const environments = useProject().data?.environments;
  const order = useMemo(() => (environments ?? []).map(({ name }) => name), [environments]);
  const filters = useFilters(looks, order);
  const folds = useFolds();
  const folder = useMemo(() => foldersOf(filters.shown), [filters.shown]);
  const groups = useMemo(() => groupKeys(folder), [folder]);
  const isAnyOpen = groups.some((key) => !folds.folded.has(key));
  const foldAll = (): void => folds.setAll(isAnyOpen ? groups : []);
  useKeys({ '/': () => search.current?.focus(), F: foldAll });
  // What is searched for is shown wherever it is.
  const folded = filters.text ? none : folds.folded;
  return (
    <div className="flex h-full flex-col">
      <FilterBar filters={filters} search={search} foldAll={foldAll} isAnyOpen={isAnyOpen} />
      {filters.shown.length === 0 ? (
        <Blank title="No looks match">
          <Button onClick={filters.clear}>Show all looks</Button>
        </Blank>
      ) : (
        <Rows folder={folder} folded={folded} fold={folds.fold} order={order} />
      )}
    </div>
  );
}
