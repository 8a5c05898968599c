/** Publishes what a project's looks come to: a folder of files that any server can send. */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { array, number, object, string } from 'yup';
import type { Client } from '../client/client.ts';
import type { ProjectInfo } from '../core/api/api.ts';
import { onDisk } from '../core/problem/disk.ts';
import { fail, messageOf } from '../core/problem/problem.ts';
import { type BoardLook, packBoard, withResults } from '../core/run/board.ts';
import type { ResultSummary, RunSummary } from '../core/run/run.ts';
import {
  entryName,
  noVerdicts,
  type SiteEntry,
  siteFormat,
  type SiteList,
  type SitePage,
  withEntry,
} from '../core/site/site.ts';
import { entryPage, firstPage, putApp } from './app.ts';
import { gather } from './gather.ts';
import { type Objects, objectsIn, writeWhole } from './objects.ts';
import { recorderOf } from './recorder.ts';

export type PublishOptions = {
  /** Where the service of the project is, and the client of it. */
  url: string;
  root: string;
  client: Client;
  folder: string;
  /** The run that is published; with null what every look comes to now. */
  run: number | null;
  /** Writes reports of a run into a folder, and says what they are called. */
  writeReports(folder: string, run: RunSummary, results: ResultSummary[]): Promise<string[]>;
  tell(done: number, all: number): void;
};

export type Published = { entry: SiteEntry; folder: string; shown: number; written: number; notes: string[] };

const entryShape = object({
  name: string().required(),
  commit: string().nullable().defined(),
  branch: string().nullable().defined(),
  at: string().required(),
  looks: number().required(),
  verdicts: object().required(),
  answers: string().required(),
  reports: array().of(string().required()),
}).required();
const listShape = object({ entries: array().of(entryShape).required() });

/** What was published before. @throws ProblemError `site-folder` for a folder that holds something else */
function listIn(folder: string, project: string): SiteList {
  const path = join(folder, 'site.json');
  if (!existsSync(path)) {
    const others = existsSync(folder) ? readdirSync(folder).filter((name) => !name.startsWith('.')) : [];
    if (others.length > 0) return fail('site-folder', { folder, why: `it holds other files, such as ${others[0]}.` });
    return { format: siteFormat, project, entries: [] };
  }
  try {
    const list = JSON.parse(readFileSync(path, 'utf8')) as { format?: unknown } | null;
    if (list?.format !== siteFormat) throw new Error(`its format is not ${siteFormat}`);
    return listShape.validateSync(list, { strict: true }) as SiteList;
  } catch (error) {
    return fail('site-folder', { folder, why: `its site.json cannot be read (${messageOf(error)}).` });
  }
}

/** The results that are shown, and the run that gives them a name. @throws ProblemError `site-nothing` */
async function chosen(client: Client, wanted: number | null): Promise<{ run: RunSummary; results: ResultSummary[] }> {
  const run = wanted === null ? (await client.runs(1))[0] : await client.run(wanted);
  if (!run) return fail('site-nothing');
  // Of a run that repeated its looks the first time is shown; each look has one newest result, whichever time it was.
  const firsts = async (id: number): Promise<ResultSummary[]> =>
    (await client.runResults(id)).filter(({ repetition }) => repetition === 1);
  const results = wanted === null ? await client.looks() : await firsts(wanted);
  return results.length === 0 ? fail('site-nothing') : { run, results };
}

/** Puts the stages of the project into a folder of their own, which is called by what it holds. */
async function putStages(client: Client, folder: string): Promise<{ pages: Record<string, string>; notes: string[] }> {
  const { files, pages, unusable } = await client.buildStages();
  const names = Object.keys(files).sort();
  const hash = createHash('sha256');
  for (const name of names) hash.update(name).update(files[name]!);
  const id = hash.digest('hex').slice(0, 12);
  for (const name of names) {
    const path = join(folder, 'stages', id, name);
    if (!existsSync(path)) writeWhole(path, Buffer.from(files[name]!, 'base64'));
  }
  const notes = unusable.map(
    (file) => `${file} could not be built as a live page: its looks have none in the handbook.`,
  );
  return {
    pages: Object.fromEntries(Object.entries(pages).map(([file, name]) => [file, `../stages/${id}/${name}`])),
    notes,
  };
}

/** A project as a site may tell of it: nothing of the machine or the service. */
const told = (project: ProjectInfo): ProjectInfo => ({
  ...project,
  root: project.name,
  url: '',
  stage: '',
  live: '',
  person: '',
  run: null,
  queued: [],
});

function entryOf(run: RunSummary, board: readonly BoardLook[], answers: string): Omit<SiteEntry, 'reports'> {
  const verdicts = noVerdicts();
  for (const { variants } of board) for (const { verdict } of variants) verdicts[verdict]++;
  const { commit, branch } = run;
  return {
    name: entryName(commit, run.id),
    commit,
    branch,
    at: new Date().toISOString(),
    looks: board.length,
    verdicts,
    answers,
  };
}

/** Writes the entry last, and the list after it: until then nobody is led to what is not there. */
function writeEntry(folder: string, list: SiteList, entry: SiteEntry, page: SitePage, app: string): void {
  writeWhole(join(folder, entry.name, 'index.html'), entryPage(app, page));
  const next = { ...list, entries: withEntry(list.entries, entry) };
  writeWhole(join(folder, 'index.html'), firstPage(next));
  writeWhole(join(folder, 'site.json'), `${JSON.stringify(next, null, 2)}\n`);
}

/**
 * Publishes into a folder, beside what was published there before.
 * @throws ProblemError `site-folder`, `site-nothing`
 */
export async function publish(options: PublishOptions): Promise<Published> {
  const { url, root, client, tell } = options;
  const folder = resolve(options.folder);
  const project = await client.project();
  const list = onDisk(folder, () => {
    const known = listIn(folder, project.name);
    mkdirSync(join(folder, 'objects'), { recursive: true });
    return known;
  });
  const { run, results } = await chosen(client, options.run);
  const board = withResults([], results);
  const objects: Objects = objectsIn(join(folder, 'objects'));
  const recorder = recorderOf(url, root, objects, (path, value) => {
    if (path === '/api/project') return told(value as ProjectInfo);
    return path === '/api/board' ? packBoard(board) : value;
  });
  await recorder.client.project();
  await gather({ recorder, stage: project.stage, objects, run, board, results, tell });
  const { pages, notes } = await putStages(client, folder);
  const app = putApp(folder);
  const answers = objects.putJson(JSON.stringify(recorder.answers));
  const bare = entryOf(run, board, answers);
  const { name, commit, branch, at } = bare;
  const reports = await options.writeReports(join(folder, name, 'reports'), run, results);
  const entry: SiteEntry = { ...bare, reports };
  const page: SitePage = {
    project: project.name,
    entry: { name, commit, branch, at },
    objects: '../objects/',
    answers,
    draw: `../app/${app}/draw.html`,
    stages: pages,
  };
  onDisk(folder, () => writeEntry(folder, list, entry, page, app));
  return { entry, folder, ...objects.sizes(), notes };
}
