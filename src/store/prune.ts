/** Removes what nobody needs any more: old runs, and blobs that nothing refers to. */
import type { Db } from './database.ts';

/** What was removed: results; and since blobs were looked for last, runs and bytes of blobs. */
export type Pruned = { runs: number; results: number; bytes: number };

/** So many explanations of changes are kept, the newest: one that is gone is found out again when somebody asks. */
const mostExplanations = 20_000;

/** So many findings of pages and pictures: a look needs four, or it is looked at again. */
const mostFindings = 200_000;

const most: Readonly<Record<string, number>> = {
  explanations: mostExplanations,
  found_edits: mostExplanations,
  contrasts: mostFindings,
};

/** How many rows a transaction removes: others must not wait for long. */
const batch = 500;

/** Blobs that nothing refers to are looked for among all: once so large a part of the results has been removed. */
const worthLooking = 1 / 20;

/** Whoever waited for a run may still be reading it for so long after its end, in ms. */
const readingTime = 60_000;

/** Runs that stay: the newest of those that have begun, and all that wait, go on or may still be read. */
const keptRuns = `kept AS MATERIALIZED (
  SELECT id, reused FROM runs WHERE finished IS NULL OR finished >= @since
  UNION ALL
  SELECT * FROM (SELECT id, reused FROM runs WHERE status <> 'queued' ORDER BY id DESC LIMIT @keep)
)`;

/** Results of other runs, but for those that the board still shows or that a kept run has reused. */
const oldResults = `WITH ${keptRuns} SELECT id FROM results WHERE run NOT IN (SELECT id FROM kept)
  AND id NOT IN (SELECT result FROM present WHERE result IS NOT NULL)
  AND id NOT IN (SELECT value FROM kept, json_each(kept.reused)) LIMIT ${batch}`;

/** Other runs of which nothing is left. */
const emptyRuns = `WITH ${keptRuns} DELETE FROM runs
  WHERE id NOT IN (SELECT id FROM kept) AND id NOT IN (SELECT run FROM results)`;

type Keeping = { keep: number; since: string };

type ResultRefs = {
  coverage: string | null;
  base: string;
  patches: string;
  lanes: string;
  source: string | null;
  files: string | null;
};
type CaptureRefs = { hash: string; about: string; markup: string; manifest: string | null };

type Read = (hash: string) => Buffer | null;

/** Finds every hash that something refers to. */
function referredOf(db: Db, read: Read): () => Set<string> {
  const results = db.prepare<[], ResultRefs>('SELECT base, patches, lanes, source, files, coverage FROM results');
  const captures = db.prepare<[], CaptureRefs>('SELECT hash, about, markup, manifest FROM captures');
  const decisions = db.prepare<[], Omit<CaptureRefs, 'about'> & { former: string | null }>(
    'SELECT hash, markup, manifest, former FROM decisions',
  );
  const sources = db.prepare<[], { sources: string }>(
    'SELECT sources FROM runs WHERE sources IS NOT NULL UNION SELECT sources FROM decisions WHERE sources IS NOT NULL',
  );
  const parsed = <T>(hash: string): T | null => {
    const bytes = read(hash);
    return bytes && (JSON.parse(bytes.toString('utf8')) as T);
  };

  return () => {
    const found = new Set<string>();
    const add = (...hashes: (string | null | undefined)[]): void => {
      for (const hash of hashes) if (hash) found.add(hash);
    };
    const addManifest = (manifest: string | null): void => {
      if (manifest === null || found.has(manifest)) return;
      add(manifest);
      type Parts = { moment: string; sheets: string[]; drawings?: string[]; assets: Record<string, string> };
      const parts = parsed<Parts>(manifest);
      if (parts) add(parts.moment, ...parts.sheets, ...(parts.drawings ?? []), ...Object.values(parts.assets));
    };
    for (const { base, patches, lanes, source, files, coverage } of results.all()) {
      add(base, patches, lanes, source, coverage);
      const kept =
        files === null
          ? Object.values(parsed<{ assets: Record<string, string> }>(lanes)?.assets ?? {})
          : JSON.parse(files);
      add(...(kept as string[]));
    }
    for (const { hash, about, markup, manifest } of captures.all()) {
      const { baseline, difference } = JSON.parse(about) as { baseline: string | null; difference: string | null };
      add(hash, markup, baseline, difference);
      addManifest(manifest);
    }
    for (const { hash, markup, manifest, former } of decisions.all()) {
      add(hash, markup);
      if (former) add(...Object.values(JSON.parse(former) as Record<string, string | null>));
      addManifest(manifest);
    }
    for (const { sources: hash } of sources.all())
      add(hash, ...Object.values(parsed<Record<string, string>>(hash) ?? {}));
    return found;
  };
}

export function prunerOf(db: Db, read: Read): (keep: number) => Pruned {
  const old = db.prepare<Keeping, { id: number }>(oldResults);
  const dropCaptures = db.prepare('DELETE FROM captures WHERE result = ?');
  const dropResult = db.prepare('DELETE FROM results WHERE id = ?');
  const dropRuns = db.prepare<Keeping>(emptyRuns);
  const dropExplanations = Object.entries(most).map(([table, rows]) =>
    db.prepare(`DELETE FROM ${table} WHERE id <= (SELECT max(id) FROM ${table}) - ${rows}`),
  );
  const blobs = db.prepare<[], { hash: string; dictionary: string | null }>('SELECT hash, dictionary FROM blobs');
  const count = db.prepare<[], { n: number }>('SELECT count(*) AS n FROM results');
  const referred = referredOf(db, read);
  const sizeOf = db.prepare<[string], { bytes: number }>('SELECT length(bytes) AS bytes FROM blobs WHERE hash = ?');
  const dropBlob = db.prepare('DELETE FROM blobs WHERE hash = ?');
  const dropThumbnail = db.prepare('DELETE FROM thumbnails WHERE picture = ?');
  const removeResults = db.transaction((ids: readonly number[]) => {
    for (const id of ids) {
      dropCaptures.run(id);
      dropResult.run(id);
    }
  });
  const removeBlobs = db.transaction((hashes: readonly string[]) => {
    let bytes = 0;
    for (const hash of hashes) {
      bytes += sizeOf.get(hash)?.bytes ?? 0;
      dropBlob.run(hash);
      dropThumbnail.run(hash);
    }
    return bytes;
  });
  /** A blob is unpacked with the one it was packed from. */
  const unreferred = (): string[] => {
    const all = blobs.all();
    const from = new Map(all.map(({ hash, dictionary }) => [hash, dictionary]));
    const wanted = new Set<string>();
    for (const hash of referred())
      for (let at: string | null | undefined = hash; at && !wanted.has(at); at = from.get(at)) wanted.add(at);
    return all.flatMap(({ hash }) => (wanted.has(hash) ? [] : [hash]));
  };

  /** What was removed since blobs were looked for; how many results an earlier service has removed is not known. */
  const since = { runs: 0, results: Number.POSITIVE_INFINITY };

  return (keep) => {
    let removed = 0;
    const keeping: Keeping = { keep, since: new Date(Date.now() - readingTime).toISOString() };
    for (let ids = old.all(keeping); ids.length > 0; ids = old.all(keeping)) {
      removeResults(ids.map(({ id }) => id));
      removed += ids.length;
    }
    for (const drop of dropExplanations) drop.run();
    since.runs += dropRuns.run(keeping).changes;
    since.results += removed;
    // Blobs are left without an owner only by results that go.
    if (removed === 0 || since.results < count.get()!.n * worthLooking) return { runs: 0, results: removed, bytes: 0 };
    const { runs } = since;
    Object.assign(since, { runs: 0, results: 0 });
    const useless = unreferred();
    let bytes = 0;
    for (let at = 0; at < useless.length; at += batch) bytes += removeBlobs(useless.slice(at, at + batch));
    return { runs, results: removed, bytes };
  };
}
