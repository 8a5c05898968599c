/** The service of one project: starts everything, says where it is, and ends everything cleanly. */
import { readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { setTimeout as delay } from 'node:timers/promises';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { FastifyInstance, FastifyServerOptions } from 'fastify';
import { folderCacheOf } from '../baselines/reconcile.ts';
import type { Settings } from '../core/settings/config.ts';
import { fail } from '../core/problem/problem.ts';
import { stageHost } from '../core/wire/stage.ts';
import { type Bundle, Bundler, type Crew, chromiumCrew, openLiveGate, readConfig } from '../work/index.ts';
import { buildApi } from './api.ts';
import { type Challenger, challengerOf } from './challenge.ts';
import { Conductor } from './conductor.ts';
import { liveFeed } from './live.ts';
import { explainerOf } from './explainer.ts';
import { errorLog } from './log.ts';
import { accessibilityDeskOf } from './accessibility.ts';
import { coverageDeskOf } from './coverage.ts';
import { culpritsOf } from './culprits.ts';
import { handbookOf } from './handbook.ts';
import { type Held, hold } from './hold.ts';
import { needOf } from './need.ts';
import { projectInfoOf, settingsShown } from './projectInfo.ts';
import { redrawerOf } from './redraw.ts';
import { sourcesOf } from './sources.ts';
import { type Sittings, sittingsOf } from './sittings.ts';
import { buildStage } from './stage.ts';
import { type Watcher, watcherOf } from './watcher.ts';

export type ServiceOptions = {
  /** The configuration file; its folder is the project. */
  config: string;
  /** Where requests and errors are logged; without it errors go to `.sguardo/service.log`. */
  logger?: FastifyServerOptions['logger'];
  /** The port wanted; without one the usual port, or any free one when that is taken. */
  port?: number;
};

export type Service = {
  url: string;
  stage: string;
  root: string;
  /**
   * Resolves when nobody needs the service but the process that has started it: no run that somebody follows goes on,
   * and nobody else has called for a moment.
   */
  unneeded(): Promise<void>;
  /** Writes an error that nobody expected into the service's log. */
  log(error: unknown): void;
  close(): Promise<void>;
};

/** The port that is tried first when none is asked for, so that a console's address stays the same. */
export const usualPort = 4680;

const here = dirname(fileURLToPath(import.meta.url));
const version = (JSON.parse(readFileSync(resolve(here, '../../package.json'), 'utf8')) as { version: string }).version;
const consoleFolder = resolve(here, '../../dist/console');

const local = (port: number): string => `http://127.0.0.1:${port}`;

async function listen(app: FastifyInstance, port: number): Promise<number> {
  await app.listen({ host: '127.0.0.1', port });
  return (app.server.address() as { port: number }).port;
}

async function listenSomewhere(app: FastifyInstance, wanted: number | undefined): Promise<number> {
  try {
    return await listen(app, wanted ?? usualPort);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE') throw error;
    if (wanted !== undefined) return fail('port-taken', { port: wanted });
    return listen(app, 0);
  }
}

/** How long looks that are under way may take when the service ends, in milliseconds. */
const endLimit = 5000;

/** How many bundles stay: pages that are still open load from those of earlier runs. */
const bundlesKept = 3;

/** The bundles whose files pages may ask for, newest first, those beside runs, and where their looks may go. */
type Shown = { bundles: Bundle[]; beside: Set<Bundle>; network: readonly string[] };

/** Takes a bundle in. An equal one that is there already stays, since pages may still be loading from it. */
function show(shown: Shown, bundle: Bundle, { network }: Settings): Bundle {
  const known = shown.bundles.find(({ id }) => id === bundle.id) ?? bundle;
  shown.network = network;
  shown.bundles = [known, ...shown.bundles.filter(({ id }) => id !== bundle.id)].slice(0, bundlesKept);
  return known;
}

/**
 * Starts the service of a project.
 * @throws ProblemError when the configuration cannot be read, the port is taken, or the project has a service
 */
export async function startService({ config, port, logger }: ServiceOptions): Promise<Service> {
  const held = await hold(config);
  try {
    return await serveProject(held, port, logger);
  } catch (error) {
    held.store.close();
    held.lock.release();
    throw error;
  }
}

/** What a running service is made of, as far as it has to be ended. */
type Parts = {
  note: string;
  watcher: Watcher;
  conductor: Conductor;
  sittings: Sittings;
  challenger: Challenger;
  /** What draws in windows of its own. */
  drawers: { close(): Promise<void> }[];
  crews: Crew[];
  servers: { close(): PromiseLike<unknown> }[];
};

async function endService(
  held: Held,
  { note, watcher, conductor, sittings, challenger, drawers, crews, servers }: Parts,
): Promise<void> {
  // From now on nobody finds it any more.
  rmSync(note, { force: true });
  // Whoever has just found it is told at once, and finds another one.
  const ended = conductor.close();
  challenger.close();
  await watcher.close();
  await sittings.close();
  // Looks under way may finish, but not for ever: without their browser they end at once.
  await Promise.race([ended, delay(endLimit, undefined, { ref: false })]);
  await Promise.all(drawers.map((drawer) => drawer.close()));
  await Promise.all(crews.map((crew) => crew.close()));
  await ended;
  await Promise.all(servers.map((server) => server.close()));
  held.store.close();
  held.lock.release();
}

/** Where the parts of a service are found, once they listen. */
type Ports = { api: number; stage: number; live: number };

/** What pages come from, and the browsers that show them. */
async function openStages({ root, config, store }: Held, shown: Shown, ports: Ports) {
  const api = (): string => local(ports.api);
  const stage = buildStage({
    store,
    bundles: () => [...shown.bundles, ...shown.beside],
    network: () => shown.network,
    port: () => ports.stage,
    consoleOrigin: api,
    consoleFolder,
  });
  ports.stage = await listen(stage, 0);
  const gate = await openLiveGate(() => ({ root, config, console: api() }));
  ports.live = gate.port;
  const hosts = { [stageHost]: ports.stage };
  return { servers: [stage, gate], crew: chromiumCrew(hosts), headedCrew: chromiumCrew(hosts, true) };
}

/** Leaves a note of where the service is. Whoever finds it finds it whole. */
function leaveNote(folder: string, url: string): string {
  const note = join(folder, 'service.json');
  writeFileSync(`${note}.new`, JSON.stringify({ pid: process.pid, url, version }));
  renameSync(`${note}.new`, note);
  return note;
}

/** The addresses of what a service serves; known when asked, and not before it listens. */
const urlsOf = (ports: Ports) => ({
  url: () => local(ports.api),
  stage: () => local(ports.stage),
  live: () => local(ports.live),
});
type Urls = ReturnType<typeof urlsOf>;

type Crews = { crew: Crew; headedCrew: Crew };

/** What looks are bundled, run, drawn and kept with. */
function toolsOf(
  held: Held,
  shown: Shown,
  { crew, headedCrew }: Crews,
  { stage }: Urls,
  log: (error: unknown) => void,
) {
  const { root, config, store } = held;
  const settings = () => readConfig(config);
  const shownSettings = settingsShown(config);
  const sources = sourcesOf(root, store);
  return {
    root,
    config,
    store,
    settings,
    shownSettings,
    explainer: explainerOf({ root, store, crew, sources, settings, stage, log }),
    redrawer: redrawerOf({ root, store, crew, stage, log }),
    sources,
    crew,
    headedCrew,
    live: liveFeed(),
    cache: folderCacheOf(store),
    bundler: new Bundler(root, version, store.graph),
    log,
    serveBeside(bundle: Bundle) {
      shown.beside.add(bundle);
      return () => void shown.beside.delete(bundle);
    },
    onBundle(bundle: Bundle, wanted: Settings) {
      shownSettings.seen(wanted);
      return show(shown, bundle, wanted);
    },
  };
}

/** What answers the calls of clients. */
function contextOf(tools: ReturnType<typeof toolsOf>, urls: Urls) {
  const { root, store, settings, shownSettings, explainer, live } = tools;
  const conductor = new Conductor(tools);
  const isBusy = (): boolean => conductor.current !== null;
  const sittings = sittingsOf(tools);
  const coverage = coverageDeskOf(root, store, settings);
  const accessibility = accessibilityDeskOf({ root, store, explainer, settings });
  return {
    store,
    conductor,
    sittings,
    explainer,
    culprits: culpritsOf(tools, isBusy),
    challenger: challengerOf(tools, isBusy),
    coverage,
    accessibility,
    handbook: handbookOf({ root, store, accessibility, coverage }),
    closeWindows: sittings.closeWindows,
    live,
    watcher: watcherOf(root, () => conductor.startDue()),
    root,
    settings,
    project: projectInfoOf({ root, version, store, conductor, settings: shownSettings.read, ...urls }),
  };
}

async function serveProject(held: Held, port: number | undefined, logger: ServiceOptions['logger']): Promise<Service> {
  const { root, folder } = held;
  const shown: Shown = { bundles: [], beside: new Set(), network: [] };
  const ports: Ports = { api: 0, stage: 0, live: 0 };
  const urls = urlsOf(ports);
  const { servers, crew, headedCrew } = await openStages(held, shown, ports);
  let log = (_error: unknown): void => {};
  let closed: Promise<void> | null = null;
  const logged = (error: unknown): void => {
    // What fails once the service ends fails because of that.
    if (closed === null) log(error);
  };
  const tools = toolsOf(held, shown, { crew, headedCrew }, urls, logged);
  const context = contextOf(tools, urls);
  const { conductor, live } = context;
  const server = await buildApi({
    context,
    port: () => ports.api,
    framed: () => [urls.stage(), urls.live()],
    consoleFolder,
    // What nobody expects is read later, by whoever is asked about it.
    logger: logger ?? errorLog(join(folder, 'service.log')),
    version,
  });
  log = (error) => server.log.error(error);
  const unneeded = needOf(server, conductor, live);
  try {
    ports.api = await listenSomewhere(server, port);
  } catch (error) {
    await Promise.all(servers.map((one) => one.close()));
    throw error;
  }
  const parts = {
    ...context,
    note: leaveNote(folder, urls.url()),
    drawers: [tools.explainer, tools.redrawer],
    crews: [crew, headedCrew],
    servers: [server, ...servers],
  };
  const close = (): Promise<void> => (closed ??= endService(held, parts));
  return { url: urls.url(), stage: urls.stage(), root, unneeded, log, close };
}
