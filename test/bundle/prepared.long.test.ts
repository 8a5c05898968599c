/** React is put together once, not in every build, and is the same for whoever imports or requires it. */
import { cpSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { bundleLooks } from '../../src/bundle/builder.ts';
import { readConfig } from '../../src/bundle/index.ts';
import { configuration, project, repository } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const knots = `var React = require('react');
var dom = require('react-dom');
var jsx = require('react/jsx-runtime');
exports.React = React;
exports.createPortal = dom.createPortal;
exports.Knot = function () { var n = React.useState(1)[0]; return jsx.jsx('b', { children: 'knot ' + n }); };`;

const looks = `// @ts-nocheck
import All, { createContext, useContext, useState, version } from 'react';
import * as Names from 'react';
import { createPortal } from 'react-dom';
import { createRoot } from 'react-dom/client';
import { unstable_now } from 'scheduler';
import { createPortal as required, Knot, React } from 'knots';
import { click, ensure, looks, the } from 'sguardo';
const Sea = createContext('calm');
function Told() {
  const state = useContext(Sea);
  return (
    <i>
      {[
        state,
        React === All,
        Names.default === All,
        Names.useState === useState,
        All.useState === useState,
        required === createPortal,
        typeof createRoot,
        typeof unstable_now(),
        version,
        typeof Names['use' + 'Id'.trim()],
      ].join(' ')}
    </i>
  );
}
function Pier() {
  const [n, set] = useState(0);
  return (
    <Sea.Provider value="gale">
      <button onClick={() => set(n + 1)}>{n} ships</button>
      <Told />
      <Knot />
      {createPortal('beacon', document.body)}
    </Sea.Provider>
  );
}
export default looks(Pier, {
  states: {
    plain: {
      async script() {
        await click(the.button());
        await ensure(the.button()).reads('1 ships');
      },
    },
  },
});`;

const files = {
  'sguardo.config.ts': configuration({ baselines: false }),
  'node_modules/knots/package.json': '{ "name": "knots", "main": "./index.js" }',
  'node_modules/knots/index.js': knots,
  'src/Pier.look.tsx': looks,
};

/** The addresses of scripts that hold a text. */
const holding = (bundle: Bundle, text: string): string[] =>
  [...bundle.files].filter(([, { body }]) => body.includes(text)).map(([path]) => path.replace(/-[\w-]{8}\./, '.'));

/** What only the inside of React DOM holds, as it is for development. */
const inside = 'You are calling ReactDOMClient.createRoot()';

type Bundle = Awaited<ReturnType<typeof bundleLooks>>;

async function bundled(root: string): Promise<Bundle> {
  return bundleLooks(root, await readConfig(join(root, 'sguardo.config.ts')), ['src/Pier.look.tsx']);
}

describe('a project of React', () => {
  let root: string;
  let served: Served;

  beforeAll(async () => {
    root = project(files);
    for (const name of ['react', 'react-dom', 'scheduler'])
      cpSync(join(repository, 'node_modules', name), join(root, 'node_modules', name), { recursive: true });
    served = await serve(root);
  });

  it('has one React, however it is imported or required', async () => {
    const { look } = await served.run();
    expect(look('plain')).toMatchObject({ verdict: 'new', problem: null, notes: [] });
    const timeline = await served.client.timeline(look('plain').id);
    const { version } = JSON.parse(readFileSync(join(root, 'node_modules/react/package.json'), 'utf8')) as {
      version: string;
    };
    const told = `gale true true true true true function number ${version} function`;
    expect(JSON.stringify(timeline.base) + JSON.stringify(timeline.patches)).toContain(told);
    expect(JSON.stringify(timeline.patches)).toContain('knot 1');
    expect(JSON.stringify(timeline.patches)).toContain('beacon');
  });

  it('finds it in a script of its own, the same in every bundle', async () => {
    const one = await bundled(root);
    expect(holding(one, inside)).toEqual(['/assets/prepared/react.js']);
    writeFileSync(join(root, 'src/Pier.look.tsx'), looks.replace('ships', 'boats').replace('1 ships', '1 boats'));
    // Timers and channels are our own by the time that React keeps them, whichever script imports it first.
    const script = [...one.files].find(([path]) => path.startsWith('/assets/prepared/'))![1].body.toString();
    expect(script.split('\n')[1]).toMatch(/^import"\/assets\/sguardo-\w+\/page-start\.js";/);
    const other = await bundled(root);
    const prepared = (bundle: typeof one): string[] =>
      [...bundle.files.keys()].filter((path) => path.startsWith('/assets/prepared/'));
    expect(prepared(other)).toEqual(prepared(one));
    expect(other.id).not.toBe(one.id);
  });

  it('is built and run again with another React', async () => {
    await served.run();
    await served.client.decide({ kind: 'approve', all: true });
    await served.run();
    expect((await served.run()).run.reused).toBe(1);
    const file = join(root, 'node_modules/react-dom/cjs/react-dom-client.development.js');
    const text = readFileSync(file, 'utf8');
    writeFileSync(file, text.replace(inside, 'Another harbour'));
    expect((await served.run()).run.reused).toBe(0);
    expect(holding(await bundled(root), 'Another harbour')).toEqual(['/assets/prepared/react.js']);
  });

  it('has React built with all else where it says for what', async () => {
    const other = project({
      ...files,
      'vite.config.ts': `export default { define: { 'process.env.HARBOUR': '"north"' } };`,
    });
    const bundle = await bundled(other);
    expect([...bundle.files.keys()].filter((path) => path.includes('prepared'))).toEqual([]);
    const { look } = await (await serve(other)).run();
    expect(look('plain')).toMatchObject({ verdict: 'new', problem: null });
  });
});
