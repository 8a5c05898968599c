/** The palette: what the console can do, found by its name. */
import { Dialog } from 'radix-ui';
import { useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { ProjectInfo } from '../../core/api/api.ts';
import { service, useBoard, useComponents, useDraft, useSittings, useStart } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Key } from '../parts/Key.tsx';
import { site } from '../site.ts';
import type { Theme } from '../theme.ts';
import { type Command, commandsFor, type Hands, matching } from './commands.ts';

const place = 'fixed top-[12vh] left-1/2 w-[38rem] max-w-[94vw] -translate-x-1/2';

/** So many are shown: whoever looks for more writes more. */
const most = 60;

/** Opened with `k`, or with Ctrl+K wherever the focus is. */
function useOpen(): [boolean, (isOpen: boolean) => void] {
  const [isOpen, setOpen] = useState(false);
  useKeys({ k: () => setOpen(true) });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k') return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  return [isOpen, setOpen];
}

function List({ commands, onDone }: { commands: readonly Command[]; onDone(): void }) {
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const found = useMemo(() => matching(commands, text), [commands, text]);
  const shown = found.slice(0, most);
  const chosen = Math.min(at, shown.length - 1);
  const carryOut = (command: Command | undefined): void => {
    if (!command) return;
    onDone();
    command.does();
  };
  const move = (by: number): void => {
    const next = (chosen + by + shown.length) % Math.max(1, shown.length);
    setAt(next);
    document.getElementById(`command-${next}`)?.scrollIntoView({ block: 'nearest' });
  };
  return (
    <>
      <input
        role="combobox"
        aria-label="What to do"
        aria-expanded="true"
        aria-controls="commands"
        aria-activedescendant={`command-${chosen}`}
        value={text}
        placeholder="What to do, or a look to open"
        className="h-9 w-full rounded-t-lg border-b border-rule bg-sheet px-3 outline-none"
        onChange={({ target }) => {
          setText(target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') move(1);
          else if (event.key === 'ArrowUp') move(-1);
          else if (event.key === 'Enter') carryOut(shown[chosen]);
          else return;
          event.preventDefault();
        }}
      />
      <div id="commands" role="listbox" aria-label="Commands" className="max-h-[52vh] overflow-y-auto py-1">
        {shown.map((command, index) => (
          <div
            key={`${command.kind} ${command.title}`}
            id={`command-${index}`}
            role="option"
            tabIndex={-1}
            aria-selected={index === chosen}
            className="flex cursor-default items-center gap-2 px-3 py-1 aria-selected:bg-wash"
            onMouseMove={() => setAt(index)}
            onClick={() => carryOut(command)}
            onKeyDown={() => {}}
          >
            <span className="w-14 shrink-0 text-[11px] text-soft">{command.kind}</span>
            <span className="min-w-0 flex-1 truncate">{command.title}</span>
            {command.key && <Key>{command.key}</Key>}
          </div>
        ))}
        {shown.length === 0 && <p className="px-3 py-2 text-soft">Nothing is called that.</p>}
        {found.length > shown.length && (
          <p className="px-3 py-1 text-[11.5px] text-soft">
            {found.length - shown.length} more: write more of its name.
          </p>
        )}
      </div>
    </>
  );
}

/** What can be done on a site, where nothing is run. */
const isReading = (kind: string): boolean => /^(go|bench|console)$/.test(kind);

/** What is listed is read only while somebody looks. */
function Body({ project, theme, showKeys, onDone }: Props & { onDone(): void }) {
  const navigate = useNavigate();
  const start = useStart();
  const draft = useDraft();
  const board = useBoard().data;
  const components = useComponents().data;
  const sittings = useSittings().data;
  const commands = useMemo(() => {
    const { run } = project;
    const hands: Hands = {
      go: (path) => void navigate(path),
      start,
      stop: run && (() => void service.stopRun(run.id)),
      toggleTheme: theme.toggle,
      showKeys,
      draft,
    };
    const all = commandsFor(project, sittings ?? [], board ?? [], components ?? [], hands);
    return site ? all.filter(({ kind }) => isReading(kind)) : all;
  }, [project, sittings, board, components, navigate, start, draft, theme, showKeys]);
  return <List commands={commands} onDone={onDone} />;
}

type Props = { project: ProjectInfo; theme: Theme; showKeys(): void };

export function Palette(props: Props) {
  const [isOpen, setOpen] = useOpen();
  return (
    <Dialog.Root open={isOpen} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/30 dark:bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`${place} rounded-lg border border-rule bg-sheet shadow-xl outline-none`}
        >
          <Dialog.Title className="sr-only">What to do</Dialog.Title>
          <Body {...props} onDone={() => setOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
