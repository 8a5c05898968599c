/** The typed HTTP client of the service, for the command line and the console. */
import { EventSourceParserStream } from 'eventsource-parser/stream';
import {
  callerHeader,
  type ComponentInfo,
  type Comment,
  type CommentOn,
  type Decided,
  type DecisionRequest,
  type Draft,
  type KeepLinesRequest,
  type KeepRequest,
  type KeptFile,
  type LookHistory,
  type PictureComparison,
  type ProjectInfo,
  type Tidied,
  type Undone,
  type UndoRequest,
} from '../core/api/api.ts';
import type { Challenging, ChallengeRequest } from '../core/challenge/challenge.ts';
import type { FindingList } from '../core/accessibility/listing.ts';
import type { SincePassed } from '../core/cause/failing.ts';
import type { FoundEdits } from '../core/cause/found.ts';
import type { HandbookEntry, HandbookPage, TokenPage } from '../core/handbook/page.ts';
import type { IstanbulFile } from '../core/coverage/istanbul.ts';
import type { CoverageReport, FileLines } from '../core/coverage/report.ts';
import type { CauseList } from '../core/cause/cluster.ts';
import type { MarkupRow } from '../core/moment/markupRows.ts';
import { problem, ProblemError, type Problem } from '../core/problem/problem.ts';
import { type BoardLook, unpackBoard } from '../core/run/board.ts';
import type { LookInfo, LookName } from '../core/look/look.ts';
import type { Completion, Orders, SittingRequest, SittingState, TriedLine } from '../core/sitting/sitting.ts';
import type { Pointed } from '../core/wire/live.ts';
import type { InputRequest } from '../core/wire/wire.ts';
import type { ResultSummary, RunEvent, RunRequest, RunSummary } from '../core/run/run.ts';
import type { StageFiles } from '../core/site/site.ts';
import type { Timeline } from '../core/timeline/timeline.ts';

export type Client = {
  project(): Promise<ProjectInfo>;
  looks(): Promise<ResultSummary[]>;
  /** The looks that there are, as their files declare them. */
  catalogue(): Promise<LookInfo[]>;
  /** What every look stands at, in short. */
  board(): Promise<BoardLook[]>;
  history(look: { component: string; look: string; environment: string }): Promise<LookHistory>;
  runs(limit?: number): Promise<RunSummary[]>;
  run(id: number): Promise<RunSummary>;
  startRun(request: Partial<RunRequest>): Promise<RunSummary>;
  stopRun(id: number): Promise<RunSummary>;
  /** With `own` without those that the run has taken over from earlier runs. */
  runResults(id: number, own?: boolean): Promise<ResultSummary[]>;
  result(id: number): Promise<ResultSummary>;
  timeline(id: number): Promise<Timeline>;
  changes(): Promise<ResultSummary[]>;
  /** Why captures have changed that are not approved, by cause. */
  causes(): Promise<CauseList>;
  /** Where a failing look parts from the last time that it passed. */
  since(result: number): Promise<SincePassed>;
  /** Look files as pages that need no service: live, with their answers. They are built for it. */
  buildStages(): Promise<StageFiles>;
  /** Which edits did what a capture changed by; without one, that a look fails. It may be run several times for it. */
  edits(result: number, capture: string | null): Promise<FoundEdits>;
  /** Begins to challenge looks: things are made wrong in their pages, to see which checks notice it. */
  beginChallenge(request: ChallengeRequest): Promise<Challenging>;
  challenge(id: number): Promise<Challenging>;
  stopChallenge(id: number): Promise<Challenging>;
  /** The picture of a capture's baseline with one cause alone, by its hash; null where it cannot be drawn. */
  alone(result: number, capture: string, cause: string): Promise<{ hash: string | null }>;
  /** Findings of accessibility: of what every look comes to now, or of one run. */
  accessibility(run?: number): Promise<FindingList>;
  /** Writes down all findings that there are as known. */
  adoptFindings(): Promise<FindingList & { adopted: number; gone: number }>;
  /** How much of the sources the looks of a run have run; of the newest run that has counted without one. */
  coverage(run?: number): Promise<CoverageReport>;
  /** One of these sources, line by line. */
  coverageOf(path: string, run?: number): Promise<FileLines>;
  /** As Istanbul's tools read it. */
  coverageMap(run?: number): Promise<Record<string, IstanbulFile>>;
  /** The components of the handbook. */
  handbook(): Promise<HandbookEntry[]>;
  handbookPage(component: string): Promise<HandbookPage>;
  tokens(): Promise<TokenPage>;
  /** The address of a picture or PDF of the project. */
  projectFileUrl(path: string): string;
  /** The markup of a capture and of its baseline, as one tree of lines. */
  markup(result: number, capture: string): Promise<MarkupRow[]>;
  decide(request: DecisionRequest): Promise<Decided>;
  /** Takes back what was decided at once: the last decision, or one by its batch. */
  undo(request?: UndoRequest): Promise<Undone>;
  /** Leaves a comment on a cause, by its key, or on a capture. */
  comment(about: CommentOn, text: string, who?: string): Promise<Comment>;
  /** Says that somebody has looked at pairs of pictures. */
  see(pairs: readonly string[], who?: string): Promise<void>;
  /** Baselines whose look is gone; with `remove` they are taken away. */
  tidy(remove: boolean): Promise<Tidied>;
  /** The components that there are, the most imported ones first. */
  components(): Promise<ComponentInfo[]>;
  /** Drafts a look file for the component of a file, or for the one of that name; with `write` it is written. */
  draft(file: string, component: string | null, write: boolean): Promise<Draft>;
  /** A look gets another name: its baselines and its history go with it. The look file is not touched. */
  renameLook(from: LookName, to: string): Promise<{ moved: string[] }>;
  /** Keeps props of a stage in a look file, or with `write: false` shows what that would change. */
  keep(request: KeepRequest): Promise<KeptFile>;
  /** Keeps lines in the script of a look, or with `write: false` shows what that would change. */
  keepLines(request: KeepLinesRequest): Promise<KeptFile>;
  /** Takes back what was kept last, unless the file has been changed since. */
  undoKeep(file: string, seen: string): Promise<KeptFile>;
  /** Closes the windows that headed runs have left on the screen. */
  closeWindows(): Promise<void>;
  /** The looks that are live. */
  sittings(): Promise<SittingState[]>;
  sitting(id: number): Promise<SittingState>;
  /** Runs a look live, up to the step where it is to stop. Resolves before it has come there. */
  beginSitting(request: BeginSitting): Promise<SittingState>;
  /** Lets the script of a live look go on, or runs it again from its beginning. */
  go(id: number, orders: Partial<Orders>): Promise<SittingState>;
  restart(id: number, orders: Partial<Orders>): Promise<SittingState>;
  /** Tries a line where a live look stands. */
  tryLine(id: number, text: string): Promise<TriedLine>;
  /** What may come next where a line ends. */
  complete(id: number, text: string): Promise<Completion>;
  /** What the element at a place of a live look's page is; null where there is none. */
  point(id: number, x: number, y: number): Promise<Pointed | null>;
  /** Sends mouse and keyboard input to the page of a live look. */
  input(id: number, events: readonly InputRequest[]): Promise<void>;
  /** Chooses an option of the list that the page of a live look has opened; none with null. */
  choose(id: number, index: number | null): Promise<SittingState>;
  /** Lets the time of a live look run by itself, or stand still. */
  letTime(id: number, runs: boolean): Promise<SittingState>;
  /** Writes down as lines what is done to the page of a live look by hand, or no more. */
  record(id: number, isOn: boolean): Promise<SittingState>;
  /** Closes the page of a live look. */
  endSitting(id: number): Promise<SittingState>;
  /** What the page of a live look shows once that is newer than the picture `after`; null when nothing comes. */
  sittingPicture(id: number, after: number, signal?: AbortSignal): Promise<{ number: number; png: Blob } | null>;
  /** The address of a picture. */
  pictureUrl(hash: string): string;
  /** How two pictures differ. */
  comparison(before: string, now: string): Promise<PictureComparison>;
  /** The address of a picture made small, by the beginning of its hash. */
  thumbnailUrl(beginning: string): string;
  /**
   * Events as they happen; `ready` is called when listening has begun. A connection that breaks is made again,
   * without a gap, from where `cursor` is. With `watch` the service runs looks whenever files change that they depend
   * on. Ends when the signal says so, throws when the service does not answer any
   * more.
   */
  events(signal: AbortSignal, ready?: () => void, cursor?: Cursor, watch?: boolean): AsyncGenerator<RunEvent>;
};

/** A live look to begin with: what is left out is as usual. */
export type BeginSitting = Pick<SittingRequest, 'file' | 'look'> &
  Partial<Omit<SittingRequest, 'orders'>> & { orders?: Partial<Orders> };

/** Where in the live feed somebody is: the id of the last event that was heard. */
export type Cursor = { last?: string };

/** The part of an address that names a run, and more. */
function ofRun(run: number | undefined, more: Record<string, string> = {}): string {
  const query = new URLSearchParams({ ...(run === undefined ? {} : { run: String(run) }), ...more }).toString();
  return query === '' ? '' : `?${query}`;
}

/** How a client has its calls carried out, and what addresses its pictures and files have. */
export type Transport = {
  /** @throws ProblemError */
  call<T>(method: string, path: string, body?: unknown): Promise<T>;
  address(path: string): string;
  /** As `Client.events`. */
  events(
    signal: AbortSignal,
    ready: (() => void) | undefined,
    cursor: Cursor,
    watch: boolean,
  ): AsyncGenerator<RunEvent>;
};

const callerHeaders = (caller: number | null): Record<string, string> =>
  caller === null ? {} : { [callerHeader]: String(caller) };

/** Calls of the service at an origin (`''` for the page's own), by a process that says its number, or another. */
export const httpTransport = (origin: string, caller: number | null = null): Transport => ({
  address: (path) => origin + path,
  events: (signal, ready, cursor, watch) =>
    readEvents(`${origin}/api/events${watch ? '?watch=true' : ''}`, signal, cursor, callerHeaders(caller), ready),
  async call<T>(method: string, path: string, body?: unknown): Promise<T> {
    let reply: Response;
    try {
      reply = await fetch(origin + path, {
        method,
        headers: {
          ...callerHeaders(caller),
          ...(body !== undefined && { 'content-type': 'application/json' }),
        },
        ...(body !== undefined && { body: JSON.stringify(body) }),
      });
    } catch (error) {
      throw unreachable(error);
    }
    const text = await reply.text();
    let value: unknown;
    try {
      value = JSON.parse(text);
    } catch {
      throw new ProblemError(
        problem('service-missing', { error: `something else is answering at ${origin || 'this address'}` }),
      );
    }
    if (!reply.ok) throw new ProblemError(value as Problem);
    return value as T;
  },
});

/** A client of the service at an origin (`''` for the page's own). Every method throws `ProblemError`. */
export const connect = (origin: string, caller: number | null = null): Client =>
  clientOf(httpTransport(origin, caller));

/** A client whose calls somebody carries out. */
export function clientOf({ call, address, events }: Transport): Client {
  const get = <T>(path: string): Promise<T> => call('GET', path);
  return {
    project: () => get('/api/project'),
    looks: () => get('/api/looks'),
    catalogue: () => get('/api/catalogue'),
    board: async () => unpackBoard(await get('/api/board')),
    history: (look) => get(`/api/looks/history?${new URLSearchParams(look)}`),
    runs: (limit = 50) => get(`/api/runs?limit=${limit}`),
    run: (id) => get(`/api/runs/${id}`),
    startRun: (request) => call('POST', '/api/runs', request),
    stopRun: (id) => call('POST', `/api/runs/${id}/stop`),
    runResults: (id, own = false) => get(`/api/runs/${id}/results?own=${own}`),
    result: (id) => get(`/api/results/${id}`),
    timeline: (id) => get(`/api/results/${id}/timeline`),
    changes: () => get('/api/changes'),
    causes: () => get('/api/causes'),
    since: (result) => get(`/api/results/${result}/since`),
    buildStages: () => call('POST', '/api/stages'),
    edits: (result, capture) =>
      get(`/api/causes/edits?result=${result}${capture === null ? '' : `&capture=${encodeURIComponent(capture)}`}`),
    beginChallenge: (request) => call('POST', '/api/challenges', request),
    challenge: (id) => get(`/api/challenges/${id}`),
    stopChallenge: (id) => call('POST', `/api/challenges/${id}/stop`),
    alone: (result, capture, cause) =>
      get(`/api/causes/alone?${new URLSearchParams({ result: String(result), capture, cause })}`),
    accessibility: (run) => get(`/api/accessibility${ofRun(run)}`),
    adoptFindings: () => call('POST', '/api/accessibility/known'),
    coverage: (run) => get(`/api/coverage${ofRun(run)}`),
    coverageOf: (path, run) => get(`/api/coverage/file${ofRun(run, { path })}`),
    coverageMap: (run) => get(`/api/coverage/map${ofRun(run)}`),
    handbook: () => get('/api/handbook'),
    handbookPage: (component) => get(`/api/handbook/component?${new URLSearchParams({ component })}`),
    tokens: () => get('/api/handbook/tokens'),
    projectFileUrl: (path) => address(`/api/handbook/file?${new URLSearchParams({ path })}`),
    markup: (result, capture) => get(`/api/results/${result}/markup?${new URLSearchParams({ capture })}`),
    decide: (request) => call('POST', '/api/decisions', request),
    undo: (request = {}) => call('POST', '/api/decisions/undo', request),
    comment: (about, text, who) => call('POST', '/api/comments', { ...about, text, who }),
    see: (pairs, who) => call('POST', '/api/seen', { pairs, who }),
    tidy: (remove) => call('POST', '/api/baselines/tidy', { remove }),
    components: () => get('/api/components'),
    draft: (file, component, write) => call('POST', '/api/drafts', { file, component, write }),
    renameLook: ({ component, look }, to) => call('POST', '/api/looks/rename', { component, look, to }),
    keep: (request) => call('POST', '/api/keeps', request),
    keepLines: (request) => call('POST', '/api/keeps/lines', request),
    undoKeep: (file, seen) => call('POST', '/api/keeps/undo', { file, seen }),
    closeWindows: () => call('POST', '/api/windows/close'),
    sittings: () => get('/api/sittings'),
    sitting: (id) => get(`/api/sittings/${id}`),
    beginSitting: (request) => call('POST', '/api/sittings', request),
    go: (id, orders) => call('POST', `/api/sittings/${id}/go`, orders),
    restart: (id, orders) => call('POST', `/api/sittings/${id}/restart`, orders),
    tryLine: (id, text) => call('POST', `/api/sittings/${id}/lines`, { text }),
    complete: (id, text) => call('POST', `/api/sittings/${id}/completions`, { text }),
    point: async (id, x, y) =>
      (await call<{ pointed: Pointed | null }>('POST', `/api/sittings/${id}/pointed`, { x, y })).pointed,
    input: (id, events) => call('POST', `/api/sittings/${id}/input`, { events }),
    choose: (id, index) => call('POST', `/api/sittings/${id}/choice`, { index }),
    letTime: (id, runs) => call('POST', `/api/sittings/${id}/time`, { runs }),
    record: (id, isOn) => call('POST', `/api/sittings/${id}/record`, { isOn }),
    endSitting: (id) => call('POST', `/api/sittings/${id}/end`),
    sittingPicture: (id, after, signal) => readPicture(address(`/api/sittings/${id}/picture?after=${after}`), signal),
    comparison: (before, now) => get(`/api/comparisons?before=${before}&now=${now}`),
    pictureUrl: (hash) => address(`/api/blobs/${hash}`),
    thumbnailUrl: (beginning) => address(`/api/thumbnails/${beginning}`),
    events: (signal, ready, cursor = {}, watch = false) => events(signal, ready, cursor, watch),
  };
}

async function readPicture(url: string, signal?: AbortSignal): Promise<{ number: number; png: Blob } | null> {
  const reply = await fetch(url, signal ? { signal } : {}).catch((error: unknown) => {
    throw unreachable(error);
  });
  if (reply.status === 204) return null;
  if (!reply.ok) throw new ProblemError((await reply.json()) as Problem);
  return { number: Number(reply.headers.get('x-picture-number')), png: await reply.blob() };
}

/** What the network's codes mean to a person. */
const causes: Record<string, string> = {
  ECONNREFUSED: 'nothing is listening at its address',
  ECONNRESET: 'it has ended',
  UND_ERR_SOCKET: 'it has ended',
};

function unreachable(error: unknown): ProblemError {
  const cause = (error as { cause?: { code?: string; message?: string } }).cause;
  return new ProblemError(
    problem('service-missing', { error: causes[cause?.code ?? ''] ?? cause?.message ?? (error as Error).message }),
  );
}

/** How often a broken connection is made again before it counts as lost, and after how many milliseconds. */
const retries = 5;
const retryAfter = 200;

async function* readEvents(
  url: string,
  signal: AbortSignal,
  cursor: Cursor,
  headers: Record<string, string>,
  ready?: () => void,
): AsyncGenerator<RunEvent> {
  for (let failed = 0; ; ) {
    try {
      for await (const event of readOnce(url, signal, cursor, headers, ready)) {
        failed = 0;
        yield event;
      }
      throw new Error('the service has ended');
    } catch (error) {
      if (signal.aborted) return;
      if (cursor.last === undefined || ++failed > retries) throw unreachable(error);
      await new Promise((resolve) => setTimeout(resolve, retryAfter));
    }
  }
}

async function* readOnce(
  url: string,
  signal: AbortSignal,
  cursor: Cursor,
  headers: Record<string, string>,
  ready?: () => void,
): AsyncGenerator<RunEvent> {
  const from: Record<string, string> = cursor.last === undefined ? {} : { 'last-event-id': cursor.last };
  const reply = await fetch(url, { signal, headers: { ...headers, ...from } });
  const messages = reply
    .body!.pipeThrough(new TextDecoderStream())
    .pipeThrough(new EventSourceParserStream())
    .getReader();
  ready?.();
  for (let next = await messages.read(); !next.done; next = await messages.read()) {
    cursor.last = next.value.id ?? cursor.last;
    yield JSON.parse(next.value.data) as RunEvent;
  }
}
