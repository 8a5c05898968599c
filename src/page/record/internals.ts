/** What custom elements say of themselves to the browser alone (HTML, `ElementInternals`). */
const known = new WeakMap<Element, ElementInternals>();
const tags = new Set<string>();

/** Called once, before anything of the project runs: internals are handed out once, to their element. */
export function watchInternals(): void {
  const { attachInternals } = HTMLElement.prototype;
  HTMLElement.prototype.attachInternals = function () {
    const internals = attachInternals.call(this);
    known.set(this, internals);
    tags.add(this.localName);
    return internals;
  };
}

/** The internals of an element; null where it has none. */
export const internalsOf = (element: Element): ElementInternals | null => known.get(element) ?? null;

/** Tags of all elements that have had some so far. */
export const tagsWithInternals = (): readonly string[] => [...tags];
