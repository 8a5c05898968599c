/**
 * Why a capture changed: the edits between its baseline's moment and its own, each shown by drawing to have an effect,
 * and together to be all there is. Whoever calls it does the drawing.
 */
import type { Scene } from '../moment/flat.ts';
import type { PictureChanges } from '../picture/changes.ts';
import { type Comparison, looksDifferent } from '../picture/compare.ts';
import type { Box } from '../timeline/timeline.ts';
import { applyEdits } from './apply.ts';
import { type Candidate, candidatesOf } from './candidates.ts';
import type { Cause, Explanation } from './cause.ts';
import { type Edits, editsOf } from './edits.ts';
import { type Effect, effectsOf, type StyleChange } from './effect.ts';
import { type Pair, pairScenes } from './pair.ts';
import { pictureCauses } from './pictureCauses.ts';
import { relevant } from './relevant.ts';
import { usersOf } from './users.ts';

/** What elements of a drawn scene are asked for: by their ids, or by selectors. */
export type Wanted = { nodes: readonly number[]; selectors: readonly string[] };

/** A picture, as whoever draws holds it. */
export type Pictured = { hash: string; png: Uint8Array };

export type Drawn = Pictured & { outlines: { count: number; boxes: Box[] }[] };

/** Draws scenes, and compares pictures. */
export type Drawer = {
  /** Draws scenes one after the other; for each of `wanted` it says where those elements are in it. */
  draw(scenes: readonly { scene: Scene; wanted: readonly Wanted[] }[]): Promise<Drawn[]>;
  /** What each of some scenes does to the styles of elements of another one. */
  styleChanges(before: Scene, others: readonly { scene: Scene; wanted: Wanted }[]): Promise<StyleChange[][]>;
  /** Null when no pixel differs. */
  compare(before: Pictured, now: Pictured): Promise<Comparison | null>;
  /** What happened to a picture by its pixels alone; null where that cannot be told. */
  changes(before: Pictured, now: Pictured): Promise<PictureChanges | null>;
};

export type Subject = {
  before: Scene & Pictured;
  now: Scene & Pictured;
  /** How the pictures differ; null when only the markup does. */
  difference: Comparison | null;
  /** What drew the two: another browser, other fonts; null when both are the same. */
  engines: { before: string; now: string } | null;
};

/** More candidates than this are not drawn one by one. */
const mostAlone = 16;

/** So many regions of a cause are told. */
const mostRegions = 12;

const boxesOf = (comparison: Comparison | null): Box[] =>
  comparison === null
    ? []
    : [...comparison.regions.map(({ box }) => box), ...comparison.added, ...comparison.lost].slice(0, mostRegions);

const areaOf = (boxes: readonly Box[]): number => boxes.reduce((sum, [, , width, height]) => sum + width * height, 0);

/** Every pixel that differs, strips that only one picture has included. */
const pixelsOf = (comparison: Comparison | null): number =>
  comparison === null ? 0 : comparison.differing + areaOf(comparison.added) + areaOf(comparison.lost);

/** What of a picture the causes leave over: what nobody could see is no change, here as in verdicts. */
async function leftOver({ subject, drawer }: Work, picture: Pictured): Promise<Comparison | null> {
  const left = await drawer.compare(subject.now, picture);
  return left && looksDifferent(left) ? left : null;
}

const all = (candidates: readonly Candidate[]): Set<number> => new Set(candidates.flatMap(({ edits }) => edits));

const causeOf = ({ key, kind, title, before, now, nodes, trace }: Candidate): Cause => ({
  key,
  kind,
  title,
  before,
  now,
  elements: nodes.length,
  outlines: [],
  pixels: null,
  regions: [],
  effects: [],
  trace,
});

type Work = {
  subject: Subject;
  drawer: Drawer;
  pair: Pair;
  edits: Edits;
  candidates: Candidate[];
};

const sceneWith = ({ pair, edits }: Work, chosen: readonly Candidate[]): Scene => applyEdits(pair, edits, all(chosen));

const wantedOf = ({ nodes, selectors }: Candidate): Wanted => ({ nodes, selectors });

/** Draws scenes with some of the candidates. */
const drawn = (work: Work, chosen: readonly (readonly Candidate[])[]): Promise<Drawn[]> =>
  work.drawer.draw(chosen.map((list) => ({ scene: sceneWith(work, list), wanted: work.candidates.map(wantedOf) })));

/**
 * The candidates that are needed for the picture of all: those that change it by themselves, and as few as possible of
 * those that only do so together with others.
 */
async function needed(work: Work, silent: readonly Candidate[], loud: readonly Candidate[], whole: Drawn) {
  const isWhole = async (list: readonly Candidate[]): Promise<boolean> => {
    const [picture] = await drawn(work, [list]);
    return (await work.drawer.compare(whole, picture!)) === null;
  };
  if (silent.length === 0 || (await isWhole(loud))) return [...loud];
  // Halves of what might be left out, as long as that changes nothing.
  let kept = [...silent];
  for (let size = Math.ceil(kept.length / 2), tries = 0; size >= 1 && tries < mostAlone; ) {
    let isSmaller = false;
    for (let at = 0; at < kept.length && tries < mostAlone; at += size, tries++) {
      const rest = [...kept.slice(0, at), ...kept.slice(at + size)];
      if (!(await isWhole([...loud, ...rest]))) continue;
      kept = rest;
      isSmaller = true;
      break;
    }
    if (!isSmaller) size = size === 1 ? 0 : Math.ceil(size / 2);
  }
  return [...loud, ...kept];
}

/** A cause with the pixels that it changes. One without elements of its own is outlined where these are. */
const withPixels = (cause: Cause, difference: Comparison | null): Cause => {
  const regions = boxesOf(difference);
  const outlines = cause.elements === 0 ? regions : cause.outlines;
  return { ...cause, outlines, pixels: pixelsOf(difference), regions };
};

/** Whose styles a cause may change: its own elements, and those that use its custom property. */
function styledBy({ pair }: Work, { kind, nodes, selectors, trace: { property } }: Candidate): Wanted {
  if (kind !== 'token' || property === null) return { nodes, selectors };
  const [was, is] = [usersOf(pair.before.moment, property), usersOf(pair.now.moment, property)];
  return { nodes: [...was.nodes, ...is.nodes], selectors: [...new Set([...was.selectors, ...is.selectors])] };
}

const isOfStyles = ({ kind }: Candidate): boolean =>
  kind === 'token' || kind === 'style' || kind === 'rule' || kind === 'attribute';

/** What candidates do to computed styles, by themselves. */
async function effectsIn(work: Work, chosen: readonly Candidate[]): Promise<Map<Candidate, Effect[]>> {
  const asked = chosen.filter(isOfStyles).slice(0, mostAlone);
  if (asked.length === 0) return new Map();
  const others = asked.map((one) => ({ scene: sceneWith(work, [one]), wanted: styledBy(work, one) }));
  const changes = await work.drawer.styleChanges(sceneWith(work, []), others);
  return new Map(asked.map((one, i) => [one, effectsOf(changes[i]!)]));
}

/** Explains with one candidate, which needs no drawing but that of its proof. */
async function explainOne(work: Work): Promise<Explanation> {
  const { subject } = work;
  const [candidate] = work.candidates as [Candidate];
  const [whole] = (await drawn(work, [[candidate]])) as [Drawn];
  const left = await leftOver(work, whole);
  const outline = whole.outlines[0];
  const effects = (await effectsIn(work, [candidate])).get(candidate) ?? [];
  const cause = withPixels({ ...causeOf(candidate), ...outlined(candidate, outline), effects }, subject.difference);
  if (left === null) return { causes: [cause], proof: 'proved', unexplained: [], note: null };
  return { causes: [cause], ...(await asDrawn(work, whole, whole)) };
}

const outlined = ({ nodes }: Candidate, found: Drawn['outlines'][number] | undefined) => ({
  elements: Math.max(nodes.length, found?.count ?? 0),
  outlines: found?.boxes.slice(0, mostRegions) ?? [],
});

/** How sure causes are whose picture is not the screenshot: what else is drawn may not be either. */
async function asDrawn({ subject, drawer }: Work, chosen: Drawn, whole: Drawn): Promise<Omit<Explanation, 'causes'>> {
  const left = await drawer.compare(subject.now, chosen);
  const isComplete = chosen === whole || (await drawer.compare(whole, chosen)) === null;
  const note =
    'The moments cannot be drawn again to the last pixel: something in them, such as a canvas or a video, was not ' +
    'recorded.';
  if (isComplete) return { proof: 'drawn', unexplained: boxesOf(left), note };
  return { proof: 'unexplained', unexplained: boxesOf(left), note: null };
}

async function explainSeveral(work: Work): Promise<Explanation> {
  const { drawer, candidates } = work;
  const isAlone = candidates.length <= mostAlone;
  const pictures = await drawn(work, [[], candidates, ...(isAlone ? candidates.map((one) => [one]) : [])]);
  const [bare, whole, ...alone] = pictures as [Drawn, Drawn, ...Drawn[]];
  const causes = new Map<Candidate, Cause>();
  for (const [i, candidate] of candidates.entries()) {
    const gone = alone[i]?.outlines[i];
    const now = whole.outlines[i];
    const cause = { ...causeOf(candidate), ...outlined(candidate, now?.count ? now : gone) };
    causes.set(candidate, alone[i] ? withPixels(cause, await drawer.compare(bare, alone[i]!)) : cause);
  }
  const isLoud = (one: Candidate): boolean => one.isPerceived || causes.get(one)!.pixels !== 0;
  const loud = isAlone ? candidates.filter(isLoud) : candidates.filter((one) => one.isPerceived);
  const silent = candidates.filter((one) => !loud.includes(one));
  const chosen = await needed(work, silent, loud, whole);
  const [picture] = chosen.length === candidates.length ? [whole] : await drawn(work, [chosen]);
  const effects = await effectsIn(work, chosen);
  const found = chosen
    .map((one) => ({ ...causes.get(one)!, effects: effects.get(one) ?? [] }))
    .sort((one, other) => (other.pixels ?? 0) - (one.pixels ?? 0));
  const left = await leftOver(work, picture!);
  if (left === null) return { causes: found, proof: 'proved', unexplained: [], note: null };
  return { causes: found, ...(await asDrawn(work, picture!, whole)) };
}

/** The picture of the earlier scene with one cause and no other; null where it has none of that key. */
export async function drawAlone(before: Scene, now: Scene, key: string, drawer: Drawer): Promise<Drawn | null> {
  const pair = pairScenes(before, now);
  const edits = editsOf(pair);
  const candidate = candidatesOf(pair, edits).find((one) => one.key === key);
  if (!candidate) return null;
  const [drawn] = await drawer.draw([{ scene: applyEdits(pair, edits, all([candidate])), wanted: [] }]);
  return drawn ?? null;
}

/** How another browser draws the very same moment, from what nobody notices to what everybody does. */
const renderings = {
  equal: 'and no pixel differs',
  unseen: 'and nobody can see it',
  smoothed: 'edges are smoothed otherwise',
  moved: 'parts stand elsewhere',
  redrawn: 'shapes or colours differ',
} as const;

async function renderingOf({ subject, drawer }: Work, bare: Drawn, difference: Comparison | null) {
  if (difference === null) return 'equal';
  if (!looksDifferent(difference)) return 'unseen';
  const changes = await drawer.changes(subject.before, bare);
  const kinds = changes?.regions.map(({ change }) => change.kind) ?? [];
  if (!changes || kinds.some((kind) => kind === 'redrawn' || kind === 'recoloured')) return 'redrawn';
  return changes.added.length + changes.removed.length > 0 || kinds.includes('moved') ? 'moved' : 'smoothed';
}

/** What another browser or other fonts make of the very same moment. */
async function engineCause(work: Work, bare: Drawn): Promise<Cause | null> {
  const { subject, drawer } = work;
  const { engines } = subject;
  if (!engines) return null;
  const difference = await drawer.compare(subject.before, bare);
  const rendering = await renderingOf(work, bare, difference);
  const { before, now } = engines;
  return {
    key: JSON.stringify(['engine', before, now, rendering]),
    kind: 'engine',
    title: `drawn by another browser or with other fonts, ${renderings[rendering]}: ${before} → ${now}`,
    before,
    now,
    elements: 0,
    outlines: [],
    pixels: pixelsOf(difference),
    regions: boxesOf(difference),
    effects: [],
    trace: { property: null, selector: null, texts: [] },
  };
}

/** Why a capture changed as far as its pixels tell; `note` says why nothing else does. */
export async function explainPictures(
  before: Pictured,
  now: Pictured,
  drawer: Pick<Drawer, 'changes'>,
  note: string,
): Promise<Explanation> {
  const changes = await drawer.changes(before, now);
  return { causes: changes ? pictureCauses(changes) : [], proof: 'unexplained', unexplained: [], note };
}

const notRecorded =
  'The moments are equal, and yet the pictures differ: something in them, such as a canvas or a video, was not ' +
  'recorded.';

/** Versions of Sguardo may write the same page down in other words. */
const writtenOtherwise =
  'The pictures and the moments are equal: only the way in which markup is written down has changed. Approve it to ' +
  'take that over.';

/** Explains a capture that differs from its baseline. @throws what `drawer` throws */
export async function explain(subject: Subject, drawer: Drawer): Promise<Explanation> {
  const pair = pairScenes(subject.before, subject.now);
  const edits = editsOf(pair);
  const candidates = relevant(pair, edits, candidatesOf(pair, edits));
  const work: Work = { subject, drawer, pair, edits, candidates };
  if (subject.engines) {
    const [bare] = (await drawn(work, [[]])) as [Drawn];
    const engine = await engineCause(work, bare);
    const rest: Explanation =
      candidates.length > 0 ? await explainSeveral(work) : { causes: [], ...(await proofOf(work, bare)), note: null };
    return engine ? { ...rest, causes: [...rest.causes, engine] } : rest;
  }
  if (candidates.length === 0) {
    const isAlike = subject.before.hash === subject.now.hash;
    return explainPictures(subject.before, subject.now, drawer, isAlike ? writtenOtherwise : notRecorded);
  }
  return candidates.length === 1 ? explainOne(work) : explainSeveral(work);
}

async function proofOf(work: Work, picture: Drawn): Promise<Pick<Explanation, 'proof' | 'unexplained'>> {
  const left = await leftOver(work, picture);
  return { proof: left === null ? 'proved' : 'unexplained', unexplained: boxesOf(left) };
}
