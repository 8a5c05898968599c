/** A lane: one browser window that runs look after look, and lives on when one of them kills the page. */
import { setTimeout as delay } from 'node:timers/promises';
import type { Approved } from '../core/baseline/baseline.ts';
import { type Bundle, documentPath } from '../bundle/index.ts';
import { messageOf, problem, type Problem } from '../core/problem/problem.ts';
import type { Settings } from '../core/settings/config.ts';
import { type Environment, fingerprint } from '../core/settings/environment.ts';
import { breakOff, doing, type Trace } from '../core/timeline/trace.ts';
import { fencePath } from '../core/wire/stage.ts';
import { readFileReport, readLookReport } from '../core/wire/shapes.ts';
import type { FileReport, LookReport, LookRequest } from '../core/wire/wire.ts';
import { type BrowserLoad, type Engine, type EngineWindow, LostError } from '../engine/engine.ts';
import { Conversation } from './conversation.ts';
import type { Crew } from './crew.ts';
import { brokenReport, type Execution } from './execution.ts';
import { mostLimits, whileMoving, within } from './patience.ts';

type RunOptions = {
  recording?: LookRequest['recording'];
  /** What has been approved by capture; when it is given, every other picture has to come out twice in a row. */
  approved?: Readonly<Record<string, Approved>>;
  /** Every capture is photographed, also one whose moment is as approved. */
  isPhotographed?: boolean;
  /** Should it not end, it is found out where it stands. */
  watched?: boolean;
};

/** How long a page may take to load and to evaluate a look file, in milliseconds. */
const loadLimit = 30_000;

/** How long a call that stops a page's script may take, in milliseconds. */
const haltLimit = 2000;

/** How long a page that runs no script takes to answer at most, in milliseconds, on a busy machine. */
const answerLimit = 1000;

/** Something ended the page before it could report. */
class Cut extends Error {
  readonly problem: Problem;
  constructor(wrong: Problem) {
    super(wrong.message);
    this.problem = wrong;
  }
}

export class Lane {
  readonly #crew: Crew;
  readonly #index: number;
  readonly #origin: string;
  readonly #settings: Settings;
  readonly #isLate: boolean;
  #window: EngineWindow | null = null;
  #engine: Engine | null = null;
  #conversation: Conversation | null = null;
  /** Resolves when the browser of the present window has ended. */
  #gone: Promise<string> = new Promise(() => {});
  #loaded = '';
  /** What the loaded document said of its looks. */
  #report: FileReport = { looks: [] };
  #number = 0;
  #cut: (cut: Cut) => void = () => {};
  /** The looks that the present document has run, in their order. */
  ran: string[] = [];

  /** With `isLate` what happens in real time gets more of it. */
  constructor(crew: Crew, index: number, origin: string, settings: Settings, isLate = false) {
    this.#isLate = isLate;
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
    if (this.#loaded === wanted && !fresh && this.#window?.lost === null) return this.#report;
    this.#loaded = '';
    const late = (): Cut => new Cut(problem('look-endless', { doing: `Loading ${file}`, limit: loadLimit }));
    try {
      const window = await this.#take(environment.pointer);
      const cut = this.#nextCut();
      await this.#conversation!.hush();
      await window.apply(environment);
      const token = this.#conversation!.begin(bundle);
      const load = window.load(`${this.#origin}${documentPath(bundle, file)}`);
      await this.#whileMoving(loadLimit, Promise.race([load, cut]), () => 0, late);
      const now = Date.parse(this.#settings.now);
      const call = `__sguardo.file(${JSON.stringify(token)}, ${now})`;
      const asked = window.evaluate(call, mostLimits * loadLimit + haltLimit);
      const report = readFileReport(await this.#whileMoving(loadLimit, Promise.race([asked, cut]), () => 0, late));
      if (!report) throw new Cut(problem('page-forged'));
      this.#loaded = wanted;
      this.#report = report;
      this.ran = [];
      return report;
    } catch (error) {
      return { problem: await this.#recover(error), stack: null };
    }
  }

  /** Runs one look of the loaded document. @throws LostError when the browser is gone */
  async run(look: string, environment: Environment, options: RunOptions = {}): Promise<Execution> {
    const { recording = 'on', approved = null, isPhotographed = false, watched = false } = options;
    const { patience, settle, clock, now, network } = this.#settings;
    const timeLimit = this.#limitOf(look);
    const conversation = this.#conversation!;
    const number = ++this.#number;
    this.ran.push(look);
    const { scheme } = environment;
    const request: LookRequest = {
      look,
      number,
      patience,
      settle,
      clock,
      now: Date.parse(now),
      scheme,
      network,
      recording,
      isLate: this.#isLate,
    };
    if (watched) await this.#window!.watch(true);
    const gathered = conversation.listen(number, approved, isPhotographed ? null : this.#fingerprintOf(environment));
    const began = performance.now();
    let report: LookReport;
    try {
      const late = (): Cut => new Cut(problem('look-endless', { doing: doing(gathered.trace), limit: timeLimit }));
      const call = `__sguardo.run(${JSON.stringify(conversation.token)}, ${JSON.stringify(request)})`;
      const running = this.#window!.evaluate(call, mostLimits * timeLimit + haltLimit);
      running.catch(() => {});
      const steps = (): number => gathered.trace.steps.length;
      const ending = Promise.race([running, this.#nextCut()]);
      const said = readLookReport(await this.#whileMoving(timeLimit, ending, steps, late));
      if (!said) throw new Cut(problem('page-forged'));
      report = said;
      await conversation.hush();
      if (report.left.length > 0) {
        await this.#giveUpDocument();
      }
    } catch (error) {
      const found = watched ? await this.#findOut(error, gathered.trace, timeLimit) : { error, stack: null };
      const wrong = await this.#recover(found.error);
      breakOff(gathered.trace, wrong, performance.now() - began);
      report = brokenReport(wrong, found.stack);
    }
    if (watched && this.#window?.lost === null) await this.#window.watch(false).catch(() => {});
    report.notes.push(...gathered.notes);
    const asked = [...(this.#window?.asked ?? [])].filter((address) => !address.includes(fencePath));
    return { report, trace: gathered.trace, shots: gathered.shots, asked };
  }

  #whileMoving<T>(limit: number, promise: Promise<T>, progress: () => number, late: () => Cut): Promise<T> {
    const load = async (): Promise<BrowserLoad> => (await this.#crew.engine()).load();
    return whileMoving(promise, { limit, progress, load, late });
  }

  /** Where a look stands that did not end: in a script that runs on and on, or waiting behind one of its steps. */
  async #findOut(error: unknown, trace: Trace, limit: number): Promise<{ error: unknown; stack: string | null }> {
    if (!(error instanceof Cut) || error.problem.code !== 'look-endless') return { error, stack: null };
    // A page that answers runs nothing on and on.
    const answer = this.#window?.evaluate('true').catch(() => false);
    const isFree = await Promise.race([answer, delay(answerLimit, false)]);
    const stack = isFree ? null : ((await this.#window?.where().catch(() => null)) ?? null);
    if (stack !== null) return { error, stack };
    const asked = trace.marks.filter(
      ({ lane, took, title }) => lane === 'network' && took === null && !/ → /.test(title),
    );
    const what = asked.length > 0 ? `the reply to ${asked[0]!.title}` : 'something that did not come';
    return {
      error: new Cut(problem('look-waits', { doing: doing(trace), limit, what })),
      stack: trace.stacks.findLast((one) => one !== undefined) ?? null,
    };
  }

  #fingerprintOf(environment: Environment): string {
    return fingerprint(environment, this.#engine!.name, this.#engine!.fonts);
  }

  /** How long a look may take without progress: what its file says, or the configuration. */
  #limitOf(look: string): number {
    const declared = 'looks' in this.#report ? this.#report.looks.find((one) => one.look === look) : undefined;
    return declared?.timeLimit ?? this.#settings.timeLimit;
  }

  /** The document could not be brought back to where it was: the next look gets another one. */
  async #giveUpDocument(): Promise<void> {
    this.#loaded = '';
    await this.#window!.clearStorage(this.#origin);
  }

  async #take(pointer: Environment['pointer']): Promise<EngineWindow> {
    const engine = await this.#crew.engine();
    if (pointer === 'mouse' && (await this.#crew.window(this.#index)).hasLostMouse) this.#crew.discard(this.#index);
    const window = await this.#crew.window(this.#index);
    if (window === this.#window) return window;
    this.#window = window;
    this.#engine = engine;
    this.#gone = engine.gone;
    const conversation = new Conversation(window, this.#origin);
    this.#conversation = conversation;
    window.handlers = {
      message: (text) => conversation.receive(text),
      request: (request) => conversation.request(request),
      dialog: (type, text) => conversation.note(`A dialog (${type}: “${text}”) opened and was dismissed.`),
      left: (url) => this.#cut(new Cut(problem('page-left', { url }))),
      lost: ({ what }) => this.#cut(new Cut(problem(what === 'window' ? 'window-closed' : 'page-crashed'))),
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

  /**
   * Brings the lane back to where it can go on, and says what had happened. @throws LostError when the browser is
   * gone
   */
  async #recover(error: unknown): Promise<Problem> {
    this.#loaded = '';
    if (error instanceof LostError && error.what === 'browser') throw error;
    let wrong = this.#explain(error);
    if (wrong.code === 'page-crashed' || wrong.code === 'window-closed') {
      // When the whole browser dies its pages seem to go first; only the browser's own end tells which it was.
      const gone = await Promise.race([this.#gone, delay(1000, null)]);
      if (gone !== null) throw new LostError('browser', gone);
    }
    if (wrong.code === 'look-endless' || wrong.code === 'look-waits') {
      const halted = this.#window?.halt() ?? Promise.resolve();
      await within(haltLimit, halted, () => new Cut(wrong)).catch(() => {});
      wrong = await this.#blame(wrong);
    }
    // A page that was lost, or stopped in the middle of anything, is not used again.
    if (wrong.code !== 'page-left') {
      this.#crew.discard(this.#index);
      this.#window = null;
    }
    return wrong;
  }

  /** A look that did not end may have taken from the page what our own side of it needs. */
  async #blame(wrong: Problem): Promise<Problem> {
    const replaced = await this.#window?.evaluate('__sguardo.replaced()[0]', haltLimit).catch(() => null);
    return typeof replaced === 'string'
      ? problem('platform-replaced', { what: replaced, error: wrong.message })
      : wrong;
  }

  #explain(error: unknown): Problem {
    if (error instanceof Cut) return error.problem;
    if (error instanceof LostError)
      return error.what === 'silent'
        ? problem('page-silent', { limit: error.message })
        : problem(error.what === 'window' ? 'window-closed' : 'page-crashed');
    const text = messageOf(error);
    if (/context was destroyed|navigated|Cannot find context|Promise was collected/i.test(text))
      return problem('page-left');
    return problem('internal', { error: text });
  }
}
