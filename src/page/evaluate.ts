/**
 * Evaluates look files: one, or several one after the other as long as none leaves anything in the document that the
 * next one would not have found in a fresh one.
 */
import { stackOf } from './host/stack.ts';
import { fail, type Problem, toProblem } from '../core/problem/problem.ts';
import type { PropTypes } from '../core/props/type.ts';
import { errorInWords } from '../core/value/show.ts';
import { isLooks, type Looks } from '../language/looks.ts';
import type { Adapter, FrameModule } from './adapters/adapter.ts';
import { evaluatePins, isMarked, settlePins } from './pins/pins.ts';
import { settleHead } from './pins/document.ts';
import { keepTime, nobody } from './session/clock.ts';
import { importsCome } from './session/idle.ts';
import { runDue } from './time/time.ts';

type Module = () => Promise<{ default?: unknown }>;

/** What a look file's document is made of: the file, the project's frame, and the framework that mounts. */
export type Modules = {
  /** The address of the script that starts it. */
  script: string;
  file: string;
  looks: Module;
  frame: Module | null;
  frameFile: string | null;
  adapter: Adapter;
  /** The types of the props of its component; null where nothing is known of them. */
  types: PropTypes | null;
};

/** A look file that was evaluated, and the frame around its looks. */
export type Loaded = { looks: Looks; frame: FrameModule | null };

/** Why a look file could not be evaluated. */
type Unloaded = { problem: Problem; stack: string | null };

/** The look file that the document is for now. */
export type Present = { modules: Modules; loaded: Promise<Loaded | Unloaded> };

let plain = true;

/** True while evaluating look files has left nothing in the document that outlives their looks. */
export const isPlain = (): boolean => plain;

/** @throws ProblemError `frame-wrong` */
async function frameOf({ frame, frameFile, adapter }: Modules): Promise<FrameModule | null> {
  if (!frame) return null;
  const exported: FrameModule = await frame();
  const wrapper = exported.default;
  // It may only say what the framework is to be given.
  if (wrapper === undefined && ('providers' in exported || 'setup' in exported)) return exported;
  if (wrapper === null || (typeof wrapper !== 'function' && typeof wrapper !== 'object'))
    fail('frame-wrong', { file: frameFile ?? '', example: adapter.frameExample });
  return exported;
}

/** @throws ProblemError `file-empty`, `looks-none`, `look-name` */
async function looksOf({ file, looks }: Modules): Promise<Looks> {
  const exported = (await looks()).default;
  if (!isLooks(exported)) return fail('file-empty', { file });
  if (Object.keys(exported.states).length === 0) return fail('looks-none', { file });
  const odd = Object.keys(exported.states).find((name) => !name.isWellFormed() || name.trim() === '');
  if (odd !== undefined) fail('look-name', { file, look: odd.trim() === '' ? '' : JSON.stringify(odd) });
  return exported;
}

let base: Promise<FrameModule | null> | null = null;

/** Evaluates what all look files have in common, once: the frame. @throws ProblemError `frame-wrong` */
export function evaluateBase(modules: Modules): Promise<FrameModule | null> {
  base ??= frameOf(modules).then(async (frame) => {
    await modules.adapter.warm();
    await importsCome();
    settlePins();
    return frame;
  });
  return base;
}

async function load(modules: Modules): Promise<Loaded | Unloaded> {
  try {
    const frame = await evaluateBase(modules);
    evaluatePins();
    const looks = await looksOf(modules);
    await importsCome();
    // Modules put off what they have yet to set up.
    await runDue();
    if (plain && isMarked()) plain = false;
    // Its own looks find what it has left.
    if (plain) settleHead();
    else settlePins();
    return { looks, frame };
  } catch (error) {
    plain = false;
    const { file } = modules;
    const stack = stackOf(error);
    return { problem: toProblem(error, 'file-threw', { file, error: errorInWords(error) }), stack };
  }
}

/** Evaluates a look file; another one than the first only in a plain document. */
export function evaluate(modules: Modules): Present {
  const loaded = load(modules);
  keepTimeFor(loaded);
  return { modules, loaded };
}

/** A module may wait for a timer before it is there. */
export const keepTimeFor = (loading: Promise<unknown>): void => void keepTime(loading, nobody, () => false);
