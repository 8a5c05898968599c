/** How large a published site of the demo is, to what it shows; and what another run adds to it. */
import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { connect } from '../src/client/client.ts';
import { freshFolder } from '../test/support/project.ts';
import { serviceNote, serveByCommand } from '../test/support/cli.ts';
import { onDemo, type Sguardo } from './byCommand.ts';
import type { Figure } from './workshop.ts';

const limit = 1.2;

const sizeOf = (folder: string): number =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .reduce((sum, entry) => sum + statSync(join(entry.parentPath, entry.name)).size, 0);

/** Bytes of the pictures and recorded files that results show, each once, and of their timelines, as they are. */
async function shownBytes(url: string): Promise<number> {
  const client = connect(url);
  const { stage } = await client.project();
  const seen = new Map<string, number>();
  const size = async (address: string): Promise<number> => (await (await fetch(address)).arrayBuffer()).byteLength;
  let timelines = 0;
  for (const { id, captures } of await client.looks()) {
    timelines += await size(`${url}/api/results/${id}/timeline`);
    const { assets } = await client.timeline(id);
    for (const hash of Object.values(assets)) if (!seen.has(hash)) seen.set(hash, await size(`${stage}/asset/${hash}`));
    for (const { hash } of captures) if (!seen.has(hash)) seen.set(hash, await size(client.pictureUrl(hash)));
  }
  return [...seen.values()].reduce((sum, one) => sum + one, timelines);
}

export const measurePublish = (): Promise<Figure> => onDemo(measure);

async function measure(folder: string, sguardo: Sguardo): Promise<Figure> {
  const site = join(freshFolder(), 'site');
  await serveByCommand(folder);
  sguardo('run');
  sguardo('publish', site);
  const first = sizeOf(site);
  const blobs = await shownBytes(serviceNote(folder).url);
  sguardo('run', '--fresh', 'BerthCard');
  sguardo('publish', site, '--run', '2');
  const grown = sizeOf(site) - first;
  const kB = (bytes: number): string => `${Math.round(bytes / 1000)} kB`;
  process.stdout.write(
    `the site ${kB(first)}, of it the console ${kB(sizeOf(join(site, 'app')))}, live looks ` +
      `${kB(sizeOf(join(site, 'stages')))}; what it shows ${kB(blobs)}; another run of some looks added ${kB(grown)}\n`,
  );
  const ratio = first / blobs;
  // The console is there once, however many commits are.
  const others = (first - sizeOf(join(site, 'app'))) / blobs;
  return {
    text: `${ratio.toFixed(2)} times the blobs that it shows, ${others.toFixed(2)} without the console`,
    limit: `${limit}`,
    within: ratio <= limit,
  };
}
