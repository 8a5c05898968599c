/** What the looks of a component showed when they were run last: what targets can name there. */
import type { Client } from '../client/client.ts';
import { namedIn, type Named, textsIn } from '../core/moment/named.ts';
import { momentAt } from '../core/moment/patch.ts';
import type { ResultSummary } from '../core/run/run.ts';
import type { Timeline } from '../core/timeline/timeline.ts';
import type { WrittenTarget } from './lookFile.ts';

/** What so many results have shown is remembered: an editor stays open for days. */
const mostRemembered = 200;

/** So many moments of a look are looked through, evenly spread, its last one among them. */
const mostMoments = 12;

export type Shown = { named: Named[]; texts: string[] };

/** Numbers of moments from the first to the last, of which there are `count` more after it. */
function spread(count: number): number[] {
  if (count < mostMoments) return Array.from({ length: count + 1 }, (_, i) => i);
  return Array.from({ length: mostMoments }, (_, i) => Math.round((i * count) / (mostMoments - 1)));
}

/** What a timeline shows, moment by moment, the last one last. */
export function shownIn({ base, patches }: Timeline, mark: string): Shown[] {
  return spread(patches.length).map((at) => {
    const moment = momentAt(base, patches, at);
    return { named: namedIn(moment, moment.root, mark), texts: textsIn(moment, moment.root) };
  });
}

/** True for a text that a name means: all of it, or what a pattern is found in. */
export const isCalled = (text: string, name: WrittenTarget['name']): boolean =>
  name === null || (typeof name === 'string' ? text === name : text.search(name) >= 0);

/** Kinds of targets of which moments tell nothing, or not enough. */
export const untold: readonly string[] = ['css', 'placeholder', 'picture', 'titled'];

/** True for an element that a target means. */
export function isMeant({ kind, name }: Pick<WrittenTarget, 'kind' | 'name'>, one: Named): boolean {
  if (kind === 'marked') return one.mark !== null && one.mark === name;
  if (kind === 'field')
    return (
      /^(textbox|combobox|spinbutton|checkbox|radio|searchbox|slider|switch|listbox)$/.test(one.role ?? '') &&
      isCalled(one.name, name)
    );
  return one.role === kind && isCalled(one.name, name);
}

/** Reads what results have shown; each is read once. */
export function shownBy(client: Client, mark: string): (result: ResultSummary) => Promise<Shown[]> {
  const known = new Map<number, Promise<Shown[]>>();
  return ({ id }) => {
    const before = known.get(id);
    if (before) return before;
    const reading = client.timeline(id).then((timeline) => shownIn(timeline, mark));
    known.set(id, reading);
    for (const oldest of known.keys()) if (known.size > mostRemembered) known.delete(oldest);
    reading.catch(() => known.delete(id));
    return reading;
  };
}
