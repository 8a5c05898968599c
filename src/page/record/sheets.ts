/** Follows every style sheet of the page: its text, and whether it may have changed since it was last recorded. */
import type { SheetEntry } from '../../core/moment/moment.ts';
import { native } from '../host/natives.ts';

/** How often each sheet was changed by a method of its own. */
const versions = new WeakMap<CSSStyleSheet, number>();
let changes = 0;

/** Grows whenever a sheet is changed by a method of its own. */
export const sheetChanges = (): number => changes;

/** Sheets whose rules somebody has asked for: whoever holds a rule can change it without the sheet hearing of it. */
const suspects = new WeakSet<CSSStyleSheet>();

const { get: rulesOf } = native.getOwnPropertyDescriptor(CSSStyleSheet.prototype, 'cssRules')!;

/** The rules of a sheet, for our own reading: nobody holds any of them after that. */
export const rulesIn = (sheet: CSSStyleSheet): CSSRuleList => rulesOf!.call(sheet) as CSSRuleList;

/**
 * What a sheet or a rule was made of, and what it was written as then: the browser writes nothing where a property of a
 * shorthand with `var()` is set again behind it (CSSOM, "serialize a CSS declaration block").
 */
type Origin = { text: string; written: string | null };
const originOf = new WeakMap<CSSStyleSheet | CSSRule, Origin>();

/** The text of a sheet or a rule as it is now: its own, as long as it is written as it was when it was made of that. */
function textOf(made: CSSStyleSheet | CSSRule, now: string): string {
  const origin = originOf.get(made);
  return origin && (origin.written ?? now) === now ? origin.text : now;
}

/** The rules of a sheet as they are now. */
function writeRules(sheet: CSSStyleSheet): string {
  const rules = rulesIn(sheet);
  let text = '';
  for (let i = 0; i < rules.length; i++) text += `${i === 0 ? '' : '\n'}${textOf(rules[i]!, rules[i]!.cssText)}`;
  return text;
}

function watchRules(name: 'cssRules' | 'rules'): void {
  const { get, ...rest } = native.getOwnPropertyDescriptor(CSSStyleSheet.prototype, name)!;
  native.defineProperty(CSSStyleSheet.prototype, name, {
    ...rest,
    get(this: CSSStyleSheet) {
      const rules = get!.call(this) as CSSRuleList;
      const origin = originOf.get(this);
      if (origin) origin.written ??= writeRules(this);
      // Its text is in its element, or in a file.
      else if (this.ownerNode && !versions.has(this)) originOf.set(this, { text: '', written: writeRules(this) });
      suspects.add(this);
      return rules;
    },
  });
}

function changed(sheet: CSSStyleSheet): void {
  changes++;
  versions.set(sheet, (versions.get(sheet) ?? 0) + 1);
  originOf.delete(sheet);
}

type Method = (this: CSSStyleSheet, ...args: unknown[]) => unknown;

/** Has a method of sheets heard of; `then` hears of what it was given and has returned. */
function watchMethod(name: string, then: (sheet: CSSStyleSheet, text: string, result: unknown) => void): void {
  const prototype = CSSStyleSheet.prototype as unknown as Record<string, Method>;
  const original = prototype[name]!;
  prototype[name] = function (...args) {
    changed(this);
    const result = original.apply(this, args);
    then(this, String(args[0]), result);
    return result;
  };
}

/** A sheet has got another text as a whole; `replace` says so later. */
function replaced(sheet: CSSStyleSheet, text: string, result: unknown): void {
  const settle = (): void =>
    void originOf.set(sheet, { text, written: suspects.has(sheet) ? writeRules(sheet) : null });
  if (result instanceof Promise) result.then(() => changed(sheet)).then(settle, () => {});
  else settle();
}

function inserted(sheet: CSSStyleSheet, text: string, index: unknown): void {
  const rule = rulesIn(sheet)[index as number];
  if (rule) originOf.set(rule, { text, written: rule.cssText });
}

/** Called once, before anything of the project runs. */
export function watchSheets(): void {
  for (const name of ['cssRules', 'rules'] as const) watchRules(name);
  for (const name of ['deleteRule', 'addRule', 'removeRule']) watchMethod(name, () => {});
  for (const name of ['replace', 'replaceSync']) watchMethod(name, replaced);
  watchMethod('insertRule', inserted);
}

/** Another number than before when the rules of a sheet may have changed; NaN when nobody can tell. */
export const sheetVersion = (sheet: CSSStyleSheet | null): number =>
  sheet === null ? 0 : suspects.has(sheet) ? Number.NaN : (versions.get(sheet) ?? 0);

/** True for a sheet whose rules are not those that its element or file says. */
const isChanged = (sheet: CSSStyleSheet | null): sheet is CSSStyleSheet =>
  sheet !== null && (suspects.has(sheet) ? originOf.get(sheet)?.written !== writeRules(sheet) : versions.has(sheet));

function serialise(sheet: CSSStyleSheet): string {
  try {
    const origin = originOf.get(sheet);
    return origin && !suspects.has(sheet) ? origin.text : textOf(sheet, writeRules(sheet));
  } catch {
    // Rules of another origin's sheet cannot be read; its address is recorded instead.
    return '';
  }
}

/** A sheet adopted by a document or a shadow root. */
export const adoptedEntry = (sheet: CSSStyleSheet, base: string): SheetEntry => ({
  css: sheet.disabled ? '' : serialise(sheet),
  base,
});

/** The sheet of a `style` or `link` element, or null when it has none. */
export function elementEntry(element: HTMLStyleElement | HTMLLinkElement): SheetEntry | null {
  const { sheet } = element;
  const base = element.baseURI;
  if (element.localName === 'link') {
    const { href } = element as HTMLLinkElement;
    if (sheet?.disabled) return { css: '', base: href };
    return isChanged(sheet) ? { css: serialise(sheet), base: href } : { url: href };
  }
  if (sheet?.disabled) return { css: '', base };
  return { css: isChanged(sheet) ? serialise(sheet) : (element.textContent ?? ''), base };
}
