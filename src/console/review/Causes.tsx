/** Why a capture changed: its causes, what else each explains, and the edit that did it. */
import type { Cluster, ClusterCapture } from '../../core/cause/cluster.ts';
import { lookTitle } from '../../core/look/look.ts';
import { counted } from '../../core/text/counted.ts';
import { Button } from '../parts/Button.tsx';
import { CopyButton } from '../parts/CopyButton.tsx';
import { FindEdit } from '../parts/FindEdit.tsx';
import type { OwnCause } from './causes.ts';

type Props = {
  causes: readonly OwnCause[];
  /** Why there are none. */
  note: string | null;
  /** The cause whose elements are outlined. */
  shown: string | null;
  onShow(key: string | null): void;
  onApprove(cluster: Cluster): void;
  onGo(capture: ClusterCapture): void;
};

const marks = {
  proved: {
    sign: '✓',
    word: 'proved',
    tone: 'text-passed',
    why: 'Drawn with these causes alone, it is the new picture',
  },
  drawn: { sign: '≈', word: 'as drawn', tone: 'text-changed', why: 'The moments cannot be drawn to the last pixel' },
  unexplained: { sign: '?', word: 'not all', tone: 'text-changed', why: 'The causes found leave something over' },
} as const;

function Proof({ cluster, capture }: OwnCause) {
  if (cluster.kind === 'failed' || capture.proof === null) return <span className="text-failed">✗ fails</span>;
  const { sign, word, tone, why } = marks[capture.proof];
  return (
    <span className={tone} title={why}>
      {sign} {word}
    </span>
  );
}

/** True for a value that a swatch can show. */
const isColour = (value: string): boolean => CSS.supports('color', value) && !/^(inherit|initial|unset)$/.test(value);

const Swatch = ({ value }: { value: string }) => (
  <span className="checks inline-block size-3.5 rounded-sm border border-rule align-[-2px]" aria-hidden="true">
    <span className="block size-full rounded-sm" style={{ background: value }} />
  </span>
);

/** Values of a token or a declaration, one change a line, with swatches for colours. */
function Values({ before, now, kind }: Cluster) {
  if ((kind !== 'token' && kind !== 'style') || before === null || now === null) return null;
  const [from, to] = [before.split(/, (?=[^)]*(?:\(|$))/), now.split(/, (?=[^)]*(?:\(|$))/)];
  if (from.length !== to.length || ![...from, ...to].every(isColour)) return null;
  return (
    <ul className="mt-1 flex flex-wrap gap-x-3 font-mono text-[11.5px]">
      {from.map((value, i) => (
        <li key={i} className="whitespace-nowrap">
          <Swatch value={value} /> {value} → <Swatch value={to[i]!} /> {to[i]}
        </li>
      ))}
    </ul>
  );
}

/** So many other captures of a cause are named. */
const mostNamed = 4;

function Others({ cluster, capture, onGo }: OwnCause & Pick<Props, 'onGo'>) {
  const others = cluster.captures.filter((one) => one !== capture);
  if (others.length === 0) return <p className="text-soft">Only here</p>;
  return (
    <details>
      <summary className="cursor-pointer text-soft">Behind {counted(others.length, 'other capture')} as well</summary>
      <ul className="mt-0.5">
        {others.slice(0, mostNamed).map((one) => (
          <li key={`${one.result} ${one.capture}`}>
            <button type="button" className="truncate text-left hover:text-accent" onClick={() => onGo(one)}>
              {lookTitle(one.component, one.look)} · {one.environment}
              {one.capture === 'end' ? '' : ` · ${one.capture}`}
            </button>
          </li>
        ))}
        {others.length > mostNamed && <li className="text-soft">and {others.length - mostNamed} more</li>}
      </ul>
    </details>
  );
}

/** The edit behind a cause. */
const EditOf = ({ cluster, capture }: OwnCause) => (
  <FindEdit
    result={capture.result}
    capture={cluster.kind === 'failed' ? null : capture.capture}
    pick={(edits) => edits.find(({ key }) => key === cluster.key) ?? edits[0]}
  />
);

function CauseCard({ cause, shown, onShow, onApprove, onGo }: { cause: OwnCause } & Omit<Props, 'causes' | 'note'>) {
  const { cluster, capture } = cause;
  const { place, title, key, number } = cluster;
  const isShown = shown === key;
  const facts = [
    ...(capture.pixels ? [`${capture.pixels.toLocaleString('en')} pixels`] : []),
    ...(capture.elements > 0 ? [counted(capture.elements, 'element')] : []),
    ...(capture.decided
      ? [`${capture.decided.kind === 'approve' ? 'approved' : 'rejected'} by ${capture.decided.who}`]
      : []),
  ];
  return (
    <li
      className={`border-b border-rule px-3 py-2 ${isShown ? 'bg-wash' : ''}`}
      onMouseEnter={() => onShow(key)}
      onFocus={() => onShow(key)}
    >
      <div className="flex flex-wrap items-center gap-x-2 text-[11.5px] [&>*]:whitespace-nowrap">
        <span className="font-semibold tabular-nums">{number}</span>
        <Proof {...cause} />
        <span className="flex-1" />
        <span className="text-soft">{facts.join(' · ')}</span>
      </div>
      <p className="mt-0.5 font-medium break-words">{title}</p>
      <Values {...cluster} />
      {place && (
        <p className="mt-0.5 flex flex-wrap items-center gap-1 font-mono text-[11.5px]">
          {place.file}:{place.line} <CopyButton text={`${place.file}:${place.line}`} what="the place" />
        </p>
      )}
      <div className="mt-1 text-[11.5px]">
        <Others {...cause} onGo={onGo} />
      </div>
      <div className="mt-1.5 flex flex-wrap items-start gap-2">
        <EditOf {...cause} />
        {cluster.kind !== 'failed' && cluster.captures.length > 1 && (
          <Button onClick={() => onApprove(cluster)}>
            Approve in {counted(cluster.captures.length, 'capture')}
            {isShown && <kbd>c</kbd>}
          </Button>
        )}
      </div>
    </li>
  );
}

/** The causes of one capture. */
export function Causes({ causes, note, ...rest }: Props) {
  return (
    <section
      className="flex min-h-0 w-[clamp(220px,26vw,340px)] shrink-0 flex-col border-l border-rule bg-sheet"
      aria-label="Causes"
    >
      <h3 className="flex h-9 shrink-0 items-center border-b border-rule px-3 font-semibold">
        {causes.length > 0 ? counted(causes.length, 'cause') : 'No cause found'}
      </h3>
      <ul className="min-h-0 flex-1 overflow-y-auto">
        {causes.map((cause) => (
          <CauseCard key={cause.cluster.key} cause={cause} {...rest} />
        ))}
        {note && <li className="px-3 py-2 text-soft">{note}</li>}
      </ul>
    </section>
  );
}
