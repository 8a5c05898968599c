/** Causes, and what no cause stands for, in a list of any length. */
import { counted } from '../../core/text/counted.ts';
import { type Entry, isOpen } from '../../core/review/entries.ts';
import { OptionList } from '../parts/OptionList.tsx';
import { entryMark } from './marks.ts';

type Props = {
  entries: readonly Entry[];
  at: number;
  done: number;
  all: number;
  left: number;
  onChoose(entry: Entry): void;
};

const rowHeight = 68;

function Row({ entry }: { entry: Entry }) {
  const { sign, word, tone } = entryMark(entry);
  const { cluster, shots } = entry;
  const decided = isOpen(entry) ? null : shots[0]?.decided;
  return (
    <>
      <span className="flex w-full items-baseline gap-1.5 text-[11px]">
        {cluster && <span className="font-semibold tabular-nums">{cluster.number}</span>}
        <span className={`whitespace-nowrap ${tone}`}>
          {sign} {word}
        </span>
        <span className="flex-1" />
        <span className="whitespace-nowrap text-soft tabular-nums">
          {decided
            ? `${decided.kind === 'approve' ? '✓ approved' : '✗ rejected'} by ${decided.who}`
            : counted(shots.length, 'capture')}
        </span>
      </span>
      <span className={`line-clamp-2 w-full leading-[1.3] ${decided ? 'text-soft' : 'font-medium'}`}>
        {entry.title}
      </span>
    </>
  );
}

export function EntryList({ entries, at, done, all, left, onChoose }: Props) {
  return (
    <section className="flex min-h-0 flex-col border-r border-rule bg-sheet">
      <div className="border-b border-rule px-3 py-2" role="status">
        <p className="flex items-baseline justify-between gap-2 text-[11.5px] tabular-nums">
          <span className="font-semibold">
            {done} of {all} decided
          </span>
          <span className="text-soft">{counted(left, 'capture')} left</span>
        </p>
        <span className="mt-1.5 block h-1 overflow-hidden rounded-full bg-well">
          <span className="block h-full bg-accent" style={{ width: `${all === 0 ? 0 : (100 * done) / all}%` }} />
        </span>
      </div>
      <OptionList
        label="What there is to decide"
        entries={entries}
        at={at}
        rowHeight={rowHeight}
        keyOf={({ id }) => id}
        onChoose={onChoose}
        shape="flex flex-col justify-center gap-0.5 border-b border-rule px-3"
        chosenShape="bg-wash shadow-[inset_3px_0_0_var(--accent)]"
        render={(entry) => <Row entry={entry} />}
      />
    </section>
  );
}
