/** One of a few values, all of them in sight: buttons in a row, of which one is pressed. */
import { ToggleGroup } from 'radix-ui';
import type { ReactNode } from 'react';

export type Option<T extends string> = { value: T; label: ReactNode; disabled?: boolean };

type Props<T extends string> = { label: string; value: T; options: readonly Option<T>[]; onChoose(value: T): void };

const item = [
  'inline-flex h-6.5 items-center gap-1.5 px-2.5 max-lg:px-1.5 text-soft',
  'not-first:border-l not-first:border-rule hover:text-ink',
  'disabled:opacity-40 data-[state=on]:bg-wash data-[state=on]:font-medium data-[state=on]:text-ink',
].join(' ');

export function Choice<T extends string>({ label, value, options, onChoose }: Props<T>) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      // Pressing the pressed one again would leave none.
      onValueChange={(next: string) => next && onChoose(next as T)}
      className="flex shrink-0 overflow-hidden rounded-md border border-rule bg-sheet"
    >
      {options.map((option) => (
        <ToggleGroup.Item key={option.value} value={option.value} disabled={option.disabled} className={item}>
          {option.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
