/** Asks what is wrong with a change. */
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { Button } from '../parts/Button.tsx';

type Props = { open: boolean; title: string; onClose(): void; onReject(why: string): void };

const place = 'fixed top-1/3 left-1/2 w-[26rem] -translate-x-1/2 -translate-y-1/3';

export function RejectDialog({ open, title, onClose, onReject }: Props) {
  const [why, setWhy] = useState('');
  const send = (): void => {
    if (!why.trim()) return;
    onReject(why.trim());
    setWhy('');
    onClose();
  };
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/30 dark:bg-black/50" />
        <Dialog.Content className={`${place} rounded-lg border border-rule bg-sheet p-4 shadow-xl`}>
          <Dialog.Title className="text-[14px] font-semibold">What is wrong with it?</Dialog.Title>
          <Dialog.Description className="mb-2 text-soft">
            {title} stays changed, with your reason beside it, until the code is fixed.
          </Dialog.Description>
          <textarea
            value={why}
            rows={3}
            aria-label="Reason"
            placeholder="The banner must not push the table down"
            onChange={(event) => setWhy(event.target.value)}
            onKeyDown={(event) => event.key === 'Enter' && (event.ctrlKey || event.metaKey) && send()}
            className="w-full resize-none rounded-md border border-rule bg-paper px-2.5 py-1.5 placeholder:text-soft"
          />
          <div className="mt-3 flex items-center justify-end gap-2">
            <span className="mr-auto text-[11px] text-soft">
              <kbd>Ctrl</kbd> <kbd>Enter</kbd>
            </span>
            <Button onClick={onClose}>Cancel</Button>
            <Button tone="danger" onClick={send} disabled={!why.trim()}>
              Reject
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
