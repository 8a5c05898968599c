/** Follows every style sheet of the document: its text, and whether it changed since it was last recorded. */
import type { SheetEntry } from '../core/moment.ts';

/** Sheets changed through CSSOM: their text is no longer what their element says. */
const modified = new WeakSet<CSSStyleSheet>();
let changes = 0;

function watchMethod(name: 'insertRule' | 'deleteRule' | 'replaceSync' | 'replace'): void {
  const original = CSSStyleSheet.prototype[name] as (...args: unknown[]) => unknown;
  (CSSStyleSheet.prototype as unknown as Record<string, unknown>)[name] = function (this: CSSStyleSheet, ...args: unknown[]): unknown {
    modified.add(this);
    changes++;
    const result = original.apply(this, args);
    if (result instanceof Promise) void result.then(() => changes++);
    return result;
  };
}

/** Called once, before anything of the project runs. */
export function watchSheets(): void {
  for (const name of ['insertRule', 'deleteRule', 'replaceSync', 'replace'] as const) watchMethod(name);
}

/** Grows with every change made through CSSOM. */
export const sheetChanges = (): number => changes;

function serialise(sheet: CSSStyleSheet): string {
  try {
    return Array.from(sheet.cssRules, (rule) => rule.cssText).join('\n');
  } catch {
    // Rules of another origin's sheet cannot be read; its address is recorded instead.
    return '';
  }
}

/** A sheet adopted by the document or a shadow root. */
export const adoptedEntry = (sheet: CSSStyleSheet): SheetEntry => ({ css: sheet.disabled ? '' : serialise(sheet), base: document.baseURI });

/** The sheet of a `style` or `link` element, or null when it has none. */
export function elementEntry(element: HTMLStyleElement | HTMLLinkElement): SheetEntry | null {
  const sheet = element.sheet;
  if (element instanceof HTMLLinkElement) {
    if (element.rel !== 'stylesheet') return null;
    if (sheet?.disabled) return { css: '', base: element.href };
    return sheet && modified.has(sheet) ? { css: serialise(sheet), base: element.href } : { url: element.href };
  }
  if (sheet?.disabled) return { css: '', base: document.baseURI };
  return { css: sheet && modified.has(sheet) ? serialise(sheet) : (element.textContent ?? ''), base: document.baseURI };
}
