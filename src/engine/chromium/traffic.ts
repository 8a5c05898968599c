/** What the page of a window has asked for, and what of it is still on its way. */
import type { Files, PausedRequest } from '../../core/wire/wire.ts';
import type { Hears, Params } from './pipe.ts';
import { isOfPage } from './surroundings.ts';

/** Requests that end by themselves and change what a page shows (DevTools protocol, Network.ResourceType). */
const fileTypes = new Set(['Stylesheet', 'Image', 'Font', 'Script', 'TextTrack', 'Manifest', 'Other']);

/** Requests that are made again whenever a page wants the same again (DevTools protocol, Network.ResourceType). */
const repeatedTypes = new Set(['Document', 'XHR', 'Fetch', 'EventSource', 'Ping', 'Preflight', 'WebSocket']);

export type Traffic = {
  readonly asked: Set<string>;
  readonly kept: Set<string>;
  files(): Files;
  /** Another page is loaded. */
  clear(): void;
  readonly hears: Hears;
};

/** A request as the page's host is told of it (DevTools protocol, Fetch.requestPaused). */
export function pausedRequest({ requestId, request, resourceType }: Params): PausedRequest {
  const { method, url, headers, postData } = request as {
    method: string;
    url: string;
    headers: Record<string, string>;
    postData?: string;
  };
  return { id: requestId, method, url, headers, body: postData ?? null, isFile: isOfPage(resourceType) };
}

/** `missing` hears of files that are not there. */
export function trafficOf(missing: (url: string) => void): Traffic {
  const asked = new Set<string>();
  const kept = new Set<string>();
  /** Requests for files that are under way. */
  const loading = new Set<string>();
  let count = 0;
  const ended = ({ requestId }: Params): void => void loading.delete(requestId);
  return {
    asked,
    kept,
    files: () => ({ loading: loading.size, asked: count }),
    clear() {
      loading.clear();
      asked.clear();
      kept.clear();
    },
    hears: {
      'Network.requestWillBeSent'({ request, requestId, type }) {
        if (!request.url.startsWith('data:')) {
          asked.add(request.url);
          if (!repeatedTypes.has(type)) kept.add(request.url);
        }
        // Documents and the scripts of workers, which the browser asks for itself, end in another session.
        if (!fileTypes.has(type) || !requestId.includes('.')) return;
        loading.add(requestId);
        count++;
      },
      'Network.responseReceived'({ response, type }) {
        if (response.status === 404 && isOfPage(type)) missing(response.url);
      },
      'Network.loadingFinished': ended,
      'Network.loadingFailed': ended,
    },
  };
}
