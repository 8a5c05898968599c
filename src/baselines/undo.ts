/** Takes decisions back: with new records, and with the files that the folder had before. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { Undone, UndoRequest } from '../core/api/api.ts';
import { lookTitle } from '../core/look/look.ts';
import { fail } from '../core/problem/problem.ts';
import type { Decision, Store } from '../store/index.ts';
import { type Desk, shelfOf } from './desk.ts';
import type { FormerFiles } from './former.ts';
import { markOpen, personOf, whereaboutsOf } from './git.ts';
import { type Change, carryOutTogether, recover } from './journal.ts';
import { type Manifest, parseManifest } from './manifest.ts';
import { addShared, sharedFiles } from './shared.ts';
import { holdsBaseline } from './write.ts';

/** Something else has been decided, or the folder has changed: what would come back is not what was there. */
function refuseSuperseded(desk: Desk, decision: Decision): void {
  const { store } = desk;
  const shelf = shelfOf(desk);
  const { kind, hash, component, look, capture } = decision;
  const isNewest =
    kind === 'reject'
      ? store.decisions.about(decision, decision)?.id === decision.id
      : store.decisions.baseline(decision)?.id === decision.id;
  const isKept = kind === 'reject' || shelf === null || holdsBaseline(shelf, decision, hash);
  if (!isNewest || !isKept) fail('undo-superseded', { look: lookTitle(component, look), capture });
}

/** The files that were there before some decisions, with those that they shared, which may have been tidied away. */
function formerChange(store: Store, home: string, decisions: readonly Decision[]): Change {
  const { blobs } = store;
  const change: Change = { writes: new Map(), removals: [] };
  const sharedOf = sharedFiles(store);
  for (const { former } of decisions)
    for (const [path, hash] of Object.entries(JSON.parse(former ?? '{}') as FormerFiles)) {
      if (hash === null) {
        if (existsSync(join(home, path))) change.removals.push(path);
        continue;
      }
      const { bytes } = blobs.get(hash) ?? fail('internal', { error: `${hash} is missing` });
      change.writes.set(path, () => bytes);
      if (path.endsWith('.json')) addShared(home, sharedOf(namedIn(bytes.toString('utf8'))), change);
    }
  return change;
}

/** What a description says of shared files; nothing where a merge had left it in conflict. */
function namedIn(description: string): Pick<Manifest, 'sheets' | 'drawings' | 'assets'> {
  try {
    const about = parseManifest(description);
    if (about.format === 2) return about;
  } catch {
    // It is restored as it was, whatever that is.
  }
  return { sheets: [], assets: {} };
}

/** The files of a capture, relative to the project, that a merge had left in conflict before a decision. */
function conflictFiles({ blobs }: Store, folder: string, { former }: Decision): string[] {
  const files = Object.entries(JSON.parse(former ?? '{}') as FormerFiles);
  const isOpen = files.some(([path, hash]) => path.endsWith('.json') && hash && /^<{7} /m.test(textOf(blobs, hash)));
  return isOpen ? files.flatMap(([path, hash]) => (hash === null ? [] : [join(folder, path)])) : [];
}

const textOf = (blobs: Store['blobs'], hash: string): string => blobs.get(hash)?.bytes.toString('utf8') ?? '';

/**
 * Takes back everything that was decided at once, whole or not at all.
 * @throws ProblemError `nothing-to-undo`, `undo-superseded`, with nothing taken back
 */
export function undo(desk: Desk, { batch: wanted, who: named }: UndoRequest): Undone {
  const { store, root, folder } = desk;
  const batch = wanted ?? store.decisions.lastBatch() ?? fail('nothing-to-undo');
  const decisions = store.decisions.ofBatch(batch);
  const said = store.explanations.ofBatch(batch);
  const causes = said.some(({ kind }) => kind === 'undo') ? [] : said;
  const first = decisions[0] ?? causes[0] ?? fail('nothing-to-undo');
  for (const one of decisions) refuseSuperseded(desk, one);
  const who = named ?? personOf(root);
  const where = whereaboutsOf(root);
  const append = (): void =>
    store.together(() => {
      for (const { id, at: _, ...about } of decisions)
        store.decisions.add({
          ...about,
          ...where,
          who,
          kind: 'undo',
          why: null,
          batch: null,
          undoes: id,
          former: null,
        });
      store.explanations.decide(
        causes.map(({ cause, pair }) => ({ cause, pair, kind: 'undo', who, why: null, fixer: null, batch })),
      );
    });
  if (folder === null || first.kind === 'reject') append();
  else {
    const home = join(root, folder);
    recover(home);
    carryOutTogether(home, formerChange(store, home, decisions), append);
    markOpen(
      root,
      decisions.flatMap((decision) => conflictFiles(store, folder, decision)),
    );
  }
  const captures = decisions.map(({ component, look, environment, capture }) => ({
    component,
    look,
    environment,
    capture,
  }));
  return { batch, kind: first.kind === 'reject' ? 'reject' : 'approve', who: first.who, captures };
}
