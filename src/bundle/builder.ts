/**
 * The process in which Vite runs. Every build leaves memory behind that only the end of a process gives back, and while
 * one goes on its process answers nobody: so it has one of its own, which is replaced when it has grown too large.
 */
import { type ChildProcess, fork } from 'node:child_process';
import type { ComponentInfo } from '../core/api/api.ts';
import type { Component } from '../core/draft/draft.ts';
import type { FileUsage } from '../core/handbook/usage.ts';
import type { Settings } from '../core/settings/config.ts';
import type { StageFiles } from '../core/site/site.ts';
import { problem, ProblemError, type Problem } from '../core/problem/problem.ts';
import type { Bundle } from './bundle.ts';
import type { Keeping, Kept } from '../keep/keep.ts';
import type { KeepingLines } from '../keep/lines.ts';
import { programBeside } from './fromSource.ts';
import { ourVite } from './vite.ts';

/** What it is asked to do. */
export type Order =
  | { kind: 'config'; path: string }
  | { kind: 'bundle'; root: string; settings: Settings; files: string[]; instead: Record<string, string> }
  | { kind: 'components'; root: string; file: string }
  | { kind: 'overview'; root: string; settings: Settings }
  | { kind: 'keep'; name: string; source: string; keeping: Keeping | KeepingLines }
  | { kind: 'usage'; name: string; source: string }
  | { kind: 'stages'; root: string; settings: Settings };

/** What it answers, and how much memory it has by then, in bytes. */
export type Answer = { id: number; memory: number } & ({ value: unknown } | { problem: Problem });

type Pending = { order: Order; isAgain: boolean; resolve(value: unknown): void; reject(error: unknown): void };

/** It is replaced when it has grown by so much since its first answer, in bytes. */
const mostGrowth = 600 * 1024 * 1024;

/** Plugins build otherwise where they believe that a test runner wants it; looks are pages, whoever starts them. */
function environment(): NodeJS.ProcessEnv {
  const { VITEST: _, NODE_ENV, ...rest } = process.env;
  return { ...rest, ...(NODE_ENV && NODE_ENV !== 'test' && { NODE_ENV }) };
}

/** One process, from its start to its end. */
class Builder {
  readonly #child: ChildProcess;
  readonly #pending = new Map<number, Pending>();
  readonly #onEnd: (unanswered: Pending[], why: string) => void;
  #next = 1;
  #first: number | null = null;
  #isRetired = false;
  /** It has grown too large. */
  isSpent = false;

  /** `onEnd` hears of what was not answered when the process ended although nobody wanted that. */
  constructor(onEnd: (unanswered: Pending[], why: string) => void) {
    this.#onEnd = onEnd;
    const { file, execArgv } = programBeside(import.meta.url, 'builderProcess', ourVite());
    this.#child = fork(file, [], { execArgv, serialization: 'advanced', env: environment() });
    this.#child.on('message', (answer: Answer) => this.#hear(answer));
    this.#child.once('error', (error) => this.#end(error.message));
    this.#child.once('exit', (code, signal) => this.#end(signal ?? `exit code ${code}`));
    this.#rest();
  }

  do(pending: Pending): void {
    const id = this.#next++;
    this.#pending.set(id, pending);
    // While it works the process that waits for it must not end.
    this.#child.ref();
    this.#child.channel?.ref();
    this.#child.send({ id, ...pending.order }, (error) => error && this.#end(error.message));
  }

  /** Ends it when it has answered everything. */
  retire(): void {
    this.#isRetired = true;
    if (this.#pending.size === 0) this.#child.disconnect();
  }

  #hear({ id, memory, ...answer }: Answer): void {
    const pending = this.#pending.get(id);
    this.#pending.delete(id);
    if (pending?.order.kind === 'bundle') this.#first ??= memory;
    if (this.#first !== null && memory - this.#first > mostGrowth) this.isSpent = true;
    if (this.#pending.size === 0) this.#rest();
    if ('problem' in answer) pending?.reject(new ProblemError(answer.problem));
    else pending?.resolve(answer.value);
  }

  #rest(): void {
    if (this.#isRetired) this.#child.disconnect();
    this.#child.unref();
    this.#child.channel?.unref();
  }

  #end(why: string): void {
    const unanswered = [...this.#pending.values()];
    this.#pending.clear();
    this.#onEnd(unanswered, why);
  }
}

/** One process after the other, each started when it is needed. */
type Post = { ask(order: Order): Promise<unknown>; renew(): void };

function postOf(): Post {
  let current: Builder | null = null;
  const renew = (): void => {
    current?.retire();
    current = null;
  };
  const builder = (): Builder => {
    if (current?.isSpent) renew();
    if (current) return current;
    const started = new Builder((unanswered, why) => {
      if (current === started) current = null;
      for (const pending of unanswered)
        if (pending.isAgain) pending.reject(new ProblemError(problem('bundler-gone', { why })));
        // It may have been somebody else's work that was too much for it.
        else builder().do({ ...pending, isAgain: true });
    });
    current = started;
    return started;
  };
  const ask = (order: Order): Promise<unknown> =>
    new Promise((resolve, reject) => builder().do({ order, isAgain: false, resolve, reject }));
  return { ask, renew };
}

/** How long a process that is only needed now and then waits for more, in milliseconds. */
const idle = 20_000;

/** A process that is gone when nobody has needed it for a while. */
function passingPost(): Post {
  const { ask, renew } = postOf();
  let underWay = 0;
  let idling: NodeJS.Timeout | undefined;
  return {
    renew,
    async ask(order) {
      clearTimeout(idling);
      underWay++;
      try {
        return await ask(order);
      } finally {
        underWay--;
        if (underWay === 0) idling = setTimeout(renew, idle).unref();
      }
    },
  };
}

const usual = postOf();
/** Where files are read as they are not: nobody else's work may be done there meanwhile. */
const apart = passingPost();
/** Where files are built for delivery: others build meanwhile, and frameworks are told otherwise what they are for. */
const delivery = passingPost();

const { ask } = usual;

/** Has what is built from now on built by a new process: plugins and Vite itself are loaded once in each. */
export function renewBuilder(): void {
  for (const post of [usual, apart, delivery]) post.renew();
}

/**
 * Reads a configuration file and fills in the defaults.
 * @throws ProblemError `config-threw`, `config-wrong`, `frame-missing`, `bundler-gone`
 */
export const readConfig = async (path: string): Promise<Settings> => (await ask({ kind: 'config', path })) as Settings;

/**
 * Bundles look files. Those that cannot be understood are left out and told in `unusable`; the others come through.
 * @throws ProblemError `looks-missing` when there is no file at all; `config-threw`, `frame-failed` when what they
 * share is unusable; `bundler-gone`
 */
export const bundleLooks = async (root: string, settings: Settings, files: readonly string[]): Promise<Bundle> =>
  (await ask({ kind: 'bundle', root, settings, files: [...files], instead: {} })) as Bundle;

/**
 * Bundles look files as if some files held other texts than they do; `instead` has these by full path. One such bundle
 * is made at a time. @throws ProblemError as `bundleLooks`
 */
export const bundleInstead = async (
  root: string,
  settings: Settings,
  files: readonly string[],
  instead: Record<string, string>,
): Promise<Bundle> => (await apart.ask({ kind: 'bundle', root, settings, files: [...files], instead })) as Bundle;

/** The components that a file of the project offers, the first one being what it is for. */
export const componentsOf = async (root: string, file: string): Promise<Component[]> =>
  (await ask({ kind: 'components', root, file })) as Component[];

/** The components that there are, most imported first. */
export const componentsIn = async (root: string, settings: Settings): Promise<ComponentInfo[]> =>
  (await ask({ kind: 'overview', root, settings })) as ComponentInfo[];

/** Puts props or lines into the source of a look file, or says why that cannot be done. */
export const keepInFile = async (name: string, source: string, keeping: Keeping | KeepingLines): Promise<Kept> =>
  (await ask({ kind: 'keep', name, source, keeping })) as Kept;

/** How a look file uses its component, by its source. */
export const usageOf = async (name: string, source: string): Promise<FileUsage> =>
  (await ask({ kind: 'usage', name, source })) as FileUsage;

/** Builds look files as live pages that need no service. */
export const buildStages = async (root: string, settings: Settings): Promise<StageFiles> =>
  (await delivery.ask({ kind: 'stages', root, settings })) as StageFiles;
