/** Small moments, written by hand. */
import type { CanonicalElement, CanonicalMoment, CanonicalNode } from '../../src/core/moment/canonical.ts';
import { flatten, type Scene } from '../../src/core/moment/flat.ts';

/** An element: `el('p.note', 'Gale expected')`, `el('button', { id: 'save' }, 'Save')`. */
export function el(name: string, ...rest: (Record<string, string> | CanonicalNode)[]): CanonicalElement {
  const [tag, ...classes] = name.split('.');
  const isAttributes = (one: unknown): one is Record<string, string> =>
    typeof one === 'object' && one !== null && !('tag' in one);
  const given = rest.filter(isAttributes)[0] ?? {};
  const attrs = { ...(classes.length > 0 && { class: classes.join(' ') }), ...given };
  const kids = rest.filter((one): one is CanonicalNode => !isAttributes(one));
  return { tag: tag!, ...(Object.keys(attrs).length > 0 && { attrs }), ...(kids.length > 0 && { kids }) };
}

/** A scene of what a body holds, with one sheet. */
export function scene(kids: CanonicalNode[], css = '', assets: Record<string, string> = {}): Scene {
  const style: CanonicalElement = { tag: 'style', sheet: 'sheet' };
  const root = el('html', el('head', style), el('body', ...kids));
  const moment: CanonicalMoment = { view: { width: 800, height: 600, scroll: [0, 0] }, sheets: [], assets: {}, root };
  return flatten(moment, new Map([['sheet', css]]), assets);
}
