/**
 * Moments: what is recorded of a page, and that drawing it again gives the same picture without running any of its
 * code.
 */
import { beforeAll, describe, expect, it } from 'vitest';
import { isText, type Moment, type NodeEntry } from '../../src/core/moment/moment.ts';
import { momentAt } from '../../src/core/moment/patch.ts';
import { comparePictures } from '../../src/core/picture/compare.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import type { Timeline } from '../../src/core/timeline/timeline.ts';
import type { EngineWindow } from '../../src/engine/engine.ts';
import { decodePng } from '../../src/work/png.ts';
import { openWindow } from '../support/browser.ts';
import { copyOf, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

/** A look whose elements come, go and come again: styles, a frame, shadow roots, sheets, fields. */
const travel = `import { useEffect, useRef } from 'react';
import { ensure, looks } from 'sguardo';
function Travel() {
  return (
    <div id="t">
      <p className="x">x</p>
    </div>
  );
}
const tick = () => ensure(1).equals(1);
export default looks(Travel, {
  states: {
    'comes and goes': {
      async script() {
        const t = document.getElementById('t')!;
        const style = document.createElement('style');
        style.textContent = '.x { color: red }';
        t.append(style);
        await tick();
        style.remove();
        await tick();
        t.prepend(style);
        await tick();
        style.textContent = '.x { color: green }';
        await tick();
        style.sheet!.insertRule('.y { color: blue }', 0);
        await tick();
        style.remove();
        await tick();
        const host = document.createElement('div');
        const root = host.attachShadow({ mode: 'open' });
        root.innerHTML = '<i>in</i><input value="1">';
        t.append(host);
        await tick();
        const sheet = new CSSStyleSheet();
        sheet.replaceSync('i { color: red }');
        root.adoptedStyleSheets = [sheet];
        await tick();
        sheet.replaceSync('i { color: green }');
        await tick();
        root.querySelector('input')!.value = '2';
        await tick();
        host.remove();
        await tick();
        document.adoptedStyleSheets = [sheet];
        await tick();
        t.append(host);
        document.adoptedStyleSheets = [];
        await tick();
        const frame = document.createElement('iframe');
        t.append(frame);
        await tick();
        frame.contentDocument!.body.innerHTML = '<b>framed</b>';
        await tick();
        t.prepend(frame);
        await tick();
        t.append(t.firstElementChild!.nextElementSibling!);
        await tick();
        t.innerHTML =
          '<svg><circle r="4"></circle></svg>' +
          '<div style="height:20px;overflow:auto"><div style="height:90px"></div></div>';
        await tick();
        t.lastElementChild!.scrollTop = 30;
        await tick();
        t.replaceChildren(style, 'text', host);
        await tick();
      },
    },
  },
});
`;

let served: Served;
let look: (name: string, environment?: string) => ResultSummary;
let drawing: EngineWindow;
const timelineOf = (name: string): Promise<Timeline> => served.client.timeline(look(name).id);

beforeAll(async () => {
  const folder = copyOf('test/looks');
  write(folder, {
    'sguardo.config.ts':
      "export default { baselines: false, isolate: 'file', environments: { plain: { viewport: [640, 480] }, " +
      "dark: { viewport: [640, 480], scheme: 'dark' } } };",
  });
  write(folder, { 'src/Travel.look.tsx': travel });
  served = await serve(folder);
  const { results } = await served.run({ patterns: ['Recorded'] });
  look = (name, environment = 'plain') =>
    results.find((result) => result.look === name && result.environment === environment)!;
  drawing = await openWindow(640, 480);
  await drawing.load(`${served.service.stage}/draw`);
});

const lastOf = ({ base, patches }: Timeline): Moment => momentAt(base, patches, patches.length);
const elementsOf = (moment: Moment, tag: string): Extract<NodeEntry, { tag: string }>[] =>
  Object.values(moment.nodes).filter(
    (entry): entry is Extract<NodeEntry, { tag: string }> => !isText(entry) && entry.tag === tag,
  );

const tell = (message: object): Promise<unknown> =>
  drawing.evaluate(`__sguardoDraw.receive(${JSON.stringify(message)})`);

const show = (moment: number): Promise<unknown> =>
  tell({ kind: 'show', moment, outline: null, cover: null, pointer: null, fit: false });

async function draw(timeline: Timeline, moment: number, scheme: 'light' | 'dark' = 'light'): Promise<void> {
  const { base, patches, assets } = timeline;
  const media = { scheme, motion: 'reduce', contrast: 'no-preference' };
  await tell({ kind: 'timeline', base, patches, assets, media });
  await show(moment);
  await drawing.evaluate('__sguardoDraw.settled()');
}

/** Everything of the drawn document that a person could see, through shadow roots and frames. */
const documentNow = `(() => {
    const rules = (sheets) =>
      [...sheets].map((sheet) => (sheet.disabled ? [] : [...sheet.cssRules].map((rule) => rule.cssText)));
    const visit = (node) => {
      if (node.nodeType === 3) return node.data;
      if (node.nodeType !== 1) return null;
      const { localName, value, checked, open, scrollTop, scrollLeft } = node;
      const options = localName === 'select' ? [...node.options].map((option) => option.selected) : undefined;
      const shadow = node.shadowRoot && [
        rules(node.shadowRoot.adoptedStyleSheets),
        [...node.shadowRoot.childNodes].map(visit),
      ];
      const inner = localName === 'iframe' ? visit(node.contentDocument.documentElement) : undefined;
      const sheet = localName === 'style' ? rules([node.sheet].filter(Boolean)) : undefined;
      const attributes = [...node.attributes].map(({ name, value }) => name + '=' + value).sort();
      return JSON.parse(
        JSON.stringify([
          localName,
          attributes,
          { value, checked, open, scrollTop, scrollLeft, options },
          shadow,
          inner,
          sheet,
          [...node.childNodes].map(visit),
        ]),
      );
    };
    const { contentDocument } = document.querySelector('iframe');
    return JSON.stringify([rules(contentDocument.adoptedStyleSheets), visit(contentDocument.documentElement)]);
  })();`;

describe('a moment holds', () => {
  it('live values, checks, choices, scroll offsets and what is open', async () => {
    const moment = lastOf(await timelineOf('filled'));
    expect(elementsOf(moment, 'input').map(({ state }) => state)).toEqual([
      expect.objectContaining({ value: '2.57' }),
      expect.objectContaining({ checked: true }),
    ]);
    expect(elementsOf(moment, 'select')[0]!.state).toMatchObject({ selected: [1] });
    expect(elementsOf(moment, 'div').some(({ state }) => state?.scroll?.[1] === 35)).toBe(true);
    expect(elementsOf(lastOf(await timelineOf('asked')), 'dialog')[0]!.state).toEqual({ dialog: 'modal' });
    expect(elementsOf(lastOf(await timelineOf('hinted')), 'div').some(({ state }) => state?.popover)).toBe(true);
  });

  it('shadow trees, adopted and inserted styles, and canvas pixels', async () => {
    const moment = lastOf(await timelineOf('still'));
    const lamp = elementsOf(moment, 'tide-lamp')[0]!;
    expect(lamp.shadow!.kids.length).toBeGreaterThan(0);
    expect(moment.sheets[lamp.shadow!.sheets![0]!]).toMatchObject({ css: expect.stringContaining('gold') });
    expect(Object.values(moment.sheets).some((sheet) => 'css' in sheet && /\.inserted.*purple/.test(sheet.css))).toBe(
      true,
    );
    expect(elementsOf(moment, 'canvas')[0]!.state?.pixels).toMatch(/^data:image\/png/);
  });

  it('where the pointer and the focus are', async () => {
    const pointed = lastOf(await timelineOf('filled'));
    const innermost = pointed.nodes[pointed.view.hover.at(-1)!];
    expect(innermost).toMatchObject({ tag: 'p', attrs: { class: 'chart' } });
    const focused = lastOf(await timelineOf('hinted')).view;
    expect(focused.focus).not.toBeNull();
    expect(focused.focusVisible).toBe(true);
  });

  it('files by what they contain, also those that only the page had', async () => {
    const { assets } = await timelineOf('filled');
    const names = Object.keys(assets);
    expect(names.some((name) => name.startsWith('blob:'))).toBe(true);
    expect(names.some((name) => /\.css$/.test(name))).toBe(true);
    const sheet = names.find((name) => /\.css$/.test(name))!;
    const reply = await fetch(`${served.service.stage}/asset/${assets[sheet]}`);
    expect([reply.status, reply.headers.get('content-type')]).toEqual([200, 'text/css; charset=utf-8']);
  });

  it('beside it the console, with levels and values', async () => {
    const { marks } = await timelineOf('still');
    expect(marks.filter(({ lane }) => lane === 'console')).toMatchObject([
      { title: 'low water {metres: 0.4}', level: 'warning', at: expect.any(Number) },
    ]);
  });

  it('only what changed, after the first one', async () => {
    const { patches, base } = await timelineOf('filled');
    const size = JSON.stringify(base).length;
    for (const patch of patches.slice(1)) expect(JSON.stringify(patch).length).toBeLessThan(size / 3);
  });
});

describe('a capture', () => {
  it('waits for timers that are about to fire', async () => {
    for (const environment of ['plain', 'dark']) {
      const result = look('still', environment);
      const { base, patches } = await served.client.timeline(result.id);
      expect(JSON.stringify(momentAt(base, patches, result.captures[0]!.moment).nodes)).toContain('in time');
    }
  });
});

describe('drawing a moment again', () => {
  const all = ['still', 'in a scheme of its own', 'filled', 'asked', 'hinted', 'lamp pointed at'];
  it.each([...all.map((name) => [name, 'plain']), ...all.map((name) => [name, 'dark'])] as const)(
    'gives the same picture: %s, %s',
    async (name, environment) => {
      const result = look(name, environment);
      const end = result.captures.find((capture) => capture.name === 'end')!;
      const timeline = await served.client.timeline(result.id);
      await draw(timeline, end.moment, environment === 'dark' ? 'dark' : 'light');
      // Native controls are painted otherwise under a real pointer, which no rule can stand in for.
      const [x, y] = timeline.steps.flatMap(({ pointer }) => (pointer ? [pointer] : [])).at(-1) ?? [-1, -1];
      await drawing.input([{ kind: 'move', x, y, button: 'none', modifiers: 0 }]);
      const redrawn = await drawing.screenshot([0, 0, end.width, end.height], false);
      const live = Buffer.from(await (await fetch(served.client.pictureUrl(end.hash))).arrayBuffer());
      const comparison = comparePictures(await decodePng(live), await decodePng(redrawn));
      // A step of grey can be left of how a window blends its layers; nobody sees it.
      expect(comparison).toMatchObject({ visible: 0, added: [], lost: [] });
    },
  );

  it('draws the same, whichever way one comes: forwards, backwards and by leaps', async () => {
    const { results } = await served.run({ patterns: ['Recorded', 'Travel', 'Controls'], environments: ['plain'] });
    let compared = 0;
    for (const { id, look: name } of results) {
      const timeline = await served.client.timeline(id);
      const count = timeline.patches.length + 1;
      const fresh: unknown[] = [];
      for (let moment = 0; moment < count; moment++) {
        await draw(timeline, moment);
        fresh.push(await drawing.evaluate(documentNow));
      }
      const leaps = Array.from({ length: 2 * count }, (_, i) => (i * 7919 + (i % 3) * 31) % count);
      const ways = [...fresh.keys(), ...[...fresh.keys()].reverse(), ...leaps];
      await draw(timeline, 0);
      for (const moment of ways) {
        await show(moment);
        expect([name, moment, await drawing.evaluate(documentNow)]).toEqual([name, moment, fresh[moment]]);
        compared++;
      }
    }
    expect(compared).toBeGreaterThan(300);
  });

  it('lets the newest of several timelines win, whatever order their files come in', async () => {
    const { base, patches, assets } = await timelineOf('filled');
    const media = { scheme: 'light', motion: 'reduce', contrast: 'no-preference' };
    const slow = { ...base, nodes: { 1: { tag: 'html', kids: [2] }, 2: { tag: 'body', attrs: { id: 'slow' } } } };
    const sheets = { 1: { url: 'http://looks.localhost/slow.css' } };
    await drawing.evaluate(`(async () => {
        const real = window.fetch;
        let come;
        window.fetch = (url) =>
          url.includes('5105')
            ? new Promise((resolve) => {
                come = () => resolve(new Response(''));
              })
            : real(url);
        const older = __sguardoDraw.receive(${JSON.stringify({
          kind: 'timeline',
          base: { ...slow, sheets },
          patches: [],
          assets: { 'http://looks.localhost/slow.css': '5105'.padEnd(64, '0') },
          media,
        })});
        await __sguardoDraw.receive(${JSON.stringify({ kind: 'timeline', base, patches, assets, media })});
        come();
        await older;
        window.fetch = real;
      })();`);
    expect(
      await drawing.evaluate(`document.querySelector('iframe').contentDocument.getElementById('slow')`),
    ).toBeNull();
  });

  it('runs nothing of the page, and loads nothing but recorded files', async () => {
    const evil: Timeline = await timelineOf('still');
    const body = Object.entries(evil.base.nodes).find(([, entry]) => !isText(entry) && entry.tag === 'body')!;
    evil.base.nodes[9001] = { tag: 'script', attrs: { src: '/evil.js' } };
    evil.base.nodes[9002] = {
      tag: 'img',
      attrs: { src: 'http://elsewhere.test/x.png', onerror: 'parent.broken = true' },
    };
    evil.base.nodes[9003] = {
      tag: 'iframe',
      attrs: { src: 'http://elsewhere.test/', srcdoc: '<script>parent.parent.broken = true</script>' },
    };
    evil.base.nodes[9004] = { tag: 'a', attrs: { href: 'javascript:parent.broken = true', id: 'lure' } };
    evil.base.nodes[9005] = {
      tag: 'meta',
      attrs: { name: 'color-scheme', 'http-equiv': 'refresh', content: '0; url=/draw?away' },
    };
    const frames = ['IFRAME', 'fencedframe', 'FencedFrame', 'webview', 'applet', 'portal', 'OBJECT', 'EMBED', 'frame'];
    for (const [i, tag] of frames.entries())
      evil.base.nodes[9010 + i] = { tag, attrs: { src: 'http://elsewhere.test/', data: 'http://elsewhere.test/' } };
    const kids = [9001, 9002, 9003, 9004, 9005, ...frames.map((_, i) => 9010 + i)];
    (body[1] as { kids?: number[] }).kids!.push(...kids);
    await draw(evil, 0);
    await drawing.evaluate("document.querySelector('iframe').contentDocument.getElementById('lure').click()");
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(await drawing.evaluate('String(window.broken)')).toBe('undefined');
    expect(
      await drawing.evaluate(
        "[...document.querySelector('iframe').contentDocument.querySelectorAll('iframe, frame, fencedframe, " +
          "webview, applet, portal, object, embed, script')].length",
      ),
    ).toBe(0);
    expect(
      await drawing.evaluate("document.querySelector('iframe').contentDocument.querySelector('[src*=elsewhere]')"),
    ).toBeNull();
  });
});
