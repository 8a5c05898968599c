/** What is being reviewed, and the two answers to it. */
import { Link } from 'react-router';
import { lookTitle } from '../../core/look/look.ts';
import { Button } from '../parts/Button.tsx';
import { Verdict } from '../parts/Verdict.tsx';
import { type Item, kindOf } from './items.ts';

type Props = { item: Item; at: number; of: number; onApprove(): void; onReject(): void };

export function ItemHead({ item, at, of, onApprove, onReject }: Props) {
  const { result, capture } = item;
  return (
    <div className="flex h-10 shrink-0 items-center gap-3 border-b border-rule px-4">
      <Link
        to={`/bench/${result.id}?step=${capture.step}`}
        className="truncate text-[14px] font-semibold hover:text-accent"
        title="Open on the bench"
      >
        {lookTitle(result.component, result.look)}
      </Link>
      <Verdict verdict={kindOf(item)} />
      <span className="truncate text-soft">
        {result.environment} · {capture.name}
        {result.isUnsteady ? ' · unsteady' : ''}
      </span>
      <span className="flex-1" />
      <span className="text-soft tabular-nums">
        {at + 1} of {of}
      </span>
      <Button tone="danger" onClick={onReject}>
        Reject <kbd>x</kbd>
      </Button>
      <Button tone="strong" onClick={onApprove}>
        Approve <kbd className="!border-paper/40 !bg-transparent !text-paper">a</kbd>
      </Button>
    </div>
  );
}
