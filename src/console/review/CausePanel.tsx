/** Everything that is known of an entry, and of the capture that is shown. */
import type { RefObject } from 'react';
import { counted } from '../../core/text/counted.ts';
import { CopyButton } from '../parts/CopyButton.tsx';
import { FindEdit } from '../parts/FindEdit.tsx';
import { site } from '../site.ts';
import { Comments } from './Comments.tsx';
import { causesOf, commentedOn, type Entry, type Shot } from '../../core/review/entries.ts';
import { entryMark } from './marks.ts';
import { Effects, Values } from './Values.tsx';

type Props = {
  entry: Entry;
  shot: Shot;
  entries: readonly Entry[];
  comment: RefObject<HTMLTextAreaElement | null>;
  onGo(entry: Entry, shot: Shot): void;
};

/** The address of this page at an entry, for whoever it is sent to. */
const linkTo = ({ id, cluster, shots }: Entry): string => {
  const where = cluster ? `cause=${id}` : `result=${shots[0]!.result}&capture=${encodeURIComponent(shots[0]!.capture)}`;
  // On a site pages stand behind the `#`.
  return `${site ? `${location.href.split('#')[0]}#` : location.origin}/review?${where}`;
};

/** So many other causes are listed: all of them stand in the list on the left. */
const mostOthers = 20;

/** Other causes of the same capture. */
function Others({ entry, shot, entries, onGo }: Omit<Props, 'comment'>) {
  const others = causesOf(entries, shot).filter((one) => one !== entry);
  if (others.length === 0) return null;
  return (
    <section>
      <h3 className="mb-0.5 text-[11px] font-semibold text-soft">
        This capture has {counted(others.length, 'other cause')}
      </h3>
      <ul>
        {others.slice(0, mostOthers).map((other) => (
          <li key={other.id}>
            <button
              type="button"
              className="min-h-6 w-full truncate text-left text-[11.5px] hover:text-accent"
              onClick={() => onGo(other, other.shots.find(({ pair }) => pair === shot.pair) ?? other.shots[0]!)}
            >
              {other.cluster!.number} {other.title}
            </button>
          </li>
        ))}
        {others.length > mostOthers && (
          <li className="text-[11.5px] text-soft">and {others.length - mostOthers} more</li>
        )}
      </ul>
    </section>
  );
}

const Seen = ({ names }: { names: readonly string[] }) =>
  names.length === 0 ? null : <p className="text-[11.5px] text-soft">Looked at by {names.join(', ')}</p>;

function Decided({ shot: { decided } }: { shot: Shot }) {
  if (!decided) return null;
  const { kind, who, why, fixer } = decided;
  return (
    <p className={`text-[11.5px] ${kind === 'approve' ? 'text-passed' : 'text-failed'}`}>
      {kind === 'approve' ? '✓ Approved' : '✗ Rejected'} by {who}
      {why && `: “${why}”`}
      {fixer && <span className="block">To be fixed by {fixer}</span>}
    </p>
  );
}

export function CausePanel({ entry, shot, entries, comment, onGo }: Props) {
  const { cluster, note, kind } = entry;
  const { sign, word, tone, why } = entryMark(entry);
  const facts = shot.cause
    ? [
        ...(shot.cause.pixels ? [`${shot.cause.pixels.toLocaleString('en')} pixels by itself`] : []),
        ...(shot.cause.elements > 0 ? [counted(shot.cause.elements, 'element')] : []),
      ]
    : [];
  const told = note ?? shot.cause?.note ?? null;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2.5 overflow-y-auto px-3 py-2.5">
      <div>
        <p className="flex flex-wrap items-center gap-x-2 text-[11.5px]">
          <span className={tone}>
            {sign} {word}
          </span>
          <span className="flex-1" />
          <CopyButton text={linkTo(entry)} what="a link" />
        </p>
        <h2 className="mt-0.5 text-[13px] font-semibold break-words">{entry.title}</h2>
        <p className="mt-0.5 text-[11.5px] text-soft">{why}</p>
      </div>
      {cluster && <Values {...cluster} />}
      {cluster?.place && (
        <p className="flex flex-wrap items-center gap-1 font-mono text-[11.5px]">
          {cluster.place.file}:{cluster.place.line}{' '}
          <CopyButton text={`${cluster.place.file}:${cluster.place.line}`} what="the place" />
        </p>
      )}
      {facts.length > 0 && <p className="text-[11.5px] text-soft">{facts.join(' · ')}</p>}
      {told && <p className="text-[11.5px] text-soft">{told}</p>}
      <Decided shot={shot} />
      {cluster?.captures[0]?.environment === shot.environment && <Effects effects={cluster.effects} />}
      {(kind === 'cause' || kind === 'failed' || kind === 'unexplained') && (
        <div>
          <FindEdit
            result={shot.result}
            capture={kind === 'failed' ? null : shot.capture}
            pick={(edits) => edits.find(({ key }) => key === cluster?.key) ?? edits[0]}
          />
        </div>
      )}
      <Others entry={entry} shot={shot} entries={entries} onGo={onGo} />
      <Comments on={commentedOn(entry, shot)} comments={entry.comments} field={comment} />
      <Seen names={shot.seenBy} />
    </div>
  );
}
