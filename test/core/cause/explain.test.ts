import { describe, expect, test } from 'vitest';
import { type Drawer, type Drawn, explain, type Pictured, type Subject } from '../../../src/core/cause/explain.ts';
import type { CanonicalNode } from '../../../src/core/moment/canonical.ts';
import type { Scene } from '../../../src/core/moment/flat.ts';
import { isText } from '../../../src/core/moment/moment.ts';
import type { Comparison } from '../../../src/core/picture/compare.ts';
import { el, scene } from '../../support/scene.ts';

/** What a scene looks like here: its texts, and for each of its sheets what `seen` makes of it. */
function pictureOf({ moment }: Scene, seen: (css: string) => string): string {
  const texts = Object.values(moment.nodes).flatMap((entry) => (isText(entry) ? [entry.text] : []));
  const classes = Object.values(moment.nodes).flatMap((entry) => (isText(entry) ? [] : (entry.attrs?.class ?? [])));
  const sheets = Object.values(moment.sheets).map((sheet) => ('css' in sheet ? seen(sheet.css) : ''));
  const isBoth = classes.some((name) => name.includes('wide')) && sheets.some((css) => css.includes('wide'));
  return JSON.stringify([texts.sort(), sheets.map((css) => css.replace('wide', '')), isBoth]);
}

/** Colours of a sheet: nothing else of it is seen. */
const colours = (css: string): string =>
  [...css.matchAll(/color: (\S+?);/g)].map(([, value]) => value).join() + (/\.wide/.test(css) ? 'wide' : '');

const pictured = (text: string): Pictured => ({ hash: text, png: new TextEncoder().encode(text) });

function drawer(seen = colours) {
  const drawn: string[] = [];
  const port: Drawer = {
    async draw(scenes) {
      return scenes.map(({ scene: one, wanted }): Drawn => {
        const text = pictureOf(one, seen);
        drawn.push(text);
        return { ...pictured(text), outlines: wanted.map(({ nodes }) => ({ count: nodes.length, boxes: [] })) };
      });
    },
    async compare(before, now) {
      if (before.hash === now.hash) return null;
      return { differing: 7, visible: 7, regions: [], added: [], lost: [] } as unknown as Comparison;
    },
    changes: async () => null,
    styleChanges: async (_, others) => others.map(() => []),
  };
  return { port, drawn };
}

const subject = (before: Scene, now: Scene, seen = colours, pictures?: [string, string]): Subject => ({
  before: { ...before, ...pictured(pictures?.[0] ?? pictureOf(before, seen)) },
  now: { ...now, ...pictured(pictures?.[1] ?? pictureOf(now, seen)) },
  difference: { differing: 7, visible: 7, regions: [], added: [], lost: [] } as unknown as Comparison,
  engines: null,
});

const body: CanonicalNode[] = [el('p.card', 'Free')];
const titles = ({ causes }: Awaited<ReturnType<typeof explain>>): string[] => causes.map(({ title }) => title);

describe('explaining', () => {
  test('proves one cause by one drawing', async () => {
    const { port, drawn } = drawer();
    const found = await explain(subject(scene(body), scene([el('p.card', 'Moored')])), port);
    expect([titles(found), found.proof, found.unexplained]).toEqual([
      ['text of the paragraph: “Free” → “Moored”'],
      'proved',
      [],
    ]);
    expect(drawn).toHaveLength(1);
    expect(found.causes[0]!.pixels).toBe(7);
  });

  test('of equal moments says whether a picture was not recorded, or markup is written down otherwise', async () => {
    const { port } = drawer();
    const same = scene(body);
    expect((await explain(subject(same, same, colours, ['a', 'b']), port)).note).toContain('was not recorded');
    expect((await explain(subject(same, same), port)).note).toContain('markup is written down');
  });

  test('leaves out edits that change no pixel, and that nobody hears', async () => {
    const { port } = drawer();
    const [before, now] = ['.card { color: red; order: 1 }', '.card { color: blue; order: 2 }'];
    const found = await explain(subject(scene(body, before), scene(body, now)), port);
    expect([titles(found), found.proof]).toEqual([['color of .card: red → blue'], 'proved']);
  });

  test('keeps what people hear although no pixel changes', async () => {
    const { port } = drawer();
    const found = await explain(
      subject(scene([el('button', { 'aria-label': 'Release' }, 'x'), 'a']), scene([el('button', 'x'), 'b'])),
      port,
    );
    expect(titles(found)).toContain('the button “Release” lost its name (aria-label)');
    expect(found.proof).toBe('proved');
  });

  test('keeps edits that only matter together', async () => {
    const { port } = drawer();
    // A class of one edit, and a media rule around its rule of another.
    const css = '.card { top: 0; left: 0 }';
    const found = await explain(
      subject(
        scene([el('p.card', 'Free'), el('i.card', 'x')], css),
        scene(
          [el('p.card.wide', 'Free'), el('i.card', 'x')],
          `${css} @media (min-width: 1px) { .wide { order: 1 } } .card { order: 2 }`,
        ),
      ),
      port,
    );
    expect(found.proof).toBe('proved');
    expect(titles(found)).toContain('class “wide” was added to the paragraph “Free”');
    expect(titles(found)).not.toContain('order: 2 was added to .card');
  });

  test('says that moments are not drawn as the screenshot, where the causes are all between them', async () => {
    const { port } = drawer();
    const found = await explain(
      subject(scene(body), scene([el('p.card', 'Moored')]), colours, ['a canvas', 'another one']),
      port,
    );
    expect([found.proof, found.note]).toEqual(['drawn', expect.stringContaining('cannot be drawn again')]);
  });

  test('never says proved of several causes whose picture is not the new one', async () => {
    const { port } = drawer();
    const [before, now] = ['.card { color: red; }', '.card { color: blue; }'];
    const two = subject(scene(body, before), scene([el('p.card', 'Moored')], now), colours, [
      'a canvas',
      'another one',
    ]);
    const found = await explain(two, port);
    expect([found.causes.length, found.proof]).toEqual([2, 'drawn']);
  });

  test('tells by pixels where the moments are equal', async () => {
    const { port } = drawer();
    const found = await explain(subject(scene(body), scene(body), colours, ['one', 'other']), port);
    expect([found.causes, found.proof, found.note]).toEqual([[], 'unexplained', expect.stringContaining('are equal')]);
  });

  test('tells what another browser makes of the same moment as a cause of its own', async () => {
    const { port } = drawer();
    const pictures: [string, string] = ['as Chromium 155 drew it', pictureOf(scene([el('p.card', 'Moored')]), colours)];
    const both = { ...subject(scene(body), scene([el('p.card', 'Moored')]), colours, pictures) };
    const found = await explain({ ...both, engines: { before: 'Chromium 155', now: 'Chromium 156' } }, port);
    expect(found.causes.map(({ kind }) => kind).sort()).toEqual(['engine', 'text']);
    expect(found.proof).toBe('proved');
    expect(titles(found)).toContain(
      'drawn by another browser or with other fonts, shapes or colours differ: Chromium 155 → Chromium 156',
    );
  });

  test('is not kept from an end by a hundred edits without effect', async () => {
    const { port, drawn } = drawer();
    const sheet = (n: number): string =>
      Array.from({ length: 100 }, (_, i) => `.card:nth-child(${i}) { order: ${n} }`).join('\n');
    const found = await explain(
      subject(scene(body, `.card { color: red; } ${sheet(1)}`), scene(body, `.card { color: blue; } ${sheet(2)}`)),
      port,
    );
    expect(found.proof).toBe('proved');
    expect(drawn.length).toBeLessThan(40);
    expect(titles(found)).toContain('color of .card: red → blue');
  });
});
