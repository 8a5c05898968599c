import { Dialog } from 'radix-ui';
import { useRef } from 'react';

type Props = { berth: string; vessel: string; open: boolean; onClose(): void; onConfirm(): void };

/** Asks before a berth is released. */
export function ReleaseDialog({ berth, vessel, open, onClose }: Props) {
  const before = useRef<Element | null>(null);
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="scrim" />
        <Dialog.Content
          className="dialog"
          onOpenAutoFocus={() => {
            before.current = document.activeElement;
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            (before.current as HTMLElement | null)?.focus();
          }}
        >
          <Dialog.Title>Release {berth}?</Dialog.Title>
          <Dialog.Description className="soft">
            {vessel} loses its place, and the berth can be given to the next arrival.
          </Dialog.Description>
          <div className="row">
            <button type="button" className="button quiet" onClick={onClose}>
              Keep it
            </button>
            <button type="button" className="button danger" onClick={onClose}>
              Release
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
