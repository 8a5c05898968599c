/** Our own way of driving Chromium: windows, input, requests, and everything that can be lost. */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { defaultEnvironment } from '../../src/core/settings/environment.ts';
import { startChromium } from '../../src/engine/chromium/chromium.ts';
import { childrenOf } from '../support/processes.ts';
import { freshFolder } from '../support/project.ts';
import { type Engine, type EngineWindow, LostError, type WindowHandlers } from '../../src/engine/engine.ts';
import type { PausedRequest } from '../../src/core/wire/wire.ts';

let engine: Engine;
let window: EngineWindow;
let origin: string;
const server = createServer((request, reply) => {
  reply.writeHead(200, { 'content-type': request.url === '/data' ? 'text/plain' : 'text/html' });
  reply.end(
    request.url === '/data'
      ? 'from the server'
      : '<!doctype html><title>berth</title><body style="margin:0;background:#fff">' +
          '<button style="position:absolute;left:20px;top:20px;width:80px;height:30px">Go</button>',
  );
});

const silent: WindowHandlers = {
  message() {},
  request: (request) => window.proceed(request.id),
  missing() {},
  dialog() {},
  chooser() {},
  left() {},
  lost() {},
};

beforeAll(async () => {
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  engine = await startChromium({ 'harbour.localhost': (server.address() as AddressInfo).port });
  window = await engine.open();
  await window.apply({ ...defaultEnvironment, viewport: [400, 300] });
});
afterAll(async () => {
  await engine.close();
  server.close();
});
afterEach(() => {
  window.handlers = null;
});

describe('a browser', () => {
  it('says what it is, and which fonts are installed', () => {
    expect(engine.name).toMatch(/^Chromium \d+\./);
    expect(engine.fonts).toMatch(/^[0-9a-f]{8}$/);
    expect(engine.pid).toBeGreaterThan(1);
  });

  it('maps host names to ports, so that pages have the same address in every run', async () => {
    await window.load('http://harbour.localhost/');
    expect(await window.evaluate('location.href')).toBe('http://harbour.localhost/');
  });

  it('is missed with a way out', async () => {
    const before = process.env.SGUARDO_CHROMIUM;
    process.env.SGUARDO_CHROMIUM = '/nowhere/chromium';
    await expect(startChromium()).rejects.toMatchObject({
      problem: { code: 'browser-missing', remedy: expect.stringContaining('SGUARDO_CHROMIUM') },
    });
    process.env.SGUARDO_CHROMIUM = '/bin/false';
    await expect(startChromium()).rejects.toMatchObject({ problem: { code: 'browser-start' } });
    if (before === undefined) delete process.env.SGUARDO_CHROMIUM;
    else process.env.SGUARDO_CHROMIUM = before;
  });
});

describe('a window', () => {
  it('evaluates, awaits, and hands errors on', async () => {
    await window.load(origin);
    expect(await window.evaluate('document.title')).toBe('berth');
    expect(await window.evaluate('Promise.resolve({ metres: [1, 2] })')).toEqual({ metres: [1, 2] });
    await expect(window.evaluate("(() => { throw new TypeError('no rope') })()")).rejects.toThrow('no rope');
  });

  it('shows what a person in that environment would see', async () => {
    await window.apply({
      ...defaultEnvironment,
      viewport: [321, 234],
      ratio: 2,
      scheme: 'dark',
      motion: 'no-preference',
      contrast: 'more',
      locale: 'it-IT',
      timeZone: 'Europe/Rome',
    });
    await window.load(origin);
    expect(
      await window.evaluate(`[
          innerWidth,
          innerHeight,
          devicePixelRatio,
          matchMedia('(prefers-color-scheme: dark)').matches,
          matchMedia('(prefers-reduced-motion: reduce)').matches,
          matchMedia('(prefers-contrast: more)').matches,
          navigator.language,
          (1234.5).toLocaleString(),
          Intl.DateTimeFormat().resolvedOptions().timeZone,
        ];`),
    ).toEqual([321, 234, 2, true, false, true, 'it-IT', '1234,5', 'Europe/Rome']);
    await window.apply({ ...defaultEnvironment, viewport: [400, 300] });
    expect(
      await window.evaluate("[innerWidth, matchMedia('(prefers-color-scheme: dark)').matches, navigator.language]"),
    ).toEqual([400, false, 'en-GB']);
  });

  it('says what the person points with', async () => {
    const media = [
      '(pointer: fine)',
      '(hover: hover)',
      '(any-pointer: coarse)',
      '(pointer: coarse)',
      '(hover: none)',
      '(pointer: none)',
      '(any-pointer: none)',
    ];
    const asked = `[...${JSON.stringify(media)}.map((one) => matchMedia(one).matches), navigator.maxTouchPoints > 0]`;
    await window.apply(defaultEnvironment);
    await window.load(origin);
    expect(await window.evaluate(asked)).toEqual([true, true, false, false, false, false, false, false]);
    expect(window.hasLostMouse).toBe(false);
    const other = await engine.open();
    await other.apply({ ...defaultEnvironment, pointer: 'touch' });
    await other.load(origin);
    expect(await other.evaluate(asked)).toEqual([false, false, true, true, true, false, false, true]);
    expect(other.hasLostMouse).toBe(true);
    await other.apply({ ...defaultEnvironment, pointer: 'none' });
    expect(await other.evaluate(asked)).toEqual([false, false, false, false, true, true, true, false]);
    const bare = await engine.open();
    await bare.apply({ ...defaultEnvironment, pointer: 'none' });
    await bare.load(origin);
    expect(await bare.evaluate(asked)).toEqual([false, false, false, false, true, true, true, false]);
    await other.close();
    await bare.close();
  });

  it('takes the same picture of the same page, of the clip that is asked for', async () => {
    await window.load(origin);
    const first = await window.screenshot([10, 10, 100, 50], false);
    expect(first.equals(await window.screenshot([10, 10, 100, 50], false))).toBe(true);
    expect([first.readUInt32BE(16), first.readUInt32BE(20)]).toEqual([100, 50]);
    expect((await window.screenshot([0, 0, 400, 900], true)).readUInt32BE(20)).toBe(900);
  });

  it('sends trusted input', async () => {
    await window.load(origin);
    await window.evaluate(
      "window.seen = []; for (const type of ['pointerdown', 'click', 'keydown']) addEventListener(type, " +
        '(event) => seen.push([type, event.isTrusted, event.key ?? event.target.localName, event.ctrlKey]))',
    );
    await window.input([
      { kind: 'move', x: 60, y: 35, button: 'none', modifiers: 0 },
      { kind: 'down', x: 60, y: 35, button: 'left', clicks: 1, modifiers: 0 },
      { kind: 'up', x: 60, y: 35, button: 'left', clicks: 1, modifiers: 0 },
      { kind: 'key', key: 'k', modifiers: 2 },
    ]);
    expect(await window.evaluate('seen')).toEqual([
      ['pointerdown', true, 'button', false],
      ['click', true, 'button', false],
      ['keydown', true, 'k', true],
    ]);
  });

  it('pauses what scripts ask for, to be answered, let through or refused', async () => {
    await window.load(origin);
    const asked: PausedRequest[] = [];
    window.handlers = {
      ...silent,
      request(request) {
        asked.push(request);
        const path = new URL(request.url).pathname;
        if (path === '/stubbed')
          window.fulfil(request.id, {
            status: 201,
            headers: { 'content-type': 'text/plain', 'x-berth': 'C-14' },
            body: Buffer.from('così'),
          });
        else if (path === '/refused') window.refuse(request.id);
        else window.proceed(request.id);
      },
    };
    const ask = (path: string, init = '{}'): Promise<unknown> =>
      window.evaluate(
        `
          fetch('${path}', ${init}).then(
            async (reply) => [reply.status, reply.headers.get('x-berth'), await reply.text()],
            () => 'refused',
          )`,
      );
    expect(await ask('/stubbed', "{ method: 'POST', body: 'moor' }")).toEqual([201, 'C-14', 'così']);
    expect(await ask('/data')).toEqual([200, null, 'from the server']);
    expect(await ask('/refused')).toBe('refused');
    expect(asked.map(({ method, body }) => [method, body])).toEqual([
      ['POST', 'moor'],
      ['GET', null],
      ['GET', null],
    ]);
  });

  it('has storage of its own', async () => {
    await window.load(origin);
    await window.evaluate("localStorage.setItem('berth', 'C-14')");
    const other = await engine.open();
    await other.load(origin);
    expect(await other.evaluate("localStorage.getItem('berth')")).toBeNull();
    await other.close();
  });
});

describe('what is lost', () => {
  it('is told when a page crashes; nothing waits for an answer that never comes', async () => {
    const window = await engine.open();
    await window.load(origin);
    let crashed = 0;
    window.handlers = { ...silent, lost: () => crashed++ };
    const waiting = window.evaluate('new Promise(() => {})');
    waiting.catch(() => {});
    await window.load('chrome://crash').catch(() => {});
    await expect(waiting).rejects.toBeInstanceOf(LostError);
    expect(crashed).toBe(1);
    expect(window.lost).toBeInstanceOf(LostError);
    await expect(window.evaluate('1')).rejects.toBe(window.lost);
    await expect(window.apply({ ...defaultEnvironment, ratio: 2 })).rejects.toBe(window.lost);
  });

  it('is what waits for a page that nobody understands, and nothing else', async () => {
    const other = await engine.open();
    await window.load(origin);
    window.handlers = {
      ...silent,
      message() {
        throw new Error('in no language');
      },
    };
    const waiting = window.evaluate("__sguardoHost('x'); new Promise(() => {})");
    await expect(waiting).rejects.toThrow('in no language');
    expect(await Promise.all([window.evaluate('1 + 1'), other.evaluate('1 + 1')])).toEqual([2, 2]);
    await other.close();
  });

  it('an endless script is stopped', async () => {
    await window.load(origin);
    const endless = window.evaluate('(() => { for (;;) ; })()');
    endless.catch(() => {});
    await new Promise((resolve) => setTimeout(resolve, 100));
    await window.halt();
    await expect(endless).rejects.toThrow();
    expect(await window.evaluate('1 + 1')).toBe(2);
  });

  it('is told when a dialog would have blocked the page, and when the page leaves', async () => {
    await window.load(origin);
    const told: string[] = [];
    window.handlers = {
      ...silent,
      dialog: (type, text) => told.push(`${type} ${text}`),
      left: (url) => told.push(url),
    };
    expect(await window.evaluate("confirm('Cast off?')")).toBe(false);
    await window.evaluate("void setTimeout(() => { location.href = '/other' })");
    while (told.length < 2) await new Promise((resolve) => setTimeout(resolve, 20));
    expect(told).toEqual(['confirm Cast off?', `${origin}/other`]);
  });

  it('a page that cannot be loaded is told with its address', async () => {
    await expect(window.load('http://127.0.0.1:1/')).rejects.toThrow(/could not load http:\/\/127\.0\.0\.1:1\//);
  });

  it('every call ends when the browser does', async () => {
    const other = await startChromium();
    const lost = await other.open();
    const waiting = lost.evaluate('new Promise(() => {})');
    waiting.catch(() => {});
    process.kill(other.pid, 'SIGKILL');
    await expect(waiting).rejects.toMatchObject({ what: 'browser' });
    expect(await other.gone).toBe('ended by SIGKILL');
    await expect(lost.evaluate('1')).rejects.toMatchObject({ what: 'browser' });
  });

  it('a page that is being loaded is lost with it, too', async () => {
    // Answers the document, and never the picture in it: the page goes on loading.
    const endless = createServer((request, reply) => {
      if (request.url === '/') reply.setHeader('content-type', 'text/html').end('<img src="/never.png">');
    }).listen(0, '127.0.0.1');
    await once(endless, 'listening');
    const other = await startChromium();
    const lost = await other.open();
    const asked = new Promise<void>((resolve) => endless.on('request', ({ url }) => url === '/never.png' && resolve()));
    const loading = lost.load(`http://127.0.0.1:${(endless.address() as AddressInfo).port}/`);
    loading.catch(() => {});
    await asked;
    process.kill(other.pid, 'SIGKILL');
    await expect(loading).rejects.toMatchObject({ what: 'browser' });
    endless.close();
    endless.closeAllConnections();
  });
});

describe('what a browser keeps while it runs', () => {
  const folderOf = ({ pid }: Engine): string =>
    /--user-data-dir=([^\0]+)/.exec(readFileSync(`/proc/${pid}/cmdline`, 'utf8'))![1]!;

  it('goes with it', async () => {
    const other = await startChromium();
    const folder = folderOf(other);
    expect(existsSync(folder)).toBe(true);
    await other.close();
    expect(existsSync(folder)).toBe(false);
  });

  it('goes when the next one starts, if the process that had it was killed', async () => {
    const killed = spawn('true');
    await once(killed, 'exit');
    const own = folderOf(engine);
    // One of a process that is gone, and one of this process that a browser has made again as it ended.
    const left = [own.replace(`-${process.pid}-`, `-${killed.pid}-`), own.replace(/-\w+$/, '-made again')];
    for (const folder of left) {
      mkdirSync(folder);
      writeFileSync(join(folder, 'Cookies'), '');
    }
    const other = await startChromium();
    expect(left.filter(existsSync)).toEqual([]);
    expect(existsSync(own)).toBe(true);
    await other.close();
  });
});

describe('a browser that starts and says nothing', () => {
  it('is given up after a while, and its process ended', async () => {
    const silentOne = join(freshFolder(), 'chromium');
    writeFileSync(silentOne, '#!/bin/sh\nexec sleep 600\n', { mode: 0o755 });
    const before = process.env.SGUARDO_CHROMIUM;
    process.env.SGUARDO_CHROMIUM = silentOne;
    try {
      await expect(startChromium({}, { startLimit: 300 })).rejects.toThrow(
        /^Chromium could not be started: it did not answer within 0\.3 s/,
      );
    } finally {
      if (before === undefined) delete process.env.SGUARDO_CHROMIUM;
      else process.env.SGUARDO_CHROMIUM = before;
    }
    expect(childrenOf(process.pid).filter(({ command }) => command.includes('sleep 600'))).toEqual([]);
  });
});
