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

function watchRules(name: 'cssRules' | 'rules'): void {
  const { get, ...rest } = native.getOwnPropertyDescriptor(CSSStyleSheet.prototype, name)!;
  native.defineProperty(CSSStyleSheet.prototype, name, {
    ...rest,
    get(this: CSSStyleSheet) {
      suspects.add(this);
      return get!.call(this) as CSSRuleList;
    },
  });
}

function watchMethod(name: 'insertRule' | 'deleteRule' | 'replaceSync' | 'replace' | 'addRule' | 'removeRule'): void {
  const prototype = CSSStyleSheet.prototype as unknown as Record<string, (...args: unknown[]) => unknown>;
  const original = prototype[name]!;
  prototype[name] = function (this: CSSStyleSheet, ...args: unknown[]): unknown {
    const changed = (): void => {
      changes++;
      versions.set(this, (versions.get(this) ?? 0) + 1);
    };
    changed();
    const result = original.apply(this, args);
    if (result instanceof Promise) result.then(changed, changed);
    return result;
  };
}

/** Called once, before anything of the project runs. */
export function watchSheets(): void {
  for (const name of ['cssRules', 'rules'] as const) watchRules(name);
  for (const name of ['insertRule', 'deleteRule', 'replaceSync', 'replace', 'addRule', 'removeRule'] as const)
    watchMethod(name);
}

/** Another number than before when the rules of a sheet may have changed; NaN when nobody can tell. */
export const sheetVersion = (sheet: CSSStyleSheet | null): number =>
  sheet === null ? 0 : suspects.has(sheet) ? Number.NaN : (versions.get(sheet) ?? 0);

/** True for a sheet whose rules are not, or may not be, those that its element or file says. */
const isChanged = (sheet: CSSStyleSheet | null): sheet is CSSStyleSheet =>
  sheet !== null && (suspects.has(sheet) || versions.has(sheet));

function serialise(sheet: CSSStyleSheet): string {
  try {
    const rules = rulesOf!.call(sheet) as CSSRuleList;
    let text = '';
    for (let i = 0; i < rules.length; i++) text += `${i === 0 ? '' : '\n'}${rules[i]!.cssText}`;
    return text;
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
