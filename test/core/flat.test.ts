/** Moments that are to be drawn: what their sheets come to, however these were put into files. */
import { describe, expect, it } from 'vitest';
import { candidatesOf } from '../../src/core/cause/candidates.ts';
import { editsOf } from '../../src/core/cause/edits.ts';
import { pairScenes } from '../../src/core/cause/pair.ts';
import type { CanonicalElement, CanonicalMoment } from '../../src/core/moment/canonical.ts';
import { flatten, type Scene } from '../../src/core/moment/flat.ts';
import { el } from '../support/scene.ts';

const link = (sheet: string): CanonicalElement => ({ tag: 'link', sheet });

/** A scene whose head holds these; sheets are named by their text. `folder` gives where the file of one lies. */
function scene(head: CanonicalElement[], folder = (_: string): string => 'assets'): Scene {
  const texts = head.flatMap(({ sheet }) => sheet ?? []);
  const root = el('html', el('head', ...head), el('body', el('p', 'Moored')));
  const moment: CanonicalMoment = { view: { width: 80, height: 60, scroll: [0, 0] }, sheets: [], assets: {}, root };
  const assets = texts.map((text, i) => [`http://looks.localhost/${folder(text)}/${i}.css`, text]);
  return flatten(moment, new Map(texts.map((text) => [text, text])), Object.fromEntries(assets));
}

const sheets = ({ moment }: Scene): string[] =>
  Object.values(moment.sheets).map((sheet) => ('css' in sheet ? sheet.css : ''));

function titles(before: Scene, now: Scene): string[] {
  const pair = pairScenes(before, now);
  return candidatesOf(pair, editsOf(pair)).map(({ title }) => title);
}

const [one, two, three] = ['p{top:0}', 'b{top:1px}', 'i{top:2px}'];

describe('sheets that are linked one behind the other', () => {
  it('are one, so that nothing depends on what was built together', () => {
    const apart = scene([link(one), link(two), link(three)]);
    expect(sheets(apart)).toEqual([`${one}\n${two}\n${three}`]);
    expect(titles(apart, scene([link(`${one}\n${two}`), link(three)]))).toEqual([]);
    expect(titles(apart, scene([link(`${one}\n${two}\n${three}`)]))).toEqual([]);
    expect(titles(apart, scene([link(one), link(`b{top:9px}\n${three}`)]))).toEqual(['top of b: 1px → 9px']);
  });

  it('stay apart where something stands between them, or where they would say something else', () => {
    const style: CanonicalElement = { tag: 'style', sheet: two };
    const printed = { ...link(two), attrs: { media: 'print' } };
    expect(sheets(scene([link(one), style, link(three)]))).toEqual([one, two, three]);
    expect(sheets(scene([link(one), printed, link(three)]))).toEqual([one, two, three]);
    const imports = '@import "x.css";';
    expect(sheets(scene([link(one), link(imports)]))).toEqual([one, imports]);
    expect(sheets(scene([link(one), link(two)], (text) => (text === one ? 'assets' : 'kit')))).toEqual([one, two]);
  });
});
