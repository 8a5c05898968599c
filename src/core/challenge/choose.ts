/** Which mutations a look is challenged with: of what its script touches or brings about, some of every kind. */
import { isPerceived } from '../moment/markup.ts';
import type { Moment } from '../moment/moment.ts';
import { type Named, namedIn } from '../moment/named.ts';
import { momentAt } from '../moment/patch.ts';
import { shortened } from '../text/folded.ts';
import type { Step, Timeline } from '../timeline/timeline.ts';
import { textInCode } from '../value/code.ts';
import { type Mutation, type MutationKind, mutationKinds, otherText, otherValue, refersByIds } from './mutation.ts';
import { type Standing, standingIn } from './scene.ts';

export type Chosen = {
  mutation: Mutation;
  /** What is made wrong, in words: `the text “Moored” is another one`. */
  title: string;
  /** The check that would notice it, as a line of a script; null where none can be told. */
  check: string | null;
};

type Recorded = Pick<Timeline, 'steps' | 'marks' | 'base' | 'patches'>;

/** Longer texts are told by their beginning. */
const longest = 40;

const short = (text: string): string => shortened(text, longest);

/** What is known of the moments of a look. */
type Scene = {
  start: Map<number, Standing>;
  end: Map<number, Standing>;
  names: Map<number, Named>;
  touched: Set<number>;
  at(moment: number): Map<number, Standing>;
};

function sceneOf({ steps, base, patches }: Recorded, mark: string): Scene {
  const known = new Map<number, Map<number, Standing>>();
  const at = (number: number): Map<number, Standing> => {
    const found = known.get(number) ?? standingIn(momentAt(base, patches, number));
    known.set(number, found);
    return found;
  };
  const last = steps.findLast(({ kind }) => kind === 'capture');
  const end: Moment = momentAt(base, patches, last?.before ?? patches.length);
  const mounted = steps.find(({ kind }) => kind === 'mount')?.after ?? 0;
  return {
    start: at(mounted),
    end: standingIn(end),
    names: new Map(namedIn(end, end.root, mark).map((one) => [one.node, one])),
    touched: new Set(steps.flatMap(({ target }) => target?.node ?? [])),
    at,
  };
}

/** An element as a target; null where nothing names it. */
function targetOf(scene: Scene, { node, text, identity }: Standing): string | null {
  const named = scene.names.get(node);
  if (named?.role && named.name) return `the.${named.role}(${textInCode(named.name)})`;
  if (named?.mark) return `the.marked(${textInCode(named.mark)})`;
  const isAlone = [...scene.end.values()].filter((one) => one.text === text).length === 1;
  return text !== '' && isAlone && identity.nth === 0 ? `the.text(${textInCode(text)})` : null;
}

const words = (scene: Scene, { node, entry, text }: Standing): string => {
  const named = scene.names.get(node);
  const name = named?.name || text;
  return `${named?.role ?? `<${entry.tag}>`}${name ? ` “${short(name)}”` : ''}`;
};

const checkOf = (target: string | null, claim: string): string | null =>
  target === null ? null : `await ensure(${target}).${claim};`;

/** What the script has changed, brought about or aimed at. */
function concerned({ start, end, touched }: Scene): Standing[] {
  return [...end.values()].filter(({ node, identity, entry }) => {
    const before = start.get(node);
    if (!before || touched.has(node) || before.identity.says !== identity.says) return true;
    return JSON.stringify([before.entry.attrs, before.entry.kids]) !== JSON.stringify([entry.attrs, entry.kids]);
  });
}

/** The check that sees what came between two moments: a text that was not there before. */
function checkOfOutcome(scene: Scene, from: Map<number, Standing>): string | null {
  const before = new Set([...from.values()].map(({ text }) => text));
  const came = [...scene.end.values()].find(({ text }) => /\p{L}/u.test(text) && !before.has(text));
  return came ? checkOf(targetOf(scene, came), 'isVisible()') : null;
}

/** Spies that were called while a step went on, or right after it, by their marks: `onRelease("B2")`. */
function spyAfter({ marks, steps }: Recorded, step: Step): string | null {
  const until = steps[step.index + 1]?.at ?? Number.POSITIVE_INFINITY;
  const mark = marks.find(({ lane, at }) => lane === 'spies' && at >= step.at && at <= until);
  const name = /^[\w$]+/.exec(mark?.title ?? '')?.[0];
  return name ? `await ensure(props.${name}).wasCalled();` : null;
}

function handlers(recorded: Recorded, scene: Scene): Chosen[] {
  return recorded.steps.flatMap((step): Chosen[] => {
    const node = step.target?.node;
    if (step.kind !== 'action' || node === null || node === undefined || step.tried) return [];
    const at = scene.at(step.before).get(node) ?? scene.at(step.after ?? step.before).get(node);
    if (!at) return [];
    const check = spyAfter(recorded, step) ?? checkOfOutcome(scene, scene.at(step.before));
    const title = `${step.title} does nothing`;
    return [{ mutation: { kind: 'handlers', at: at.identity }, title, check }];
  });
}

function answers({ marks }: Recorded, scene: Scene): Chosen[] {
  return marks.flatMap(({ lane, title }): Chosen[] => {
    const [, request, status] = /^(\S+ \S+) → (\d+)$/.exec(title) ?? [];
    if (lane !== 'network' || !request || Number(status) >= 400) return [];
    const check = checkOfOutcome(scene, scene.start);
    return [{ mutation: { kind: 'answer', request }, title: `${request} is answered with 500`, check }];
  });
}

function texts(scene: Scene, at: Standing): Chosen[] {
  const instead = otherText(at.text);
  if (instead === at.text) return [];
  const target = targetOf(scene, at);
  const isNamed = target?.includes(textInCode(at.text).slice(1, -1));
  const claim = isNamed ? 'isVisible()' : `reads(${textInCode(at.text)})`;
  return [
    {
      mutation: { kind: 'text', at: at.identity, instead },
      title: `the text “${short(at.text)}” is another one`,
      check: checkOf(target, claim),
    },
  ];
}

function hidden(scene: Scene, at: Standing): Chosen[] {
  if ('hidden' in (at.entry.attrs ?? {})) return [];
  const title = `${words(scene, at)} is hidden`;
  return [{ mutation: { kind: 'hidden', at: at.identity }, title, check: checkOf(targetOf(scene, at), 'isVisible()') }];
}

const unchanged = /^(type|tabindex|for|class|style|id|hidden|name|min|max|step|lang|dir)$/;

function attributes(scene: Scene, at: Standing): Chosen[] {
  return Object.entries(at.entry.attrs ?? {}).flatMap(([name, value]): Chosen[] => {
    if (!isPerceived(name) || unchanged.test(name)) return [];
    const instead = otherValue(name, value);
    // What is referred to may have another id in the next run.
    const wanted = value === '' || refersByIds.test(name) ? '' : `, ${textInCode(value)}`;
    const claim = name === 'disabled' ? 'isDisabled()' : `hasAttribute('${name}'${wanted})`;
    const how = instead === null ? 'is gone' : `is “${short(instead)}” instead of “${short(value)}”`;
    return [
      {
        mutation: { kind: 'attribute', at: at.identity, name, instead },
        title: `${name} of ${words(scene, at)} ${how}`,
        check: checkOf(targetOf(scene, at), claim),
      },
    ];
  });
}

function orders(scene: Scene, at: Standing): Chosen[] {
  const kids = (at.entry.kids ?? []).flatMap((kid) => scene.end.get(kid) ?? []);
  const alike = kids.filter(({ entry }) => entry.tag === kids[0]!.entry.tag);
  const first = alike[0];
  const last = alike.at(-1);
  if (!first || !last || first === last || first.identity.says === last.identity.says) return [];
  const [a, b] = [targetOf(scene, first), targetOf(scene, last)];
  const check = a && b ? `await ensure(${a}).comesBefore(${b});` : null;
  const title = `the last <${first.entry.tag}> of ${words(scene, at)} comes first`;
  return [{ mutation: { kind: 'order', at: at.identity }, title, check }];
}

const unstyled: Chosen = { mutation: { kind: 'styles' }, title: 'no style sheet counts', check: null };

/** Some of each kind in turn. */
function inTurns(byKind: readonly (readonly Chosen[])[], most: number): Chosen[] {
  const taken: Chosen[] = [];
  const longestList = Math.max(0, ...byKind.map(({ length }) => length));
  for (let round = 0; round < longestList; round++)
    for (const list of byKind) if (round < list.length && taken.length < most) taken.push(list[round]!);
  return taken;
}

/** Every mutation once. */
function distinct(all: readonly Chosen[]): Chosen[] {
  return [...new Map(all.map((one) => [JSON.stringify(one.mutation), one])).values()];
}

/** True for an element that shows something of its own. */
const says = ({ text, entry }: Standing): boolean => text !== '' || /^(input|img|button|select|svg)$/.test(entry.tag);

/** The mutations of a look that has passed, at most so many. `mark` is the attribute of marks. */
export function chooseMutations(recorded: Recorded, mark: string, most: number): Chosen[] {
  const scene = sceneOf(recorded, mark);
  const of = concerned(scene);
  const byKind: Record<MutationKind, Chosen[]> = {
    handlers: handlers(recorded, scene),
    answer: answers(recorded, scene),
    text: of.flatMap((one) => texts(scene, one)),
    hidden: of.filter(says).flatMap((one) => hidden(scene, one)),
    attribute: of.flatMap((one) => attributes(scene, one)),
    order: of.flatMap((one) => orders(scene, one)),
    styles: Object.keys(recorded.base.sheets).length === 0 ? [] : [unstyled],
  };
  return inTurns(
    mutationKinds.map((kind) => distinct(byKind[kind])),
    most,
  );
}
