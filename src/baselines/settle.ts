/** Settles what a merge has left in conflict: with what one side has approved. */
import { join } from 'node:path';
import type { DecisionRequest } from '../core/api/api.ts';
import { type CaptureKey, keyText } from '../core/baseline/baseline.ts';
import { lookTitle } from '../core/look/look.ts';
import { fail } from '../core/problem/problem.ts';
import type { NewDecision } from '../store/index.ts';
import { type Desk, shelfOf } from './desk.ts';
import { keepFormer } from './former.ts';
import { markSettled, personOf, whereaboutsOf } from './git.ts';
import { type Change, carryOutTogether, recover } from './journal.ts';
import { conflictsIn, keepSides, type MergeConflict, type MergeSide } from './merge.ts';

type Settling = { conflict: MergeConflict; side: MergeSide };

const endings = ['.json', '.png', '.moment'] as const;

/** The sides that are meant. @throws ProblemError `conflict-gone`, `conflict-side` */
function meant(
  root: string,
  folder: string,
  keys: readonly CaptureKey[],
  take: 'base' | 'ours' | 'theirs',
): Settling[] {
  const conflicts = new Map(conflictsIn(root, folder).map((one) => [keyText(one.key), one]));
  return keys.map((key) => {
    const look = lookTitle(key.component, key.look);
    const conflict = conflicts.get(keyText(key)) ?? fail('conflict-gone', { look, capture: key.capture });
    const side = conflict.sides[take] ?? fail('conflict-side', { look, capture: key.capture, take });
    return { conflict, side };
  });
}

/** The files of some sides, in the places of what is in conflict. */
function changeOf(folder: string, all: readonly Settling[]): Change {
  const below = `${folder.replace(/\/$/, '')}/`;
  const change: Change = { writes: new Map(), removals: [] };
  for (const { conflict, side } of all)
    for (const ending of endings)
      change.writes.set(conflict.stem.slice(below.length) + ending, () => side.files[ending]);
  return change;
}

/**
 * Takes what one side of a merge has approved for some captures, all or none: the files become that side's, and git is
 * told that they are settled.
 * @throws ProblemError with nothing settled
 */
export function settle(desk: Desk, request: DecisionRequest, keys: readonly CaptureKey[], batch: number): void {
  const { store, root } = desk;
  const { take, why = null } = request;
  const shelf = shelfOf(desk);
  if (shelf === null || take === undefined) return;
  const all = meant(root, shelf.folder, keys, take);
  const who = request.who ?? personOf(root);
  const where = whereaboutsOf(root);
  const append = (): void =>
    store.together(() => {
      for (const { conflict, side } of all) {
        keepSides(store, conflict);
        const markup = store.blobs.put(Buffer.from(JSON.stringify(side.markup)), 'application/json');
        const { fingerprint } = side.manifest;
        const taken = { hash: side.side.hash, markup, fingerprint, manifest: null, file: `${conflict.stem}.json` };
        const from = { run: null, sources: null, ...where };
        const former = JSON.stringify(keepFormer(store, shelf, conflict.key));
        const kept = { batch, undoes: null, former, fixer: null };
        const decision: NewDecision = { ...conflict.key, who, kind: 'approve', why, ...taken, ...from, ...kept };
        store.decisions.add(decision);
      }
    });
  const home = join(root, shelf.folder);
  recover(home);
  carryOutTogether(home, changeOf(shelf.folder, all), append);
  markSettled(
    root,
    all.flatMap(({ conflict }) => endings.map((ending) => conflict.stem + ending)),
  );
}
