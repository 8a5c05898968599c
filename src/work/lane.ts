/** A lane: one browser window that runs look after look, and lives on when one of them kills the page. */
import { setTimeout as delay } from 'node:timers/promises';
import { type Bundle, type BundledLooks, documentPath } from '../bundle/index.ts';
import { problem, type Problem } from '../core/problem/problem.ts';
import type { Settings } from '../core/settings/config.ts';
import { type Environment, fingerprint } from '../core/settings/environment.ts';
import { doing } from '../core/timeline/trace.ts';
import { readFileReport, readLookReport } from '../core/wire/shapes.ts';
import type { FileReport, LookReport, LookRequest } from '../core/wire/wire.ts';
import { type BrowserLoad, type Engine, type EngineWindow, LostError } from '../engine/engine.ts';
import type { Contract } from './contract.ts';
import { type Counts, countsOf } from './counts.ts';
import type { Crew } from './crew.ts';
import { Cut, explain, whereItStands } from './cut.ts';
import { asksNothing, heldIn, type Held, isAsBuilt, type LookDocument, mayTurn, worldOf } from './document.ts';
import { endedBy, type Execution } from './execution.ts';
import type { Gathered } from './gathered.ts';
import type { Ran } from './job.ts';
import { mostLimits, whileMoving, within } from './patience.ts';
import { type Attendant, endless, requestFor, type RunOptions } from './request.ts';

/** How long a page may take to load and to evaluate a look file, in milliseconds. */
const loadLimit = 30_000;

/** How long a page may take to turn to another look file; one that takes longer is loaded for it. */
const turnLimit = 5000;

/** How long after a run its windows are made ready for the next one, in milliseconds: its end comes first. */
const restAfter = 300;

/** How long a call that stops a page's script may take, in milliseconds. */
const haltLimit = 2000;

const nothing = (): void => {};
const yes = (): boolean => true;
const no = (): boolean => false;

export class Lane {
  readonly #crew: Crew;
  readonly #index: number;
  readonly #origin: string;
  readonly #settings: Settings;
  readonly #isLate: boolean;
  readonly #contract: Contract | null;
  #window: EngineWindow | null = null;
  #engine: Engine | null = null;
  #held: Held | null = null;
  /** Resolves when the browser of the present window has ended. */
  #gone: Promise<string> = new Promise(() => {});
  #cut: (cut: Cut) => void = () => {};
  /** A look file could be evaluated, and asked for nothing that its bundle does not hold: others may come after it. */
  #isSound = false;
  /** The looks that the present document has run, in their order. */
  ran: Ran[] = [];
  readonly #counts: Counts;

  /** With `isLate` what happens in real time gets more of it. */
  constructor(
    crew: Crew,
    index: number,
    origin: string,
    settings: Settings,
    isLate = false,
    contract: Contract | null = null,
    isCovered = false,
  ) {
    this.#counts = countsOf(origin, isCovered);
    this.#contract = contract;
    this.#isLate = isLate;
    this.#crew = crew;
    this.#index = index;
    this.#origin = origin;
    this.#settings = settings;
  }

  /**
   * Sees to it that there is a document for a look file, and says which looks it has: the one that is there, if it is
   * for that file or can be turned to it, or a new one. One that is to be `fresh` has run no look.
   * @throws LostError when the browser is gone
   */
  async open(bundle: Bundle, file: string, environment: Environment, fresh = false): Promise<FileReport> {
    const entry = bundle.entries.find((one) => one.file === file)!;
    const world = worldOf(entry, environment, this.#settings);
    const there = await this.#documentOf(environment);
    if (there && there.world === world) {
      const isFresh = there.isOwn && there.ran.length === 0;
      if (there.present?.entry.script === entry.script && (isFresh || !fresh)) return there.present.report;
      const report = fresh && there.present ? null : await this.#turn(bundle, there, entry);
      if (report) {
        await this.#counts.loading(this.window);
        return report;
      }
    }
    this.leave();
    try {
      const said = await this.#load(bundle, entry, environment, 'file');
      const report = readFileReport(said);
      if (!report) throw new Cut(problem('page-forged'));
      if ('looks' in report) this.#hold({ world, present: { entry, report } });
      await this.#counts.loading(this.window);
      return report;
    } catch (error) {
      return { problem: await this.#recover(error), stack: null };
    }
  }

  /**
   * The run has ended: before long the window gets a document in which the frame and nothing else was evaluated, so
   * that whatever look file the next run begins with is there at once.
   */
  rest(bundle: Bundle, environment: Environment): void {
    const [entry] = bundle.entries;
    const held = this.#held;
    const window = this.#window;
    if (!entry?.styles || !this.#isSound || !held || !window || window.lost !== null) return;
    if (held.document?.present === null) return;
    const { runs } = held;
    const warm = async (): Promise<void> => {
      held.document = null;
      const isWarm = await this.#load(bundle, entry, environment, 'warm');
      if (isWarm === true) this.#hold({ world: worldOf(entry, environment, this.#settings), present: null });
    };
    const begin = (): void => {
      // Whoever has begun another run meanwhile does not wait for this.
      if (held.runs !== runs || window.lost !== null) return;
      const recover = (error: unknown): Promise<unknown> => this.#recover(error);
      held.ready = warm().catch(recover).then(nothing, nothing);
    };
    setTimeout(begin, restAfter).unref();
  }

  /** Loads a look file's document anew, and calls a function of its page. */
  async #load(bundle: Bundle, { file }: BundledLooks, environment: Environment, name: 'file' | 'warm') {
    const late = (): Cut => new Cut(problem('look-endless', { doing: `Loading ${file}`, limit: loadLimit }));
    const window = await this.#take(environment.pointer);
    const { conversation } = this.#held!;
    const cut = this.#nextCut();
    await conversation.hush();
    this.#counts.clear();
    await window.apply(environment);
    const token = conversation.begin(bundle);
    const load = window.load(`${this.#origin}${documentPath(bundle, file)}`);
    await this.#whileMoving(loadLimit, Promise.race([load, cut]), () => 0, late);
    const call = `__sguardo.${name}(${JSON.stringify(token)}, ${Date.parse(this.#settings.now)})`;
    const asked = window.evaluate(call, mostLimits * loadLimit + haltLimit);
    return this.#whileMoving(loadLimit, Promise.race([asked, cut]), () => 0, late);
  }

  /** A document has been made. */
  #hold(made: Pick<LookDocument, 'world' | 'present'>): void {
    this.ran = [];
    const isQuiet = asksNothing(this.#window!);
    if (made.present && isQuiet) this.#isSound = true;
    this.#held!.document = { ...made, isOwn: true, isQuiet, ran: this.ran };
  }

  /** The document that the lane's window shows, if it can be used; null when there is none. */
  async #documentOf({ pointer }: Environment): Promise<LookDocument | null> {
    if (this.#window?.lost !== null) await this.#take(pointer);
    const { document } = this.#held!;
    if (document) this.ran = document.ran;
    return document;
  }

  /** The document is used no more. */
  leave(): void {
    if (this.#held) this.#held.document = null;
  }

  /** Turns a document to another look file; null when that is not as good as a fresh one. */
  async #turn(bundle: Bundle, document: LookDocument, entry: BundledLooks): Promise<FileReport | null> {
    const { script, styles } = entry;
    const window = this.#window!;
    if (!styles || !mayTurn(document, window, this.#settings.isolate)) return null;
    const late = (): Cut => new Cut(problem('look-endless', { doing: `Loading ${entry.file}`, limit: turnLimit }));
    try {
      const cut = this.#nextCut();
      const { conversation } = this.#held!;
      await conversation.hush();
      conversation.goOn(bundle);
      window.asked.clear();
      const to = JSON.stringify({ script, styles });
      const call = `__sguardo.turn(${JSON.stringify(conversation.token)}, ${to}, ${Date.parse(this.#settings.now)})`;
      const asked = window.evaluate(call, mostLimits * turnLimit + haltLimit);
      const report = readFileReport(await this.#whileMoving(turnLimit, Promise.race([asked, cut]), () => 0, late));
      if (!report || !('looks' in report) || !isAsBuilt(report, entry)) return null;
      const isOwn = document.present === null;
      const isQuiet = asksNothing(window);
      if (isQuiet) this.#isSound = true;
      this.#held!.document = { ...document, present: { entry, report }, isOwn, isQuiet };
      return report;
    } catch (error) {
      // Whatever is wrong with the file is told by a document of its own.
      await this.#recover(error);
      return null;
    }
  }

  /** Runs one look of the loaded document. @throws LostError when the browser is gone */
  async run(look: string, environment: Environment, options: RunOptions = {}): Promise<Execution> {
    const { attendant = null, watched = false, timed = false } = options;
    const held = this.#held!;
    const number = ++held.looks;
    this.ran.push({ file: held.document!.present!.entry.file, look });
    if (watched) await this.#window!.watch(true);
    const isMeasured = timed && (await this.#window!.measure().then(yes, no));
    const gathered = this.#listen(look, number, environment, options);
    attendant?.began(gathered.trace);
    const request = requestFor(look, number, environment, this.#settings, this.#isLate, options);
    const limit = this.#limitOf(look);
    const began = performance.now();
    let report: LookReport;
    try {
      report = await this.#reportOf(request, gathered, limit, attendant);
      await this.#held!.conversation.hush();
      await this.#window!.restore();
      // A document asks for no picture twice.
      if (report.left.length > 0 || gathered.answered.size > 0) await this.#giveUpDocument();
    } catch (error) {
      const found = watched ? await whereItStands(error, gathered.trace, limit, this.#window) : { error, stack: null };
      report = endedBy(await this.#recover(found.error), found.stack, gathered, performance.now() - began);
    }
    if (watched) await this.window?.watch(false).catch(nothing);
    report.notes.push(...gathered.notes);
    const { trace, shots, read, answered, recalled } = gathered;
    const covered = this.#counts.ofLook(this.window);
    const measured = isMeasured ? ((await this.window?.measured().catch(() => null)) ?? null) : null;
    const asked = [...(this.#window?.asked ?? [])];
    return { report, trace, shots, asked, read, answered, recalled, covered, measured };
  }

  /** Begins to hear what the page tells of a look. */
  #listen(look: string, number: number, environment: Environment, options: RunOptions): Gathered {
    const { approved = null, isPhotographed = false, attendant = null, memory = null } = options;
    const { conversation, document } = this.#held!;
    const { entry } = document!.present!;
    const mark = fingerprint(environment, this.#engine!.name, this.#engine!.fonts);
    const rules = JSON.stringify([mark, entry.base]);
    const ground = memory && { memory, rules, code: JSON.stringify([entry.script, look]) };
    return conversation.listen(number, approved, isPhotographed ? null : mark, ground, attendant);
  }

  /** Has the page run a look, and takes what it says of it; what speaks against a look that passed fails it. */
  async #reportOf(
    request: LookRequest,
    gathered: Gathered,
    limit: number,
    attendant: Attendant | null,
  ): Promise<LookReport> {
    const { trace, objections } = gathered;
    const late = (): Cut => new Cut(problem('look-endless', { doing: doing(trace), limit }));
    const call = `__sguardo.run(${JSON.stringify(this.#held!.conversation.token)}, ${JSON.stringify(request)})`;
    const running = this.#window!.evaluate(call, attendant ? endless : mostLimits * limit + haltLimit);
    running.catch(nothing);
    const steps = (): number => trace.steps.length + gathered.watched;
    const ending = Promise.race([running, this.#nextCut()]);
    const report = readLookReport(await this.#whileMoving(limit, ending, steps, late, attendant?.isHeld));
    if (!report) throw new Cut(problem('page-forged'));
    const [objection] = objections;
    return objection && report.outcome === 'passed' ? { ...report, outcome: 'failed', problem: objection } : report;
  }

  /** The window that the lane works in; null when there is none by now. */
  get window(): EngineWindow | null {
    return this.#window?.lost === null ? this.#window : null;
  }

  /** Calls a function of the page with its token and the text of more arguments, which somebody else has seen to. */
  async call(name: 'steer' | 'attempt' | 'complete' | 'point', argument: string, limit?: number): Promise<unknown> {
    const token = JSON.stringify(this.#held?.conversation.token ?? '');
    return this.#window?.evaluate(`__sguardo.${name}(${token}, ${argument})`, limit);
  }

  /** Waits for what is done to the page by hand, as long as it would take on a machine with less to do. */
  patiently<T>(limit: number, promise: Promise<T>, late: () => Error): Promise<T> {
    return this.#whileMoving(limit, promise, () => 0, late);
  }

  #whileMoving<T>(
    limit: number,
    promise: Promise<T>,
    progress: () => number,
    late: () => Error,
    isHeld?: () => boolean,
  ): Promise<T> {
    const load = async (): Promise<BrowserLoad> => (await this.#crew.engine()).load();
    return whileMoving(promise, { limit, progress, load, late, isHeld });
  }

  /** How long a look may take without progress: what its file says, or the configuration. */
  #limitOf(look: string): number {
    const declared = this.#held?.document?.present?.report.looks.find((one) => one.look === look);
    return declared?.timeLimit ?? this.#settings.timeLimit;
  }

  /** The document could not be brought back to where it was: the next look gets another one. */
  async #giveUpDocument(): Promise<void> {
    this.leave();
    await this.#window!.clearStorage(this.#origin);
  }

  async #take(pointer: Environment['pointer']): Promise<EngineWindow> {
    const engine = await this.#crew.engine();
    const before = await this.#crew.window(this.#index);
    if (pointer === 'mouse' && before.hasLostMouse) await this.#crew.discard(this.#index, before);
    let window = await this.#crew.window(this.#index);
    if (window === this.#window) return window;
    if (!(await window.cover(this.#counts.isCovered))) {
      await this.#crew.discard(this.#index, window);
      window = await this.#crew.window(this.#index);
      await window.cover(this.#counts.isCovered);
    }
    this.#window = window;
    this.#engine = engine;
    this.#gone = engine.gone;
    const held = await heldIn(window, this.#origin, new Date(this.#settings.now), this.#contract);
    this.#held = held;
    // What a document has run before is not known any more.
    if (this.#counts.isCovered) held.document = null;
    const { conversation } = held;
    window.handlers = {
      ...conversation.hears,
      left: (url) => {
        // It may leave long after a run has ended.
        held.document = null;
        this.#cut(new Cut(problem('page-left', { url })));
      },
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
    const window = this.#window;
    this.leave();
    if (error instanceof LostError && error.what === 'browser') throw error;
    let wrong = explain(error);
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
      if (window) await this.#crew.discard(this.#index, window);
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
}
