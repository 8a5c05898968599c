/** Asks for everything that the pages of a site show, so that it is taken down. */
import type { Client } from '../client/client.ts';
import type { CauseList } from '../core/cause/cluster.ts';
import type { HandbookPage } from '../core/handbook/page.ts';
import { picturesIn } from '../core/handbook/words.ts';
import { type BoardLook, beginningOf } from '../core/run/board.ts';
import { isUndecided, type ResultSummary, type RunSummary } from '../core/run/run.ts';
import { hasFailed } from '../core/run/verdict.ts';
import type { Timeline } from '../core/timeline/timeline.ts';
import { endingOf, type Objects } from './objects.ts';
import type { Recorder } from './recorder.ts';

export type Gathering = {
  recorder: Recorder;
  /** Origin of recorded files. */
  stage: string;
  objects: Objects;
  run: RunSummary;
  board: readonly BoardLook[];
  results: readonly ResultSummary[];
  tell(done: number, all: number): void;
};

const missing = (): null => null;

/** Every hash of a picture that something names. */
const hashesIn = (value: unknown): string[] => JSON.stringify(value).match(/(?<=")[0-9a-f]{64}(?=")/g) ?? [];

async function pictures({ file, client }: Recorder, value: unknown): Promise<void> {
  for (const hash of new Set(hashesIn(value))) await file(client.pictureUrl(hash));
}

/** Recorded files by hash and ending: the drawing page asks for them so. */
function filesOf({ stage, objects }: Gathering): (hash: string) => Promise<string | null> {
  const known = new Map<string, Promise<string | null>>();
  const fetched = async (hash: string): Promise<string | null> => {
    const reply = await fetch(`${stage}/asset/${hash}`);
    if (!reply.ok) return null;
    return objects.put(new Uint8Array(await reply.arrayBuffer()), endingOf(reply.headers.get('content-type') ?? ''));
  };
  return (hash) => {
    const asked = known.get(hash) ?? fetched(hash);
    known.set(hash, asked);
    return asked;
  };
}

/** A timeline whose files are those of the site. */
async function timelineOf(
  recorder: Recorder,
  id: number,
  fileOf: (hash: string) => Promise<string | null>,
): Promise<void> {
  const timeline: Timeline = await recorder.client.timeline(id);
  const assets: Record<string, string> = {};
  for (const [address, hash] of Object.entries(timeline.assets)) {
    const name = await fileOf(hash);
    if (name) assets[address] = name;
  }
  if (Object.keys(timeline.assets).length > 0) recorder.put(`/api/results/${id}/timeline`, { ...timeline, assets });
}

async function resultOf(gathering: Gathering, result: ResultSummary, fileOf: (hash: string) => Promise<string | null>) {
  const { recorder, results } = gathering;
  const { client } = recorder;
  const { id, component, look, environment, captures } = result;
  await pictures(recorder, await client.result(id));
  await timelineOf(recorder, id, fileOf);
  const shown = new Set(results.map((one) => one.id));
  const history = await client.history({ component, look, environment });
  // Results of other runs are no part of this.
  const own = { ...history, results: history.results.filter((one) => shown.has(one.id)) };
  recorder.put(`/api/looks/history?${new URLSearchParams({ component, look, environment })}`, own);
  if (hasFailed(result)) await client.since(id).catch(missing);
  for (const { name, state } of captures) if (state.kind !== 'same') await client.markup(id, name).catch(missing);
}

/** What each cause looks like alone; so many are drawn at most. */
const mostAlone = 300;

async function reviewOf({ recorder, results }: Gathering): Promise<void> {
  const { client } = recorder;
  const shown = new Set(results.map(({ id }) => id));
  const isShown = ({ result }: { result: number }): boolean => shown.has(result);
  const all: CauseList = await client.causes();
  const causes = all.causes
    .map((cause) => ({ ...cause, captures: cause.captures.filter(isShown) }))
    .filter(({ captures }) => captures.length > 0);
  const list: CauseList = {
    ...all,
    causes,
    unexplained: all.unexplained.filter(isShown),
    withoutBaseline: all.withoutBaseline.filter(isShown),
  };
  recorder.put('/api/causes', list);
  const each = causes.flatMap(({ key, captures }) => captures.map(({ result, capture }) => ({ key, result, capture })));
  for (const { key, result, capture } of each.slice(0, mostAlone))
    await pictures(recorder, await client.alone(result, capture, key).catch(missing));
}

/** Pictures that a page shows beside those of its looks. */
function namedIn({ prose, proseFile, source, file, looks }: HandbookPage): string[] {
  const inWords = prose === null ? [] : picturesIn(prose, proseFile ?? source ?? file);
  const references = looks.flatMap(({ reference }) =>
    reference && reference.kind !== 'link' ? [reference.address] : [],
  );
  return [...inWords, ...references];
}

async function handbookOf(recorder: Recorder): Promise<void> {
  const { client, file } = recorder;
  await client.tokens();
  for (const { component } of await client.handbook()) {
    const page = await client.handbookPage(component).catch(missing);
    for (const path of page ? namedIn(page) : []) await file(client.projectFileUrl(path));
    await pictures(recorder, page);
  }
}

async function coverageOf(client: Client): Promise<void> {
  const report = await client.coverage().catch(missing);
  for (const { path } of report?.files ?? []) await client.coverageOf(path).catch(missing);
}

/** So many are asked for at a time. */
const together = 6;

/** Asks for it all; `tell` hears how far that is, by looks. */
export async function gather(gathering: Gathering): Promise<void> {
  const { recorder, run, board, results, tell } = gathering;
  const { client, file, put } = recorder;
  await client.board();
  put('/api/runs?limit=1', [run]);
  put('/api/sittings', []);
  put('/api/components', []);
  const fileOf = filesOf(gathering);
  const waiting = [...results];
  let done = 0;
  const work = async (): Promise<void> => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      await resultOf(gathering, next, fileOf);
      tell(++done, results.length);
    }
  };
  await Promise.all(Array.from({ length: together }, work));
  const onBoard = board.flatMap(({ variants }) => variants.flatMap(({ picture }) => picture ?? []));
  // Others are shown in a row below what there is to decide.
  const toDecide = results.flatMap(({ captures }) => captures.filter(isUndecided).map(({ hash }) => hash));
  for (const picture of new Set([...onBoard, ...toDecide].map(beginningOf))) await file(client.thumbnailUrl(picture));
  await reviewOf(gathering);
  await pictures(recorder, await client.accessibility());
  await coverageOf(client);
  await handbookOf(recorder);
}
