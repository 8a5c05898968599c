/** One Chromium window, driven over the DevTools protocol. */
import { mkdir, rm, utimes, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { addressOf, decodePath } from '../../core/address/address.ts';
import type { CoveredScript } from '../../core/coverage/hits.ts';
import type { Environment } from '../../core/settings/environment.ts';
import { knock, workerKnock } from '../../core/wire/stage.ts';
import type { Measured, Profile, TraceEvent } from '../../core/timing/costs.ts';
import type { Box } from '../../core/timeline/timeline.ts';
import type { Files, InputRequest, PausedRequest, Surroundings } from '../../core/wire/wire.ts';
import { type EngineWindow, type FullReply, type LoadedFiles, LostError, type WindowHandlers } from '../engine.ts';
import { asFocused } from './focused.ts';
import { carry, choose, dragOn, type Hands, nothingAfter, paste } from './hands.ts';
import { callsOf } from './input.ts';
import type { Params, Pipe } from './pipe.ts';
import { changeCalls, environmentCalls, isOfPage, pauseCall, permissionCalls } from './surroundings.ts';

/** The name of the function through which a page calls its host. */
export const hostBinding = '__sguardoHost';

/** Requests that end by themselves and change what a page shows (DevTools protocol, Network.ResourceType). */
const fileTypes = new Set(['Stylesheet', 'Image', 'Font', 'Script', 'TextTrack', 'Manifest', 'Other']);

/** Requests that are made again whenever a page wants the same again (DevTools protocol, Network.ResourceType). */
const repeatedTypes = new Set(['Document', 'XHR', 'Fetch', 'EventSource', 'Ping', 'Preflight', 'WebSocket']);

/** What Chromium's window has around the page, in pixels: the bars above it. */
const around = [0, 87] as const;

/** How long a profile is without a sample, in microseconds. */
const samplingInterval = 200;

/** How long the browser may take to hand over what it has taken down, in milliseconds. */
const traceLimit = 10_000;

/** How long a running script takes to be paused at most, in milliseconds, on a busy machine. */
const pauseLimit = 2000;

type CallFrame = {
  functionName: string;
  location: { scriptId: string; lineNumber: number; columnNumber: number };
};

/** Call frames as an error's stack writes them. */
const stackOf = ({ callFrames }: Params, scripts: ReadonlyMap<string, string>): string =>
  (callFrames as CallFrame[])
    .map(({ functionName, location: { scriptId, lineNumber, columnNumber } }) => {
      const place = `${scripts.get(scriptId) ?? ''}:${lineNumber + 1}:${columnNumber + 1}`;
      return `    at ${functionName || '<anonymous>'} (${place})`;
    })
    .join('\n');

/** What a script has run (DevTools protocol, Profiler.ScriptCoverage). */
type ScriptCoverage = Pick<CoveredScript, 'functions'> & { url: string };

type RemoteValue = {
  result: { value?: unknown; description?: string };
  exceptionDetails?: { text: string; exception?: { description?: string } };
};

/**
 * Opens a window in a browser context of its own, so that lanes share no storage. It keeps its files in `folder`. One
 * that is seen on the screen is made as large as its viewport.
 */
export async function openWindow(pipe: Pipe, folder: string, isSeen: boolean): Promise<ChromiumWindow> {
  const { browserContextId } = await pipe.send<{ browserContextId: string }>('Target.createBrowserContext', {
    disposeOnDetach: true,
  });
  // A tab behind another one never paints; a window of its own always does.
  const { targetId } = await pipe.send<{ targetId: string }>('Target.createTarget', {
    url: 'about:blank',
    browserContextId,
    newWindow: true,
  });
  const { sessionId } = await pipe.send<{ sessionId: string }>('Target.attachToTarget', { targetId, flatten: true });
  const seenAs = isSeen ? targetId : null;
  const window = new ChromiumWindow(pipe, sessionId, browserContextId, join(folder, `given-${sessionId}`), seenAs);
  await window.prepare();
  return window;
}

export class ChromiumWindow implements EngineWindow {
  handlers: WindowHandlers | null = null;
  lost: LostError | null = null;
  readonly #pipe: Pipe;
  readonly #session: string;
  readonly #context: string;
  #loading: { loaded(): void; failed(error: Error): void } | null = null;
  #environment: Environment | null = null;
  #changes: Surroundings = {};
  readonly #seenAs: string | null;
  readonly #folder: string;
  #given = 0;
  /** Whoever waits for the next event of a kind. */
  readonly #waiting = new Map<string, (params: Params) => void>();
  /** What was begun to be dragged since the mouse was pressed. */
  #dragged: Params | null = null;
  #isWatched = false;
  /** What was taken down since `measure`, and who waits for the rest of it. */
  #traced: TraceEvent[] = [];
  #traceEnded: (() => void) | null = null;
  #isCovered = false;
  #hasLoaded = false;
  #isCounting = false;
  /** Addresses of the scripts of a watched page, by the protocol's ids. */
  readonly #scripts = new Map<string, string>();
  /** Hears where a script stands that was paused for that. */
  #paused: ((stack: string) => void) | null = null;
  /** Hears what the window shows. */
  #shown: ((picture: Buffer) => void) | null = null;
  hasLostMouse = false;
  readonly asked = new Set<string>();
  readonly kept = new Set<string>();
  /** Requests for files that are under way. */
  readonly #files = new Set<string>();
  #filesAsked = 0;

  /** `seenAs` is the id of the window's target, if it can be seen on the screen. */
  constructor(pipe: Pipe, session: string, context: string, folder: string, seenAs: string | null) {
    this.#seenAs = seenAs;
    this.#pipe = pipe;
    this.#folder = folder;
    this.#session = session;
    this.#context = context;
    pipe.listen(
      session,
      (method, params) => this.#event(method, params),
      (error) => this.lose(error),
    );
  }

  async prepare(): Promise<void> {
    const pausing = pauseCall({});
    await Promise.all([
      this.#send('Page.enable'),
      this.#send('Runtime.enable'),
      this.#send('Inspector.enable'),
      this.#send('Runtime.addBinding', { name: hostBinding }),
      this.#send('Emulation.setFocusEmulationEnabled', { enabled: true }),
      // Things dragged in one window would be dropped by the mouse of another, and a file chooser waits for a person.
      this.#send('Input.setInterceptDrags', { enabled: true }),
      this.#send('Page.setInterceptFileChooserDialog', { enabled: true }),
      this.#send('Network.enable', { maxTotalBufferSize: 0, maxResourceBufferSize: 0 }),
      this.#send(pausing.method, pausing.params),
    ]);
  }

  async holdTime(): Promise<void> {
    // Only while this domain is enabled the rate is kept in the documents that come.
    await this.#send('Animation.enable');
    await this.#send('Animation.setPlaybackRate', { playbackRate: 0 });
    await this.#send('Page.addScriptToEvaluateOnNewDocument', { source: knock });
    await this.#send('Target.setAutoAttach', {
      autoAttach: true,
      waitForDebuggerOnStart: true,
      flatten: true,
      filter: [{ type: 'worker' }, { exclude: true }],
    });
  }

  /** Ending this emulation would leave no pointer at all, not the mouse that was there before. */
  async #point(pointer: Environment['pointer']): Promise<void> {
    if (pointer === 'mouse') return;
    if (pointer === 'touch' || !this.hasLostMouse)
      await this.#send('Emulation.setTouchEmulationEnabled', { enabled: true, maxTouchPoints: 5 });
    if (pointer === 'none') await this.#send('Emulation.setTouchEmulationEnabled', { enabled: false });
    this.hasLostMouse = true;
  }

  async apply(environment: Environment): Promise<void> {
    if (this.#environment && JSON.stringify(environment) === JSON.stringify(this.#environment)) return;
    const { pointer, locale, timeZone } = environment;
    const { userAgent } = await this.#pipe.send<{ userAgent: string }>('Browser.getVersion');
    await Promise.all([
      ...environmentCalls(environment).map(({ method, params }) => this.#send(method, params)),
      this.#point(pointer),
      this.#send('Emulation.setTimezoneOverride', { timezoneId: timeZone }),
      this.#send('Emulation.setLocaleOverride', { locale: locale.replace('-', '_') }).catch(() => {}),
      // The locale override reaches Intl only; navigator.language follows the accepted languages.
      this.#send('Emulation.setUserAgentOverride', { userAgent, acceptLanguage: locale }),
    ]);
    this.#environment = environment;
    if (this.#seenAs) await this.#fit(environment.viewport, this.#seenAs);
  }

  /** Makes a window that somebody looks at as large as what it shows. */
  async #fit([width, height]: Environment['viewport'], targetId: string): Promise<void> {
    const { windowId } = await this.#pipe.send<{ windowId: number }>('Browser.getWindowForTarget', { targetId });
    const bounds = { width: width + around[0], height: height + around[1] };
    await this.#pipe.send('Browser.setWindowBounds', { windowId, bounds }).catch(() => {});
  }

  async surround(changes: Surroundings): Promise<void> {
    await this.#change({ ...this.#changes, ...changes });
    const origin = new URL(String(await this.evaluate('location.href'))).origin;
    for (const { method, params } of permissionCalls(changes.permissions, origin, this.#context))
      await this.#pipe.send(method, params);
  }

  async restore(): Promise<void> {
    const { permissions } = this.#changes;
    await this.#change({});
    if (permissions) await this.#pipe.send('Browser.resetPermissions', { browserContextId: this.#context });
    if (this.#given > 0) await rm(this.#folder, { recursive: true, force: true }).catch(() => {});
    this.#given = 0;
  }

  async #change(changes: Surroundings): Promise<void> {
    if (!this.#environment) return;
    const calls = changeCalls(this.#environment, this.#changes, changes);
    this.#changes = changes;
    await Promise.all(calls.map(({ method, params }) => this.#send(method, params)));
  }

  async load(url: string): Promise<void> {
    this.#hasLoaded = true;
    this.#files.clear();
    this.asked.clear();
    this.kept.clear();
    const loaded = new Promise<void>((resolve, reject) => {
      this.#loading = { loaded: resolve, failed: reject };
    });
    loaded.catch(() => {});
    try {
      const answer = await this.#send<{ errorText?: string }>('Page.navigate', { url });
      if (answer.errorText) throw new LostError('page', `could not load ${url}: ${answer.errorText}`);
      await loaded;
      if (this.#isCovered && !this.#isCounting) await this.#count();
    } finally {
      this.#loading = null;
    }
  }

  async #count(): Promise<void> {
    this.#isCounting = true;
    await this.#send('Profiler.enable');
    await this.#send('Profiler.startPreciseCoverage', { callCount: true, detailed: true });
  }

  async evaluate(expression: string, limit?: number): Promise<unknown> {
    const params = { expression, awaitPromise: true, returnByValue: true };
    const { result, exceptionDetails } = await this.#send<RemoteValue>('Runtime.evaluate', params, limit);
    if (exceptionDetails) throw new Error(exceptionDetails.exception?.description ?? exceptionDetails.text);
    return result.value;
  }

  async screenshot([x, y, width, height]: Box, beyond: boolean): Promise<Buffer> {
    // Chromium never answers when it is asked for a picture of nothing.
    if (!(width > 0 && height > 0)) throw new Error(`A picture cannot be ${width} by ${height} pixels.`);
    const { data } = await this.#send<{ data: string }>('Page.captureScreenshot', {
      format: 'png',
      optimizeForSpeed: true,
      captureBeyondViewport: beyond,
      clip: { x, y, width, height, scale: 1 },
    });
    return Buffer.from(data, 'base64');
  }

  asFocused<T>(elements: string, doing: () => Promise<T>): Promise<T> {
    return asFocused(this.#hands, elements, doing);
  }

  async input(events: readonly InputRequest[]): Promise<void> {
    if (events.some(({ kind }) => kind === 'down')) this.#dragged = null;
    // All are sent at once: the browser keeps their order.
    await Promise.all(events.flatMap(callsOf).map(({ method, params }) => this.#send(method, params)));
  }

  async handle(events: readonly InputRequest[]): Promise<void> {
    for (const event of events) {
      const isDragged = this.#dragged !== null && (event.kind === 'move' || event.kind === 'up');
      if (!isDragged) await this.input([event]);
      else if (await dragOn(this.#hands, event, this.#dragged!)) this.#dragged = null;
    }
  }

  carry(path: readonly [number, number][], load: LoadedFiles | null, modifiers: number): Promise<boolean> {
    return carry(this.#hands, path, load, this.#dragged, modifiers);
  }

  choose(events: readonly InputRequest[], files: readonly string[]): Promise<'chosen' | 'none' | 'one'> {
    return choose(this.#hands, () => this.input(events), files);
  }

  paste(load: LoadedFiles, pngs: readonly string[]): Promise<void> {
    return paste(this.#hands, this.#pipe, load, pngs);
  }

  async hold(files: readonly { name: string; bytes: Uint8Array }[], modified: Date): Promise<string[]> {
    const paths: string[] = [];
    for (const { name, bytes } of files) {
      // Two files may have the same name.
      const folder = join(this.#folder, String(this.#given++));
      const path = join(folder, basename(name));
      await mkdir(folder, { recursive: true });
      await writeFile(path, bytes);
      await utimes(path, modified, modified);
      paths.push(path);
    }
    return paths;
  }

  fulfil(id: string, { status, headers, body }: FullReply): void {
    const responseHeaders = Object.entries(headers).map(([name, value]) => ({ name, value }));
    this.#pipe.post(
      'Fetch.fulfillRequest',
      { requestId: id, responseCode: status, responseHeaders, body: Buffer.from(body).toString('base64') },
      this.#session,
    );
  }

  proceed(id: string): void {
    this.#pipe.post('Fetch.continueRequest', { requestId: id }, this.#session);
  }

  refuse(id: string): void {
    this.#pipe.post('Fetch.failRequest', { requestId: id, errorReason: 'ConnectionRefused' }, this.#session);
  }

  async watch(isWatched: boolean): Promise<void> {
    this.#scripts.clear();
    await this.#send(isWatched ? 'Debugger.enable' : 'Debugger.disable');
    this.#isWatched = isWatched;
  }

  async where(): Promise<string | null> {
    if (!this.#isWatched) return null;
    const paused = new Promise<string>((resolve) => {
      this.#paused = resolve;
    });
    // Nothing is paused while no script runs.
    const stack = this.#send('Debugger.pause').then(() => paused);
    return Promise.race([stack, delay(pauseLimit, null)]).catch(() => null);
  }

  async cover(isCovered: boolean): Promise<boolean> {
    if (isCovered === this.#isCovered) return true;
    if (this.#hasLoaded) return false;
    this.#isCovered = isCovered;
    return true;
  }

  async covered(origin: string): Promise<CoveredScript[]> {
    if (!this.#isCounting) return [];
    const { result } = await this.#send<{ result: ScriptCoverage[] }>('Profiler.takePreciseCoverage');
    return result.flatMap(({ url, functions }) => {
      // What the host has evaluated has no address, and is most of the scripts.
      const address = url === '' ? null : addressOf(url);
      const path = address?.origin === origin ? decodePath(address.pathname) : null;
      return path === null ? [] : [{ path, functions }];
    });
  }

  async measure(): Promise<void> {
    this.#traced = [];
    await this.#send('Profiler.enable');
    await this.#send('Profiler.setSamplingInterval', { interval: samplingInterval });
    await this.#send('Tracing.start', {
      transferMode: 'ReportEvents',
      traceConfig: {
        includedCategories: ['devtools.timeline', 'disabled-by-default-devtools.timeline', 'loading'],
        recordMode: 'recordUntilFull',
      },
    });
    await this.#send('Profiler.start');
  }

  async measured(): Promise<Measured> {
    const stopped = await this.#send<{ profile: Profile }>('Profiler.stop').catch(() => null);
    const complete = new Promise<void>((resolve) => {
      this.#traceEnded = resolve;
    });
    await this.#send('Tracing.end');
    await Promise.race([complete, delay(traceLimit, undefined, { ref: false })]);
    this.#traceEnded = null;
    return { events: this.#traced.splice(0), profile: stopped?.profile ?? null };
  }

  async halt(): Promise<void> {
    await this.#send('Runtime.terminateExecution').catch(() => {});
  }

  async clearStorage(origin: string): Promise<void> {
    await this.#send('Storage.clearDataForOrigin', { origin, storageTypes: 'all' }).catch(() => {});
  }

  async show(listener: ((picture: Buffer) => void) | null): Promise<void> {
    const wasShown = this.#shown !== null;
    this.#shown = listener;
    if (listener && !wasShown) await this.#send('Page.startScreencast', { format: 'png', everyNthFrame: 1 });
    if (!listener && wasShown) await this.#send('Page.stopScreencast');
  }

  async close(): Promise<void> {
    this.handlers = null;
    this.lost ??= new LostError('window', 'the window was closed');
    this.#pipe.drop(this.#session, this.lost);
    this.#loading?.failed(this.lost);
    this.#pipe.forget(this.#session);
    await this.#pipe
      .send('Target.disposeBrowserContext', { browserContextId: this.#context }, undefined, 5000)
      .catch(() => {});
  }

  /** The page, the window or the browser is gone: calls that wait are ended, and later ones refused. */
  lose(error: LostError): void {
    if (this.lost) return;
    this.lost = error;
    this.#pipe.drop(this.#session, error);
    this.#loading?.failed(error);
    if (error.what !== 'browser') this.handlers?.lost(error);
  }

  /** The session id, by which the browser tells that the window has closed. */
  get files(): Files {
    return { loading: this.#files.size, asked: this.#filesAsked };
  }

  get session(): string {
    return this.#session;
  }

  get #hands(): Hands {
    return {
      send: (method, params) => this.#send(method, params),
      next: (method, limit) =>
        Promise.race([
          new Promise<Params>((resolve) => this.#waiting.set(method, resolve)),
          nothingAfter(limit),
        ]).finally(() => this.#waiting.delete(method)),
    };
  }

  #send<T = unknown>(method: string, params: object = {}, limit?: number): Promise<T> {
    // A crashed page never answers.
    if (this.lost) return Promise.reject(this.lost);
    return this.#pipe.send<T>(method, params, this.#session, limit);
  }

  #event(method: string, params: Params): void {
    const waiting = this.#waiting.get(method);
    if (waiting) {
      waiting(params);
      return;
    }
    switch (method) {
      case 'Tracing.dataCollected':
        for (const event of params.value as TraceEvent[]) this.#traced.push(event);
        break;
      case 'Tracing.tracingComplete':
        this.#traceEnded?.();
        break;
      case 'Input.dragIntercepted':
        this.#dragged = params;
        break;
      case 'Page.fileChooserOpened':
        this.handlers?.chooser();
        break;
      case 'Runtime.bindingCalled':
        if (params.name === hostBinding) this.handlers?.message(params.payload);
        break;
      case 'Fetch.requestPaused': {
        const { requestId, request, resourceType } = params as {
          requestId: string;
          resourceType: string;
          request: { method: string; url: string; headers: Record<string, string>; postData?: string };
        };
        const paused: PausedRequest = {
          id: requestId,
          method: request.method,
          url: request.url,
          headers: request.headers,
          body: request.postData ?? null,
          isFile: isOfPage(resourceType),
        };
        // Those of workers are told nowhere else.
        this.asked.add(request.url);
        if (this.handlers) this.handlers.request(paused);
        else this.proceed(requestId);
        break;
      }
      case 'Network.requestWillBeSent':
        if (!params.request.url.startsWith('data:')) {
          this.asked.add(params.request.url);
          if (!repeatedTypes.has(params.type)) this.kept.add(params.request.url);
        }
        // Documents and the scripts of workers, which the browser asks for itself, end in another session.
        if (!fileTypes.has(params.type) || !params.requestId.includes('.')) break;
        this.#files.add(params.requestId);
        this.#filesAsked++;
        break;
      case 'Network.loadingFinished':
      case 'Network.loadingFailed':
        this.#files.delete(params.requestId);
        break;
      case 'Page.javascriptDialogOpening':
        this.#pipe.post('Page.handleJavaScriptDialog', { accept: params.type === 'beforeunload' }, this.#session);
        this.handlers?.dialog(params.type, params.message);
        break;
      case 'Page.loadEventFired':
        this.#loading?.loaded();
        break;
      case 'Page.frameNavigated': {
        const { frame } = params as { frame: { parentId?: string; url: string } };
        if (!frame.parentId && !this.#loading) this.handlers?.left(frame.url);
        break;
      }
      case 'Target.attachedToTarget':
        // A worker waits for whoever has attached to it.
        this.#pipe.post('Runtime.evaluate', { expression: workerKnock }, params.sessionId);
        this.#pipe.post('Runtime.runIfWaitingForDebugger', {}, params.sessionId);
        break;
      case 'Debugger.scriptParsed':
        this.#scripts.set(params.scriptId, params.url);
        break;
      case 'Debugger.paused':
        // A statement of the project's own that pauses is passed over.
        if (this.#paused) this.#paused(stackOf(params, this.#scripts));
        else this.#pipe.post('Debugger.resume', {}, this.#session);
        break;
      case 'Page.screencastFrame':
        this.#pipe.post('Page.screencastFrameAck', { sessionId: params.sessionId }, this.#session);
        this.#shown?.(Buffer.from(params.data, 'base64'));
        break;
      case 'Inspector.targetCrashed':
        this.lose(new LostError('page', 'the page crashed'));
        break;
    }
  }
}
