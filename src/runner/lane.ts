/** A lane: one browser window that runs look after look, and lives on when one of them kills the page. */
import type { Settings } from '../core/config.ts';
import type { Environment } from '../core/environment.ts';
import { problem, type Problem } from '../core/problem.ts';
import { breakOff, doing, emptyTrace, gather, type Trace } from '../core/trace.ts';
import type { Box } from '../core/timeline.ts';
import type { Ask, FileReport, FromPage, LookReport, LookRequest } from '../core/wire.ts';
import { type Bundle, documentPath, fileOf } from '../bundle/index.ts';
import { type EngineWindow, LostError } from '../engine/engine.ts';
import type { Crew } from './crew.ts';

/** A screenshot as it was taken. */
export type Shot = { name: string; png: Buffer; clip: Box; step: number; moment: number };

/** Everything that one execution of one look brought. */
export type Execution = { report: LookReport; trace: Trace; shots: Shot[] };

/** How often a picture is taken at most until it comes out twice in a row. */
const mostShots = 5;

type RunOptions = {
  recording?: LookRequest['recording'];
  /** The approved picture of a capture; when this is given, every other picture has to come out twice in a row. */
  approved?: (capture: string) => Buffer | null;
};

/** How long a page may take to load and to evaluate a look file, in milliseconds. */
const loadLimit = 30_000;

/** Something ended the page before it could report. */
class Cut extends Error {
  readonly problem: Problem;
  constructor(wrong: Problem) {
    super(wrong.message);
    this.problem = wrong;
  }
}

const within = async <T>(milliseconds: number, promise: Promise<T>, late: () => Cut): Promise<T> => {
  let timer: NodeJS.Timeout | undefined;
  try {
    return await Promise.race([promise, new Promise<never>((_, reject) => (timer = setTimeout(() => reject(late()), milliseconds)))]);
  } finally {
    clearTimeout(timer);
  }
};

export class Lane {
  readonly #crew: Crew;
  readonly #index: number;
  readonly #origin: string;
  readonly #settings: Settings;
  #window: EngineWindow | null = null;
  /** Resolves when the browser of the present window has ended. */
  #gone: Promise<string> = new Promise(() => {});
  #bundle: Bundle | null = null;
  #loaded = '';
  /** What the loaded document said of its looks. */
  #report: FileReport = { looks: [] };
  #number = 0;
  #trace: Trace = emptyTrace();
  #shots: Shot[] = [];
  #notes: string[] = [];
  #approved: RunOptions['approved'];
  #cut: (cut: Cut) => void = () => {};
  /** How many looks the present document has run. */
  ran = 0;

  constructor(crew: Crew, index: number, origin: string, settings: Settings) {
    this.#crew = crew;
    this.#index = index;
    this.#origin = origin;
    this.#settings = settings;
  }

  /**
   * Loads the document of a look file unless it is there already, and says which looks it has.
   * @throws LostError when the browser is gone
   */
  async open(bundle: Bundle, file: string, environment: Environment, fresh = false): Promise<FileReport> {
    const wanted = `${bundle.id} ${file} ${JSON.stringify(environment)}`;
    if (this.#loaded !== wanted || fresh) {
      this.#loaded = '';
      this.#bundle = bundle;
      const window = await this.#take();
      const cut = this.#nextCut();
      const late = (): Cut => new Cut(problem('look-endless', { doing: `Loading ${file}`, limit: loadLimit }));
      try {
        await window.apply(environment);
        await within(loadLimit, Promise.race([window.load(`${this.#origin}${documentPath(bundle, file)}`), cut]), late);
        const report = (await within(loadLimit, Promise.race([window.evaluate('__sguardo.file()'), cut]), late)) as FileReport;
        this.#loaded = wanted;
        this.#report = report;
        this.ran = 0;
      } catch (error) {
        return { problem: await this.#recover(error), stack: null };
      }
    }
    return this.#report;
  }

  /** Runs one look of the loaded document. @throws LostError when the browser is gone */
  async run(look: string, environment: Environment, { recording = 'on', approved }: RunOptions = {}): Promise<Execution> {
    this.#approved = approved;
    this.#trace = emptyTrace();
    this.#shots = [];
    this.#notes = [];
    this.#number++;
    this.ran++;
    const request: LookRequest = {
      look,
      number: this.#number,
      patience: this.#settings.patience,
      now: Date.parse(this.#settings.now),
      scheme: environment.scheme,
      recording,
    };
    const began = performance.now();
    let report: LookReport;
    try {
      const late = (): Cut => new Cut(problem('look-endless', { doing: doing(this.#trace), limit: this.#settings.timeLimit }));
      const running = this.#window!.evaluate(`__sguardo.run(${JSON.stringify(request)})`) as Promise<LookReport>;
      running.catch(() => {});
      report = await within(this.#settings.timeLimit, Promise.race([running, this.#nextCut()]), late);
    } catch (error) {
      const wrong = await this.#recover(error);
      breakOff(this.#trace, wrong, performance.now() - began);
      report = { outcome: 'broken', problem: wrong, stack: null, notes: [] };
    }
    report.notes.push(...this.#notes);
    return { report, trace: this.#trace, shots: this.#shots };
  }

  async #take(): Promise<EngineWindow> {
    const engine = await this.#crew.engine();
    const window = await this.#crew.window(this.#index);
    if (window === this.#window) return window;
    this.#window = window;
    this.#gone = engine.gone;
    window.handlers = {
      message: (text) => this.#receive(window, text),
      request: (request) => void this.#request(window, request),
      dialog: (type, text) => this.#notes.push(`A dialog (${type}: “${text}”) opened and was dismissed.`),
      left: (url) => this.#cut(new Cut(problem('page-left', { url }))),
      crashed: () => this.#cut(new Cut(problem('page-crashed'))),
      closed: () => this.#cut(new Cut(problem('window-closed'))),
    };
    return window;
  }

  #nextCut(): Promise<never> {
    const cut = new Promise<never>((_, reject) => {
      this.#cut = reject;
    });
    cut.catch(() => {});
    return cut;
  }

  /** Brings the lane back to where it can go on, and says what had happened. @throws LostError when the browser is gone */
  async #recover(error: unknown): Promise<Problem> {
    this.#loaded = '';
    if (error instanceof LostError && error.what === 'browser') throw error;
    const wrong = this.#explain(error);
    if (wrong.code === 'page-crashed' || wrong.code === 'window-closed') {
      // When the whole browser dies its pages seem to go first; only the browser's own end tells which it was.
      const gone = await Promise.race([this.#gone, new Promise<null>((resolve) => setTimeout(() => resolve(null), 1000))]);
      if (gone !== null) throw new LostError('browser', gone);
    }
    if (wrong.code === 'look-endless') await within(2000, this.#window!.halt(), () => new Cut(wrong)).catch(() => {});
    // A page that was lost, or stopped in the middle of anything, is not used again.
    if (wrong.code !== 'page-left' && wrong.code !== 'internal') {
      this.#crew.discard(this.#index);
      this.#window = null;
    }
    return wrong;
  }

  #explain(error: unknown): Problem {
    if (error instanceof Cut) return error.problem;
    if (error instanceof LostError) return problem(error.what === 'window' ? 'window-closed' : 'page-crashed');
    const text = error instanceof Error ? error.message : String(error);
    if (/context was destroyed|navigated|Cannot find context|Promise was collected/i.test(text)) return problem('page-left', { url: 'unknown' });
    return problem('internal', { error: text });
  }

  #receive(window: EngineWindow, text: string): void {
    let message: FromPage;
    try {
      message = JSON.parse(text) as FromPage;
    } catch {
      return;
    }
    if (message.kind === 'events') {
      if (message.look === this.#number && Array.isArray(message.events)) for (const event of message.events) gather(this.#trace, event);
    } else if (message.kind === 'ask') {
      const { id, ask } = message;
      this.#do(window, ask).then(
        () => this.#reply(window, id, null),
        (error: unknown) => this.#reply(window, id, error instanceof Error ? error.message : String(error)),
      );
    } else if (message.kind === 'answer') {
      if (message.reply === 'proceed') window.proceed(message.request);
      else if (message.reply === 'refuse') window.refuse(message.request);
      else window.fulfil(message.request, message.reply);
    }
  }

  #reply(window: EngineWindow, id: number, error: string | null): void {
    window.evaluate(`__sguardo.reply(${JSON.stringify(id)}, ${JSON.stringify(error)})`).catch(() => {});
  }

  async #do(window: EngineWindow, ask: Ask): Promise<void> {
    if (ask.do === 'input') return window.input(ask.events);
    const png = await this.#shoot(window, ask);
    this.#shots.push({ name: ask.name, png, clip: ask.clip, step: ask.step, moment: ask.moment });
  }

  /** A picture as approved is what it should be. Any other is looked at again: now and then a browser draws a layer a frame late. */
  async #shoot(window: EngineWindow, { name, clip, beyond }: Ask & { do: 'capture' }): Promise<Buffer> {
    let png = await window.screenshot(clip, beyond);
    if (!this.#approved || this.#approved(name)?.equals(png)) return png;
    for (let shots = 1; shots < mostShots; shots++) {
      const again = await window.screenshot(clip, beyond);
      if (again.equals(png)) return png;
      png = again;
    }
    this.#notes.push(`The picture “${name}” came out otherwise each of the ${mostShots} times that it was taken, so it will differ from run to run.`);
    return png;
  }

  async #request(
    window: EngineWindow,
    request: { id: string; method: string; url: string; headers: Record<string, string>; body: string | null },
  ): Promise<void> {
    const url = new URL(request.url);
    const asset = url.origin === this.#origin && request.method === 'GET' && this.#bundle !== null && (await fileOf(this.#bundle, url.pathname)) !== null;
    window.evaluate(`window.__sguardo ? (__sguardo.request(${JSON.stringify({ ...request, asset })}), true) : false`).then(
      (taken) => void (taken || window.proceed(request.id)),
      () => window.proceed(request.id),
    );
  }
}
