/** Inputs for values that are given by hand, by the kind of their types. */
import { Switch } from 'radix-ui';
import { useEffect, useState } from 'react';
import { contradictions } from '../../core/props/contradiction.ts';
import { blankOf, type Choice, type Input, inputFor, partsOf } from '../../core/props/input.ts';
import type { PropType } from '../../core/props/type.ts';

export type Put = (value: unknown) => void;

const field = 'h-7 w-full min-w-0 rounded-md border border-rule bg-sheet px-2 disabled:opacity-50';

/** What is being typed stays as it is typed, until it comes from elsewhere. */
function useText(value: string): [string, (text: string) => void] {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  return [text, setText];
}

type TextProps = { id: string; value: unknown; put: Put; type?: string; label?: string };

function TextInput({ id, value, put, type = 'text', label }: TextProps) {
  const [text, setText] = useText(typeof value === 'string' ? value : value == null ? '' : String(value));
  return (
    <input
      id={id}
      type={type}
      aria-label={label}
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

type FieldProps = { id: string; input: Input; type: PropType; value: unknown; put: Put; label?: string };

/** The input for a value; `label` says what it is where no label stands beside it. */
export function Field({ id, input, type, value, put, label }: FieldProps) {
  switch (input.by) {
    case 'text':
      return <TextInput id={id} value={value} put={put} label={label} />;
    case 'number':
      return <TextInput id={id} type="number" value={value} put={put} label={label} />;
    case 'colour':
      return <ColourInput id={id} value={value} put={put} />;
    case 'switch':
      return <SwitchInput id={id} value={value} put={put} />;
    case 'choice':
      return <ChoiceInput id={id} of={input.of} value={value} put={put} />;
    case 'date':
      return <DateInput id={id} value={value} put={put} />;
    case 'rows':
      return <RowsInput id={id} of={input.of} value={value} put={put} />;
    default:
      return <JsonInput id={id} value={value} type={type} put={put} />;
  }
}

type EntryProps = { id: string; name: string; type: PropType; value: unknown; put: Put };

/** One entry: an input, or one for each of its parts. */
function Entry({ id, name, type, value, put }: EntryProps) {
  const parts = partsOf(type);
  const known = (value ?? {}) as Record<string, unknown>;
  if (!parts) {
    const input = inputFor(name, type, value === undefined ? undefined : { json: value });
    return <Field id={id} input={input} type={type} value={value} put={put} label={name} />;
  }
  return (
    <div className="grid grid-cols-[auto_1fr] items-center gap-x-2 gap-y-1">
      {parts.map(([part, own]) => (
        <div key={part} className="contents">
          <label htmlFor={`${id}-${part}`} className="text-[11px] text-soft">
            {part}
          </label>
          <Field
            id={`${id}-${part}`}
            input={inputFor(part, own, undefined)}
            type={own}
            value={known[part]}
            put={(next) => put({ ...known, [part]: next })}
          />
        </div>
      ))}
    </div>
  );
}

/** A list: a row for each entry. */
function RowsInput({ id, of, value, put }: { id: string; of: PropType; value: unknown; put: Put }) {
  const rows = Array.isArray(value) ? (value as unknown[]) : [];
  return (
    <div id={id} className="flex flex-col gap-1">
      {rows.map((row, index) => (
        <div key={String(index)} className="flex items-start gap-1.5 border-l-2 border-rule pl-2">
          <span className="w-4 shrink-0 pt-1.5 text-right text-[11px] text-soft tabular-nums">{index + 1}</span>
          <div className="min-w-0 flex-1">
            <Entry
              id={`${id}-${index}`}
              name={`Row ${index + 1}`}
              type={of}
              value={row}
              put={(next) => put(rows.with(index, next))}
            />
          </div>
          <button
            type="button"
            aria-label={`Take row ${index + 1} away`}
            title="Take this row away"
            className="h-7 shrink-0 px-1 text-soft hover:text-failed"
            onClick={() => put(rows.filter((_, at) => at !== index))}
          >
            ×
          </button>
        </div>
      ))}
      <button
        type="button"
        className="self-start text-[11.5px] text-accent underline"
        onClick={() => put([...rows, rows.length > 0 ? structuredClone(rows.at(-1)) : blankOf(of)])}
      >
        Add a row
      </button>
    </div>
  );
}
