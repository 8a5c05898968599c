/** A sitting: one look in a window of its own, for somebody who stops it, tries lines on it, and lets it go on. */
import type { Bundle, SourceMapper } from '../bundle/index.ts';
import { sourceMapper } from '../bundle/index.ts';
import { componentOf } from '../core/look/look.ts';
import { fail, problem, type Problem, toProblem } from '../core/problem/problem.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Environment } from '../core/settings/environment.ts';
import { partedFrom, type SheetTexts } from '../core/sitting/parted.ts';
import type {
  OptionList,
  Completion,
  Did,
  Orders,
  Parted,
  SittingState,
  Stop,
  TriedLine,
} from '../core/sitting/sitting.ts';
import type { SourcePlace, Step, Timeline } from '../core/timeline/timeline.ts';
import { emptyTrace, type Trace } from '../core/timeline/trace.ts';
import type { Pointed } from '../core/wire/live.ts';
import { readCompletion, readPointed, readTried } from '../core/wire/shapes.ts';
import type { InputRequest } from '../core/wire/wire.ts';
import { browserIsGone, type Crew } from './crew.ts';
import { hashOf } from './assets.ts';
import { contractOf } from './contract.ts';
import { emptied, letGo } from './emptied.ts';
import { Lane } from './lane.ts';
import { endless } from './request.ts';
import { functionOf } from './line.ts';
import { within } from './patience.ts';
import { type Picture, pictures } from './pictures.ts';

export type SittingSetup = {
  id: number;
  bundle: Bundle;
  settings: Settings;
  environment: Environment;
  file: string;
  look: string;
  headed: boolean;
  /** How long each step waits, in milliseconds. */
  pace: number;
  crew: Crew;
  /** The number of its window among those of the crew. */
  lane: number;
  origin: string;
  /** The result that it follows, and what was recorded of it, to compare with where it stops. */
  result: number | null;
  follows: { timeline: Timeline; sheets: SheetTexts } | null;
  /** Something has changed. */
  changed(): void;
};

/** How often somebody is told of a script that runs, in milliseconds. */
const telling = 250;

/** How long completing a line, or settling, may take, in milliseconds. */
const briefly = 5000;

export class Sitting {
  readonly #setup: SittingSetup;
  readonly #lane: Lane;
  readonly #mapper: SourceMapper;
  #phase: SittingState['phase'] = 'starting';
  #orders: Orders;
  #stop: Stop | null = null;
  #trace: Trace = emptyTrace();
  #lines: TriedLine[] = [];
  #isTimeRunning = false;
  #isRecording = false;
  #choice: OptionList | null = null;
  #parted: Parted | null = null;
  #problem: Problem | null = null;
  readonly #pictures = pictures();
  /** Places of stacks that were looked up before. */
  readonly #places = new Map<string, SourcePlace | null>();
  #isEnded = false;
  /** Counts how often the script was begun: what an earlier time still says counts no more. */
  #times = 0;
  /** One thing is asked of the page at a time. */
  #last: Promise<unknown> = Promise.resolve();
  readonly #timer: NodeJS.Timeout;

  constructor(setup: SittingSetup, orders: Orders) {
    const { crew, lane, origin, settings, bundle } = setup;
    const contract = settings.openapi === null ? null : contractOf(bundle.root, settings.openapi);
    this.#setup = setup;
    this.#orders = orders;
    this.#lane = new Lane(crew, lane, origin, settings, false, contract);
    this.#mapper = sourceMapper(bundle);
    this.#timer = setInterval(() => this.#phase === 'running' && setup.changed(), telling);
    this.#timer.unref();
    void this.#run(orders);
  }

  /** Everything that there is to know of it. */
  get state(): SittingState {
    const { id, file, look, environment, headed, result } = this.#setup;
    return {
      id,
      file,
      component: componentOf(file),
      look,
      environment: environment.name,
      viewport: [...environment.viewport],
      headed,
      result,
      phase: this.#phase,
      stop: this.#stop,
      steps: this.#trace.steps.map((step) => this.#located(step)),
      lines: this.#lines,
      isTimeRunning: this.#isTimeRunning,
      isRecording: this.#isRecording,
      choice: this.#choice,
      parted: this.#parted,
      problem: this.#problem,
    };
  }

  get isOver(): boolean {
    return this.#phase === 'over';
  }

  get isHeaded(): boolean {
    return this.#setup.headed;
  }

  #located(step: Step): Step {
    const stack = this.#trace.stacks[step.index];
    if (!stack) return step;
    if (!this.#places.has(stack)) this.#places.set(stack, this.#mapper.place(stack, this.#setup.file));
    const source = this.#places.get(stack);
    return source ? { ...step, source } : step;
  }

  /** Runs the script from its beginning. Never rejects. */
  async #run(orders: Orders): Promise<void> {
    const { bundle, file, look, environment, pace, changed } = this.#setup;
    const time = ++this.#times;
    const isOld = (): boolean => time !== this.#times;
    this.#orders = orders;
    this.#phase = 'starting';
    this.#stop = null;
    this.#lines = [];
    this.#parted = null;
    this.#isTimeRunning = false;
    this.#isRecording = false;
    this.#choice = null;
    changed();
    try {
      const report = await this.#lane.open(bundle, file, environment, true);
      if (isOld()) return;
      if ('problem' in report) return this.#end(report.problem);
      if (!report.looks.some((one) => one.look === look)) return this.#end(problem('not-found', { what: look }));
      await this.#lane.window?.show((png) => this.#pictures.show(png));
      this.#phase = 'running';
      changed();
      const execution = await this.#lane.run(look, environment, {
        pace,
        attendant: {
          orders,
          began: (trace) => {
            this.#trace = trace;
          },
          stopped: (stop) => void (isOld() || this.#stops(stop)),
          asks: (choice) => {
            if (isOld()) return;
            this.#choice = choice;
            changed();
          },
          did: (lines) => void (isOld() || this.#did(lines)),
          isHeld: () => this.#phase === 'stopped',
        },
      });
      if (!isOld()) this.#end(execution.report.problem);
    } catch (error) {
      if (!isOld())
        this.#end(browserIsGone(error) ? problem('sitting-gone', { why: 'the browser has ended.' }) : toProblem(error));
    }
  }

  #stops(stop: Stop): void {
    const { follows, changed } = this.#setup;
    const { to } = this.#orders;
    this.#phase = 'stopped';
    this.#stop = stop;
    void this.#look();
    if (follows && to !== null)
      this.#parted = partedFrom(follows.timeline, this.#trace, stop, to, this.#sheets(follows.sheets), hashOf);
    changed();
  }

  /** What linked sheets hold, recorded and now; what only one side knows of is taken to be the same on the other. */
  #sheets(before: SheetTexts): { before: SheetTexts; now: SheetTexts } {
    const { bundle, origin } = this.#setup;
    const built = [...bundle.files].filter(([path]) => path.endsWith('.css'));
    const now = Object.fromEntries(built.map(([path, { body }]) => [origin + path, body.toString('utf8')]));
    return { before: { ...now, ...before }, now: { ...before, ...now } };
  }

  /** Something was done by hand, or is said otherwise now, or taken back. */
  #did(done: readonly Did[]): void {
    for (const { id, text, offers } of done) {
      const at = this.#lines.findIndex(({ byHand }) => byHand === id);
      const line: TriedLine = { text: text ?? '', value: null, problem: null, steps: 1, byHand: id, offers };
      if (text === null) this.#lines = this.#lines.filter(({ byHand }) => byHand !== id);
      else if (at < 0) this.#lines = [...this.#lines, line];
      else this.#lines = this.#lines.with(at, line);
    }
    this.#setup.changed();
  }

  /** Writes down what is done by hand from now on, or no more. */
  async record(isOn: boolean): Promise<void> {
    this.#standing();
    await this.#call('steer', JSON.stringify({ do: 'record', isOn }));
    this.#isRecording = isOn;
    this.#setup.changed();
  }

  #end(wrong: Problem | null): void {
    if (this.#phase === 'over') return;
    clearInterval(this.#timer);
    this.#phase = 'over';
    this.#choice = null;
    this.#problem = wrong;
    this.#pictures.end();
    this.#setup.changed();
  }

  /** A picture of the page as it stands: what it was painted as on the way may be late, or of another size. */
  async #look(): Promise<void> {
    const { window } = this.#lane;
    const size = await window?.evaluate('[innerWidth, innerHeight]', briefly).catch(() => null);
    const [width, height] = (size ?? this.#setup.environment.viewport) as [number, number];
    const png = await window?.screenshot([0, 0, width, height], false).catch(() => null);
    if (png) this.#pictures.show(png);
  }

  /** The newest picture of its page once it is newer than `after`; null when none comes for a while. */
  picture(after: number): Promise<Picture | null> {
    return this.#pictures.next(after);
  }

  /** The stop that it stands at. @throws ProblemError `sitting-running`, `sitting-gone` */
  #standing(): Stop {
    if (this.#phase === 'over') fail('sitting-gone', { why: this.#problem?.message ?? 'it has come to its end.' });
    return this.#stop && this.#phase === 'stopped' ? this.#stop : fail('sitting-running');
  }

  /** Lets the script go on. */
  async go(orders: Orders): Promise<void> {
    const { why } = this.#standing();
    this.#orders = orders;
    this.#parted = null;
    this.#stop = null;
    this.#isTimeRunning = false;
    // Behind the end there is nothing to come: the page is given up.
    if (why === 'end') return this.end();
    this.#phase = 'running';
    this.#setup.changed();
    await this.#call('steer', JSON.stringify({ do: 'go', orders }));
  }

  /** Runs the script again from its beginning, up to where it is told to stop: lines that were tried are gone. */
  async restart(orders: Orders): Promise<void> {
    this.#standing();
    // A new document takes the place of the one in which the script stands.
    if (this.#lane.window) await letGo(this.#lane.window);
    this.#lane.leave();
    void this.#run(orders);
  }

  /** Tries a line. @throws ProblemError `line-wrong`, `sitting-running`, `sitting-gone` */
  tryLine(text: string): Promise<TriedLine> {
    const code = functionOf(text);
    return this.#inTurn(async () => {
      this.#standing();
      const limit = this.#setup.settings.timeLimit;
      const said = await this.#stoppable(this.#lane.call('attempt', code, endless));
      const came = readTried(said?.value);
      const tried: TriedLine = {
        text,
        ...(came ?? { value: null, problem: problem('look-endless', { doing: text, limit }), steps: 0 }),
      };
      this.#lines = [...this.#lines, tried];
      this.#setup.changed();
      return tried;
    });
  }

  /** What the page says to a call; null when it says nothing for so many milliseconds. A slow page is no lost one. */
  #call(name: Parameters<Lane['call']>[0], argument: string, limit = briefly): Promise<unknown> {
    const late = (): Error => new Error('late');
    return within(limit, this.#lane.call(name, argument, endless), late).catch(() => null);
  }

  /** Does something to the page that its own code may never return from: that is stopped then. False when it was. */
  async #stoppable<T>(work: Promise<T>): Promise<{ value: T } | null> {
    const late = (): Error => new Error('late');
    const limit = this.#setup.settings.timeLimit;
    work.catch(() => {});
    try {
      return { value: await this.#lane.patiently(limit, work, late) };
    } catch {
      await this.#lane.window?.halt();
      return null;
    }
  }

  /** What may come next in a line that ends here. */
  async complete(text: string): Promise<Completion> {
    this.#standing();
    const said = await this.#call('complete', JSON.stringify(text));
    return readCompletion(said) ?? { from: text.length, words: [] };
  }

  /** What the element at a place of the viewport is; null where there is none. */
  async point(x: number, y: number): Promise<Pointed | null> {
    this.#standing();
    return readPointed(await this.#call('point', `${x}, ${y}`));
  }

  /** Sends what a person does with mouse and keyboard, and lets its outcome happen. */
  input(events: readonly InputRequest[]): Promise<void> {
    return this.#inTurn(async () => {
      this.#standing();
      const { window } = this.#lane;
      const limit = this.#setup.settings.timeLimit;
      if (window && !(await this.#stoppable(window.handle(events))))
        fail('look-endless', { doing: 'What was done to the page', limit });
      await this.#call('steer', '{ do: "settle" }');
    });
  }

  /** Chooses an option of the list that the page has opened; none with null. */
  choose(index: number | null): Promise<void> {
    return this.#inTurn(async () => {
      this.#standing();
      this.#choice = null;
      this.#setup.changed();
      if (index !== null) await this.#call('steer', JSON.stringify({ do: 'choose', index }));
    });
  }

  /** Lets the look's time run by itself, or stand still. */
  async letTime(runs: boolean): Promise<void> {
    this.#standing();
    await this.#call('steer', JSON.stringify({ do: 'time', runs }));
    this.#isTimeRunning = runs;
    this.#setup.changed();
  }

  #inTurn<T>(work: () => Promise<T>): Promise<T> {
    const next = this.#last.then(work);
    this.#last = next.catch(() => {});
    return next;
  }

  /** Closes its window; it is over. */
  async end(): Promise<void> {
    if (this.#isEnded) return;
    this.#isEnded = true;
    this.#times++;
    const isQuiet = this.#phase === 'stopped';
    // That its page goes away now is none of the look's doing.
    this.#trace = { ...this.#trace, steps: structuredClone(this.#trace.steps) };
    this.#end(null);
    const { window } = this.#lane;
    const { crew, lane, headed } = this.#setup;
    this.#lane.leave();
    // The window is there for the next one at once, unless nobody knows what goes on in it.
    const isKept = isQuiet && !headed && window !== null;
    const isEmpty = isKept && (await emptied(window));
    if (window && !isEmpty) await crew.discard(lane, window);
  }
}
