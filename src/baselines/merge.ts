/** Baselines that a merge has left in conflict: what each side approved, and how that is settled. */
import type { CaptureKey, ConflictSide, ConflictSides } from '../core/baseline/baseline.ts';
import type { CanonicalMoment } from '../core/moment/canonical.ts';
import { markupLines } from '../core/moment/markup.ts';
import { hashOf, type Store } from '../store/index.ts';
import { fileIn, type MergeHeads, mergeHeads, objectsAt, type Unmerged, unmergedIn } from './git.ts';
import { type Manifest, parseManifest } from './manifest.ts';
import { takenHash } from './taken.ts';

/** The three files of a baseline as one side has them. */
type SideFiles = { '.json': Buffer; '.png': Buffer; '.moment': Buffer };

/** One side with the files that stand for it. */
export type MergeSide = { side: ConflictSide; files: SideFiles; manifest: Manifest; markup: string[] };

export type Sides = { base: MergeSide | null; ours: MergeSide | null; theirs: MergeSide | null };

/** A capture of which both sides of a merge have other baselines. */
export type MergeConflict = {
  key: CaptureKey;
  /** The group of machines that it is for; null for the project's usual one. */
  family: string | null;
  /** Paths of its files, relative to the project, without their endings. */
  stem: string;
  sides: Sides;
};

const endings = ['.json', '.png', '.moment'] as const;
const stages = { base: 1, ours: 2, theirs: 3 } as const;

type SideName = keyof typeof stages;

const sideNames: readonly SideName[] = ['base', 'ours', 'theirs'];

/** A merge that goes on: its commits, and the files that it has left in conflict, by their paths. */
type Merge = { heads: MergeHeads; unmerged: ReadonlyMap<string, Unmerged> };

/** What git calls a file of one side: what it has kept of those in conflict, and what was committed of the others. */
function nameOf({ heads, unmerged }: Merge, path: string, name: SideName): string | null {
  const file = unmerged.get(path);
  if (file) return file.stages[stages[name]] ?? null;
  const commit = heads[name];
  return commit && fileIn(commit, path);
}

/** A side as a baseline; null for one that has none, or whose files do not belong together. */
function sideOf(merge: Merge, stem: string, name: SideName, objects: ReadonlyMap<string, Buffer>): MergeSide | null {
  const found = endings.map((ending) => objects.get(nameOf(merge, stem + ending, name) ?? ''));
  if (!found.every((bytes) => bytes !== undefined)) return null;
  const files = Object.fromEntries(endings.map((ending, index) => [ending, found[index]])) as SideFiles;
  try {
    const manifest = parseManifest(files['.json'].toString('utf8'));
    const moment = JSON.parse(files['.moment'].toString('utf8')) as CanonicalMoment;
    if (manifest.format !== 2 || hashOf(files['.png']) !== manifest.picture) return null;
    if (hashOf(JSON.stringify(moment)) !== manifest.moment) return null;
    const hash = takenHash(files['.png']) ?? manifest.picture;
    const { approved, width, height } = manifest;
    const { by = null, at = null, why = null } = approved ?? {};
    const side = { hash, width, height, who: by, at, why, name: merge.heads.names[name] };
    return { side, files, manifest, markup: markupLines(moment) };
  } catch {
    // Whatever is wrong with it: there is nothing to choose.
    return null;
  }
}

/** The baselines below a folder that a merge has left in conflict, with what each side has. */
export function conflictsIn(root: string, folder: string): MergeConflict[] {
  const unmerged = new Map(unmergedIn(root, folder).map((file) => [file.path, file]));
  if (unmerged.size === 0) return [];
  const stems = new Set([...unmerged.keys()].flatMap((path) => /^(.*)\.(?:json|png|moment)$/.exec(path)?.[1] ?? []));
  const merge = { heads: mergeHeads(root), unmerged };
  const names = [...stems].flatMap((stem) =>
    sideNames.flatMap((side) => endings.flatMap((ending) => nameOf(merge, stem + ending, side) ?? [])),
  );
  const objects = objectsAt(root, names);
  return [...stems].flatMap((stem): MergeConflict[] => {
    const side = (name: SideName): MergeSide | null => sideOf(merge, stem, name, objects);
    const sides = { base: side('base'), ours: side('ours'), theirs: side('theirs') };
    const about = (sides.ours ?? sides.theirs)?.manifest;
    if (!about) return [];
    const { component, look, environment, capture, family = null } = about;
    return [{ key: { component, look, environment, capture }, family, stem, sides }];
  });
}

/** The pictures of all sides go into the records, where they are shown from. */
export function keepSides({ blobs }: Store, { sides }: MergeConflict): ConflictSides {
  const kept = (one: MergeSide | null): ConflictSide | null => {
    if (one) blobs.keep(one.side.hash, one.files['.png'], 'image/png');
    return one?.side ?? null;
  };
  return { base: kept(sides.base), ours: kept(sides.ours), theirs: kept(sides.theirs) };
}
