/** Using a component as a look does, as code to copy: an element of the framework's own language. */
import type { Kind } from '../look/kind.ts';

/** What a look gives its component, by the sources of the values, and its script. */
export type Usage = { props: Record<string, string>; script: string | null };

/** A look file: what it calls its component, or the tag of that, the module it comes from, and its looks by name. */
export type FileUsage = { component: string | null; from: string | null; usages: Record<string, Usage> };

/** The source of a text in quotes; null for any other value. */
const textIn = (source: string): string | null => {
  const found = /^(['"])((?:(?!\1)[^\\\n])*)\1$/.exec(source);
  return found && !/["<>{}&]/.test(found[2]!) ? found[2]! : null;
};

const kebab = (name: string): string => name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);

/** A spy hears what a component calls back; somebody who uses it has a function there. */
const asWritten = (source: string): string => (/^spy\(/.test(source) ? '() => {}' : source);

/** Templates and attributes cannot make functions. */
const handlerOf = (source: string): string => (/^spy\(|=>|^function\b/.test(source) ? '' : source);

const attributes: Record<Kind, (name: string, source: string) => string | null> = {
  react: (name, source) => {
    const text = textIn(source);
    if (text !== null) return `${name}="${text}"`;
    return source === 'true' ? name : `${name}={${asWritten(source)}}`;
  },
  svelte: (name, source) => {
    const text = textIn(source);
    if (text !== null) return `${name}="${text}"`;
    return source === name ? `{${name}}` : `${name}={${asWritten(source)}}`;
  },
  vue: (name, source) => {
    const text = textIn(source);
    const event = /^on([A-Z]\w*)$/.exec(name)?.[1];
    if (event) return `@${kebab(event.charAt(0).toLowerCase() + event.slice(1))}="${asWritten(source)}"`;
    return text !== null ? `${kebab(name)}="${text}"` : `:${kebab(name)}="${asWritten(source).replaceAll('"', "'")}"`;
  },
  angular: (name, source) => {
    const text = textIn(source);
    if (text !== null) return `${name}="${text}"`;
    return handlerOf(source) === '' ? null : `[${name}]="${source.replaceAll('"', "'")}"`;
  },
  dom: (name, source) => {
    const text = textIn(source);
    if (source === 'true') return kebab(name);
    if (/^(false|null|undefined)$/.test(source) || handlerOf(source) === '') return null;
    return `${kebab(name)}="${text ?? source.replaceAll('"', "'")}"`;
  },
};

/**
 * What an element of a component is called: the tag of one that has one, by its name otherwise. `called` is what its
 * look file calls it, `source` what it is made of.
 */
export function elementName(kind: Kind, called: string, offered: string | null, source: string): string {
  if (kind === 'angular') return /\bselector\s*:\s*['"`]([\w-]+)/.exec(source)?.[1] ?? kebab(called).replace(/^-/, '');
  if (kind !== 'dom') return offered ?? called;
  if (called.includes('-')) return called;
  return /(?:customElements\.define|customElement)\(\s*['"`]([\w-]+)/.exec(source)?.[1] ?? called;
}

/** Longer elements have a line for each attribute. */
const longest = 80;

/** An element of a component as its framework writes it; `name` is that of the component, or a tag. */
export function usageText(kind: Kind, name: string, { props }: Usage): string {
  const written = Object.entries(props)
    .filter(([, source]) => source !== 'undefined')
    .flatMap(([prop, source]) => attributes[kind](prop, source) ?? []);
  const isOpen = kind === 'angular' || kind === 'dom';
  const end = isOpen ? `></${name}>` : ' />';
  const line = [`<${name}`, ...written].join(' ') + end;
  if (line.length <= longest && !line.includes('\n')) return line;
  return `<${name}\n${written.map((one) => `  ${one}`).join('\n')}\n${isOpen ? `></${name}>` : '/>'}`;
}
