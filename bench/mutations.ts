/**
 * Changes of a page as an afternoon's edits make them, drawn by chance. It runs in the page, from the script of a look:
 * the file is copied into a project, and imports nothing.
 */

/** What was done: the kinds of causes that it may be told as, and what must stand in them. */
export type Truth = { mutation: string; kinds: string[]; says: string };

type Chance = (n: number) => number;

/** As `numbersFrom` in src/core/steady/chance.ts. */
function chanceFrom(seed: number): Chance {
  let state = seed;
  return (n) => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return Math.floor((((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32) * n);
  };
}

/** Every element with a box, in shadow roots as well. */
function shown(): HTMLElement[] {
  const roots: (Document | ShadowRoot)[] = [document];
  const found: HTMLElement[] = [];
  for (const root of roots)
    for (const element of root.querySelectorAll<HTMLElement>('*')) {
      if (element.shadowRoot) roots.push(element.shadowRoot);
      const box = element.getBoundingClientRect();
      const isPage = element.closest('#look, dialog') !== null || root !== document;
      if (isPage && element.id !== 'look' && box.width > 2 && box.height > 2 && element.checkVisibility())
        found.push(element);
    }
  return found;
}

const isOwn = (text: Node): boolean => text.nodeType === 3 && (text.nodeValue ?? '').trim().length > 1;

/** Sheets as text of their own, so that what they say can be changed as in a file. */
function inlineSheets(): HTMLStyleElement[] {
  const all = [...document.querySelectorAll<HTMLLinkElement | HTMLStyleElement>('link[rel=stylesheet], style')];
  return all.map((element) => {
    const style = document.createElement('style');
    style.textContent = [...(element.sheet?.cssRules ?? [])].map((rule) => rule.cssText).join('\n');
    element.replaceWith(style);
    return style;
  });
}

/** A picture in a data address. */
const picture = (colour: string): string =>
  `data:image/svg+xml,${encodeURIComponent(
    '<svg xmlns="http://www.w3.org/2000/svg" width="24" height="16">' +
      `<rect width="24" height="16" fill="${colour}"/></svg>`,
  )}`;

type Mutation = (chance: Chance, styles: readonly HTMLStyleElement[], used: Set<Element>) => Truth | null;

const pick = <T>(list: readonly T[], chance: Chance): T | undefined => list[chance(list.length)];

/** An element that no other mutation touches, nor stands in or around one that is touched. */
function free(used: Set<Element>, chance: Chance, fits: (element: HTMLElement) => boolean): HTMLElement | undefined {
  const isFree = (element: Element): boolean =>
    ![...used].some((one) => one === element || one.contains(element) || element.contains(one));
  const found = pick(
    shown().filter((element) => isFree(element) && fits(element)),
    chance,
  );
  if (found) used.add(found);
  return found;
}

/** Style rules of the inlined sheets that match something that is shown. */
function rulesInUse(styles: readonly HTMLStyleElement[]): CSSStyleRule[] {
  const elements = shown();
  return styles.flatMap(({ sheet }) =>
    [...(sheet?.cssRules ?? [])].filter(
      (rule): rule is CSSStyleRule =>
        rule instanceof CSSStyleRule &&
        /^[.\w -]+$/.test(rule.selectorText) &&
        elements.some((one) => one.matches(rule.selectorText)),
    ),
  );
}

/** Writes a sheet's rules down again as its text, as a file would have them. */
function rewrite(styles: readonly HTMLStyleElement[]): void {
  for (const style of styles)
    style.textContent = [...(style.sheet?.cssRules ?? [])].map((rule) => rule.cssText).join('\n');
}

const wordy = ['Gale expected', 'Closed until noon', 'Ask the harbour master', 'Fees have changed'];

const mutations: Record<string, Mutation> = {
  token(chance, styles) {
    const roots = styles.flatMap(({ sheet }) =>
      [...(sheet?.cssRules ?? [])].filter(
        (rule): rule is CSSStyleRule => rule instanceof CSSStyleRule && rule.selectorText === ':root',
      ),
    );
    const tokens = roots.flatMap((rule) =>
      [...rule.style].filter((name) => name.startsWith('--')).map((name) => ({ rule, name })),
    );
    const token = pick(tokens, chance);
    if (!token) return null;
    const { rule, name } = token;
    const value = rule.style.getPropertyValue(name);
    const colour = `#${(chance(0xdddddd) + 0x111111).toString(16)}`;
    rule.style.setProperty(name, /^\s*[\d.]+(px|rem)/.test(value) ? `${chance(20) + 3}px` : colour);
    rewrite(styles);
    return { mutation: 'token', kinds: ['token'], says: name };
  },
  declaration(chance, styles) {
    const rule = pick(rulesInUse(styles), chance);
    if (!rule) return null;
    const [property, value] = pick(
      [
        ['padding-top', `${chance(20) + 21}px`],
        ['background-color', `rgb(${chance(200)}, 120, 40)`],
        ['letter-spacing', `${chance(5) + 1}px`],
        ['border-bottom-width', `${chance(5) + 3}px`],
      ],
      chance,
    ) as [string, string];
    rule.style.setProperty(property, value);
    rewrite(styles);
    return { mutation: 'declaration', kinds: ['style', 'token'], says: value };
  },
  font(chance, styles) {
    const rule = pick(rulesInUse(styles), chance);
    if (!rule) return null;
    const value = `${chance(14) + 20}px`;
    rule.style.fontSize = value;
    rewrite(styles);
    return { mutation: 'font size', kinds: ['style'], says: value };
  },
  rule(chance, styles) {
    const rule = pick(rulesInUse(styles), chance);
    const style = styles.at(-1);
    if (!rule || !style) return null;
    const text = `${rule.selectorText} { outline: ${chance(4) + 1}px dashed rgb(10, ${chance(200)}, 90); }`;
    style.textContent += `\n${text}`;
    return { mutation: 'rule', kinds: ['rule', 'style'], says: 'outline' };
  },
  media(chance, styles) {
    const rule = pick(rulesInUse(styles), chance);
    const style = styles.at(-1);
    if (!rule || !style) return null;
    const inner = `${rule.selectorText} { padding-left: ${chance(30) + 31}px; }`;
    style.textContent += `\n@media (min-width: ${chance(300) + 1}px) { ${inner} }`;
    return { mutation: 'media', kinds: ['rule', 'style'], says: '@media' };
  },
  class(chance, _styles, used) {
    const element = free(used, chance, ({ classList, children }) => classList.length > 0 && children.length < 6);
    const name = element && pick([...element.classList], chance);
    if (!element || !name) return null;
    element.classList.remove(name);
    return { mutation: 'class', kinds: ['attribute'], says: name };
  },
  inline(chance, _styles, used) {
    const element = free(used, chance, () => true);
    if (!element) return null;
    const value = `rgb(${chance(200)}, ${chance(200)}, 250)`;
    element.style.backgroundColor = value;
    return { mutation: 'inline', kinds: ['style'], says: value };
  },
  text(chance, _styles, used) {
    const element = free(used, chance, ({ childNodes }) => [...childNodes].some(isOwn));
    const text = element && pick([...element.childNodes].filter(isOwn), chance);
    if (!text) return null;
    const words = pick(wordy, chance)!;
    text.nodeValue = chance(2) === 0 ? words : `${text.nodeValue} ${words.toLowerCase()}`;
    return { mutation: 'text', kinds: ['text'], says: words.slice(1) };
  },
  attribute(chance, _styles, used) {
    const element = free(used, chance, () => true);
    if (!element) return null;
    const [name, value] = pick(
      [
        ['title', pick(wordy, chance)!],
        ['lang', 'it'],
        ['dir', 'rtl'],
        ['hidden', ''],
      ],
      chance,
    ) as [string, string];
    element.setAttribute(name, value);
    return { mutation: 'attribute', kinds: ['attribute'], says: name };
  },
  role(chance, _styles, used) {
    const element = free(used, chance, ({ localName }) =>
      /^(button|h\d|p|section|table|ul|a|output|div)$/.test(localName),
    );
    if (!element) return null;
    const [name, value] = chance(2) === 0 ? ['role', 'note'] : ['aria-label', pick(wordy, chance)!];
    element.setAttribute(name!, value!);
    return { mutation: 'role or name', kinds: ['attribute'], says: name! };
  },
  added(chance, _styles, used) {
    const element = free(used, chance, ({ localName }) => /^(p|div|h\d|button|ul|section|table|form)$/.test(localName));
    if (!element) return null;
    const note = document.createElement('p');
    note.className = 'notice';
    note.textContent = `${pick(wordy, chance)} ${chance(1000)}`;
    element.before(note);
    used.add(note);
    return { mutation: 'added', kinds: ['added'], says: note.textContent };
  },
  removed(chance, _styles, used) {
    const fits = ({ parentElement, textContent, children }: HTMLElement): boolean =>
      parentElement?.id !== 'look' && (textContent ?? '').trim() !== '' && children.length < 5;
    const element = free(used, chance, fits);
    if (!element) return null;
    used.add(element.parentElement!);
    used.delete(element);
    const texts = document.createTreeWalker(element, NodeFilter.SHOW_TEXT);
    let says = '';
    while (says === '' && texts.nextNode()) says = (texts.currentNode.nodeValue ?? '').trim().slice(0, 12);
    element.remove();
    return { mutation: 'removed', kinds: ['removed'], says };
  },
  order(chance, _styles, used) {
    const fits = ({ children }: HTMLElement): boolean => {
      const [one, other] = children;
      return one?.textContent?.trim() !== other?.textContent?.trim() && one !== undefined && other !== undefined;
    };
    const element = free(used, chance, fits);
    if (!element) return null;
    const at = chance(element.children.length - 1);
    if (element.children[at]!.textContent?.trim() === element.children[at + 1]!.textContent?.trim()) return null;
    element.children[at]!.before(element.children[at + 1]!);
    return { mutation: 'order', kinds: ['moved'], says: '' };
  },
  replaced(chance, _styles, used) {
    const element = free(
      used,
      chance,
      ({ localName, children }) => /^(button|h\d|p|a|strong|span)$/.test(localName) && children.length === 0,
    );
    if (!element) return null;
    const other = document.createElement(element.localName === 'em' ? 'b' : 'em');
    other.textContent = element.textContent;
    element.replaceWith(other);
    used.add(other);
    return { mutation: 'replaced', kinds: ['replaced'], says: '' };
  },
};

/** What styles make of the page. */
const styled = (): string =>
  shown()
    .map((element) => {
      const style = getComputedStyle(element);
      return Array.from(style, (name) => style.getPropertyValue(name)).join();
    })
    .join();

/** Those that only matter where something comes of them. */
const ofSheets = ['token', 'declaration', 'font', 'rule', 'media', 'class'];

const names = Object.keys(mutations);
/** Those of which two do not touch the same thing. */
const apart = ['token', 'inline', 'text', 'attribute', 'added', 'removed', 'replaced'];

/** Changes the page, or only prepares it for that. What was done is told on the console. */
export function mutate(seed: number, isOn: boolean): void {
  const chance = chanceFrom(seed);
  const styles = inlineSheets();
  const image = document.createElement('img');
  const isImage = seed % 19 === 0;
  if (isImage) {
    image.src = picture(isOn ? 'crimson' : 'teal');
    image.alt = 'Flag';
    document.getElementById('look')!.prepend(image);
  }
  if (!isOn) return;
  const truths: Truth[] = [];
  if (isImage) truths.push({ mutation: 'image', kinds: ['attribute', 'file'], says: 'crimson' });
  else {
    const used = new Set<Element>();
    const several = seed % 5 === 0 ? 3 : seed % 5 === 1 ? 2 : 1;
    const wanted =
      several === 1
        ? [names[seed % names.length]!]
        : Array.from({ length: several }, (_, i) => apart[(seed + i * 3) % apart.length]!);
    for (const name of wanted) {
      const before = styled();
      const truth = mutations[name]!(chance, styles, used);
      // A token that nothing uses, or a rule that another one wins over, changes nothing.
      if (truth && !(ofSheets.includes(name) && styled() === before)) truths.push(truth);
    }
  }
  console.info(`truth ${JSON.stringify(truths)}`);
}
