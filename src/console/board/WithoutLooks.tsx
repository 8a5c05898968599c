/** Components that have no looks yet: how many there are, and a first look file for each of them. */
import { useMutation } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import type { ComponentInfo } from '../../core/api/api.ts';
import { componentOf } from '../../core/look/look.ts';
import { toProblem } from '../../core/problem/problem.ts';
import { counted } from '../../core/text/counted.ts';
import { service, useComponents, useStart } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Trouble, Waiting } from '../parts/Blank.tsx';
import { Button } from '../parts/Button.tsx';

// It grows downwards: nothing moves away from under a hand that is about to press.
const place = 'fixed top-[14vh] left-1/2 max-h-[76vh] w-[44rem] max-w-[94vw] -translate-x-1/2';

/** One component, and what has come of drafting looks for it. */
function Row({ info }: { info: ComponentInfo }) {
  const start = useStart();
  const { mutate, data, error, isPending } = useMutation({ mutationFn: () => service.draft(info.file, null, true) });
  const wrong = error && toProblem(error);
  return (
    <li className="flex items-center gap-3 border-t border-rule py-1.5">
      <span className="min-w-0 flex-1">
        <span className="block truncate">
          <span className="font-medium">{info.component}</span>{' '}
          <span className="font-mono text-[11px] text-soft">{data?.file ?? info.file}</span>
        </span>
        {wrong && (
          <span className="block text-[11.5px] text-failed" role="alert">
            {wrong.message} {wrong.remedy}
          </span>
        )}
      </span>
      <span className="shrink-0 text-soft tabular-nums">imported by {counted(info.imports, 'file')}</span>
      {data ? (
        <Button onClick={() => start({ patterns: [componentOf(data.file)] })}>Run</Button>
      ) : (
        <Button onClick={() => mutate()} disabled={isPending}>
          Draft looks
        </Button>
      )}
    </li>
  );
}

function List() {
  const { data, error, isPending } = useComponents();
  // What is drafted here stays in sight, with a way to run it.
  const [bare] = useState(() => data?.filter(({ hasLooks }) => !hasLooks));
  const shown = bare ?? data?.filter(({ hasLooks }) => !hasLooks) ?? [];
  if (isPending) return <Waiting what="Reading the project…" />;
  if (error) return <Trouble error={error} />;
  if (shown.length === 0) return <p className="py-4 text-soft">Every component has looks.</p>;
  return (
    <ul>
      {shown.map((info) => (
        <Row key={info.file} info={info} />
      ))}
    </ul>
  );
}

/** How many components have no looks, which leads to a list of them; nothing where each has some. */
export function WithoutLooks() {
  const [isOpen, setOpen] = useState(false);
  const { data, refetch } = useComponents();
  const count = data?.filter(({ hasLooks }) => !hasLooks).length ?? 0;
  const open = (next: boolean): void => {
    setOpen(next);
    if (!next) void refetch();
  };
  useKeys({ d: () => open(true) });
  return (
    <Dialog.Root open={isOpen} onOpenChange={open}>
      {count > 0 && (
        <Button onClick={() => open(true)} title="Components without looks (d)" shortcut="d">
          {counted(count, 'component')} {count === 1 ? 'has' : 'have'} none
        </Button>
      )}
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/30 dark:bg-black/50" />
        <Dialog.Content
          className={`${place} flex flex-col rounded-lg border border-rule bg-sheet p-5 shadow-xl outline-none`}
        >
          <Dialog.Title className="text-[14px] font-semibold">Components without looks</Dialog.Title>
          <Dialog.Description className="mt-1 mb-3 text-soft">
            A draft is a look file beside the component, made of the types of its props. Files that are there stay as
            they are.
          </Dialog.Description>
          <div className="-mx-1 min-h-0 flex-1 overflow-auto px-1">
            <List />
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
