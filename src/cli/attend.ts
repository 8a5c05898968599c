/** A terminal at which somebody attends a look: it has stopped, lines are tried on its page, and it goes on. */
import { createInterface, type Interface } from 'node:readline';
import pc from 'picocolors';
import { lookTitle } from '../core/look/look.ts';
import { toProblem } from '../core/problem/problem.ts';
import type { ResultSummary } from '../core/run/run.ts';
import { keptLines } from '../core/sitting/lines.ts';
import { type Orders, type SittingState, type StopWhy, type TriedLine, usualOrders } from '../core/sitting/sitting.ts';
import type { Step } from '../core/timeline/timeline.ts';
import type { Found } from './find.ts';
import { wrongText } from './print.ts';
import { say } from './say.ts';

const help = `A line as in a script is tried on the page, there and then: click(the.button('Save'))
Tab completes it: what can be done, and what is on the page.

  go        go on to the next stop, or to the end
  over      go on to the next step, over all that is in a part
  into      go on to the next step, into a part
  to N      go on to step N
  steps     list the steps so far
  time      let the page's time run by itself, or stand still again
  lines     list the lines that held, to be put into the script
  drop      run the script again up to here, without the lines
  end       close the page (or Ctrl+D)
  console   print the address at which to see and touch the page`;

const words = ['go', 'over', 'into', 'to ', 'steps', 'time', 'lines', 'drop', 'end', 'console', 'help'];

const whys: Record<StopWhy, string> = {
  pause: 'Paused',
  breakpoint: 'Stopped at a breakpoint',
  reached: 'Stopped',
  next: 'Stopped',
  failure: 'Stopped at a failure',
  end: 'At the end',
};

const placeOf = ({ source }: Step): string => (source ? pc.dim(`  ${source.file}:${source.line}`) : '');

/** Where a look stands, in one line or with what has failed. */
function whereText({ stop, steps }: SittingState): string {
  if (!stop) return 'It is over.';
  const step = stop.step === null ? undefined : steps[stop.step];
  const at = step ? ` before step ${stop.number}: ${step.title}${placeOf(step)}` : ' of the script.';
  const where = stop.why === 'failure' && step ? `: step ${stop.number}, ${step.title}${placeOf(step)}` : at;
  const wrong = stop.problem ? `\n${wrongText(stop.problem)}` : '';
  return `${pc.bold(whys[stop.why] + where)}${wrong}`;
}

const marks: Record<Step['outcome'], string> = {
  passed: pc.green('✓'),
  failed: pc.red('✗'),
  broken: pc.red('✗'),
  running: pc.cyan('▸'),
};

function stepsText({ steps }: SittingState): string {
  let number = 0;
  return steps
    .map((step) => {
      const label = step.tried ? '    try' : String(number++).padStart(7);
      return `${label} ${marks[step.outcome]} ${step.title}${placeOf(step)}`;
    })
    .join('\n');
}

const lineText = ({ value, problem }: TriedLine): string =>
  problem ? wrongText(problem) : `${pc.green('✓')}${value === null ? '' : ` ${value}`}`;

/** Waits until the script stands again, or is over. */
async function standing({ client }: Found, id: number): Promise<SittingState> {
  for (;;) {
    const state = await client.sitting(id);
    if (state.phase === 'stopped' || state.phase === 'over') return state;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** Carries out one line of the terminal. Resolves with what the look has come to. */
async function carryOut(found: Found, state: SittingState, text: string): Promise<SittingState> {
  const { client, url } = found;
  const { id, stop } = state;
  const orders = { ...usualOrders, failure: true };
  const goOn = async (more: Partial<Orders>): Promise<SittingState> => {
    await client.go(id, { ...orders, ...more });
    return tellWhere(await standing(found, id));
  };
  const [word = '', rest = ''] = text.trim().split(/\s+/);
  switch (word) {
    case '':
      return state;
    case 'help':
      say(help);
      return state;
    case 'go':
      return goOn({});
    case 'over':
    case 'into':
      return goOn({ go: word });
    case 'to': {
      const to = Number(rest);
      const least = (stop?.number ?? 0) + 1;
      if (Number.isInteger(to) && to >= least) return goOn({ to });
      say(`Expected the number of a step that is still to come, from ${least} on, got “${rest}”.`);
      return state;
    }
    case 'steps':
      say(stepsText(await client.sitting(id)));
      return state;
    case 'time': {
      const next = await client.letTime(id, !state.isTimeRunning);
      say(next.isTimeRunning ? 'Time runs.' : 'Time stands still.');
      return next;
    }
    case 'lines': {
      const kept = keptLines((await client.sitting(id)).lines);
      say(kept.length > 0 ? kept.join('\n') : 'No line has held so far.');
      return state;
    }
    case 'drop':
      await client.restart(id, { ...orders, to: stop?.number ?? null, straight: true });
      return tellWhere(await standing(found, id));
    case 'console':
      say(`${url}/live/${id}`);
      return state;
    case 'end':
      return client.endSitting(id);
    default:
      say(lineText(await client.tryLine(id, text)));
      return client.sitting(id);
  }
}

function tellWhere(state: SittingState): SittingState {
  say(`\n${whereText(state)}`);
  return state;
}

/** A prompt that completes what is typed. */
function promptOf({ client }: Found, id: number): Interface {
  const completer = (line: string, done: (error: Error | null, found: [string[], string]) => void): void => {
    const own = words.filter((word) => word.startsWith(line));
    client.complete(id, line).then(
      ({ from, words: found }) => done(null, [[...(from === 0 ? own : []), ...found], line.slice(from)]),
      () => done(null, [own, line]),
    );
  };
  const { stdin, stdout } = process;
  return createInterface({
    input: stdin,
    output: stdout,
    prompt: pc.cyan('› '),
    completer,
    terminal: stdin.isTTY === true,
  });
}

/** Runs a look once more, stops it where it goes wrong or pauses, and hands it to whoever is at the terminal. */
export async function attend(
  found: Found,
  { file, component, look, environment }: ResultSummary,
  { headed, pace }: { headed: boolean; pace: number },
): Promise<void> {
  const { client } = found;
  const orders = { ...usualOrders, failure: true };
  say(`${pc.bold(lookTitle(component, look))} in ${environment}`);
  const { id } = await client.beginSitting({ file, look, environment, orders, headed, pace });
  let state = tellWhere(await standing(found, id));
  if (state.problem && state.phase === 'over') say(wrongText(state.problem));
  if (state.stop?.why === 'end' && !state.stop.problem) say('It has passed this time.');
  const prompt = promptOf(found, id);
  if (state.phase === 'stopped') say(pc.dim('Try a line, or: go, over, into, to N, lines, drop, end. All of it: help'));
  try {
    prompt.prompt();
    for await (const text of prompt) {
      if (state.phase === 'over') break;
      // What comes through a pipe is not seen as it is typed.
      if (!process.stdin.isTTY) say(text);
      state = await carryOut(found, state, text).catch((error: unknown) => {
        say(wrongText(toProblem(error)));
        return client.sitting(id);
      });
      if (state.phase === 'over') break;
      prompt.prompt();
    }
  } finally {
    prompt.close();
    const kept = keptLines((await client.sitting(id).catch(() => state)).lines);
    if (kept.length > 0) say(`\nLines that held:\n${kept.join('\n')}`);
    await client.endSitting(id).catch(() => {});
  }
}
