/** Asks for the reason of a decision, and for a rejection who is to fix it. */
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { Button } from '../parts/Button.tsx';

export type Asked = { kind: 'approve' | 'reject'; title: string; why: string };

type Props = { asked: Asked | null; onClose(): void; onDecide(why: string, fixer: string | null): void };

const place = 'fixed top-1/3 left-1/2 w-[26rem] -translate-x-1/2 -translate-y-1/3';
const field = 'w-full rounded-md border border-rule bg-paper px-2.5 py-1.5';

const words = {
  approve: {
    title: 'Why is it meant?',
    about: 'is approved, with your reason in its history.',
    example: 'Spring colours',
    button: 'Approve',
  },
  reject: {
    title: 'What is wrong with it?',
    about: 'stays changed, with your reason beside it, until the code is fixed.',
    example: 'The banner must not push the table down',
    button: 'Reject',
  },
} as const;

export function DecisionDialog({ asked, onClose, onDecide }: Props) {
  const [why, setWhy] = useState('');
  const [fixer, setFixer] = useState('');
  useEffect(() => setWhy(asked?.why ?? ''), [asked]);
  const { title, about, example, button } = words[asked?.kind ?? 'reject'];
  const send = (): void => {
    if (!why.trim()) return;
    onDecide(why.trim(), fixer.trim() || null);
    onClose();
  };
  const sendOnEnter = (event: React.KeyboardEvent): void => {
    if (event.key !== 'Enter' || event.shiftKey) return;
    event.preventDefault();
    send();
  };
  return (
    <Dialog.Root open={asked !== null} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/30 dark:bg-black/50" />
        <Dialog.Content className={`${place} rounded-lg border border-rule bg-sheet p-4 shadow-xl`}>
          <Dialog.Title className="text-[14px] font-semibold">{title}</Dialog.Title>
          <Dialog.Description className="mb-2 text-soft">
            {asked?.title} {about}
          </Dialog.Description>
          <textarea
            value={why}
            rows={3}
            aria-label="Reason"
            placeholder={example}
            onFocus={(event) => event.target.select()}
            onChange={(event) => setWhy(event.target.value)}
            onKeyDown={sendOnEnter}
            className={`${field} resize-none`}
          />
          {asked?.kind === 'reject' && (
            <input
              value={fixer}
              aria-label="Who fixes it"
              placeholder="Who fixes it (optional)"
              onChange={(event) => setFixer(event.target.value)}
              onKeyDown={sendOnEnter}
              className={`${field} mt-2`}
            />
          )}
          <div className="mt-3 flex items-center justify-end gap-2">
            <span className="mr-auto text-[11px] text-soft">
              <kbd>Enter</kbd> to {button.toLowerCase()}
            </span>
            <Button onClick={onClose}>Cancel</Button>
            <Button tone={asked?.kind === 'approve' ? 'strong' : 'danger'} onClick={send} disabled={!why.trim()}>
              {button}
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
