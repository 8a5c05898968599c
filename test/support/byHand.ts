/**
 * Scripts that are done by hand: the input of each is sent again to a live look that stands before its script, what
 * comes of that is kept as a look, and that is run.
 */
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { type Client, connect } from '../../src/client/client.ts';
import type { ResultSummary, RunRequest } from '../../src/core/run/run.ts';
import { keptLines } from '../../src/core/sitting/lines.ts';
import type { Step } from '../../src/core/timeline/timeline.ts';
import type { InputRequest } from '../../src/core/wire/wire.ts';
import { ChromiumWindow } from '../../src/engine/chromium/window.ts';
import { startService } from '../../src/service/service.ts';
import { standing } from './sitting.ts';

/** What came of one script that was done by hand. */
export type Done = { look: string; lines: string[]; verdict: string; why: string | null; isSame: boolean };

/** Input that a page was sent together, and where in its document the focus was then. */
type Batch = { events: InputRequest[]; focus: number };

const all = "[...document.querySelectorAll('*')]";

/** Every input that any window is sent meanwhile. */
async function overheard(work: () => Promise<void>): Promise<Batch[]> {
  const heard: Batch[] = [];
  const { input, carry } = ChromiumWindow.prototype;
  ChromiumWindow.prototype.carry = function (this: ChromiumWindow, point, load, how) {
    const [x, y] = point;
    const at = { x, y, button: 'left', modifiers: how.modifiers } as const;
    const up = how.drops ? [{ kind: 'up', clicks: 1, ...at } as const] : [];
    heard.push({ events: [{ kind: 'move', ...at }, ...up], focus: -1 });
    return carry.call(this, point, load, how);
  };
  ChromiumWindow.prototype.input = async function (this: ChromiumWindow, events) {
    heard.push({ events: [...events], focus: Number(await this.evaluate(`${all}.indexOf(document.activeElement)`)) });
    return input.call(this, events);
  };
  try {
    await work();
  } finally {
    Object.assign(ChromiumWindow.prototype, { input, carry });
  }
  return heard;
}

async function runAll(client: Client, request: Partial<RunRequest>): Promise<ResultSummary[]> {
  const [first] = (await client.project()).environments;
  const { id } = await client.startRun({ ...request, fresh: true, environments: [first!.name] });
  while (['queued', 'running'].includes((await client.run(id)).status)) await delay(50);
  return client.runResults(id);
}

/** What a look shows at its end. */
const picture = (result: ResultSummary | undefined): string | undefined =>
  result?.captures.find(({ name }) => name === 'end')?.hash;

/** The number of the first step of the look's own script: behind the mount, and the looks that it comes after. */
function firstOfScript(steps: readonly Step[]): number {
  const before = steps.find(
    ({ kind, parent, title }) => kind === 'part' && parent === null && title.startsWith('after “'),
  );
  const isIn = (parent: number | null): boolean =>
    parent !== null && (parent === before?.index || isIn(steps[parent]!.parent));
  return steps.findIndex(({ index, kind, parent }) => kind !== 'mount' && index !== before?.index && !isIn(parent));
}

/** Presses keys where they were pressed before: a script moves the focus without keys, a person has moved it before. */
async function withFocus({ events, focus }: Batch, send: () => Promise<void>): Promise<void> {
  const { input } = ChromiumWindow.prototype;
  ChromiumWindow.prototype.input = async function (this: ChromiumWindow, sent) {
    if (events.every(({ kind }) => kind.startsWith('key'))) await this.evaluate(`${all}[${focus}]?.focus()`);
    return input.call(this, sent);
  };
  await send().finally(() => {
    ChromiumWindow.prototype.input = input;
  });
}

/** Does by hand what the script of a look does. */
async function doneByHand(client: Client, result: ResultSummary): Promise<string[]> {
  const { file, look, environment } = result;
  const to = firstOfScript((await client.timeline(result.id)).steps);
  if (to < 0) return [];
  const request = { file, look, environment, orders: { to, straight: true } };
  const whole = await client.beginSitting(request);
  await standing(client, whole.id);
  const heard = await overheard(async () => {
    await client.go(whole.id, {});
    await standing(client, whole.id);
  });
  await client.endSitting(whole.id);
  const { id } = await client.beginSitting(request);
  await standing(client, id);
  await client.record(id, true);
  await client.letTime(id, true);
  for (const batch of heard.filter(({ events }) => events.length > 0)) {
    await withFocus(batch, () => client.input(id, batch.events));
    await delay(20);
  }
  await delay(60);
  await client.record(id, false);
  const { lines } = await client.sitting(id);
  await client.endSitting(id);
  return keptLines(lines);
}

/** Does by hand all scripts of a project that pass, and runs what was written down. */
export async function doAll(folder: string, patterns: string[] = []): Promise<Done[]> {
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const client = connect(service.url);
  try {
    const ran = await runAll(client, { patterns });
    const infos = await client.catalogue();
    const isScripted = ({ component, look }: ResultSummary): boolean =>
      infos.some((one) => one.hasScript && one.component === component && one.look === look);
    const all = ran.filter((one) => isScripted(one));
    const passing = all.filter(({ verdict }) => verdict === 'new');
    const kept: { result: ResultSummary; as: string; lines: string[] }[] = [];
    const done: Done[] = [];
    const miss = ({ component, look }: ResultSummary, verdict: string, lines: string[], why: string | null): void =>
      void done.push({ look: `${component} › ${look}`, lines, verdict, why, isSame: verdict === 'nothing' });
    // Files are changed only when all has been done: each change has them built again.
    for (const result of passing) {
      const lines = await doneByHand(client, result).catch((error: Error) => error);
      if (lines instanceof Error) {
        miss(result, 'not done', [], lines.message);
        for (const { id } of await client.sittings()) await client.endSitting(id);
      } else if (lines.length === 0) miss(result, 'nothing', [], null);
      else kept.push({ result, as: `${result.look}, by hand`, lines });
    }
    for (const { result, as, lines } of [...kept]) {
      const { file, look } = result;
      const request = { file, look, as, lines, before: null, from: 'start', seen: null, write: true } as const;
      await client.keepLines(request).catch((error: Error) => miss(result, 'not kept', lines, error.message));
    }
    const looks = kept.map(({ result, as }) => ({ component: result.component, look: as }));
    const results = looks.length > 0 ? await runAll(client, { looks }) : [];
    for (const { result, as, lines } of kept) {
      const own = results.find(({ component, look }) => component === result.component && look === as);
      if (!own) continue;
      const title = `${result.component} › ${result.look}`;
      const isSame = picture(own) === picture(result);
      done.push({ look: title, lines, verdict: own.verdict, why: own.problem?.message ?? null, isSame });
    }
    return done;
  } finally {
    await service.close();
  }
}
