/** Copies a text for whoever pastes it somewhere else. */
import { useEffect, useState } from 'react';
import { Button } from './Button.tsx';

/** How long it says that it has copied, in milliseconds. */
const told = 2000;

/** Without a secure origin there is no clipboard to write to, but what is selected can be copied. */
async function copy(text: string): Promise<void> {
  if (navigator.clipboard) return navigator.clipboard.writeText(text);
  const field = document.createElement('textarea');
  field.value = text;
  document.body.append(field);
  field.select();
  document.execCommand('copy');
  field.remove();
}

export function CopyButton({ text, what }: { text: string; what: string }) {
  const [state, setState] = useState<'ready' | 'copied' | 'failed'>('ready');
  useEffect(() => {
    if (state === 'ready') return;
    const timer = setTimeout(() => setState('ready'), told);
    return () => clearTimeout(timer);
  }, [state]);
  const words = { ready: `Copy ${what}`, copied: 'Copied', failed: 'Not copied' }[state];
  return (
    <Button
      className="h-5! shrink-0 px-1.5! text-[11px]"
      onClick={() =>
        void copy(text).then(
          () => setState('copied'),
          () => setState('failed'),
        )
      }
    >
      <span aria-live="polite">{words}</span>
    </Button>
  );
}
