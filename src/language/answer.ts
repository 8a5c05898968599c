/** Answers: stubbed network replies. */
import { fail } from '../core/problem/problem.ts';
import { isSlipOf } from '../core/text/nearest.ts';
import { show } from '../core/value/show.ts';
import * as given from './given.ts';
import { taking } from './given.ts';
import { portOf } from './port.ts';

/** An event of an event stream (WHATWG HTML, 9.2). Anything but text is sent as JSON. */
export type ServerEvent = { event?: string; data: unknown; id?: string };

/** What is replied. Without a status it is 200; `json` sets the body and its type. */
export type Reply = {
  status?: number;
  json?: unknown;
  body?: string | Uint8Array | ArrayBuffer | Blob;
  /** A file of the project, by its path from the root, as the body. */
  file?: string;
  /** What a GraphQL operation gives. */
  data?: unknown;
  /** What went wrong with a GraphQL operation. */
  errors?: readonly { message: string; [entry: string]: unknown }[];
  headers?: Record<string, string>;
  /** The body in parts that come one after the other; a number waits for so many milliseconds of the look's time. */
  chunks?: readonly (string | Uint8Array | number)[];
  /** Events of an event stream; a number waits. */
  events?: readonly (ServerEvent | string | number)[];
  /** Messages of a web socket; a number waits, anything but text and bytes is sent as JSON. */
  messages?: readonly unknown[];
  /** Keeps requests waiting until `letGo()`: a loading state. */
  hold?: boolean;
  /** Replies only after so many milliseconds of the look's own time. */
  delay?: number;
  /** Fails as if the server could not be reached. */
  unreachable?: boolean;
};

/** The entries of a reply. */
export const replyEntries = [
  'status',
  'json',
  'body',
  'file',
  'data',
  'errors',
  'headers',
  'chunks',
  'events',
  'messages',
  'hold',
  'delay',
  'unreachable',
] as const satisfies readonly (keyof Reply)[];

/** What others call an entry of a reply, who come from another library or from `fetch`. */
const calledElsewhere: Record<string, keyof Reply> = {
  text: 'body',
  content: 'body',
  code: 'status',
  statusCode: 'status',
  header: 'headers',
  wait: 'delay',
  latency: 'delay',
  timeout: 'delay',
  stream: 'chunks',
};

/**
 * Refuses entries that no reply has; where it has none that one has, it was meant to be what is sent. `where` begins a
 * sentence. @throws ProblemError `look-entry`
 */
export function needReply(where: string, reply: object): void {
  const all = Object.keys(reply);
  const isData = all.length > 0 && all.every((entry) => !isSlipOf(entry, replyEntries));
  if (isData) fail('look-entry', { where, entry: all[0]!, instead: `{ json: ${show(reply)} }` });
  given.needKnown(where, reply, replyEntries, calledElsewhere);
}

/** A request as the component made it. */
export type Received = {
  method: string;
  url: string;
  headers: Record<string, string>;
  body: string | null;
  json: unknown;
  /** What the address says after its question mark; the last value of a name that comes again. */
  query: Record<string, string>;
  /** What stands for the names in the route. */
  params: Record<string, string>;
};

/** A reply, several of them for one request after the other (the last one stays), or what makes one of a request. */
export type AnswerInit = Reply | readonly Reply[] | ((request: Received) => Reply | Promise<Reply>);

/** An answer that is in place. */
export type Answer = {
  readonly isAnswer: true;
  readonly route: string;
  /** The requests it was given, oldest first; of a web socket, that it was opened and the messages that came. */
  readonly calls: Received[];
  /** Sends the replies that were held; later ones are not held any more. */
  letGo(): Promise<void>;
  /** Sends something to whatever is open: a chunk, an event, a message. */
  send(what: unknown): Promise<void>;
  /** Ends whatever is open. A web socket is closed with the code. */
  end(code?: number): Promise<void>;
};

const example = "answer('GET /api/tides', { json: [] })";
const isReply: given.Rule = {
  fits: (value) => (typeof value === 'object' && value !== null) || typeof value === 'function',
  wanted: `an object, a list of them, or a function that gives one: ${example}`,
};

/**
 * Answers requests of a route from now on; the newest answer to a route wins. Routes are `POST /api/arrivals/:id`,
 * `query Berths` and `mutation Release` for operations of GraphQL, `WS /feed` for web sockets.
 */
export const answer = taking(2, 'answer', (route: string, init: AnswerInit): Promise<Answer> => {
  given.need('answer(…)', route, given.text(example));
  given.need(`answer('${route}')`, init, isReply, 'reply');
  return portOf('answer').answer(route, init);
});

/** The replies that are known before a request is made. */
export function repliesOf(init: AnswerInit): readonly Reply[] {
  if (typeof init === 'function') return [];
  return Array.isArray(init) ? (init as readonly Reply[]) : [init as Reply];
}

/** True for what `answer` gives. */
export const isAnswer = (value: unknown): value is Answer =>
  typeof value === 'object' && value !== null && (value as Partial<Answer>).isAnswer === true;
