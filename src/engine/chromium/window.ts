/** One Chromium window, driven over the DevTools protocol. */
import type { CoveredScript } from '../../core/coverage/hits.ts';
import type { Environment } from '../../core/settings/environment.ts';
import { knock, workerKnock } from '../../core/wire/stage.ts';
import type { Measured } from '../../core/timing/costs.ts';
import type { Box } from '../../core/timeline/timeline.ts';
import type { Files, InputRequest, Surroundings } from '../../core/wire/wire.ts';
import { type EngineWindow, type FullReply, type LoadedFiles, LostError, type WindowHandlers } from '../engine.ts';
import { type Counting, countingOf } from './counting.ts';
import { asFocused } from './focused.ts';
import { type GivenFiles, givenFilesIn } from './given.ts';
import { carry, choose, dragBegun, type Hands, nothingAfter, paste } from './hands.ts';
import { callsOf } from './input.ts';
import { type Measuring, measuringOf } from './measuring.ts';
import type { Hears, Params, Pipe, Send } from './pipe.ts';
import { type Showing, showingOf } from './showing.ts';
import { changeCalls, environmentCalls, pauseCall, permissionCalls } from './surroundings.ts';
import { pausedRequest, trafficOf } from './traffic.ts';
import { type Whereabouts, whereaboutsOf } from './whereabouts.ts';

/** The name of the function through which a page calls its host. */
export const hostBinding = '__sguardoHost';

/** What Chromium's window has around the page, in pixels: the bars above it. */
const around = [0, 87] as const;

type RemoteValue = {
  result: { value?: unknown; description?: string };
  exceptionDetails?: { text: string; exception?: { description?: string } };
};

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
  readonly #given: GivenFiles;
  /** Whoever waits for the next event of a kind. */
  readonly #waiting = new Map<string, (params: Params) => void>();
  /** What was begun to be dragged since the mouse was pressed. */
  #dragged: Params | null = null;
  hasLostMouse = false;
  readonly #traffic = trafficOf((url) => this.handlers?.missing(url));
  readonly #measuring: Measuring;
  readonly #counting: Counting;
  readonly #whereabouts: Whereabouts;
  readonly #showing: Showing;
  readonly #hears: Hears;

  /** `seenAs` is the id of the window's target, if it can be seen on the screen. */
  constructor(pipe: Pipe, session: string, context: string, folder: string, seenAs: string | null) {
    this.#seenAs = seenAs;
    this.#pipe = pipe;
    this.#given = givenFilesIn(folder);
    this.#session = session;
    this.#context = context;
    const send: Send = (method, params, limit) => this.#send(method, params, limit);
    this.#measuring = measuringOf(send);
    this.#counting = countingOf(send);
    this.#whereabouts = whereaboutsOf(send, (method) => this.#post(method));
    this.#showing = showingOf(send, (method, params) => this.#post(method, params));
    this.#hears = {
      ...this.#traffic.hears,
      ...this.#measuring.hears,
      ...this.#whereabouts.hears,
      ...this.#showing.hears,
      ...this.#ownHears(),
    };
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
    await this.#given.forget();
  }

  async #change(changes: Surroundings): Promise<void> {
    if (!this.#environment) return;
    const calls = changeCalls(this.#environment, this.#changes, changes);
    this.#changes = changes;
    await Promise.all(calls.map(({ method, params }) => this.#send(method, params)));
  }

  async load(url: string): Promise<void> {
    this.#counting.loading();
    this.#traffic.clear();
    const loaded = new Promise<void>((resolve, reject) => {
      this.#loading = { loaded: resolve, failed: reject };
    });
    loaded.catch(() => {});
    try {
      const answer = await this.#send<{ errorText?: string }>('Page.navigate', { url });
      if (answer.errorText) throw new LostError('page', `could not load ${url}: ${answer.errorText}`);
      await loaded;
      await this.#counting.loaded();
    } finally {
      this.#loading = null;
    }
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
      if (this.#dragged === null || (event.kind !== 'move' && event.kind !== 'up')) {
        await this.input([event]);
        continue;
      }
      const { x, y, modifiers } = event;
      const drops = event.kind === 'up';
      await carry(this.#hands, [x, y], null, this.#dragged, { modifiers, drops });
      if (drops) this.#dragged = null;
    }
  }

  async carry(
    point: readonly [number, number],
    load: LoadedFiles | null,
    how: { modifiers: number; drops: boolean },
  ): Promise<boolean> {
    if (!load) this.#dragged ??= await dragBegun(this.#hands);
    return carry(this.#hands, point, load, this.#dragged, how);
  }

  choose(events: readonly InputRequest[], files: readonly string[]): Promise<'chosen' | 'none' | 'one'> {
    return choose(this.#hands, () => this.input(events), files);
  }

  paste(load: LoadedFiles, pngs: readonly string[]): Promise<void> {
    return paste(this.#hands, this.#pipe, load, pngs);
  }

  hold(files: readonly { name: string; bytes: Uint8Array }[], modified: Date): Promise<string[]> {
    return this.#given.hold(files, modified);
  }

  fulfil(id: string, { status, headers, body }: FullReply): void {
    const responseHeaders = Object.entries(headers).map(([name, value]) => ({ name, value }));
    const reply = { responseCode: status, responseHeaders, body: Buffer.from(body).toString('base64') };
    this.#post('Fetch.fulfillRequest', { requestId: id, ...reply });
  }

  proceed(id: string): void {
    this.#post('Fetch.continueRequest', { requestId: id });
  }

  refuse(id: string): void {
    this.#post('Fetch.failRequest', { requestId: id, errorReason: 'ConnectionRefused' });
  }

  watch(isWatched: boolean): Promise<void> {
    return this.#whereabouts.watch(isWatched);
  }

  where(): Promise<string | null> {
    return this.#whereabouts.now();
  }

  async cover(isCovered: boolean): Promise<boolean> {
    return this.#counting.cover(isCovered);
  }

  covered(origin: string): Promise<CoveredScript[]> {
    return this.#counting.covered(origin);
  }

  measure(): Promise<void> {
    return this.#measuring.begin();
  }

  measured(): Promise<Measured> {
    return this.#measuring.end();
  }

  async halt(): Promise<void> {
    await this.#send('Runtime.terminateExecution').catch(() => {});
  }

  async clearStorage(origin: string): Promise<void> {
    await this.#send('Storage.clearDataForOrigin', { origin, storageTypes: 'all' }).catch(() => {});
  }

  show(listener: ((picture: Buffer) => void) | null): Promise<void> {
    return this.#showing.show(listener);
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

  get asked(): Set<string> {
    return this.#traffic.asked;
  }

  get kept(): ReadonlySet<string> {
    return this.#traffic.kept;
  }

  get files(): Files {
    return this.#traffic.files();
  }

  /** The session id, by which the browser tells that the window has closed. */
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

  #post(method: string, params: object = {}, session = this.#session): void {
    this.#pipe.post(method, params, session);
  }

  #event(method: string, params: Params): void {
    const waiting = this.#waiting.get(method) ?? this.#hears[method];
    waiting?.(params);
  }

  /** What the window hears itself. */
  #ownHears(): Hears {
    return {
      'Input.dragIntercepted': (params) => {
        this.#dragged = params;
      },
      'Page.fileChooserOpened': () => this.handlers?.chooser(),
      'Runtime.bindingCalled': ({ name, payload }) => {
        if (name === hostBinding) this.handlers?.message(payload);
      },
      'Fetch.requestPaused': (params) => {
        const paused = pausedRequest(params);
        // Those of workers are told nowhere else.
        this.asked.add(paused.url);
        if (this.handlers) this.handlers.request(paused);
        else this.proceed(paused.id);
      },
      'Page.javascriptDialogOpening': ({ type, message }) => {
        this.#post('Page.handleJavaScriptDialog', { accept: type === 'beforeunload' });
        this.handlers?.dialog(type, message);
      },
      'Page.loadEventFired': () => this.#loading?.loaded(),
      'Page.frameNavigated': ({ frame }) => {
        if (!frame.parentId && !this.#loading) this.handlers?.left(frame.url);
      },
      'Target.attachedToTarget': ({ sessionId }) => {
        // A worker waits for whoever has attached to it.
        this.#post('Runtime.evaluate', { expression: workerKnock }, sessionId);
        this.#post('Runtime.runIfWaitingForDebugger', {}, sessionId);
      },
      'Inspector.targetCrashed': () => this.lose(new LostError('page', 'the page crashed')),
    };
  }
}
