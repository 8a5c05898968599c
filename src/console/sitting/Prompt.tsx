/** Where lines are written: completed as they are, tried with Enter; the arrows bring earlier ones back. */
import { type KeyboardEvent, useEffect, useState } from 'react';
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

type WordsProps = { words: string[]; at: number; onTake(word: string): void };

/** What may come next, the chosen one marked. */
const Words = ({ words, at, onTake }: WordsProps) => (
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
          onTake(word);
        }}
        className="cursor-pointer px-2 py-0.5 aria-selected:bg-wash"
      >
        {word}
      </div>
    ))}
  </div>
);

/** The line that is being written, and what can be done with it. */
function useLine(sitting: Sitting, isReady: boolean) {
  const { id, lines } = sitting.state;
  const [text, setText] = useState('');
  const [chosen, setChosen] = useState(0);
  const [back, setBack] = useState(0);
  const [isOpen, setOpen] = useState(false);
  const [wrong, setWrong] = useState<Problem | null>(null);
  const { from, words } = useCompletion(id, text, isReady && isOpen);
  const at = Math.min(chosen, words.length - 1);
  const write = (next: string): void => {
    setText(next);
    setChosen(0);
    setOpen(true);
    setWrong(null);
  };
  return {
    text,
    words,
    at,
    wrong,
    write,
    take: (word = words[at]) => void (word !== undefined && write(text.slice(0, from) + word)),
    choose: (by: number) => setChosen((at + by + words.length) % words.length),
    close: () => setOpen(false),
    recall(by: number) {
      const next = Math.max(0, Math.min(lines.length, back + by));
      setBack(next);
      setText(next === 0 ? '' : (lines.at(-next)?.text ?? ''));
      setOpen(false);
    },
    submit() {
      if (text.trim() === '' || !isReady) return;
      setOpen(false);
      void sitting.tryLine(text).then((problem) => {
        setWrong(problem);
        // What could not be understood is there to be corrected.
        if (!problem) setText('');
        setBack(0);
      });
    },
  };
}

/** What a key does in the field; false where it does what it always does. */
function keyed(line: ReturnType<typeof useLine>, event: KeyboardEvent<HTMLInputElement>): boolean {
  const isListed = line.words.length > 0;
  const { key, shiftKey, currentTarget } = event;
  if (key === 'Enter') line.submit();
  else if (key === 'Tab' && isListed && !shiftKey) line.take();
  else if (key === 'ArrowDown') isListed ? line.choose(1) : line.recall(-1);
  else if (key === 'ArrowUp') isListed ? line.choose(-1) : line.recall(1);
  else if (key === 'Escape') isListed ? line.close() : currentTarget.blur();
  else return false;
  return true;
}

export function Prompt({ sitting, isReady }: { sitting: Sitting; isReady: boolean }) {
  const line = useLine(sitting, isReady);
  const { text, words, at, wrong } = line;
  return (
    <div className="relative shrink-0 border-t border-rule focus-within:bg-wash/50">
      {wrong && (
        <p className="px-2 pt-1.5 text-[11.5px] text-failed" role="alert">
          ✗ {wrong.message}
        </p>
      )}
      {words.length > 0 && <Words words={words} at={at} onTake={line.take} />}
      <div className="flex items-center gap-2 px-2 py-1.5">
        <span className="font-mono text-accent" aria-hidden="true">
          ›
        </span>
        <input
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
          onChange={({ target }) => line.write(target.value)}
          onBlur={line.close}
          onKeyDown={(event) => {
            if (keyed(line, event)) event.preventDefault();
          }}
        />
      </div>
    </div>
  );
}
