/**
 * Comparing pictures: from two PNG files, one as it is approved and one as it is taken, to the answer, for an
 * identical, a one-token and a one-text pair at 1280x800, against ImageMagick's `compare -metric AE` on the same files
 * where it is installed.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defaultEnvironment } from '../src/core/settings/environment.ts';
import { comparePictures } from '../src/core/picture/compare.ts';
import { startChromium } from '../src/engine/chromium/chromium.ts';
import { decodePng, packPng, sameBytes } from '../src/work/png.ts';
import { type Figure, median } from './workshop.ts';

const limit = 7;
const rounds = 11;
const warmUps = 6;
const megapixels = (1280 * 800) / 1e6;

const card = (n: number, text: string): string =>
  `<div class=c><h3>Berth C-${n}</h3><p>${text}</p><span class=b>Release berth</span></div>`;

const page = (
  accent: string,
  text: string,
): string => `<!doctype html><style>body{margin:0;font:14px 'DejaVu Sans';background:#f4f6f5;color:#16252d}
.b{background:${accent};color:#fff;padding:6px 14px;border-radius:6px;display:inline-block}
.c{display:inline-block;width:280px;margin:10px;padding:14px;background:#fff;border:1px solid #d3dcdf;
border-radius:8px}</style>
${Array.from({ length: 20 }, (_, i) => card(i + 1, i === 7 ? text : 'Aliseo, 11.4 m')).join('')}`;

async function takePictures(folder: string): Promise<Record<string, string>> {
  const engine = await startChromium();
  const window = await engine.open();
  await window.apply(defaultEnvironment);
  const files: Record<string, string> = {};
  for (const [name, accent, text] of [
    ['before', '#0b6e75', 'Aliseo, 11.4 m'],
    ['again', '#0b6e75', 'Aliseo, 11.4 m'],
    ['token', '#0b7a5e', 'Aliseo, 11.4 m'],
    ['text', '#0b6e75', 'Nobody lies here'],
  ] as const) {
    await window.load(`data:text/html,${encodeURIComponent(page(accent, text))}`);
    files[name] = join(folder, `${name}.png`);
    const shot = await window.screenshot([0, 0, 1280, 800], false);
    writeFileSync(files[name], name === 'before' ? await packPng(shot) : shot);
  }
  await engine.close();
  return files;
}

async function ours(a: string, b: string): Promise<number> {
  const from = readFileSync(a);
  const to = readFileSync(b);
  if (from.equals(to)) return 0;
  const [p, q] = await Promise.all([decodePng(from), decodePng(to)]);
  return comparePictures(p, q, sameBytes).differing;
}

/** Pixels that differ according to ImageMagick, or null when it is not installed. */
function theirs(a: string, b: string): number | null {
  const { stderr, error } = spawnSync('compare', ['-metric', 'AE', a, b, 'null:'], { encoding: 'utf8' });
  return error ? null : Number.parseFloat(stderr);
}

export async function measureCompare(): Promise<Figure> {
  const folder = mkdtempSync(join(tmpdir(), 'sguardo-bench-'));
  try {
    const { before, again, token, text } = await takePictures(folder);
    const ratios: number[] = [];
    for (const [name, other] of [
      ['identical', again!],
      ['one token', token!],
      ['one text', text!],
    ] as const) {
      // The service that compares has done so before; a first comparison waits for the compiler.
      for (let i = 0; i < warmUps; i++) await ours(before!, other);
      const own: number[] = [];
      const other_: number[] = [];
      let counts: [number, number | null] = [0, null];
      for (let i = 0; i < rounds; i++) {
        let began = performance.now();
        const a = await ours(before!, other);
        own.push(performance.now() - began);
        began = performance.now();
        const b = theirs(before!, other);
        if (b !== null) other_.push(performance.now() - began);
        counts = [a, b];
      }
      const speed = megapixels / (median(own) / 1000);
      if (counts[1] === null)
        process.stdout.write(`${name}: ${speed.toFixed(0)} megapixels a second; ImageMagick is not installed\n`);
      else {
        ratios.push(median(other_) / median(own));
        process.stdout.write(
          `${name}: ${speed.toFixed(0)} megapixels a second (${median(own).toFixed(1)} ms), ImageMagick ` +
            `${median(other_).toFixed(0)} ms; differing pixels ${counts[0]} and ${counts[1]}\n`,
        );
      }
    }
    if (ratios.length === 0)
      return {
        text: 'not measured, since ImageMagick is not installed',
        limit: `at least ${limit} times`,
        within: true,
      };
    const worst = Math.min(...ratios);
    return { text: `${worst.toFixed(1)} times as fast`, limit: `at least ${limit} times`, within: worst >= limit };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
