/** A moment as challenges see it: its elements below the body in their order, each with its identity. */
import { type ElementEntry, isText, type Moment } from '../moment/moment.ts';
import { folded } from '../text/folded.ts';
import { type Identity, sayingOf } from './identity.ts';

export type Standing = { node: number; entry: ElementEntry; identity: Identity; text: string };

const unseen = new Set(['script', 'style', 'link', 'meta', 'template', 'title', 'noscript']);

/** What stands directly in an element. */
const ownText = ({ nodes }: Moment, { kids = [] }: ElementEntry): string =>
  folded(
    kids
      .map((kid) => nodes[kid])
      .map((entry) => (entry && isText(entry) ? entry.text : ''))
      .join(' '),
  );

/** Every element below the body, shadow roots first, by its id. */
export function standingIn(moment: Moment): Map<number, Standing> {
  const { nodes, root } = moment;
  const found = new Map<number, Standing>();
  const counts = new Map<string, number>();
  const visit = (id: number, isBelow: boolean): void => {
    const entry = nodes[id];
    if (!entry || isText(entry) || unseen.has(entry.tag)) return;
    const { tag, attrs = {}, kids = [], shadow } = entry;
    if (isBelow) {
      const text = ownText(moment, entry);
      const says = sayingOf(tag, (name) => attrs[name] ?? null, text);
      const nth = counts.get(says) ?? 0;
      counts.set(says, nth + 1);
      found.set(id, { node: id, entry, identity: { says, nth }, text });
    }
    for (const kid of [...(shadow?.kids ?? []), ...kids]) visit(kid, isBelow || tag === 'body');
  };
  visit(root, false);
  return found;
}
