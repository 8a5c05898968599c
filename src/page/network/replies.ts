/** Replies: which one a request gets, and what is sent of it. */
import { fail } from '../../core/problem/problem.ts';
import { show } from '../../core/value/show.ts';
import type { Reply as Sent } from '../../core/wire/wire.ts';
import {
  type AnswerInit,
  type Received,
  needReply,
  repliesOf,
  type Reply,
  type ServerEvent,
} from '../../language/answer.ts';

/** Of these a reply has one. */
const contents = ['json', 'body', 'file', 'chunks', 'events', 'messages'] as const;

const token = /^[\w!#$%&'*+.^`|~-]+$/;

function checkHeaders(route: string, headers: unknown): void {
  const isRecord = typeof headers === 'object' && headers !== null;
  for (const [name, value] of isRecord ? Object.entries(headers) : [['', headers]])
    if (!token.test(name as string) || typeof value !== 'string' || /[\r\n\0]/.test(value))
      fail('bad-step', {
        what: `The answer to ${route} has the header “${name}”, which cannot be sent.`,
        remedy: 'Header names are tokens, and their values are texts on one line.',
      });
}

/** @throws ProblemError `bad-step`, `look-entry` for what cannot be replied */
export function checkReply(route: string, reply: unknown): asserts reply is Reply {
  if (typeof reply !== 'object' || reply === null)
    fail('bad-step', {
      what: `The answer to ${route} is ${show(reply)}.`,
      remedy: "Use an object, a list of them, or a function that gives one: { status: 201, json: { id: 'A-1' } }",
    });
  needReply(`The answer to ${route}`, reply);
  const { status = 200, headers = {}, delay = 0 } = reply as Reply;
  if (typeof delay !== 'number' || !(delay >= 0 && delay < 1e9))
    fail('bad-step', {
      what: `The answer to ${route} has the delay ${String(delay)}.`,
      remedy: 'Use a number of milliseconds, such as 300.',
    });
  if (!Number.isInteger(status) || status < 200 || status > 599)
    fail('bad-step', {
      what: `The answer to ${route} has the status ${String(status)}.`,
      remedy: 'Use a whole number from 200 to 599, or unreachable: true.',
    });
  const given = contents.filter((key) => (reply as Reply)[key] !== undefined);
  if (given.length > 1)
    fail('bad-step', {
      what: `The answer to ${route} has both ${given[0]} and ${given[1]}.`,
      remedy: 'A reply has one content: leave one of them out.',
    });
  checkHeaders(route, headers);
}

/** The reply to a request, which is the n-th of its route. @throws ProblemError for what cannot be replied */
export async function replyTo(route: string, init: AnswerInit, request: Received, nth: number): Promise<Reply> {
  if (typeof init !== 'function') {
    const replies = repliesOf(init);
    return replies[Math.min(nth, replies.length - 1)] ?? {};
  }
  const made: unknown = await init(request);
  checkReply(route, made ?? {});
  return (made ?? {}) as Reply;
}

// Taken before a component can replace it.
const read = Blob.prototype.arrayBuffer;

export const base64Of = (bytes: Uint8Array): string => {
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
};

async function bodyOf(body: Reply['body']): Promise<Sent['body']> {
  if (body === undefined) return '';
  if (body instanceof Blob) return { base64: base64Of(new Uint8Array(await read.call(body))) };
  if (body instanceof ArrayBuffer) return { base64: base64Of(new Uint8Array(body)) };
  if (ArrayBuffer.isView(body))
    return { base64: base64Of(new Uint8Array(body.buffer, body.byteOffset, body.byteLength)) };
  return String(body);
}

/** What a part of an event stream says. */
export const eventOf = (part: ServerEvent | string): ServerEvent => (typeof part === 'object' ? part : { data: part });

/** The data of an event as text. */
export const dataOf = (data: unknown): string => (typeof data === 'string' ? data : JSON.stringify(data));

/** An event as it is sent; a number, which waits, stays one. */
export function eventText(part: ServerEvent | string | number): string | number {
  if (typeof part === 'number') return part;
  const { event, data, id } = eventOf(part);
  const lines = [
    ...(event === undefined ? [] : [`event: ${event}`]),
    ...(id === undefined ? [] : [`id: ${id}`]),
    ...dataOf(data)
      .split('\n')
      .map((line) => `data: ${line}`),
  ];
  return `${lines.join('\n')}\n\n`;
}

/** A reply as it is sent; `accept` is what the request says it takes. */
export async function sentOf(reply: Reply, accept: string | undefined): Promise<Sent> {
  const { status = 200, json, body, file, data, errors, headers } = reply;
  const common = { 'access-control-allow-origin': '*' };
  const typed = (type: string): Record<string, string> => ({ 'content-type': type, ...common, ...headers });
  const isOperation = data !== undefined || errors !== undefined;
  if (json !== undefined || isOperation)
    return {
      status,
      headers: typed('application/json'),
      body: JSON.stringify(isOperation ? { data: data ?? null, ...(errors && { errors }) } : json),
    };
  if (file !== undefined) return { status, headers: { ...common, ...headers }, body: { file: String(file) } };
  const type = body instanceof Blob && body.type ? body.type : null;
  const usual = typeof body === 'object' ? 'application/octet-stream' : 'text/plain';
  const stream = accept === 'text/event-stream' ? 'text/event-stream' : null;
  return { status, headers: typed(stream ?? type ?? usual), body: await bodyOf(body) };
}
