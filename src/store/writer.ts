/** Writes results, with everything that they are made of. */
import type { Basis } from '../core/run/basis.ts';
import type { FinishedCapture, FinishedLook } from '../core/run/finished.ts';
import { type CanonicalMoment, drawingsOf, sheetsOf } from '../core/moment/canonical.ts';
import { isText } from '../core/moment/moment.ts';
import type { ResultSummary } from '../core/run/run.ts';
import type { Timeline } from '../core/timeline/timeline.ts';
import { type Blobs, hashOf } from './blobs.ts';
import type { Db } from './database.ts';

/** What is kept of a result as JSON. */
export type About = Omit<ResultSummary, 'id' | 'run' | 'environment' | 'repetition' | 'verdict' | 'captures'>;

/** A look comes to what a result says. */
export const nowStands = `UPDATE present SET result = r.id FROM (SELECT * FROM results WHERE id = ?) r
  WHERE present.component = r.component AND present.look = r.look AND present.environment = r.environment`;

const json = 'application/json';
const text = (value: unknown): Buffer => Buffer.from(JSON.stringify(value));

/** What is told of a result, but for what has a column of its own. */
const aboutOf = ({ info: { given: _, ...info }, timeline, ...result }: FinishedLook): About => ({
  ...info,
  problem: result.problem,
  notes: result.notes,
  orderDependent: result.orderDependent,
  isUnsteady: result.isUnsteady,
  isContradiction: result.isContradiction,
  took: result.took,
  steps: timeline.steps.length,
  failedStep: result.failedStep,
});

/** Every text that moments hold besides nodes: of style sheets, and of what canvases show. */
function* textsIn({ base, patches }: Timeline): Generator<{ text: string; type: string }> {
  for (const { sheets, nodes } of [base, ...patches]) {
    for (const sheet of Object.values(sheets ?? {}))
      if (sheet && 'css' in sheet) yield { text: sheet.css, type: 'text/css' };
    for (const node of Object.values(nodes ?? {}))
      if (node && !isText(node) && node.state?.pixels) yield { text: node.state.pixels, type: 'text/plain' };
  }
}

/** Keeps the texts that a moment names by their hashes, as far as they are not there yet. */
function keepTexts(blobs: Blobs, moment: CanonicalMoment, timeline: Timeline): void {
  const missing = new Set([...sheetsOf(moment), ...drawingsOf(moment)].filter((hash) => !blobs.has(hash)));
  if (missing.size === 0) return;
  for (const { text: content, type } of textsIn(timeline)) {
    const bytes = Buffer.from(content);
    if (missing.delete(hashOf(bytes))) blobs.put(bytes, type);
    if (missing.size === 0) return;
  }
}

/** Keeps captures: each points at everything it is made of by content. */
function captureWriterOf(db: Db, blobs: Blobs) {
  const insert = db.prepare(
    `INSERT INTO captures (result, name, hash, about, markup, manifest, fingerprint, unstable)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  return (result: number, capture: FinishedCapture, timeline: Timeline, isUnstable: boolean): void => {
    const { summary: about, png, differencePng, redrawn, moment, markup, fingerprint } = capture;
    blobs.keep(about.hash, png, 'image/png');
    if (differencePng) blobs.put(differencePng, 'image/png');
    if (redrawn) blobs.keep(redrawn.hash, redrawn.png, 'image/png');
    keepTexts(blobs, moment, timeline);
    const kept = blobs.put(text(moment), json);
    const { width, height } = about;
    const manifest = {
      picture: about.hash,
      moment: kept,
      sheets: sheetsOf(moment).filter((hash) => blobs.has(hash)),
      drawings: drawingsOf(moment).filter((hash) => blobs.has(hash)),
      assets: timeline.assets,
      fingerprint,
      width,
      height,
      ...(about.allowances.length > 0 && { allowances: about.allowances }),
    };
    const manifestHash = blobs.put(text(manifest), json);
    const markupHash = blobs.put(text(markup), json);
    const row = [result, about.name, about.hash, JSON.stringify(about), markupHash, manifestHash, fingerprint];
    insert.run(...row, isUnstable ? 1 : 0);
  };
}

type Write = (run: number, result: FinishedLook, unstable: ReadonlySet<string>, basis: Basis | null) => number;

/** Keeps results, with their captures and everything that these are made of, and says their ids. */
export function writerOf(db: Db, blobs: Blobs): Write {
  const insert = db.prepare(
    `INSERT INTO results
       (run, component, look, environment, repetition, verdict, about, base, patches, lanes, source, files,
         key, baselines, public, coverage, findings)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const stand = db.prepare(nowStands);
  const keepCapture = captureWriterOf(db, blobs);

  return db.transaction<Write>((run, result, unstable, basis) => {
    const { info, timeline } = result;
    const base = blobs.put(text(timeline.base), json);
    // Patches and steps speak of the same elements and words as the base: packed from it they shrink tenfold.
    const patches = blobs.put(text(timeline.patches), json, base);
    const lanes = blobs.put(
      text({
        steps: timeline.steps,
        marks: timeline.marks,
        taken: timeline.taken,
        assets: timeline.assets,
        flames: timeline.flames,
      }),
      json,
      patches,
    );
    const source = timeline.source === null ? null : blobs.put(Buffer.from(timeline.source), 'text/plain');
    for (const { type, body } of result.files.values()) blobs.put(body, type);
    const files = JSON.stringify([...result.files.keys()]);
    const id = Number(
      insert.run(
        run,
        info.component,
        info.look,
        result.environment,
        result.repetition,
        result.verdict,
        JSON.stringify(aboutOf(result)),
        base,
        patches,
        lanes,
        source,
        files,
        basis?.key,
        basis?.baselines,
        basis && JSON.stringify(basis.files),
        result.coverage && blobs.put(text(result.coverage), json),
        result.findings.length > 0 ? JSON.stringify(result.findings) : null,
      ).lastInsertRowid,
    );
    for (const capture of result.captures) keepCapture(id, capture, timeline, unstable.has(capture.summary.name));
    stand.run(id);
    return id;
  });
}
