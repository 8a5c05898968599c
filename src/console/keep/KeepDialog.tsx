/** Keeping something in a look file: in its look or as a new one, after showing what that changes there. */
import { Dialog } from 'radix-ui';
import { type ReactNode, useEffect, useState } from 'react';
import type { KeptFile } from '../../core/api/api.ts';
import { Button } from '../parts/Button.tsx';
import { Choice } from '../parts/Choice.tsx';
import { Wrong } from '../parts/Wrong.tsx';
import { ChangedLines } from './ChangedLines.tsx';

// It grows downwards: nothing moves away from under a hand that is about to press.
const place = 'fixed top-[14vh] left-1/2 max-h-[76vh] w-[44rem] max-w-[94vw] -translate-x-1/2';

type Preview = { kept: KeptFile } | { wrong: unknown };

/** Keeps it, in the look or under the name `as`, or only shows what that changes in the file as it was `seen`. */
export type Asking = (as: string | null, seen: string | null, write: boolean) => Promise<KeptFile>;

type FormProps = {
  file: string;
  look: string;
  /** Changes with what is to be kept. */
  what: string;
  /** Where it can be kept. */
  into: ('look' | 'new')[];
  ask: Asking;
  children?: ReactNode;
  onKept(kept: KeptFile, name: string): void;
  onClose(): void;
};

function Form({ file, look, what, into: places, ask, children, onKept, onClose }: FormProps) {
  const [into, setInto] = useState(places[0]!);
  const [name, setName] = useState(`${look} 2`);
  const [preview, setPreview] = useState<Preview | null>(null);
  const as = into === 'new' ? name.trim() : null;
  const asked = (write: boolean): Promise<Preview> => {
    const seen = preview && 'kept' in preview ? preview.kept.hash : null;
    return ask(as, write ? seen : null, write).then(
      (kept) => ({ kept }),
      (wrong: unknown) => ({ wrong }),
    );
  };
  useEffect(() => {
    let isLate = false;
    setPreview(null);
    if (as === '') return;
    void asked(false).then((next) => !isLate && setPreview(next));
    return () => {
      isLate = true;
    };
  }, [as, file, look, what]);
  const keep = async (): Promise<void> => {
    const done = await asked(true);
    if ('kept' in done) onKept(done.kept, as ?? look);
    else setPreview(done);
  };
  const isReady = preview !== null && 'kept' in preview;
  const labels = { look: `In “${look}”`, new: 'As a new look' };
  return (
    <form
      className="flex min-h-0 flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) void keep();
      }}
    >
      {children}
      <div className="flex items-center gap-3">
        <Choice<'look' | 'new'>
          label="Where to keep it"
          value={into}
          options={places.map((value) => ({ value, label: labels[value] }))}
          onChoose={setInto}
        />
        {into === 'new' && (
          <input
            aria-label="Name of the new look"
            value={name}
            onChange={({ target }) => setName(target.value)}
            className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-sheet px-2"
          />
        )}
      </div>
      {as === '' && <p className="text-soft">Give the new look a name.</p>}
      {preview && 'wrong' in preview && <Wrong error={preview.wrong} />}
      {isReady && (
        <div className="min-h-0 overflow-auto">
          <p className="mb-1 font-mono text-[11.5px] text-soft">{file}</p>
          <ChangedLines change={preview.kept.change} />
        </div>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button type="submit" tone="strong" disabled={!isReady}>
          Keep
        </Button>
      </div>
    </form>
  );
}

type Props = FormProps & { title: string; isOpen: boolean };

export const KeepDialog = ({ title, isOpen, ...form }: Props) => (
  <Dialog.Root open={isOpen} onOpenChange={(next) => !next && form.onClose()}>
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 bg-ink/30 dark:bg-black/50" />
      <Dialog.Content
        aria-describedby={undefined}
        className={`${place} flex flex-col rounded-lg border border-rule bg-sheet p-5 shadow-xl outline-none`}
      >
        <Dialog.Title className="mb-3 text-[14px] font-semibold">{title}</Dialog.Title>
        <Form {...form} />
      </Dialog.Content>
    </Dialog.Portal>
  </Dialog.Root>
);
