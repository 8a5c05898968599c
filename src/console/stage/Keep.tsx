/** Keeping what is on the stage: in its look or as a new one, after showing what that changes in the file. */
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import type { Change, KeptFile } from '../../core/api/api.ts';
import { type Problem, toProblem } from '../../core/problem/problem.ts';
import { service } from '../data.ts';
import { Button } from '../parts/Button.tsx';
import { Choice } from '../parts/Choice.tsx';
import type { Stage } from './useStage.ts';

// It grows downwards: nothing moves away from under a hand that is about to press.
const place = 'fixed top-[14vh] left-1/2 max-h-[76vh] w-[44rem] max-w-[94vw] -translate-x-1/2';

/** Lines that go and lines that come, each with its sign. */
const Lines = ({ change: { line, removed, added } }: { change: Change }) => (
  <pre className="overflow-auto rounded-md border border-rule bg-well p-2 font-mono text-[11.5px]">
    {removed.map((text, index) => (
      <div key={`- ${String(index)}`} className="text-failed">
        {String(line + index).padStart(4)} − {text}
      </div>
    ))}
    {added.map((text, index) => (
      <div key={`+ ${String(index)}`} className="text-passed">
        {String(line + index).padStart(4)} + {text}
      </div>
    ))}
  </pre>
);

type Preview = { kept: KeptFile } | { problem: Problem };

type Props = { stage: Stage; look: string; onKept(kept: KeptFile, name: string): void; onClose(): void };

function Form({ stage, look, onKept, onClose }: Props) {
  const { file, over } = stage;
  const [into, setInto] = useState<'look' | 'new'>('look');
  const [name, setName] = useState(`${look} 2`);
  const [preview, setPreview] = useState<Preview | null>(null);
  const as = into === 'new' ? name.trim() : null;
  const ask = (write: boolean): Promise<Preview> => {
    const seen = preview && 'kept' in preview ? preview.kept.hash : null;
    return service.keep({ file, look, as, props: over, seen: write ? seen : null, write }).then(
      (kept) => ({ kept }),
      (error: unknown) => ({ problem: toProblem(error) }),
    );
  };
  useEffect(() => {
    let isLate = false;
    setPreview(null);
    if (as === '') return;
    void ask(false).then((next) => !isLate && setPreview(next));
    return () => {
      isLate = true;
    };
  }, [as, file, look, over]);
  const keep = async (): Promise<void> => {
    const done = await ask(true);
    if ('kept' in done) onKept(done.kept, as ?? look);
    else setPreview(done);
  };
  const isReady = preview !== null && 'kept' in preview;
  return (
    <form
      className="flex min-h-0 flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) void keep();
      }}
    >
      <div className="flex items-center gap-3">
        <Choice<'look' | 'new'>
          label="Where to keep it"
          value={into}
          options={[
            { value: 'look', label: `In “${look}”` },
            { value: 'new', label: 'As a new look' },
          ]}
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
      {preview && 'problem' in preview && (
        <p className="text-failed" role="alert">
          ✗ {preview.problem.message} {preview.problem.remedy}
        </p>
      )}
      {isReady && (
        <div className="min-h-0 overflow-auto">
          <p className="mb-1 font-mono text-[11.5px] text-soft">{file}</p>
          <Lines change={preview.kept.change} />
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

/** What was kept last, with the way back. */
function Done({ kept, onGone }: { kept: KeptFile; onGone(): void }) {
  const [wrong, setWrong] = useState<Problem | null>(null);
  const undo = (): void =>
    void service.undoKeep(kept.file, kept.hash).then(onGone, (error: unknown) => setWrong(toProblem(error)));
  return (
    <p className="flex items-center gap-2 text-[11.5px]" role="status">
      {wrong ? (
        <span className="text-failed">✗ {wrong.message}</span>
      ) : (
        <>
          <span className="min-w-0 flex-1 truncate text-soft">
            Kept in {kept.file}:{kept.change.line}
          </span>
          <button type="button" className="text-accent underline" onClick={undo}>
            Undo
          </button>
        </>
      )}
      <button type="button" aria-label="Close this message" className="text-soft" onClick={onGone}>
        ×
      </button>
    </p>
  );
}

/** The button that keeps what is changed, and what came of it. */
export function Keep({ stage, look }: { stage: Stage; look: string }) {
  const [isOpen, setOpen] = useState(false);
  const [kept, setKept] = useState<KeptFile | null>(null);
  const hasChanges = Object.keys(stage.over).length > 0;
  const done = (file: KeptFile, name: string): void => {
    setOpen(false);
    setKept(file);
    // The file has them now.
    if (name === look) stage.restoreAll();
    else stage.setLook(name);
  };
  return (
    <>
      {hasChanges && (
        <Button tone="strong" onClick={() => setOpen(true)}>
          Keep…
        </Button>
      )}
      {kept && <Done kept={kept} onGone={() => setKept(null)} />}
      <Dialog.Root open={isOpen} onOpenChange={setOpen}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 bg-ink/30 dark:bg-black/50" />
          <Dialog.Content
            aria-describedby={undefined}
            className={`${place} flex flex-col rounded-lg border border-rule bg-sheet p-5 shadow-xl outline-none`}
          >
            <Dialog.Title className="mb-3 text-[14px] font-semibold">Keep these props</Dialog.Title>
            <Form stage={stage} look={look} onKept={done} onClose={() => setOpen(false)} />
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </>
  );
}
