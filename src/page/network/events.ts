/** Event streams (WHATWG HTML, 9.2): an `EventSource` that is answered on the page. */
import { addressOf } from '../../core/address/address.ts';
import type { Received, Reply, ServerEvent } from '../../language/answer.ts';
import { type Close, markRequest, waitFor } from './decide.ts';
import { dataOf, eventOf, replyTo } from './replies.ts';
import { type Asking, type Opened, received, type Route, routeFor } from './routes.ts';
import { play } from './script.ts';

const openSources = new Set<AnsweredSource>();

/** Ends the sources that an ended look has left open. */
export function endSources(): void {
  for (const source of [...openSources]) source.close();
}

class AnsweredSource extends EventTarget {
  static readonly CONNECTING = 0;
  static readonly OPEN = 1;
  static readonly CLOSED = 2;
  readonly CONNECTING = 0;
  readonly OPEN = 1;
  readonly CLOSED = 2;
  readonly url: string;
  readonly withCredentials: boolean;
  readyState = 0;
  onopen: ((event: Event) => void) | null = null;
  onmessage: ((event: MessageEvent) => void) | null = null;
  onerror: ((event: Event) => void) | null = null;
  #opened: Opened | null = null;

  constructor(url: string, withCredentials: boolean, route: Route, asking: Asking) {
    super();
    this.url = url;
    this.withCredentials = withCredentials;
    openSources.add(this);
    const nth = route.calls.length;
    void this.#run(route, received(route, asking), nth, markRequest(asking));
  }

  async #run(route: Route, request: Received, nth: number, close: Close): Promise<void> {
    const reply = await replyTo(route.route, route.init, request, nth);
    await waitFor(route, reply);
    if (this.readyState === 2) return;
    if (reply.unreachable || (reply.status ?? 200) !== 200) {
      close(reply.unreachable ? 'unreachable' : String(reply.status), 'error');
      this.#fail();
      return;
    }
    this.readyState = 1;
    close('200, a stream of events', 'info');
    this.#tell(new Event('open'));
    this.#play(route, reply);
  }

  #play(route: Route, { events = [] }: Reply): void {
    const tell = (part: unknown): void => {
      const { event = 'message', data, id = '' } = eventOf(part as ServerEvent | string);
      const { origin } = addressOf(this.url)!;
      this.#tell(new MessageEvent(event, { data: dataOf(data), lastEventId: id, origin }));
    };
    this.#opened = play(route, events, tell, () => this.#fail(), true);
  }

  #tell(event: Event): void {
    if (this.readyState === 2) return;
    const handler = (this as unknown as Record<string, unknown>)[`on${event.type}`];
    this.dispatchEvent(event);
    if (typeof handler === 'function') handler.call(this, event);
  }

  #fail(): void {
    if (this.readyState === 2) return;
    this.#tell(new Event('error'));
    this.close();
  }

  close(): void {
    this.readyState = 2;
    openSources.delete(this);
    this.#opened?.end();
  }
}

/** True for what may be told event by event. */
const tellsEvents = ({ init }: Route): boolean =>
  typeof init === 'function' || [init].flat().some((reply) => (reply as Reply)?.events !== undefined);

/** Called once, before anything of the project runs: sources that a look answers with events are answered here. */
export function watchSources(): void {
  window.EventSource = new Proxy(window.EventSource, {
    construct(target, args: [string | URL, EventSourceInit?], newTarget) {
      const url = addressOf(String(args[0]), location.href)?.href ?? '';
      const asking = { method: 'GET', url, headers: { Accept: 'text/event-stream' }, body: null };
      const route = routeFor(asking);
      if (!route || !tellsEvents(route)) return Reflect.construct(target, args, newTarget) as EventSource;
      return new AnsweredSource(url, args[1]?.withCredentials === true, route, asking);
    },
  });
}
