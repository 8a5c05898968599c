/**
 * The review: how many keys and how long it takes to decide about thousands of captures, and what is left of the
 * demo's baselines on another browser.
 */
import { cpSync, existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import Database from 'better-sqlite3';
import { type Client, connect } from '../src/client/client.ts';
import { defaultEnvironment } from '../src/core/settings/environment.ts';
import { startChromium } from '../src/engine/chromium/chromium.ts';
import type { EngineWindow } from '../src/engine/engine.ts';
import { startService } from '../src/service/service.ts';
import { type Figure, median, runToEnd } from './workshop.ts';

const repository = join(import.meta.dirname, '..');
const limits = { keys: 20, answer: 100 };

/** Six parts, each with a declaration of its own that changes. */
const parts = ['pier', 'quay', 'mole', 'lock', 'slip', 'dock'];

const sheet = (now: boolean): string =>
  parts.map((name, i) => `.${name} { padding: ${now ? 9 + i : 3 + i}px; background: #dde${i}e${i} }`).join('\n');

const states = parts.map((name) => `${name}: { props: { name: '${name}' } }`).join(', ');

const files = (now: boolean): Record<string, string> => ({
  'sguardo.config.ts': 'export default { environments: { day: { viewport: [300, 160] } } };\n',
  'src/harbour.css': sheet(now),
  'src/Harbour.look.tsx': `import './harbour.css';
import { looks } from 'sguardo';
const Part = ({ name }: { name: string }) => <p className={name}>{name}</p>;
export default looks(Part, { states: { ${states} } });
`,
});

function write(folder: string, now: boolean): void {
  for (const [path, text] of Object.entries(files(now))) {
    mkdirSync(join(folder, path, '..'), { recursive: true });
    writeFileSync(join(folder, path), text);
  }
}

/** Makes so many looks of each of a project's: they show what these do, and have changed as these have. */
function multiply(folder: string, times: number): void {
  const db = new Database(join(folder, '.sguardo/sguardo.db'));
  const copy = (table: string, change: string): void => {
    const names = (db.pragma(`table_info(${table})`) as { name: string }[]).map(({ name }) => `"${name}"`);
    const own = names.filter((name) => name !== '"id"');
    const values = own.map((name) => (name === '"look"' ? "look || ' ' || n.value" : name)).join(', ');
    db.exec(
      `INSERT INTO ${table} (${own.join(', ')}) SELECT ${values} FROM ${table}, generate(${times}) n ${change}`.replace(
        `generate(${times})`,
        '(WITH RECURSIVE n(value) AS (SELECT 1 UNION ALL SELECT value + 1 FROM n ' +
          `WHERE value < ${times}) SELECT * FROM n)`,
      ),
    );
  };
  db.transaction(() => {
    const before = (db.prepare('SELECT max(id) AS id FROM results').get() as { id: number }).id;
    const last = (db.prepare('SELECT max(run) AS run FROM results').get() as { run: number }).run;
    copy('decisions', '');
    copy('results', `WHERE run = ${last}`);
    db.exec(`UPDATE results SET about = json_set(about, '$.look', look) WHERE id > ${before}`);
    db.exec(
      `INSERT INTO captures (result, name, hash, about, markup, manifest, fingerprint, unstable)
       SELECT r.id, c.name, c.hash, c.about, c.markup, c.manifest, c.fingerprint, c.unstable
       FROM results r JOIN results o ON o.id <= ${before} AND o.run = ${last} AND r.component = o.component
         AND r.look LIKE o.look || ' %' JOIN captures c ON c.result = o.id WHERE r.id > ${before}`,
    );
    db.exec(
      `INSERT INTO present (component, look, environment, file, result)
       SELECT component, look, environment, about ->> '$.file', id FROM results WHERE id > ${before}`,
    );
  })();
  db.close();
}

/** From a key until the page has painted what came of it, in milliseconds. */
async function answer(window: EngineWindow, key: string): Promise<number> {
  await window.evaluate(`window.answered = null, addEventListener('keydown', (event) => {
    const began = event.timeStamp;
    requestAnimationFrame(() => setTimeout(() => { window.answered = performance.now() - began; }));
  }, { capture: true, once: true })`);
  await window.input([{ kind: 'key', key, modifiers: 0 }]);
  for (;;) {
    const took = (await window.evaluate('window.answered')) as number | null;
    if (took !== null) return took;
    await delay(5);
  }
}

async function until(window: EngineWindow, expression: string): Promise<void> {
  for (let tries = 0; tries < 6000; tries++) {
    if (await window.evaluate(expression)) return;
    await delay(10);
  }
  throw new Error(`This never became true: ${expression}`);
}

const says = (text: string): string => `document.body.innerText.includes(${JSON.stringify(text)})`;

/** Keys that are pressed until nothing is left, with how long the page takes to answer each. */
async function decideAll(folder: string, open: number): Promise<{ keys: number; times: number[]; decided: number }> {
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const engine = await startChromium();
  try {
    const window = await engine.open();
    await window.apply(defaultEnvironment);
    await window.load(`${service.url}/review`);
    await until(window, says(`${open} captures left`));
    const times: number[] = [];
    const press = async (key: string): Promise<void> => void times.push(await answer(window, key));
    // Somebody looks around first: other causes, other captures, other views.
    for (const key of [
      'ArrowDown',
      'ArrowDown',
      'ArrowRight',
      'ArrowRight',
      'd',
      'o',
      's',
      'e',
      'e',
      'ArrowUp',
      'ArrowUp',
    ])
      await press(key);
    let keys = 0;
    for (let done = 1; done <= parts.length; done++) {
      await press('a');
      keys++;
      await until(window, `${says(`${done} of ${parts.length} decided`)} || ${says('All decided')}`);
    }
    const client = connect(service.url);
    let { changes } = await client.causes();
    // The page goes on before the service has written everything.
    for (let tries = 0; changes > 0 && tries < 600; tries++) {
      await delay(100);
      ({ changes } = await client.causes());
    }
    return { keys, times, decided: open - changes };
  } finally {
    await engine.close();
    await service.close();
  }
}

async function manyCaptures(around: string, count: number) {
  const folder = join(around, `many-${count}`);
  write(folder, false);
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const client = connect(service.url);
  await runToEnd(client);
  await client.decide({ kind: 'approve', all: true });
  write(folder, true);
  await runToEnd(client);
  await service.close();
  multiply(folder, Math.ceil(count / parts.length) - 1);
  return decideAll(folder, Math.ceil(count / parts.length) * parts.length);
}

const shell = '/usr/lib/chromium/chromium-headless-shell';

/** Runs something with another browser. */
async function withShell<T>(work: (client: Client) => Promise<T>, config: string): Promise<T> {
  const before = process.env.SGUARDO_CHROMIUM;
  process.env.SGUARDO_CHROMIUM = shell;
  const service = await startService({ config });
  try {
    return await work(connect(service.url));
  } finally {
    await service.close();
    if (before === undefined) delete process.env.SGUARDO_CHROMIUM;
    else process.env.SGUARDO_CHROMIUM = before;
  }
}

/** Of the demo approved with one browser: what has changed with another one, before and after an edit. */
async function otherBrowser(around: string) {
  if (!existsSync(shell)) return null;
  const folder = join(around, 'elsewhere');
  cpSync(join(repository, 'demo/harbour'), folder, { recursive: true });
  const config = join(folder, 'sguardo.config.ts');
  const service = await startService({ config });
  const client = connect(service.url);
  await runToEnd(client);
  await client.decide({ kind: 'approve', all: true });
  await service.close();
  rmSync(join(folder, '.sguardo'), { recursive: true });
  return withShell(async (there) => {
    const first = await runToEnd(there);
    const upgrade = await runToEnd(there, { upgrade: true });
    const keys = (await there.causes()).causes.flatMap(({ kind, key }) => (kind === 'engine' ? [key] : []));
    const taken = keys.length > 0 ? (await there.decide({ kind: 'approve', causes: keys })).decided.length : 0;
    cpSync(join(repository, 'demo/next/src'), join(folder, 'src'), { recursive: true });
    const next = await runToEnd(there);
    const changed = (run: typeof first): number => run.tally.changed;
    return { first: changed(first), upgrade: changed(upgrade), causes: keys.length, taken, next: next.tally };
  }, config);
}

/** Measures with so many captures that have changed. */
export async function measureReview(count = 5000): Promise<Figure> {
  mkdirSync(join(repository, 'bench/.tmp'), { recursive: true });
  const around = mkdtempSync(join(repository, 'bench/.tmp/review-'));
  const say = (text: string): void => void process.stdout.write(`${text}\n`);
  try {
    const few = await manyCaptures(around, 500);
    say(`500 changes of 6 causes: decided in ${few.keys} key presses, ${few.decided} captures`);
    const many = await manyCaptures(around, count);
    const [middle, worst] = [median(many.times), Math.max(...many.times)];
    say(`${count} open captures: a key is answered in ${middle.toFixed(0)} ms, ${worst.toFixed(0)} ms at most`);
    const elsewhere = await otherBrowser(around);
    if (elsewhere) {
      const { first, upgrade, causes, taken, next } = elsewhere;
      say(
        `the demo with another browser: ${first} changed; upgrading shows ${upgrade} in ${causes} causes, ` +
          `${taken} taken over`,
      );
      say(`its second version there: ${next.failed} failed, ${next.changed} changed (16 and 16 where it was approved)`);
    } else say('there is no second browser here');
    const isSame =
      elsewhere === null || (elsewhere.first === 0 && elsewhere.next.failed === 16 && elsewhere.next.changed === 16);
    return {
      text:
        `500 changes in ${few.keys} keys, a key answered in ${middle.toFixed(0)} ms with ${count} open captures, ` +
        `${elsewhere ? `${elsewhere.first} changed` : 'not tried'} on another browser`,
      limit: `${limits.keys} keys, ${limits.answer} ms, 0 changed`,
      within: few.keys <= limits.keys && middle <= limits.answer && isSame,
    };
  } finally {
    rmSync(around, { recursive: true, force: true });
  }
}
