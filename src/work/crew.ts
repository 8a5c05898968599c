/** A browser and its windows, kept warm between runs and replaced when they die. */
import { chromiumProgram, startChromium } from '../engine/chromium/chromium.ts';
import { type Engine, type EngineWindow, LostError } from '../engine/engine.ts';
import { fontsHash } from '../engine/fonts.ts';

/** A window for looks: time is theirs. */
async function openFor(engine: Engine): Promise<EngineWindow> {
  const window = await engine.open();
  await window.holdTime();
  return window;
}

/** The names of browsers that were started before, by what tells their programs apart. */
export type EngineNames = { get(program: string): string | null; put(program: string, name: string): void };

export class Crew {
  readonly #start: () => Promise<Engine>;
  readonly #program: () => string | null;
  #engine: Promise<Engine> | null = null;
  #windows: (Promise<EngineWindow> | null)[] = [];
  #isClosed = false;

  /** `program` tells the browser's program from others without starting it, if that is possible. */
  constructor(start: () => Promise<Engine>, program: () => string | null = () => null) {
    this.#start = start;
    this.#program = program;
  }

  /** Which browser and fonts pictures are drawn with. The browser is started only when it has not been before. */
  async identity(names: EngineNames): Promise<Pick<Engine, 'name' | 'fonts'>> {
    const program = this.#program();
    const name = program !== null && this.#engine === null ? names.get(program) : null;
    if (name !== null) return { name, fonts: fontsHash() };
    const engine = await this.engine();
    if (program !== null) names.put(program, engine.name);
    return engine;
  }

  /** The running browser, started now if there is none. @throws LostError when the crew was closed */
  engine(): Promise<Engine> {
    if (this.#isClosed) return Promise.reject(new LostError('browser', 'closed'));
    if (!this.#engine) {
      const starting = this.#start();
      this.#engine = starting;
      const forget = (): void => {
        if (this.#engine !== starting) return;
        this.#engine = null;
        this.#windows = [];
      };
      starting.then((engine) => engine.gone.then(forget), forget);
    }
    return this.#engine;
  }

  /** The window of a lane: one that has died meanwhile is replaced. */
  async window(lane: number): Promise<EngineWindow> {
    const engine = await this.engine();
    const known = this.#windows[lane];
    const before = await known?.catch(() => null);
    if (before?.lost === null) return before;
    if (before) await this.discard(lane, before);
    const opened = this.#windows[lane] ?? openFor(engine);
    this.#windows[lane] = opened;
    opened.catch(() => {
      if (this.#windows[lane] === opened) this.#windows[lane] = null;
    });
    return opened;
  }

  /**
   * Gives up a window; the next call of `window` for its lane opens another, unless somebody has had that opened
   * already.
   */
  async discard(lane: number, window: EngineWindow): Promise<void> {
    const known = this.#windows[lane];
    if ((await known?.catch(() => null)) === window && this.#windows[lane] === known) this.#windows[lane] = null;
    window.close().catch(() => {});
  }

  /** Gives up all windows. */
  async empty(): Promise<void> {
    for (const [lane, opening] of this.#windows.entries()) {
      const window = await opening?.catch(() => null);
      if (window) await this.discard(lane, window);
    }
  }

  /** Ends the browser; whoever needs one next has another started. */
  async stop(): Promise<void> {
    const engine = await this.#engine?.catch(() => null);
    this.#engine = null;
    this.#windows = [];
    await engine?.close();
  }

  /** Ends the browser for good: whoever still works in it hears that it is gone. */
  async close(): Promise<void> {
    this.#isClosed = true;
    await this.stop();
  }
}

/** A crew of Chromium windows, which can be seen if they are `headed`. `hosts` maps host names to ports on loopback. */
export const chromiumCrew = (hosts: Record<string, number>, headed = false): Crew =>
  new Crew(() => startChromium(hosts, { headed }), chromiumProgram);

/** True for what is thrown when the whole browser has ended. */
export const browserIsGone = (error: unknown): error is LostError =>
  error instanceof LostError && error.what === 'browser';
