/** One prop that is given by hand. */
import { useId } from 'react';
import { inputFor, mayBeNull } from '../../core/props/input.ts';
import { type PropType, typeInWords } from '../../core/props/type.ts';
import type { GivenProp } from '../../core/wire/live.ts';
import { Field, type Put } from './Field.tsx';

/** The value that a prop has now: what was put over it, or its own. */
function valueNow(given: GivenProp | undefined, over: unknown): unknown {
  const date = (over as { $date?: unknown } | null | undefined)?.$date;
  if (date !== undefined) return date;
  if (over !== undefined) return over;
  return given && ('json' in given ? given.json : 'date' in given ? given.date : undefined);
}

type Props = { name: string; type: PropType; isOptional: boolean; given?: GivenProp; over: unknown; put: Put };

export function PropInput({ name, type, isOptional, given, over, put }: Props) {
  const id = useId();
  const input = inputFor(name, type, given);
  const value = valueNow(given, over);
  return (
    <div className="py-1.5">
      <div className="mb-0.5 flex items-baseline gap-2">
        <label htmlFor={id} className={`font-medium ${over === undefined ? '' : 'text-accent'}`}>
          {name}
          {over !== undefined && <span className="sr-only"> (changed)</span>}
        </label>
        <span className="min-w-0 flex-1 truncate text-[11px] text-soft" title={typeInWords(type)}>
          {type.is === 'anything' ? '' : typeInWords(type)}
          {isOptional && type.is !== 'anything' ? ', optional' : ''}
        </span>
        {mayBeNull(type) && (
          <label className="flex items-baseline gap-1 text-[11px] text-soft">
            <input
              type="checkbox"
              aria-label={`${name}: none`}
              // By itself its lower edge would stand on the line.
              style={{ alignSelf: 'center' }}
              checked={value === null}
              onChange={({ target }) => put(target.checked ? null : undefined)}
            />
            none
          </label>
        )}
        {over !== undefined && (
          <button type="button" className="text-[11px] text-accent underline" onClick={() => put(undefined)}>
            restore
          </button>
        )}
      </div>
      {input.by === 'nobody' ? (
        <span className="block truncate font-mono text-[11.5px] text-soft">
          {given && 'words' in given ? given.words : 'not given'}
        </span>
      ) : (
        <Field id={id} input={input} type={type} value={value} put={put} />
      )}
    </div>
  );
}
