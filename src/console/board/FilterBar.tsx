/** The row above the board: search, verdicts, environments. */
import { ToggleGroup } from 'radix-ui';
import type { RefObject } from 'react';
import { verdicts } from '../../core/run/verdict.ts';
import { Button } from '../parts/Button.tsx';
import { EnvironmentChoice } from '../parts/EnvironmentChoice.tsx';
import { Key } from '../parts/Key.tsx';
import { VerdictShape } from '../parts/Verdict.tsx';
import { WithoutLooks } from './WithoutLooks.tsx';
import type { Filters } from './useFilters.ts';

type SearchProps = { filters: Filters; search: RefObject<HTMLInputElement | null> };

type Props = SearchProps & { foldAll(): void; isAnyOpen: boolean };

function Search({ filters, search }: SearchProps) {
  return (
    <label className="relative">
      <span className="sr-only">Search looks</span>
      <input
        ref={search}
        aria-keyshortcuts="/"
        value={filters.text}
        placeholder="Search looks"
        onChange={({ target }) => filters.setText(target.value)}
        onKeyDown={(event) => event.key === 'Escape' && event.currentTarget.blur()}
        className="h-7 w-52 rounded-md border border-rule bg-sheet px-2.5"
      />
      {!filters.text && <Key className="pointer-events-none absolute top-1.5 right-2">/</Key>}
    </label>
  );
}

const verdictItem = [
  'inline-flex h-7 items-center gap-1.5 rounded-md border border-transparent px-2 text-soft hover:text-ink',
  'disabled:opacity-40 data-[state=on]:border-accent data-[state=on]:bg-wash data-[state=on]:text-ink',
].join(' ');

function Verdicts({ filters }: { filters: Filters }) {
  return (
    <ToggleGroup.Root
      type="multiple"
      aria-label="Show only these verdicts"
      value={filters.verdicts}
      onValueChange={filters.setVerdicts}
      className="flex gap-1"
    >
      {verdicts.map((verdict) => (
        <ToggleGroup.Item
          key={verdict}
          value={verdict}
          disabled={filters.counts[verdict] === 0 && !filters.verdicts.includes(verdict)}
          className={verdictItem}
        >
          <VerdictShape verdict={verdict} />
          {verdict}
          <span className="font-semibold tabular-nums">{filters.counts[verdict]}</span>
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

const Environments = ({ filters }: { filters: Filters }) => (
  <EnvironmentChoice
    names={['all', ...filters.environments]}
    value={filters.environment || 'all'}
    onChoose={filters.setEnvironment}
  />
);

export const FilterBar = ({ filters, search, foldAll, isAnyOpen }: Props) => (
  <div className="flex shrink-0 flex-wrap items-center gap-3 border-b border-rule px-4 py-2">
    <Search filters={filters} search={search} />
    <Verdicts filters={filters} />
    <span className="flex-1" />
    <WithoutLooks />
    <Button
      onClick={foldAll}
      disabled={filters.shown.length === 0}
      title={`${isAnyOpen ? 'Fold' : 'Unfold'} all groups (F)`}
      shortcut="F"
    >
      {isAnyOpen ? 'Fold all' : 'Unfold all'}
    </Button>
    {filters.environments.length > 1 && <Environments filters={filters} />}
  </div>
);
