/** Props that a component does not declare, and that are nearly called as one that it does. */
import { distance } from 'fastest-levenshtein';
import { nearest } from '../text/nearest.ts';
import type { PropTypes } from './type.ts';

/** Names that a component takes; null where it takes others as well. */
function namesIn(types: PropTypes): string[] | null {
  if (types.is === 'object') return types.others ? null : Object.keys(types.entries);
  if (types.is !== 'one') return null;
  const each = types.of.filter(({ is }) => is !== 'null' && is !== 'undefined').map(namesIn);
  return each.some((names) => names === null) ? null : [...new Set(each.flatMap((names) => names!))];
}

const isListener = (name: string): boolean => /^on[A-Z]/.test(name);

/** `maxDepth` of `max-depth`, as markup writes it. */
const camelised = (name: string): string => name.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase());

/** What goes on to elements, whatever a component declares. */
const isAttribute = (name: string): boolean =>
  /^(class|className|style|id|key|ref|slot|title|role|(data|aria)-.*)$/.test(name);

/**
 * What is to be said of them, a line each; `callbacks` are names that the component calls back by, whatever its types
 * say. Other names may be meant for the element within, or for nobody: of those nothing is said.
 */
export function mistyped(types: PropTypes, props: object, callbacks: readonly string[] = []): string[] {
  const declared = namesIn(types);
  if (declared === null) return [];
  const names = [...declared, ...callbacks];
  return Object.keys(props).flatMap((key) => {
    if (names.includes(camelised(key)) || isAttribute(key)) return [];
    // Of a listener only another one can be meant.
    const near = nearest(
      key,
      names.filter((name) => isListener(name) === isListener(key)),
    );
    if (near === undefined) return [];
    const edits = distance(key.toLowerCase(), near.toLowerCase());
    return edits <= (key.length > 4 ? 2 : 1) ? [`${key}: there is no such prop, but there is ${near}`] : [];
  });
}
