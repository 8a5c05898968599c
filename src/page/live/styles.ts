/** What is styled at an element itself: computed values that it does not inherit, and the tokens behind them. */
import { variablesIn } from '../../core/cause/variables.ts';
import type { PointedStyle } from '../../core/wire/live.ts';
import { rootsNow } from '../record/roots.ts';

/** Values that say where an element came to be rather than how it is styled; no look has a caret. */
const results = /^(caret-color|block-size|inline-size|height|width|perspective-origin|transform-origin|.*-origin)$/;

/** Long forms that their short forms tell, or that follow the writing direction. */
const twins = new RegExp(
  '^(-webkit-|border-(start|end)-|(min|max)-(block|inline)-size|' +
    '(inset|margin|padding|border|scroll-\\w+|overflow|overscroll-behavior|contain-intrinsic)-(block|inline))',
);

/** So many are told at most. */
const most = 60;

/** Computed values of an element that nobody has styled, inside the same parent: what differs was said of this one. */
function plainStyle(element: Element): Map<string, string> {
  const document = element.ownerDocument;
  const plain = document.createElementNS(element.namespaceURI, element.localName);
  const frame = document.createElement('iframe');
  frame.style.cssText = 'position: fixed; width: 0; height: 0; border: 0; visibility: hidden';
  document.documentElement.append(frame);
  try {
    const inner = frame.contentDocument!;
    const own = inner.importNode(plain);
    inner.body.append(own);
    const style = frame.contentWindow!.getComputedStyle(own);
    return new Map([...style].map((property) => [property, style.getPropertyValue(property)]));
  } finally {
    frame.remove();
  }
}

type Found = { value: string; weight: number; where: string };

/** How much a selector weighs (Selectors Level 4, 17), as far as comparing needs it. */
function weightOf(selector: string): number {
  const plain = selector.replace(/:where\([^)]*\)/g, '').replace(/"[^"]*"|'[^']*'/g, '');
  const count = (pattern: RegExp): number => (plain.match(pattern) ?? []).length;
  const ids = count(/#[\w-]+/g);
  const classes = count(/\.[\w-]+|\[[^\]]*\]|(?<!:):(?!:|is|not|has|where)[\w-]+/g);
  return ids * 1e6 + classes * 1e3 + count(/(^|[\s>+~(])[a-z][\w-]*|::[\w-]+/gi);
}

const matching = (element: Element, selectors: string): string[] =>
  selectors.split(/,(?![^(]*\))/).filter((one) => {
    try {
      return element.matches(one.trim());
    } catch {
      return false;
    }
  });

/** The declarations that apply to an element and are written with custom properties, the strongest of each property. */
function declared(element: Element): Map<string, Found> {
  const found = new Map<string, Found>();
  const take = (style: CSSStyleDeclaration, weight: number, where: string): void => {
    for (const property of style) {
      // Of a short form that is written with tokens its parts have no value of their own.
      const all = [property, ...shorthandsOf(property)].map((name) => style.getPropertyValue(name));
      const value = all.find((one) => one !== '') ?? '';
      const own = weight + (style.getPropertyPriority(property) ? 1e9 : 0);
      if ((found.get(property)?.weight ?? -1) <= own) found.set(property, { value, weight: own, where });
    }
  };
  const visit = (rules: CSSRuleList): void => {
    for (const rule of rules) {
      if (rule instanceof CSSMediaRule && !matchMedia(rule.conditionText).matches) continue;
      if (rule instanceof CSSStyleRule) {
        const fits = matching(element, rule.selectorText);
        if (fits.length > 0) take(rule.style, Math.max(...fits.map(weightOf)), rule.selectorText);
      }
      if ('cssRules' in rule) visit((rule as CSSGroupingRule).cssRules);
    }
  };
  for (const root of rootsNow())
    for (const sheet of [...root.styleSheets, ...root.adoptedStyleSheets]) {
      try {
        visit(sheet.cssRules);
      } catch {
        // A sheet of another origin tells nothing.
      }
    }
  take((element as HTMLElement).style, 1e8, 'style');
  return found;
}

/** Short forms hide what was written in them: a token in `border` is one of `border-top-color`, too. */
const shorthandsOf = (property: string): string[] =>
  property
    .split('-')
    .flatMap((_, i, parts) => (i === 0 ? [] : [parts.slice(0, i).join('-')]))
    // It is short for nothing.
    .filter((name) => name !== 'color');

const sides = ['top', 'right', 'bottom', 'left'];
const corners = ['top-left', 'top-right', 'bottom-right', 'bottom-left'];

/** Short forms by the parts that they have. */
const wholes: [whole: string, parts: string[]][] = [
  ...['color', 'style', 'width'].map((of): [string, string[]] => [
    `border-${of}`,
    sides.map((side) => `border-${side}-${of}`),
  ]),
  ...['padding', 'margin'].map((of): [string, string[]] => [of, sides.map((side) => `${of}-${side}`)]),
  ['border-radius', corners.map((corner) => `border-${corner}-radius`)],
  ['inset', sides],
  ['overflow', ['overflow-x', 'overflow-y']],
];

/** What is the same on all sides is told once. */
function together(styles: PointedStyle[]): PointedStyle[] {
  let told = styles;
  for (const [whole, parts] of wholes) {
    const own = told.filter(({ property }) => parts.includes(property));
    const [first] = own;
    const isSame = own.every(({ value, rule }) => value === first?.value && rule === first.rule);
    if (!first || own.length !== parts.length || !isSame) continue;
    told = told.flatMap((one) => (one === first ? [{ ...one, property: whole }] : own.includes(one) ? [] : [one]));
  }
  return told;
}

/** What an element is styled with by itself. */
export function stylesOf(element: Element): PointedStyle[] {
  const style = getComputedStyle(element);
  const plain = plainStyle(element);
  const around = element.parentElement ? getComputedStyle(element.parentElement) : null;
  const written = declared(element);
  const told: PointedStyle[] = [];
  for (const property of style) {
    if (property.startsWith('--') || results.test(property) || twins.test(property)) continue;
    const value = style.getPropertyValue(property);
    const own = [property, ...shorthandsOf(property)].map((name) => written.get(name)).find((one) => one !== undefined);
    const isInherited = !own && around?.getPropertyValue(property) === value;
    // Lines have the colour of the text unless somebody says otherwise.
    const isCurrent = !own && property.endsWith('-color') && value === style.color;
    if (value === plain.get(property) || isInherited || isCurrent) continue;
    const tokens = own
      ? variablesIn(own.value).map((name) => ({ name, value: style.getPropertyValue(name).trim() }))
      : [];
    told.push({ property, value, tokens, rule: own?.where ?? null });
  }
  // What somebody has written says more than what came of it.
  return together(told)
    .toSorted((a, b) => Number(b.rule !== null) - Number(a.rule !== null))
    .slice(0, most);
}
