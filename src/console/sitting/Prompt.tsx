/** Where lines are written: completed as they are, tried with Enter; the arrows bring earlier ones back. */
import { useEffect, useRef, useState } from 'react';
import type { Problem } from '../../core/problem/problem.ts';
import type { Completion } from '../../core/sitting/sitting.ts';
import { service } from '../data.ts';
import type { Sitting } from './useSitting.ts';

const none: Completion = { from: 0, words: [] };

/** What may come next in a text, a moment after it was written. */
function useCompletion(id: number, text: string, isOn: boolean): Completion {
  const [found, setFound] = useState<{ text: string; completion: Completion }>({ text: '', completion: none });
  useEffect(() => {
    if (!isOn || text === '') return;
    let isLate = false;
    service.complete(id, text).then(
      (completion) => isLate || setFound({ text, completion }),
      () => {},
    );
    return () => {
      isLate = true;
    };
  }, [id, text, isOn]);
  return isOn && text !== '' && found.text === text ? found.completion : none;
}

const list = [
  'absolute bottom-full left-2 mb-1 max-h-56 min-w-56 overflow-y-auto rounded-md border border-rule bg-sheet py-1',
  'font-mono text-[11.5px] shadow-lg',
].join(' ');

export function Prompt({ sitting, isReady }: { sitting: Sitting; isReady: boolean }) {
  const { id, lines } = sitting.state;
  const [text, setText] = useState('');
  const [chosen, setChosen] = useState(0);
  const [back, setBack] = useState(0);
  const [isOpen, setOpen] = useState(false);
  const [wrong, setWrong] = useState<Problem | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const { from, words } = useCompletion(id, text, isReady && isOpen);
  const at = Math.min(chosen, words.length - 1);
  const write = (next: string): void => {
    setText(next);
    setChosen(0);
    setOpen(true);
    setWrong(null);
  };
  const take = (word: string | undefined): void => {
    if (word !== undefined) write(text.slice(0, from) + word);
    field.current?.focus();
  };
  const recall = (by: number): void => {
    const next = Math.max(0, Math.min(lines.length, back + by));
    setBack(next);
    setText(next === 0 ? '' : (lines.at(-next)?.text ?? ''));
    setOpen(false);
  };
  const submit = (): void => {
    if (text.trim() === '' || !isReady) return;
    setOpen(false);
    void sitting.tryLine(text).then((problem) => {
      setWrong(problem);
      // What could not be understood is there to be corrected.
      if (!problem) setText('');
      setBack(0);
    });
  };
  return (
    <div className="relative shrink-0 border-t border-rule focus-within:bg-wash/50">
      {wrong && (
        <p className="px-2 pt-1.5 text-[11.5px] text-failed" role="alert">
          ✗ {wrong.message}
        </p>
      )}
      {words.length > 0 && (
        <div id="line-words" role="listbox" aria-label="What may come next" className={list}>
          {words.map((word, index) => (
            <div
              key={word}
              id={`line-word-${index}`}
              role="option"
              tabIndex={-1}
              aria-selected={index === at}
              onPointerDown={(event) => {
                event.preventDefault();
                take(word);
              }}
              className={`cursor-pointer px-2 py-0.5 ${index === at ? 'bg-wash' : ''}`}
            >
              {word}
            </div>
          ))}
        </div>
      )}
      <div className="flex items-center gap-2 px-2 py-1.5">
        <span className="font-mono text-accent" aria-hidden="true">
          ›
        </span>
        <input
          ref={field}
          role="combobox"
          aria-label="A line to try"
          aria-expanded={words.length > 0}
          aria-controls="line-words"
          aria-activedescendant={words.length > 0 ? `line-word-${at}` : undefined}
          autoComplete="off"
          spellCheck={false}
          value={text}
          disabled={!isReady}
          placeholder={isReady ? "click(the.button('…'))" : ''}
          className="h-6 min-w-0 flex-1 bg-transparent font-mono text-[12px] outline-0!"
          onChange={({ target }) => write(target.value)}
          onBlur={() => setOpen(false)}
          onKeyDown={(event) => {
            const isListed = words.length > 0;
            if (event.key === 'Enter') submit();
            else if (event.key === 'Tab' && isListed && !event.shiftKey) take(words[at]);
            else if (event.key === 'ArrowDown') isListed ? setChosen((at + 1) % words.length) : recall(-1);
            else if (event.key === 'ArrowUp') isListed ? setChosen((at - 1 + words.length) % words.length) : recall(1);
            else if (event.key === 'Escape') isListed ? setOpen(false) : event.currentTarget.blur();
            else return;
            event.preventDefault();
          }}
        />
      </div>
    </div>
  );
}
