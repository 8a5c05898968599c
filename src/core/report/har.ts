/** The requests of a run's looks as an HTTP archive (HAR 1.2): a page for each look, with what it asked for. */
import { queryOf } from '../address/address.ts';
import type { Mark } from '../timeline/timeline.ts';
import { type Recorded, type ReportData, titleOf } from './report.ts';

/** What a mark of the network lane tells: `POST /api/arrivals → 201`. */
const told = /^(\S+) (\S+)(?: → (.*))?$/s;

function entryOf({ title, at, took, detail }: Mark, page: string, began: number): object | null {
  const [, method, address, end = ''] = told.exec(title) ?? [];
  if (method === undefined || address === undefined) return null;
  const status = Number(/^\d{3}/.exec(end)?.[0] ?? 0);
  const time = took ?? 0;
  return {
    pageref: page,
    startedDateTime: new Date(began + at).toISOString(),
    time,
    request: {
      method,
      url: /^\w+:/.test(address) ? address : `http://looks.localhost${address}`,
      httpVersion: 'HTTP/1.1',
      cookies: [],
      headers: [],
      queryString: queryOf(address),
      headersSize: -1,
      bodySize: detail === undefined ? 0 : detail.length,
      ...(detail !== undefined && { postData: { mimeType: '', text: detail } }),
    },
    response: {
      status,
      statusText: status > 0 ? '' : end,
      httpVersion: 'HTTP/1.1',
      cookies: [],
      headers: [],
      content: { size: -1, mimeType: '' },
      redirectURL: '',
      headersSize: -1,
      bodySize: -1,
    },
    cache: {},
    timings: { send: 0, wait: time, receive: 0 },
  };
}

export function harOf({ version, run }: ReportData, recorded: readonly Recorded[]): object {
  const began = Date.parse(run.started);
  const asking = recorded
    .map(({ result, timeline }) => ({ result, marks: timeline.marks.filter(({ lane }) => lane === 'network') }))
    .filter(({ marks }) => marks.length > 0);
  return {
    log: {
      version: '1.2',
      creator: { name: 'Sguardo', version },
      pages: asking.map(({ result }) => ({
        id: `result-${result.id}`,
        title: titleOf(result),
        startedDateTime: run.started,
        pageTimings: { onLoad: -1 },
      })),
      entries: asking.flatMap(({ result, marks }) =>
        marks.flatMap((mark) => entryOf(mark, `result-${result.id}`, began) ?? []),
      ),
    },
  };
}
