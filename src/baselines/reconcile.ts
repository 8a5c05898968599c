/** Brings the folder of baselines and the records together at the start of a run: the folder wins. */
import { createHash } from 'node:crypto';
import {
  type Approved,
  type ApprovedMoment,
  type Baseline,
  type BaselineOf,
  type CaptureKey,
  keyText,
  type Unreadable,
} from '../core/baseline/baseline.ts';
import type { Problem } from '../core/problem/problem.ts';
import type { Store } from '../store/index.ts';
import { emptyCache, type FolderBaseline, type FolderContents, readFolder } from './folder.ts';
import { commitOf } from './git.ts';

/** What captures are compared with in one run. */
export type BaselineSet = {
  of: BaselineOf;
  /** What has been approved of a look, by capture. */
  approved(component: string, look: string, environment: string): Record<string, Approved>;
  /** A hash that is another one when anything that a look's captures are compared with has changed. */
  identity(component: string, look: string, environment: string): string;
  /** What could not be read. */
  unreadable: Problem[];
  /** Every baseline that there is, with the picture's file in the project. */
  files: { key: CaptureKey; file: string }[];
};

const digest = (text: string): string => createHash('sha256').update(text).digest('base64url');

/** Hashes of the markup of baselines, which stay the same values for as long as their files do. */
const markupHashes = new WeakMap<FolderBaseline, string>();

/** Takes a baseline of the folder into the records, unless they know it as the newest already. */
function adopt(store: Store, baseline: FolderBaseline, commit: () => string | null): void {
  const { key, about, png, hash, markup } = baseline;
  const before = markupHashes.get(baseline);
  // What nothing refers to any more may have been removed meanwhile.
  const isKept = before !== undefined && store.blobs.has(before);
  const markupHash = isKept ? before : store.blobs.put(Buffer.from(JSON.stringify(markup)), 'application/json');
  markupHashes.set(baseline, markupHash);
  const known = store.decisions.baseline(key);
  if (known?.hash === hash && known.markup === markupHash) return;
  store.blobs.keep(hash, png, 'image/png');
  store.decisions.add({
    ...key,
    who: about.approved?.by ?? 'unknown',
    kind: 'adopt',
    why: about.approved?.why ?? null,
    run: null,
    hash,
    markup: markupHash,
    manifest: null,
    fingerprint: about.fingerprint,
    commit: commit(),
  });
}

function approvedOf({ about, hash }: FolderBaseline): Approved {
  const { fingerprint } = about;
  const shows = about.format === 2 ? { moment: about.moment, assets: about.assets } : null;
  return { picture: hash, fingerprint, shows };
}

/** Takes in what the folder has that the records do not, and answers for a run. */
export function takeInFolder(store: Store, root: string, folder: string | null, cache = emptyCache()): BaselineSet {
  if (folder === null) return fromRecords(store);
  const contents = readFolder(root, folder, cache);
  const before = takenIn.get(contents);
  if (before && before.decisions === store.decisions.last()) return before.set;
  const set = takeIn(store, root, contents);
  takenIn.set(contents, { decisions: store.decisions.last(), set });
  return set;
}

/** What came of folders that were taken in, and the last decision then. */
const takenIn = new WeakMap<FolderContents, { decisions: number; set: BaselineSet }>();

function takeIn(store: Store, root: string, { baselines, unreadable }: FolderContents): BaselineSet {
  const found = new Map<string, Baseline | Unreadable>();
  const pictures = new Map<string, Record<string, Approved>>();
  const identities = new Map<string, string[]>();
  const hashes = new Map<string, string>();
  let known: { commit: string | null } | null = null;
  const commit = (): string | null => {
    known ??= { commit: commitOf(root) };
    return known.commit;
  };
  const lookText = (component: string, look: string, environment: string): string =>
    JSON.stringify([component, look, environment]);
  store.together(() => {
    for (const baseline of baselines) {
      const { key, png, hash, markup, about, file } = baseline;
      found.set(keyText(key), { png, hash, markup, fingerprint: about.fingerprint, file });
      const look = lookText(key.component, key.look, key.environment);
      pictures.set(look, { ...pictures.get(look), [key.capture]: approvedOf(baseline) });
      const parts = [key.capture, hash, about.fingerprint, about.format === 2 ? about.moment : markup];
      identities.set(look, [...(identities.get(look) ?? []), JSON.stringify(parts)]);
      adopt(store, baseline, commit);
    }
  });
  for (const { key, problem } of unreadable)
    if (key) {
      found.set(keyText(key), { unreadable: problem });
      identities.set(lookText(key.component, key.look, key.environment), [JSON.stringify(problem)]);
    }
  return {
    of: (component, look, environment, capture) =>
      found.get(keyText({ component, look, environment, capture })) ?? null,
    approved: (component, look, environment) => pictures.get(lookText(component, look, environment)) ?? {},
    identity(component, look, environment) {
      const text = lookText(component, look, environment);
      const known = hashes.get(text) ?? digest((identities.get(text) ?? []).toSorted().join('\n'));
      hashes.set(text, known);
      return known;
    },
    unreadable: unreadable.map(({ problem }) => problem),
    files: baselines.map(({ key, file }) => ({ key, file })),
  };
}

/** Baselines of a project that keeps none as files. */
function fromRecords(store: Store): BaselineSet {
  return {
    unreadable: [],
    files: [],
    approved: (component, look, environment) =>
      Object.fromEntries(
        store.decisions.standing(component, look, environment).map(({ capture, hash, fingerprint, manifest }) => {
          const kept = manifest && store.blobs.get(manifest);
          const shows = kept ? (JSON.parse(kept.bytes.toString('utf8')) as ApprovedMoment) : null;
          return [capture, { picture: hash, fingerprint, shows }];
        }),
      ),
    identity: (component, look, environment) => digest(store.decisions.identityOf(component, look, environment)),
    of: (component, look, environment, capture) => {
      const decision = store.decisions.baseline({ component, look, environment, capture });
      const png = decision && store.blobs.get(decision.hash);
      const markup = decision && store.blobs.get(decision.markup);
      if (!decision || !png || !markup) return null;
      const { hash, fingerprint } = decision;
      return {
        png: png.bytes,
        hash,
        fingerprint,
        markup: JSON.parse(markup.bytes.toString('utf8')) as string[],
        file: null,
      };
    },
  };
}
