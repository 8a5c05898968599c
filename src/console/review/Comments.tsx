/** What people say beside a decision. */
import { type RefObject, useState } from 'react';
import type { Comment, CommentOn } from '../../core/api/api.ts';
import { service } from '../data.ts';
import { Button } from '../parts/Button.tsx';
import { Key } from '../parts/Key.tsx';
import { Wrong } from '../parts/Wrong.tsx';
import { day } from '../parts/day.ts';
import { site } from '../site.ts';
import { personNow } from './usePerson.ts';

type Props = { on: CommentOn; comments: readonly Comment[]; field: RefObject<HTMLTextAreaElement | null> };

const shape = 'mt-1 w-full resize-y rounded-md border border-rule bg-paper px-2 py-1 text-[11.5px]';

export function Comments({ on, comments, field }: Props) {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState<unknown>(null);
  const send = async (): Promise<void> => {
    if (text.trim() === '') return;
    try {
      await service.comment(on, text.trim(), personNow() ?? undefined);
      setText('');
      setWrong(null);
    } catch (error) {
      setWrong(error);
    }
  };
  if (site && comments.length === 0) return null;
  return (
    <section>
      <h3 className="mb-0.5 text-[11px] font-semibold text-soft">Comments</h3>
      <ul className="flex flex-col gap-1">
        {comments.map(({ id, who, at, text: said }) => (
          <li key={id} className="text-[11.5px]">
            <span className="font-medium">{who}</span> <span className="text-soft">{day(at)}</span>
            <span className="block break-words whitespace-pre-wrap">{said}</span>
          </li>
        ))}
      </ul>
      {!site && (
        <textarea
          ref={field}
          value={text}
          rows={1}
          aria-label="Comment"
          placeholder="Comment"
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') event.currentTarget.blur();
            if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void send();
          }}
          className={shape}
        />
      )}
      {text.trim() !== '' && (
        <Button className="mt-1" onClick={() => void send()} aria-keyshortcuts="Control+Enter">
          Comment <Key>Ctrl</Key> <Key>Enter</Key>
        </Button>
      )}
      {wrong !== null && <Wrong error={wrong} />}
    </section>
  );
}
