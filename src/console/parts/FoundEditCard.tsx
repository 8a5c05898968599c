/** The edit that did it, as lines that were there and are there now. */
import { dedented } from '../../core/cause/hunks.ts';
import type { FoundEdit, FoundHunk } from '../../core/cause/found.ts';

const commitOf = ({ commit }: FoundHunk): string =>
  commit === null ? 'not committed yet' : `${commit.id} ${commit.summary} · ${commit.author}`;

const lines =
  'mt-0.5 max-h-40 overflow-auto rounded-md border border-rule bg-paper px-2 py-1 font-mono text-[11px] leading-4';

function HunkLines({ hunk }: { hunk: FoundHunk }) {
  return (
    <figure className="mt-1 min-w-0">
      <figcaption className="truncate text-[11px]" title={commitOf(hunk)}>
        <span className="font-mono">
          {hunk.file}:{hunk.line}
        </span>{' '}
        <span className="text-soft">· {commitOf(hunk)}</span>
      </figcaption>
      <pre className={lines}>
        {hunk.removed.map((line, i) => (
          <span key={`-${i}`} className="block text-failed">
            − {line}
          </span>
        ))}
        {hunk.added.map((line, i) => (
          <span key={`+${i}`} className="block text-passed">
            + {line}
          </span>
        ))}
      </pre>
    </figure>
  );
}

export function FoundEditCard({ found: { proved, candidates, note } }: { found: FoundEdit }) {
  const isProved = proved.length > 0;
  return (
    <div className="w-full min-w-0 text-[11.5px]">
      {isProved ? (
        <p>
          <span className="text-passed">
            ✓ {proved.length === 1 ? 'This edit did it' : 'These edits did it together'}
          </span>
          : without {proved.length === 1 ? 'it' : 'them'} the change is gone.
        </p>
      ) : (
        <p className="text-changed">? {note}</p>
      )}
      {!isProved && candidates.length > 0 && <p className="mt-1 text-soft">The likeliest edits:</p>}
      {[...proved, ...candidates].map((hunk) => (
        <HunkLines key={`${hunk.file}:${hunk.line}`} hunk={dedented(hunk)} />
      ))}
    </div>
  );
}
