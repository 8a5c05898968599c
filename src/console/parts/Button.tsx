/** Buttons of one kind everywhere. */
import type { ButtonHTMLAttributes } from 'react';
import { Key } from './Key.tsx';

type Props = ButtonHTMLAttributes<HTMLButtonElement> & {
  tone?: 'plain' | 'strong' | 'danger';
  /** The key that does the same. */
  shortcut?: string;
  keyShape?: string;
};

const tones = {
  plain: 'border-rule bg-sheet text-ink hover:border-accent',
  strong: 'border-accent bg-accent text-paper hover:brightness-110',
  danger: 'border-failed bg-sheet text-failed hover:bg-failed hover:text-paper',
};

const shape = 'inline-flex h-7 items-center gap-1.5 rounded-md border px-2.5 font-medium whitespace-nowrap';

export const Button = ({ tone = 'plain', className = '', shortcut, keyShape, children, ...rest }: Props) => (
  <button type="button" className={`${shape} ${tones[tone]} ${className}`} aria-keyshortcuts={shortcut} {...rest}>
    {children}
    {shortcut && <Key className={`max-lg:hidden ${keyShape ?? ''}`}>{shortcut}</Key>}
  </button>
);
