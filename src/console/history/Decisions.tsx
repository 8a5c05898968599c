/** Decisions about a look, newest first; of two their pictures are compared. */
import type { HistoryEntry } from '../../core/api/api.ts';
import { beginningOf } from '../../core/run/board.ts';
import { service } from '../data.ts';
import { day } from '../parts/day.ts';

type Props = {
  decisions: readonly HistoryEntry[];
  /** Ids of the two that are compared. */
  before: number;
  now: number;
  onChoose(side: 'before' | 'now', id: number): void;
};

const kinds: Record<HistoryEntry['kind'], { sign: string; word: string; tone: string }> = {
  approve: { sign: '✓', word: 'Approved', tone: 'text-passed' },
  reject: { sign: '✗', word: 'Rejected', tone: 'text-failed' },
  adopt: { sign: '⇣', word: 'Taken in from the folder', tone: 'text-new' },
  undo: { sign: '↶', word: 'Taken back', tone: 'text-changed' },
};

type SideProps = { side: 'before' | 'now'; of: string; isChosen: boolean; onChoose(): void };

/** Takes a decision for one side of the comparison. */
const Side = ({ side, of, isChosen, onChoose }: SideProps) => (
  <button
    type="button"
    aria-pressed={isChosen}
    aria-label={`${side}: ${of}`}
    onClick={onChoose}
    className={`h-6 rounded border px-2 text-[11px] ${
      isChosen ? 'border-accent bg-sheet font-semibold' : 'border-rule text-soft hover:border-accent hover:text-ink'
    }`}
  >
    {isChosen ? `✓ ${side}` : side}
  </button>
);

const small = 'checks flex size-12 shrink-0 items-center justify-center overflow-hidden rounded-sm border border-rule';

export function Decisions({ decisions, before, now, onChoose }: Props) {
  return (
    <section className="flex min-h-0 flex-col border-r border-rule bg-sheet" aria-label="History">
      <p className="shrink-0 border-b border-rule px-3 py-2 text-[11.5px] text-soft">
        <kbd>↑</kbd> <kbd>↓</kbd> choose “now”, <kbd>k</kbd> <kbd>j</kbd> “before”
      </p>
      <ul className="min-h-0 flex-1 overflow-y-auto">
        {decisions.map(({ id, kind, capture, who, at, why, fixer, commit, branch, hash, isBaseline }) => {
          const { sign, word, tone } = kinds[kind];
          const where = [branch, commit].filter((one) => one !== null).join(' at ');
          return (
            <li
              key={id}
              className={`flex gap-2.5 border-b border-rule px-3 py-2 ${id === now || id === before ? 'bg-wash' : ''}`}
            >
              <span className={small}>
                <img src={service.thumbnailUrl(beginningOf(hash))} alt="" className="max-h-full max-w-full" />
              </span>
              <div className="min-w-0 flex-1">
                <p className="text-[11.5px]">
                  <span className={tone}>
                    {sign} {word}
                  </span>{' '}
                  by <span className="font-medium">{who}</span>
                  {capture === 'end' ? '' : ` · ${capture}`}
                  {isBaseline && <span className="font-semibold"> · the baseline now</span>}
                </p>
                <p className="text-[11px] wrap-anywhere text-soft">
                  {day(at)}
                  {where === '' ? '' : ` · ${where}`}
                </p>
                {why && <p className="text-[11.5px] break-words">“{why}”</p>}
                {fixer && <p className="text-[11.5px]">To be fixed by {fixer}</p>}
                {kind !== 'undo' && (
                  <p className="mt-1 flex gap-2">
                    {(['before', 'now'] as const).map((side) => (
                      <Side
                        key={side}
                        side={side}
                        of={`${word} by ${who}, ${day(at)}`}
                        isChosen={id === { before, now }[side]}
                        onChoose={() => onChoose(side, id)}
                      />
                    ))}
                  </p>
                )}
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
