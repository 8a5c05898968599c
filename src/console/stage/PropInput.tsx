/** One prop that is given by hand. */
import { Switch } from 'radix-ui';
import { useEffect, useId, useState } from 'react';
import { contradictions } from '../../core/props/contradiction.ts';
import { type Choice, type Input, inputFor, mayBeNull } from '../../core/props/input.ts';
import { type PropType, typeInWords } from '../../core/props/type.ts';
import type { GivenProp } from '../../core/wire/live.ts';

type Put = (value: unknown) => void;

const field = 'h-7 w-full min-w-0 rounded-md border border-rule bg-sheet px-2 disabled:opacity-50';

/** What is being typed stays as it is typed, until it comes from elsewhere. */
function useText(value: string): [string, (text: string) => void] {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  return [text, setText];
}

function TextInput({ id, value, put, type = 'text' }: { id: string; value: unknown; put: Put; type?: string }) {
  const [text, setText] = useText(typeof value === 'string' ? value : value == null ? '' : String(value));
  return (
    <input
      id={id}
      type={type}
      step="any"
      value={text}
      className={field}
      onChange={({ target }) => {
        setText(target.value);
        if (type !== 'number') put(target.value);
        else if (target.value !== '' && Number.isFinite(target.valueAsNumber)) put(target.valueAsNumber);
      }}
    />
  );
}

const hex = /^#[0-9a-f]{6}$/i;

const ColourInput = ({ id, value, put }: { id: string; value: unknown; put: Put }) => (
  <span className="flex gap-1.5">
    <input
      type="color"
      aria-label="Choose a colour"
      value={typeof value === 'string' && hex.test(value) ? value : '#000000'}
      onChange={({ target }) => put(target.value)}
      className="h-7 w-9 shrink-0 rounded-md border border-rule bg-sheet p-0.5"
    />
    <TextInput id={id} value={value} put={put} />
  </span>
);

const DateInput = ({ id, value, put }: { id: string; value: unknown; put: Put }) => (
  <input
    id={id}
    type="datetime-local"
    step="1"
    className={field}
    value={typeof value === 'string' ? value.slice(0, 19) : ''}
    onChange={({ target }) => target.value && put({ $date: `${target.value.padEnd(19, ':00')}Z` })}
  />
);

function ChoiceInput({ id, of, value, put }: { id: string; of: Choice[]; value: unknown; put: Put }) {
  const at = (of as unknown[]).indexOf(value);
  return (
    <select
      id={id}
      className={field}
      value={at < 0 ? '' : String(at)}
      onChange={({ target }) => target.value !== '' && put(of[Number(target.value)])}
    >
      {at < 0 && <option value="">not given</option>}
      {of.map((one, index) => (
        <option key={String(one)} value={String(index)}>
          {String(one)}
        </option>
      ))}
    </select>
  );
}

const track = [
  'relative h-5 w-9 rounded-full border border-rule bg-well',
  'data-[state=checked]:border-accent data-[state=checked]:bg-accent',
].join(' ');
const thumb = [
  'block size-3.5 translate-x-0.5 rounded-full bg-soft',
  'data-[state=checked]:translate-x-4.5 data-[state=checked]:bg-paper',
].join(' ');

const SwitchInput = ({ id, value, put }: { id: string; value: unknown; put: Put }) => (
  <Switch.Root id={id} checked={value === true} onCheckedChange={put} className={track}>
    <Switch.Thumb className={thumb} />
  </Switch.Root>
);

const code = 'w-full rounded-md border border-rule bg-sheet px-2 py-1 font-mono text-[11.5px]';

/** What is wrong with a text that is to be a value of a type; null when nothing is. */
function wrongWith(text: string, type: PropType): string | null {
  try {
    return contradictions(type, JSON.parse(text), 'it')[0] ?? null;
  } catch (error) {
    return `Not JSON yet: ${(error as Error).message}`;
  }
}

function JsonInput({ id, value, type, put }: { id: string; value: unknown; type: PropType; put: Put }) {
  const [text, setText] = useText(value === undefined ? '' : JSON.stringify(value, null, 2));
  const wrong = text === '' ? null : wrongWith(text, type);
  return (
    <>
      <textarea
        id={id}
        rows={Math.min(12, Math.max(2, text.split('\n').length))}
        value={text}
        spellCheck={false}
        aria-invalid={wrong !== null}
        aria-describedby={`${id}-wrong`}
        className={`${code} aria-invalid:border-failed`}
        onChange={({ target }) => {
          setText(target.value);
          if (target.value !== '' && wrongWith(target.value, type) === null) put(JSON.parse(target.value));
        }}
      />
      <span id={`${id}-wrong`} className="block text-[11.5px] text-failed" role="status">
        {wrong && `✗ ${wrong}`}
      </span>
    </>
  );
}

type FieldProps = { id: string; input: Input; type: PropType; value: unknown; put: Put };

function Field({ id, input, type, value, put }: FieldProps) {
  switch (input.by) {
    case 'text':
      return <TextInput id={id} value={value} put={put} />;
    case 'number':
      return <TextInput id={id} type="number" value={value} put={put} />;
    case 'colour':
      return <ColourInput id={id} value={value} put={put} />;
    case 'switch':
      return <SwitchInput id={id} value={value} put={put} />;
    case 'choice':
      return <ChoiceInput id={id} of={input.of} value={value} put={put} />;
    case 'date':
      return <DateInput id={id} value={value} put={put} />;
    default:
      return <JsonInput id={id} value={value} type={type} put={put} />;
  }
}

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
          <label className="flex items-center gap-1 text-[11px] text-soft">
            <input
              type="checkbox"
              aria-label={`${name}: none`}
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
