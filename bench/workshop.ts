/** What every measurement needs: the demo bundled, a stage to load it from, and browsers. */
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { resolve } from 'node:path';
import { type Bundle, bundleLooks, fileOf, findLookFiles, readConfig } from '../src/bundle/index.ts';
import type { Settings } from '../src/core/settings/config.ts';
import { type Conditions, usualConditions } from '../src/core/steady/conditions.ts';
import { lookKey } from '../src/core/look/look.ts';
import { stageHost } from '../src/core/wire/stage.ts';
import { startChromium } from '../src/engine/chromium/chromium.ts';
import type { Finding } from '../src/core/accessibility/finding.ts';
import type { AccessibilityContext } from '../src/work/accessibility.ts';
import { Crew } from '../src/work/crew.ts';
import { hashOf } from '../src/work/assets.ts';
import type { Client } from '../src/client/client.ts';
import { type RunRequest, type RunSummary, usualRequest } from '../src/core/run/run.ts';
import type { FinishedLook } from '../src/core/run/finished.ts';
import { type RunBaselines, runLooks } from '../src/work/run.ts';

export const origin = `http://${stageHost}`;

const noBaselines: RunBaselines = { of: () => null, approved: () => ({}) };

export type Workshop = {
  settings: Settings;
  bundle: Bundle;
  crew: Crew;
  stagePort: number;
  /** Answers paths that the bundle does not, such as pages of the measurement itself. */
  serve(path: string, type: string, body: string | Buffer): void;
  /** Runs looks in the demo's first environment. */
  run(
    patterns: string[],
    options?: {
      baselines?: RunBaselines;
      settings?: Partial<Settings>;
      conditions?: Conditions;
      /** Also captures whose moment is as approved; by default they are. */
      photographed?: boolean;
      /** As if accessibility had never been looked at. */
      anew?: boolean;
      /** It is counted what they run of the sources. */
      coverage?: boolean;
      finished?(look: FinishedLook): void;
    },
  ): Promise<FinishedLook[]>;
  close(): Promise<void>;
};

/** The demo, unless another project is wanted. */
export async function openWorkshop(project = 'demo/harbour'): Promise<Workshop> {
  const root = resolve(project);
  const settings = await readConfig(resolve(root, 'sguardo.config.ts'));
  const bundle = await bundleLooks(root, settings, await findLookFiles(root, settings));
  /** Looks that were found to depend on others. */
  const dependent = new Set<string>();
  /** What was found on pages and pictures, which a service keeps in its records. */
  const found = new Map<string, readonly Finding[]>();
  const memory: AccessibilityContext['memory'] = {
    get: (key) => found.get(key)?.slice() ?? null,
    put: (key, findings) => void found.set(key, findings),
  };
  const extra = new Map<string, { type: string; body: string | Buffer }>();
  const server = createServer((request, reply) => {
    const path = new URL(request.url!, origin).pathname;
    const own = extra.get(path);
    void (own ? Promise.resolve(own) : fileOf(bundle, path)).then((file) => {
      reply.writeHead(file ? 200 : 404, {
        'content-type': file?.type ?? 'text/plain',
        ...(path.startsWith('/assets/') ? { 'cache-control': 'max-age=31536000, immutable' } : {}),
      });
      reply.end(file?.body);
    });
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const stagePort = (server.address() as AddressInfo).port;
  const crew = new Crew(() => startChromium({ [stageHost]: stagePort }));
  return {
    settings,
    bundle,
    crew,
    stagePort,
    serve: (path, type, body) => void extra.set(path, { type, body }),
    async run(patterns, options = {}) {
      const looks: FinishedLook[] = [];
      if (options.anew) found.clear();
      await runLooks({
        redraw: async () => null,
        accessibility: { accepted: [], known: [], failsOn: null, memory },
        bundle,
        // What is new would get a document of its own.
        settings: { ...settings, isolate: options.baselines ? null : 'file', ...options.settings },
        request: {
          ...usualRequest,
          patterns,
          environments: [settings.environments[0]!.name],
          coverage: options.coverage ?? false,
        },
        crew,
        origin,
        declared: () => null,
        sourceOf: () => null,
        isReused: () => false,
        isPhotographed: () => options.photographed ?? true,
        dependsOnOthers: ({ component, look }) => dependent.has(lookKey(component, look)),
        baselines: options.baselines ?? noBaselines,
        signal: new AbortController().signal,
        conditions: options.conditions ?? usualConditions(options.settings?.lanes ?? settings.lanes),
        news: {
          opened() {},
          unusable() {},
          planned() {},
          started() {},
          finished(look) {
            looks.push(look);
            if (look.orderDependent) dependent.add(keyOf(look));
            options.finished?.(look);
          },
        },
      });
      return looks;
    },
    async close() {
      await crew.close();
      server.close();
      server.closeAllConnections();
    },
  };
}

/** Starts a run of a service, and waits for its end on the live feed: asking again and again would cost it time. */
export async function runToEnd(client: Client, request: Partial<RunRequest> = {}): Promise<RunSummary> {
  const abort = new AbortController();
  try {
    let ready = (): void => {};
    const listening = new Promise<void>((resolve) => (ready = resolve));
    const events = client.events(abort.signal, ready);
    const first = events.next();
    await Promise.race([listening, first]);
    const { id } = await client.startRun(request);
    for (let next = await first; !next.done; next = await events.next())
      if (next.value.kind === 'run-finished' && next.value.run.id === id) return next.value.run;
    throw new Error('The live feed ended before the run.');
  } finally {
    abort.abort();
  }
}

/** What looks came to as their baselines. */
export function approvedBy(looks: readonly FinishedLook[]): RunBaselines {
  const byKey = new Map(looks.map((look) => [keyOf(look), look]));
  const approved = new Map(
    looks.map((look) => [
      keyOf(look),
      new Map(
        look.captures.map(({ summary, png, fingerprint, markup }) => [
          summary.name,
          { png, hash: hashOf(png), fingerprint, markup, allowances: [], moment: null, file: null },
        ]),
      ),
    ]),
  );
  return {
    of: (component, look, _environment, capture) => approved.get(lookKey(component, look))?.get(capture) ?? null,
    approved: (component, look) =>
      Object.fromEntries(
        (byKey.get(lookKey(component, look))?.captures ?? []).map(({ summary, fingerprint }) => {
          const { assets } = byKey.get(lookKey(component, look))!.timeline;
          return [summary.name, { picture: summary.hash, fingerprint, shows: { moment: summary.canonical, assets } }];
        }),
      ),
  };
}

export const keyOf = ({ info }: FinishedLook): string => lookKey(info.component, info.look);

export const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = Math.floor(sorted.length / 2);
  return sorted.length % 2 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
};

/** Milliseconds that some work takes. */
export async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

/** A measurement's outcome: what is printed, and whether it is within the limit. */
export type Figure = { text: string; limit: string; within: boolean };
