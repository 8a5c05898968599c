/** Who uses a custom property: followed through other custom properties to the rules and elements that it reaches. */
import { isText, type Moment } from '../moment/moment.ts';
import { type Item, parseSheet } from './css.ts';
import { textOfSheet } from './tree.ts';
import { variablesIn } from './variables.ts';

export type Users = { selectors: string[]; nodes: number[] };

type Use = { selector: string; property: string; value: string };

/** Every declaration with `var(…)` in it. */
function usesIn(items: readonly Item[], within: string): Use[] {
  return items.flatMap((item): Use[] => {
    if (item.kind === 'rule') {
      const selector = item.prelude.startsWith('@') ? within : nested(within, item.prelude);
      return usesIn(item.items, selector);
    }
    if (item.kind !== 'declaration' || !item.value.includes('var(') || within === '') return [];
    return [{ selector: within, property: item.property, value: item.value }];
  });
}

/** A selector inside a rule with another one, by CSS Nesting. */
function nested(outer: string, inner: string): string {
  if (outer === '') return inner;
  return inner.includes('&') ? inner.replaceAll('&', `:is(${outer})`) : `:is(${outer}) ${inner}`;
}

const uses = (value: string, names: ReadonlySet<string>): boolean => variablesIn(value).some((name) => names.has(name));

/** The rules and elements of a moment whose declarations use `name`, or a custom property that is made from it. */
export function usersOf(moment: Moment, name: string): Users {
  const all = Object.keys(moment.sheets).flatMap((id) => usesIn(parseSheet(textOfSheet(moment, Number(id))), ''));
  const names = new Set([name]);
  for (let size = 0; size !== names.size; ) {
    size = names.size;
    for (const { property, value } of all) if (property.startsWith('--') && uses(value, names)) names.add(property);
  }
  const selectors = all
    .filter(({ property, value }) => !property.startsWith('--') && uses(value, names))
    .map(({ selector }) => selector);
  const nodes = Object.entries(moment.nodes).flatMap(([id, entry]) =>
    !isText(entry) && uses(entry.attrs?.style ?? '', names) ? [Number(id)] : [],
  );
  return { selectors: [...new Set(selectors)], nodes };
}
