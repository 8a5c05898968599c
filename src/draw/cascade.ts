/** Which declarations win for an element of a drawn document, by CSS Cascading and Inheritance Level 5. */
import type { Winner } from '../core/cause/effect.ts';
import { parseStyle } from '../core/cause/css.ts';
import { says } from '../core/cause/shorthands.ts';
import { compareSpecificity, selectorsIn, type Specificity, specificityOf } from '../core/cause/specificity.ts';
import { withStates } from '../core/moment/restyle.ts';

/** A style rule that applies in the drawn document, with what decides about it besides its selector. */
type Applying = { selector: string; style: CSSStyleDeclaration; layer: Layer; order: number; isSure: boolean };

/** A cascade layer with the layers in it, by their names. */
type Layer = { name: string; inner: Map<string, Layer>; place: number };

/** All rules of a document or shadow root, in order. */
export type Cascade = readonly Applying[];

const newLayer = (name: string): Layer => ({ name, inner: new Map(), place: 0 });

function layerIn(outer: Layer, path: string): Layer {
  let at = outer;
  for (const name of path === '' ? [`\0${outer.inner.size}`] : path.split('.')) {
    const known = at.inner.get(name) ?? newLayer(name);
    at.inner.set(name, known);
    at = known;
  }
  return at;
}

/** Numbers layers from the weakest to the strongest: what is in a layer but in none of its inner ones is stronger. */
function place(layer: Layer, from: number): number {
  let next = from;
  for (const inner of layer.inner.values()) next = place(inner, next);
  layer.place = next;
  return next + 1;
}

type Around = { layer: Layer; outer: string; isSure: boolean };

/** Everything of a list of rules that applies. `window` is that of the drawn document, whose classes rules are of. */
function* rulesIn(rules: Iterable<CSSRule>, around: Around, window: Window & typeof globalThis): Generator<Applying> {
  const inside = (rule: CSSRule, more: Partial<Around> = {}): Generator<Applying> =>
    rulesIn((rule as CSSGroupingRule).cssRules, { ...around, ...more }, window);
  for (const rule of rules) {
    if (rule instanceof window.CSSStyleRule) {
      const own = rule.selectorText;
      const { outer } = around;
      const nested = own.includes('&') ? own.replaceAll('&', `:is(${outer})`) : `:is(${outer}) ${own}`;
      const selector = outer === '' ? own : nested;
      yield { ...around, selector, style: rule.style, order: 0 };
      yield* inside(rule, { outer: selector });
    } else if (rule instanceof window.CSSNestedDeclarations)
      yield { ...around, selector: around.outer, style: rule.style, order: 0 };
    else if (rule instanceof window.CSSMediaRule) {
      if (window.matchMedia(rule.media.mediaText).matches) yield* inside(rule);
    } else if (rule instanceof window.CSSSupportsRule) {
      if (window.CSS.supports(rule.conditionText)) yield* inside(rule);
    } else if (rule instanceof window.CSSLayerStatementRule)
      for (const name of rule.nameList) layerIn(around.layer, name);
    else if (rule instanceof window.CSSLayerBlockRule) yield* inside(rule, { layer: layerIn(around.layer, rule.name) });
    // Whether a container or a scope matches cannot be asked for.
    else if (rule instanceof window.CSSContainerRule || rule instanceof window.CSSScopeRule)
      yield* inside(rule, { isSure: false });
  }
}

/** Reads the rules of a document or shadow root. `own` is the sheet that no page has. */
export function cascadeOf(root: Document | ShadowRoot, own: CSSStyleSheet | null): Cascade {
  const window = (root.ownerDocument ?? (root as Document)).defaultView as Window & typeof globalThis;
  const sheets = [...root.styleSheets, ...root.adoptedStyleSheets].filter((sheet) => sheet !== own && !sheet.disabled);
  const unlayered = newLayer('');
  const found: Applying[] = [];
  for (const sheet of sheets) {
    if (sheet.media.mediaText !== '' && !window.matchMedia(sheet.media.mediaText).matches) continue;
    found.push(...rulesIn(sheet.cssRules, { layer: unlayered, outer: '', isSure: true }, window));
  }
  place(unlayered, 0);
  return found.map((rule, order) => ({ ...rule, order }));
}

/** A declaration that has a say, and how strong it is. */
type Candidate = Applying & { winner: Winner; isImportant: boolean; specificity: Specificity };

/** How the declaration of a property is written: by itself, or in a shorthand. */
function written({ cssText }: CSSStyleDeclaration, property: string): Pick<Winner, 'property' | 'value'> {
  const all = parseStyle(cssText);
  const own = all.find((one) => one.property === property);
  const found = own ?? all.find((one) => says(one.property, property)) ?? { property, value: '' };
  return { property: found.property, value: found.value };
}

const has = (style: CSSStyleDeclaration, property: string): boolean => [...style].includes(property);

function matches(element: Element, selector: string): boolean {
  try {
    return element.matches(selector);
  } catch {
    return false;
  }
}

const pseudoElement = /::?(before|after)$/;

/** How specific a rule is for an element, or null when it does not match it. */
function matching({ selector }: Applying, element: Element, pseudo: string | null): Specificity | null {
  let best: Specificity | null = null;
  for (const part of selectorsIn(selector)) {
    const [, of = null] = pseudoElement.exec(part) ?? [];
    if (of !== pseudo || !matches(element, of === null ? part : part.replace(pseudoElement, '') || '*')) continue;
    const own = specificityOf(part);
    if (best === null || compareSpecificity(own, best) > 0) best = own;
  }
  return best;
}

function isStronger(one: Candidate, other: Candidate): boolean {
  if (one.isImportant !== other.isImportant) return one.isImportant;
  // Layers count the other way round for what is important.
  const byLayer = (one.layer.place - other.layer.place) * (one.isImportant ? -1 : 1);
  return (byLayer || compareSpecificity(one.specificity, other.specificity) || one.order - other.order) >= 0;
}

/** Of properties, the declarations that win for an element; null where none does or none can be named surely. */
export function winnersOf(
  element: Element,
  pseudo: string | null,
  properties: readonly string[],
  cascade: Cascade,
): Map<string, Winner | null> {
  const found = cascade.flatMap((rule) => {
    const specificity = matching(rule, element, pseudo);
    return specificity ? [{ ...rule, specificity }] : [];
  });
  const style = pseudo === null ? (element as HTMLElement).style : undefined;
  return new Map(
    properties.map((property) => {
      let best: Candidate | null = null;
      for (const rule of found) {
        if (!has(rule.style, property)) continue;
        const isImportant = rule.style.getPropertyPriority(property) === 'important';
        const winner = { rule: withStates(rule.selector), ...written(rule.style, property) };
        const one: Candidate = { ...rule, winner, isImportant };
        if (best === null || isStronger(one, best)) best = one;
      }
      if (style && has(style, property) && (!best?.isImportant || style.getPropertyPriority(property) !== ''))
        return [property, { rule: null, ...written(style, property) }];
      return [property, best?.isSure ? best.winner : null];
    }),
  );
}
