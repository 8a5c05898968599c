/** Who decides here: the name stands beside every decision. */
import { useState } from 'react';
import { useProject } from '../data.ts';
import { usePerson } from './usePerson.ts';

export function Person() {
  const project = useProject();
  const [name, setName] = usePerson();
  const [isChanging, setChanging] = useState(false);
  if (!isChanging)
    return (
      <button
        type="button"
        className="min-h-6 truncate text-[11.5px] text-soft hover:text-accent"
        title="Change the name that stands beside your decisions"
        onClick={() => setChanging(true)}
      >
        Deciding as {name ?? project.data?.person}
      </button>
    );
  const done = (value: string): void => {
    setName(value);
    setChanging(false);
  };
  return (
    <input
      ref={(field) => field?.focus()}
      defaultValue={name ?? project.data?.person ?? ''}
      aria-label="Your name"
      onBlur={(event) => done(event.target.value)}
      onKeyDown={(event) => event.key === 'Enter' && done(event.currentTarget.value)}
      className="w-36 rounded border border-rule bg-paper px-1.5 text-[11.5px]"
    />
  );
}
