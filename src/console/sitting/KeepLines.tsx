/** Keeping lines that were tried or done by hand: read once more, changed, and put into the look file. */
import { useState } from 'react';
import type { KeptFile } from '../../core/api/api.ts';
import { lookKey } from '../../core/look/look.ts';
import { keptLines } from '../../core/sitting/lines.ts';
import { service, useStart } from '../data.ts';
import { Done } from '../keep/Done.tsx';
import { KeepDialog } from '../keep/KeepDialog.tsx';
import { Button } from '../parts/Button.tsx';
import type { Sitting } from './useSitting.ts';

/** The line of the look file before which lines belong that were tried now; null for the end of the script. */
function lineBefore({ state: { stop, steps, file } }: Sitting): number | null {
  const source = stop?.step == null ? undefined : steps[stop.step]?.source;
  return source?.file === file ? source.line : null;
}

/** Where a look of its own would begin: as this one does, or where it has ended. Null when it is neither. */
function startOf({ state: { stop, steps } }: Sitting): 'start' | 'end' | null {
  const own = steps.filter(({ tried, source }) => !tried && source);
  const isAtEnd = stop?.why === 'end' || (stop?.step != null && steps[stop.step]?.capture === 'end');
  if (isAtEnd) return 'end';
  return own.length <= 1 && stop?.step != null && own[0]?.index === stop.step ? 'start' : null;
}

export function KeepLines({ sitting }: { sitting: Sitting }) {
  const { file, component, look, environment, lines } = sitting.state;
  const [text, setText] = useState<string | null>(null);
  const [kept, setKept] = useState<KeptFile | null>(null);
  const start = useStart();
  const ready = keptLines(lines);
  const from = startOf(sitting);
  const written = (text ?? '').split('\n').filter((line) => line.trim() !== '');
  const done = (inFile: KeptFile, name: string): void => {
    setText(null);
    setKept(inFile);
    start({ looks: [{ component, look: name }], environments: [environment], fresh: true });
  };
  return (
    <>
      <Button disabled={ready.length === 0} onClick={() => setText(ready.join('\n'))}>
        Keep…
      </Button>
      {kept && <Done kept={kept} onGone={() => setKept(null)} />}
      <KeepDialog
        title="Keep these lines"
        isOpen={text !== null}
        file={file}
        look={look}
        what={written.join('\n')}
        into={from === null ? ['look'] : ['look', 'new']}
        ask={(as, seen, write) =>
          service.keepLines({
            file,
            look,
            as,
            lines: written,
            before: lineBefore(sitting),
            from: from ?? 'end',
            seen,
            write,
          })
        }
        onKept={done}
        onClose={() => setText(null)}
      >
        <textarea
          aria-label={`Lines for ${lookKey(component, look)}`}
          value={text ?? ''}
          onChange={({ target }) => setText(target.value)}
          spellCheck={false}
          rows={Math.min(14, Math.max(4, written.length + 1))}
          className="w-full rounded-md border border-rule bg-well p-2 font-mono text-[11.5px]"
        />
      </KeepDialog>
    </>
  );
}
