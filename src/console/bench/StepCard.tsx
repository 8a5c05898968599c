/** What there is to know about one step. */
import type { Problem } from '../../core/problem/problem.ts';
import type { Mark, Step } from '../../core/timeline/timeline.ts';
import type { Flame } from '../../core/timing/costs.ts';
import { NoteCard } from '../parts/NoteCard.tsx';
import { ProblemCard } from '../parts/ProblemCard.tsx';
import { CostCard } from './CostCard.tsx';
import { milliseconds } from './time.ts';

const outcomes: Record<Step['outcome'], { sign: string; tone: string }> = {
  passed: { sign: '✓', tone: 'text-passed' },
  failed: { sign: '✗', tone: 'text-failed' },
  broken: { sign: '▲', tone: 'text-broken' },
  running: { sign: '…', tone: 'text-soft' },
};

/** The look's own time: where it stood, and how far the step moved it. */
const clockText = ([from, to]: [number, number]): string =>
  to > from ? `${milliseconds(from)} → ${milliseconds(to)}` : milliseconds(from);

type Props = {
  step: Step;
  problems: Problem[];
  /** Notes that are likely to say why. */
  notes: string[];
  marks: Mark[];
  /** How many steps there are. */
  count: number;
  /** Which functions ran in it, where that was measured. */
  flame: Flame | undefined;
  /** The file whose source stands beside, if any. */
  shownFile: string | null;
};

export function StepCard({ step, problems, notes, marks, count, flame, shownFile }: Props) {
  const { sign, tone } = outcomes[step.outcome];
  const facts = [
    ...(step.clock ? [['clock', clockText(step.clock)]] : []),
    ['at', milliseconds(step.at)],
    ['took', step.took === null ? 'never ended' : milliseconds(step.took)],
    ...(step.tries && step.tries > 1 ? [['tried', `${step.tries} times`]] : []),
    ...(step.target?.box
      ? [
          [
            'target',
            `${step.target.box.slice(2).map(Math.round).join(' × ')} at ` +
              `${step.target.box.slice(0, 2).map(Math.round).join(', ')}`,
          ],
        ]
      : []),
    ...(step.pointer ? [['pointer', step.pointer.map(Math.round).join(', ')]] : []),
  ];
  const inside = marks.filter(
    (mark) => mark.lane !== 'dom' && mark.at >= step.at && mark.at <= step.at + (step.took ?? 0) + 0.05,
  );
  return (
    <div className="flex flex-col gap-2 p-3">
      <h2 className="font-medium">
        <span className={tone}>{sign}</span> {step.title}{' '}
        <span className="ml-2 text-[11px] font-normal text-soft">
          {step.kind}, {step.index + 1} of {count}
        </span>
      </h2>
      <dl className="flex flex-wrap gap-x-4 gap-y-0.5 text-[11.5px]">
        {facts.map(([name, value]) => (
          <div key={name} className="flex gap-1.5">
            <dt className="text-soft">{name}</dt>
            <dd className="tabular-nums">{value}</dd>
          </div>
        ))}
      </dl>
      {step.doubt && <NoteCard note={step.doubt} />}
      {problems.length === 0 && step.saw && (
        <div className="text-[11.5px]">
          <p className="text-[11px] text-soft">Before it held</p>
          <ul className="font-mono">
            {step.saw.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </div>
      )}
      {notes.map((note) => (
        <NoteCard key={note} note={note} />
      ))}
      {problems.map((problem) => (
        <ProblemCard key={problem.code} problem={problem} shownFile={shownFile} />
      ))}
      {step.costs && <CostCard costs={step.costs} flame={flame} />}
      {inside.length > 0 && (
        <ul className="flex flex-col gap-0.5 text-[11.5px]">
          {inside.slice(0, 20).map((mark, i) => (
            <li key={i} className="flex gap-2">
              <span className="w-14 shrink-0 text-soft">{mark.lane}</span>
              <span
                className={`font-mono text-[11px] ${
                  mark.level === 'error' ? 'text-failed' : mark.level === 'warning' ? 'text-changed' : ''
                }`}
              >
                {mark.title}
              </span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
