/** What is attacked: a project of its own with a service of its own, and what has to hold of both whatever happened. */
import { createHash } from 'node:crypto';
import type { ChildProcess } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import Database from 'better-sqlite3';
import { type Client, connect } from '../src/client/client.ts';
import { usualRequest, type RunRequest, type RunSummary } from '../src/core/run/run.ts';
import { ended, serveByCommand } from '../test/support/cli.ts';
import { descendantsOf, isAlive } from '../test/support/processes.ts';
import { freshFolder, repository, write } from '../test/support/project.ts';

/** What an attack has come to: each is a number of things, and should be 0. */
export type Damage = {
  /** Approved baselines, decisions or verdicts that are gone. */
  lost: number;
  /** What shows something else than before: pictures, neighbours, records. */
  spoiled: number;
  /** Processes, folders and files that stay behind, and secrets that come out. */
  leaked: number;
  /** How often the service was gone, or did not answer. */
  dead: number;
  /** What it was, in words. */
  notes: string[];
};

export const unharmed = (): Damage => ({ lost: 0, spoiled: 0, leaked: 0, dead: 0, notes: [] });

/** Adds what was found to what there is. */
export function harm(damage: Damage, kind: 'lost' | 'spoiled' | 'leaked' | 'dead', note: string): void {
  damage[kind]++;
  damage.notes.push(`${kind}: ${note}`);
}

const colours = ['navy', 'teal', 'maroon', 'olive', 'purple', 'grey'];

/** A look file of three innocent looks, the first of them with a script. */
export const innocent = (text: string, colour = 'navy'): string =>
  `import { click, ensure, looks, the } from 'sguardo';
import { useState } from 'react';
function Buoy({ colour = '${colour}' }) {
  const [rung, setRung] = useState(0);
  return <p style={{ color: colour }}>${text} <button onClick={() => setRung(rung + 1)}>Ring {rung}</button></p>;
}
export default looks(Buoy, { states: {
  rings: { async script() { await click(the.button(/Ring/)); await ensure(the.button('Ring 1')).isVisible(); } },
  ${colours.slice(1, 3).map((name) => `${name}: { props: { colour: '${name}' } }`)}
} });`;

export const innocents = ['src/North.look.jsx', 'src/South.look.jsx'];

/** How many looks there are in the innocent files. */
export const innocentLooks = 6;

const hashesIn = (folder: string): Map<string, string> =>
  new Map(
    readdirSync(folder, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile())
      .map((entry) => join(entry.parentPath, entry.name))
      .map((path) => [path, createHash('sha256').update(readFileSync(path)).digest('hex')]),
  );

/** Folders of the machine that services with these ids have made. */
const tracesOf = (services: ReadonlySet<number>): string[] =>
  readdirSync(tmpdir()).filter((name) => services.has(Number(/^sguardo-.*-(\d+)-\w+$/.exec(name)?.[1])));

export class Ground {
  readonly root: string;
  client!: Client;
  url = '';
  #service!: ChildProcess;
  #approved = new Map<string, string>();
  readonly #services = new Set<number>();
  /** Processes that its services have started so far. */
  readonly #started = new Map<number, string>();

  private constructor(root: string) {
    this.root = root;
  }

  /** A project with innocent looks that are approved; `files` are more. */
  static async prepare(files: Record<string, string> = {}, root = freshFolder()): Promise<Ground> {
    const ground = new Ground(root);
    mkdirSync(root, { recursive: true });
    symlinkSync(join(repository, 'node_modules'), join(root, 'node_modules'));
    write(root, { 'sguardo.config.ts': 'export default { lanes: 2, timeLimit: 20_000, keep: 2 };\n' });
    write(root, ground.innocentFiles());
    await ground.start();
    await ground.run();
    await ground.client.decide({ kind: 'approve', all: true });
    ground.#approved = hashesIn(join(root, 'baselines'));
    write(root, files);
    return ground;
  }

  get pid(): number {
    return this.#service.pid!;
  }

  /** True while the process of the service is there. */
  get isRunning(): boolean {
    return this.#service.exitCode === null && this.#service.signalCode === null;
  }

  async start(): Promise<void> {
    const { child, url, said } = await serveByCommand(this.root);
    if (url === '') throw new Error(`The service did not start: ${said()}`);
    this.#service = child;
    this.#services.add(child.pid!);
    this.url = url;
    this.client = connect(url);
  }

  /** The innocent look files as they are. */
  innocentFiles(): Record<string, string> {
    return Object.fromEntries(innocents.map((file) => [file, innocent(file)]));
  }

  /** Ends the service at once, as a power cut would. */
  async kill(): Promise<void> {
    this.remember();
    this.#service.kill('SIGKILL');
    await ended(this.#service);
  }

  /** Notes which processes there are, to see later that they are gone. */
  remember(): void {
    for (const { pid, command } of descendantsOf(this.pid)) this.#started.set(pid, command);
  }

  /** Processes of the service whose command holds a text. */
  processes(text: string): number[] {
    this.remember();
    return descendantsOf(this.pid)
      .filter(({ command }) => command.includes(text))
      .map(({ pid }) => pid);
  }

  /** Runs looks to the end. @throws Error when that takes longer than two minutes */
  async run(request: Partial<RunRequest> = {}): Promise<RunSummary> {
    const { id } = await this.client.startRun({ ...usualRequest, audit: 0, ...request });
    for (let waited = 0; waited < 120_000; waited += 50) {
      const run = await this.client.run(id);
      if (run.status !== 'queued' && run.status !== 'running') return run;
      await delay(50);
    }
    throw new Error(`Run ${id} did not end.`);
  }

  /** The files of approved baselines that are no longer as they were. */
  spoiledFiles(): string[] {
    const now = hashesIn(join(this.root, 'baselines'));
    return [...this.#approved].filter(([path, hash]) => now.get(path) !== hash).map(([path]) => path);
  }

  /** Approves what there is now as what has to hold from here on. */
  async settle(): Promise<void> {
    await this.run();
    await this.client.decide({ kind: 'approve', all: true });
    this.#approved = hashesIn(join(this.root, 'baselines'));
  }

  /** Looks at everything that has to hold; starts the service again when it is gone, which `isDeadFine` excuses. */
  async inspect(damage: Damage, isDeadFine = false): Promise<void> {
    if (!this.isRunning) {
      if (!isDeadFine) harm(damage, 'dead', 'the service has ended');
      await this.start();
    }
    this.remember();
    for (const path of this.spoiledFiles())
      harm(damage, 'lost', `${path.slice(this.root.length + 1)} is not as approved`);
    try {
      const run = await this.run({ patterns: innocents.map((file) => file.split('.')[0]!), fresh: true });
      const { passed } = run.tally;
      if (passed !== innocentLooks)
        harm(damage, 'spoiled', `of ${innocentLooks} innocent looks ${passed} passed: ${JSON.stringify(run.tally)}`);
      for (const { code, message } of run.problems) harm(damage, 'spoiled', `${code}: ${message}`);
      const open = (await this.client.runs(50)).filter(({ status }) => status === 'running' || status === 'queued');
      for (const { id } of open) harm(damage, 'lost', `run ${id} never ended`);
    } catch (error) {
      harm(damage, 'dead', String(error));
    }
    const db = new Database(join(this.root, '.sguardo/sguardo.db'), { readonly: true, fileMustExist: true });
    const state = db.pragma('quick_check', { simple: true }) as string;
    db.close();
    if (state !== 'ok') harm(damage, 'spoiled', `the records: ${state}`);
  }

  /** Ends the service as Ctrl+C does, and looks for what stays behind. */
  async close(damage: Damage): Promise<void> {
    this.remember();
    this.#service.kill('SIGTERM');
    const code = await Promise.race([ended(this.#service), delay(30_000, 'never', { ref: false })]);
    if (code === 'never') {
      harm(damage, 'dead', 'the service did not end when it was asked to');
      await this.kill();
    }
    for (let tries = 0; tries < 100 && this.#left().length > 0; tries++) await delay(50);
    for (const command of this.#left()) harm(damage, 'leaked', `a process: ${command.slice(0, 100)}`);
    for (const name of tracesOf(this.#services)) harm(damage, 'leaked', `a folder: ${name}`);
  }

  #left(): string[] {
    return [...this.#started].filter(([pid, command]) => isAlive(pid) && isSame(pid, command)).map(([, text]) => text);
  }
}

/** True for a process that still runs its command: an id may belong to another one by now. */
function isSame(pid: number, command: string): boolean {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ') === command && command !== '';
  } catch {
    return false;
  }
}
