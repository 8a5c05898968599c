/**
 * Recording by doing: the input of each script of a project is sent again by hand to a live look that stands before its
 * script, what comes of that is kept as a look, and that is run.
 */
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { type Client, connect } from '../src/client/client.ts';
import type { ResultSummary } from '../src/core/run/run.ts';
import { keptLines } from '../src/core/sitting/lines.ts';
import type { SittingState } from '../src/core/sitting/sitting.ts';
import type { InputRequest } from '../src/core/wire/wire.ts';
import { ChromiumWindow } from '../src/engine/chromium/window.ts';
import { startService } from '../src/service/service.ts';

/** What came of one script that was done by hand. */
export type Done = { look: string; lines: string[]; verdict: string; why: string | null; isSame: boolean };

/** Input that a page was sent together, and where in its document the focus was then. */
type Batch = { events: InputRequest[]; focus: number };

const all = "[...document.querySelectorAll('*')]";

/** Every input that any window is sent meanwhile. */
async function overheard(work: () => Promise<void>): Promise<Batch[]> {
  const heard: Batch[] = [];
  const { input } = ChromiumWindow.prototype;
  ChromiumWindow.prototype.input = async function (this: ChromiumWindow, events) {
    heard.push({ events: [...events], focus: Number(await this.evaluate(`${all}.indexOf(document.activeElement)`)) });
    return input.call(this, events);
  };
  try {
    await work();
  } finally {
    ChromiumWindow.prototype.input = input;
  }
  return heard;
}

async function standing(client: Client, id: number): Promise<SittingState> {
  for (;;) {
    const state = await client.sitting(id);
    if (state.phase === 'stopped' || state.phase === 'over') return state;
    await delay(20);
  }
}

async function runAll(client: Client, looks: { component: string; look: string }[]): Promise<ResultSummary[]> {
  const { id } = await client.startRun({ looks, fresh: true, environments: ['day'] });
  while (['queued', 'running'].includes((await client.run(id)).status)) await delay(50);
  return client.runResults(id);
}

/** What a look shows at its end. */
const picture = (result: ResultSummary | undefined): string | undefined =>
  result?.captures.find(({ name }) => name === 'end')?.hash;

/** The number of the first step of the look's own script: behind the mount, and the looks that it comes after. */
function firstOfScript({ steps }: SittingState): number {
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
async function doneByHand(client: Client, { file, look, environment }: ResultSummary): Promise<string[]> {
  const whole = await client.beginSitting({ file, look, environment });
  const to = firstOfScript(await standing(client, whole.id));
  await client.restart(whole.id, { to });
  await standing(client, whole.id);
  const heard = await overheard(async () => {
    await client.go(whole.id, {});
    await standing(client, whole.id);
  });
  await client.endSitting(whole.id);
  const { id } = await client.beginSitting({ file, look, environment, orders: { to } });
  await standing(client, id);
  await client.record(id, true);
  await client.letTime(id, true);
  for (const batch of heard) {
    await withFocus(batch, () => client.input(id, batch.events));
    await delay(60);
  }
  await delay(100);
  await client.record(id, false);
  const { lines } = await client.sitting(id);
  await client.endSitting(id);
  return keptLines(lines);
}

/** Does by hand all scripts of a project that pass, and runs what was written down. */
export async function doAll(folder: string, wanted: (result: ResultSummary) => boolean = () => true): Promise<Done[]> {
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const client = connect(service.url);
  try {
    const { id } = await client.startRun({ fresh: true, environments: ['day'] });
    while (['queued', 'running'].includes((await client.run(id)).status)) await delay(50);
    const infos = await client.catalogue();
    const scripted = infos.filter(({ hasScript }) => hasScript);
    const isScripted = ({ component, look }: ResultSummary): boolean =>
      scripted.some((one) => one.component === component && one.look === look);
    const all = (await client.runResults(id)).filter((one) => isScripted(one) && wanted(one));
    const passing = all.filter(({ verdict }) => verdict === 'new');
    const kept: { result: ResultSummary; as: string; lines: string[] }[] = [];
    const done: Done[] = [];
    for (const result of passing) {
      const lines = await doneByHand(client, result);
      if (lines.length === 0) {
        done.push({ look: `${result.component} › ${result.look}`, lines, verdict: 'nothing', why: null, isSame: true });
        continue;
      }
      const as = `${result.look}, by hand`;
      const { file, look } = result;
      await client.keepLines({ file, look, as, lines, before: null, from: 'start', seen: null, write: true });
      kept.push({ result, as, lines });
    }
    const results = await runAll(
      client,
      kept.map(({ result, as }) => ({ component: result.component, look: as })),
    );
    for (const { result, as, lines } of kept) {
      const own = results.find(({ component, look }) => component === result.component && look === as);
      const title = `${result.component} › ${result.look}`;
      const isSame = picture(own) === picture(result);
      done.push({ look: title, lines, verdict: own?.verdict ?? 'missing', why: own?.problem?.message ?? null, isSame });
    }
    return done;
  } finally {
    await service.close();
  }
}
