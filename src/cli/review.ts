/** `sguardo review`: steps through what there is to decide, in a terminal. */
import { createInterface, type Interface } from 'node:readline';
import type { Command } from 'commander';
import pc from 'picocolors';
import type { DecisionRequest } from '../core/api/api.ts';
import type { Cluster } from '../core/cause/cluster.ts';
import { isSelected } from '../core/look/pattern.ts';
import { lookTitle } from '../core/look/look.ts';
import { toProblem } from '../core/problem/problem.ts';
import { aboutOf, commentedOn, type Entry, entriesOf, isOpen, leftIn, type Shot } from '../core/review/entries.ts';
import { counted } from '../core/text/counted.ts';
import { clusterText } from './causes.ts';
import { findService, type Found } from './find.ts';
import { wrongText } from './print.ts';
import { say } from './say.ts';

const help = `  a [reason]     approve it in all its captures
  x              reject it: what is wrong with it is asked
  e PATTERN      leave these looks out of the next decision; alone: leave none out
  c TEXT         comment on it
  s, p           skip it, go back to the one before
  u              undo your last decision
  ours, theirs, base   settle a merge conflict with what one side has approved
  l              list what there is
  q              end (or Ctrl+D)`;

export function addReview(program: Command): void {
  program
    .command('review')
    .description('step through what has changed, cause by cause, and decide')
    .argument('[pattern...]', 'only these looks, as for run')
    .addHelpText(
      'after',
      `
Type a letter and Enter:
${help}

Examples:
  sguardo review                    everything that waits for a decision
  sguardo review FeeTable           only of these looks
  sguardo undo                      take back the last decision

Exit codes: 0 nothing is left · 1 something is · 2 bad command or configuration · 3 no service or browser`,
    )
    .action(async (patterns: string[]) => {
      process.exitCode = await review(patterns);
    });
}

/** What somebody types, line by line; null at its end. */
function asking(terminal: Interface): (prompt: string) => Promise<string | null> {
  const lines = terminal[Symbol.asyncIterator]();
  return async (prompt) => {
    process.stdout.write(prompt);
    const { value, done } = await lines.next();
    if (!process.stdin.isTTY) process.stdout.write(done ? '\n' : `${String(value)}\n`);
    return done ? null : String(value).trim();
  };
}

/** So many captures of an entry are named. */
const mostNamed = 5;

const nameOf = ({ component, look, environment, capture }: Shot): string =>
  `${lookTitle(component, look)} · ${environment}${capture === 'end' ? '' : ` · ${capture}`}`;

const kinds: Record<Exclude<Entry['kind'], 'cause' | 'failed'>, string> = {
  unexplained: '? no cause known',
  conflict: '⇄ merge conflict',
  unreadable: '! unreadable baseline',
  new: '+ new',
};

const linkTo = (url: string, shot: Shot): string =>
  `${url}/review?result=${shot.result}&capture=${encodeURIComponent(shot.capture)}`;

/** An entry that no cause stands for. */
function bareText(entry: Entry, url: string): string {
  const { kind, title, shots, note } = entry as Entry & { kind: keyof typeof kinds };
  const more = shots.length > mostNamed ? [`and ${counted(shots.length - mostNamed, 'more capture')}`] : [];
  const lines = [
    ...(note ? [note] : []),
    ...shots.slice(0, mostNamed).map(nameOf),
    ...more,
    pc.underline(linkTo(url, shots[0]!)),
  ];
  return [`  ${pc.yellow(kinds[kind])}  ${title}`, ...lines.map((line) => `      ${line}`)].join('\n');
}

const entryText = (entry: Entry, url: string): string => {
  const { cluster } = entry;
  const comments = entry.comments.map(({ who, text }) => `\n      ${pc.bold(who)}: ${text}`).join('');
  return (cluster ? clusterText(cluster as Cluster, url, null) : bareText(entry, url)) + comments;
};

type Session = {
  found: Found;
  patterns: string[];
  ask(prompt: string): Promise<string | null>;
  /** Ids of entries that somebody has skipped. */
  skipped: string[];
  batches: number[];
  /** Patterns of looks that the next decision leaves out. */
  except: string[];
};

async function openEntries({ found, patterns }: Session): Promise<Entry[]> {
  const isMeant = isSelected(patterns);
  return entriesOf(await found.client.causes()).flatMap((entry) => {
    const shots = entry.shots.filter((shot) => isMeant(shot));
    return shots.length > 0 && isOpen({ ...entry, shots }) ? [{ ...entry, shots }] : [];
  });
}

/** Carries out a decision about an entry, and says what came of it. */
async function decide(session: Session, entry: Entry, said: Partial<DecisionRequest> & Pick<DecisionRequest, 'kind'>) {
  const isOut = session.except.length > 0 ? isSelected(session.except) : () => false;
  const meant = entry.shots.filter((shot) => shot.decided === null && !isOut(shot));
  if (meant.length === 0) return say('Nothing is left of it to decide.');
  const { client } = session.found;
  const { decided, waiting, unfinished, batch } = await client.decide({ ...aboutOf(entry, meant), ...said });
  if (batch !== null) session.batches.push(batch);
  session.except = [];
  const done = said.kind === 'approve' ? pc.green('✓ Approved') : pc.red('✗ Rejected');
  if (decided.length > 0) say(`${done} ${counted(decided.length, 'capture')}.`);
  else if (waiting === 0) say('Nothing was decided.');
  if (waiting > 0) say(`${counted(waiting, 'capture waits', 'captures wait')} for other causes to be decided.`);
  if (unfinished.length > 0) say(`Left out, because they did not finish: ${unfinished.slice(0, 5).join(', ')}.`);
}

async function reject(session: Session, entry: Entry): Promise<void> {
  const proposed = entry.kind === 'failed' ? `It fails: ${entry.title}` : '';
  const why = await session.ask(`What is wrong with it?${proposed ? pc.dim(` (Enter: ${proposed})`) : ''} `);
  if (why === null || (why === '' && proposed === '')) return say('Not rejected: a rejection needs a reason.');
  const fixer = await session.ask(`Who fixes it? ${pc.dim('(Enter: nobody yet)')} `);
  await decide(session, entry, { kind: 'reject', why: why || proposed, ...(fixer && { fixer }) });
}

async function undo({ found, batches }: Session): Promise<void> {
  const batch = batches.pop();
  if (batch === undefined) return say('You have decided nothing here that could be taken back.');
  const { captures } = await found.client.undo({ batch });
  say(captures.length > 0 ? `Taken back for ${counted(captures.length, 'capture')}.` : 'Taken back.');
}

async function comment({ found }: Session, entry: Entry, text: string): Promise<void> {
  await found.client.comment(commentedOn(entry, entry.shots[0]!), text);
  say('Your comment stands beside it.');
}

/** Does what a line says about an entry; false for one that ends the review. */
async function carryOut(session: Session, entry: Entry, line: string): Promise<boolean> {
  const [, word = '', rest = ''] = /^(\S*)\s*(.*)$/.exec(line) ?? [];
  if (word === 'q') return false;
  if (word === 'a' && entry.kind === 'failed')
    say('What fails cannot be approved. Reject it, or fix it and run it again.');
  else if (word === 'a') await decide(session, entry, { kind: 'approve', ...(rest && { why: rest }) });
  else if (word === 'x') await reject(session, entry);
  else if (word === 'u') await undo(session);
  else if (word === 's' || word === '') session.skipped.push(entry.id);
  else if (word === 'p') session.skipped.pop();
  else if (word === 'e') {
    session.except = rest === '' ? [] : rest.split(/\s+/);
    say(rest === '' ? 'Nothing is left out.' : `Left out: ${session.except.join(', ')}.`);
  } else if (word === 'c' && rest !== '') await comment(session, entry, rest);
  else if ((word === 'ours' || word === 'theirs' || word === 'base') && entry.kind === 'conflict')
    await decide(session, entry, { kind: 'approve', take: word });
  else if (word === 'l') for (const one of await openEntries(session)) say(entryText(one, session.found.url));
  else say(`Type one of these, and Enter:\n${help}`);
  return true;
}

async function review(patterns: string[]): Promise<number> {
  const found = await findService(process.cwd());
  const terminal = createInterface({ input: process.stdin, terminal: false });
  const session: Session = { found, patterns, ask: asking(terminal), skipped: [], batches: [], except: [] };
  let shown = '';
  try {
    for (;;) {
      const open = await openEntries(session);
      const entry = open.find(({ id }) => !session.skipped.includes(id));
      if (!entry) {
        if (open.length > 0) say(`${counted(open.length, 'cause')} skipped.`);
        else say('Nothing is left to decide.');
        const isOver =
          session.batches.length === 0 || (await session.ask(pc.dim('Enter to end, u to undo › '))) !== 'u';
        if (isOver) return open.length === 0 ? 0 : 1;
        await undo(session);
        continue;
      }
      if (shown !== entry.id) {
        say(`\n${pc.bold(`${counted(open.length, 'cause')}, ${counted(leftIn(open), 'capture')} left`)}`);
        say(entryText(entry, found.url));
      }
      shown = entry.id;
      const line = await session.ask(pc.dim('approve, x to reject, s to skip, ? for more › '));
      if (line === null) return 1;
      try {
        if (!(await carryOut(session, entry, line))) return 1;
      } catch (error) {
        say(wrongText(toProblem(error)));
      }
    }
  } finally {
    terminal.close();
    await found.release();
  }
}
