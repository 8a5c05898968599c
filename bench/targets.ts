/**
 * Finding a button by its name in pages of 100, 1,000 and 10,000 elements, against `querySelectorAll('button')` and
 * reading the text of each, in the same page.
 */
import { join } from 'node:path';
import { build } from 'vite';
import { startChromium } from '../src/engine/chromium/chromium.ts';
import type { Figure } from './workshop.ts';

const limit = 2;
const sizes = [100, 1000, 10_000];
const rounds = 201;

/** The page's clock goes in steps of 100 µs, which a small page takes for all: of many rounds the mean is exact. */
const mean = (times: readonly number[]): number => times.reduce((sum, time) => sum + time, 0) / times.length;

/** The page's own way of finding targets, as one script. */
async function script(): Promise<string> {
  const find = JSON.stringify(join(import.meta.dirname, '../src/page/act/find.ts'));
  const language = JSON.stringify(join(import.meta.dirname, '../src/language/target.ts'));
  const id = 'virtual:targets';
  const result = await build({
    configFile: false,
    logLevel: 'silent',
    plugins: [
      {
        name: 'targets',
        resolveId: (name) => (name === id ? `\0${id}` : null),
        load: (name) =>
          name === `\0${id}`
            ? `import { findAll } from ${find}; import { the } from ${language};
               window.find = (name) => findAll(the.button(name)); window.warm = () => findAll(the.button('Nobody'));`
            : null,
      },
    ],
    build: {
      write: false,
      minify: false,
      rollupOptions: { input: id, output: { format: 'iife', codeSplitting: false } },
    },
  });
  const [chunk] = (result as { output: { code: string }[] }).output;
  return chunk!.code;
}

/** A page of cards, each with a heading, a text, a list and two buttons: ten elements. */
const page = (elements: number): string =>
  `document.body.innerHTML = Array.from({ length: ${elements / 10} }, (_, i) =>
    '<section aria-label="Berth ' + i + '"><h2>Berth ' + i + '</h2><p>Moored <b>here</b></p>' +
    '<ul><li>Alba</li><li>4 m</li></ul>' +
    '<button>Release ' + i + '</button><button><span>Show</span> ' + i + '</button></section>').join('');`;

/** Milliseconds of ours and of the floor, measured in turns; the document changes before each of both. */
const measurement = (elements: number): string => `(() => {
  ${page(elements)}
  const name = 'Release ' + ${elements / 20};
  const floor = () => [...document.querySelectorAll('button')].filter((one) => one.textContent === name);
  if (find(name).length !== 1 || floor().length !== 1) throw new Error('not found');
  const time = (does) => {
    const began = performance.now();
    for (let i = 0; i < 5; i++) does();
    return (performance.now() - began) / 5;
  };
  const times = { ours: [], floor: [], changed: [] };
  for (let i = 0; i < ${rounds}; i++) {
    times.floor.push(time(floor));
    times.ours.push(time(() => find(name)));
    document.querySelector('p').textContent = 'Moored ' + i;
    const began = performance.now();
    find(name);
    times.changed.push(performance.now() - began);
  }
  return times;
})()`;

type Times = { ours: number[]; floor: number[]; changed: number[] };

/** The worst of the ratios. */
export async function measureTargets(): Promise<Figure> {
  const code = await script();
  const engine = await startChromium();
  try {
    const window = await engine.open();
    const found: string[] = [];
    let worst = 0;
    for (const size of sizes) {
      await window.load('data:text/html,<!doctype html><body></body>');
      await window.evaluate(code);
      const times = (await window.evaluate(measurement(size))) as Times;
      const [ours, floor, changed] = [mean(times.ours), mean(times.floor), mean(times.changed)];
      worst = Math.max(worst, ours / floor);
      const ms = (time: number): string => `${(time * 1000).toFixed(0)} µs`;
      found.push(
        `${size} elements ${(ours / floor).toFixed(2)} ` +
          `(${ms(ours)} against ${ms(floor)}, ${ms(changed)} after a change)`,
      );
    }
    return { text: found.join('; '), limit: `${limit}`, within: worst <= limit };
  } finally {
    await engine.close();
  }
}
