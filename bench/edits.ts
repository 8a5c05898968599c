/** A project that is edited at random, and what a run of its looks comes to after each edit. */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { Client } from '../src/client/client.ts';
import type { RunRequest } from '../src/core/run/run.ts';
import { runToEnd } from './workshop.ts';

const inks = ['navy', 'teal', 'maroon'];

const svg = (n: number): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="24" height="24"><path d="M12 ${n}L${20 + n} 20H4Z"/></svg>`;

const component = (name: string, body: string, imports = ''): string =>
  `import './sea.css';\nimport { label } from './label';\n${imports}\n` +
  `export const ${name} = ({ ships }: { ships: number }) => <p className="berth">${body}</p>;\n`;

const lookFile = (name: string, script = ''): string => `import { looks, the, ensure } from 'sguardo';
import { ${name} } from './${name}';
export default looks(${name}, { props: { ships: 1 }, states: {
  one: {}, two: { props: { ships: 2 } }${script ? `, checked: { async script() { ${script} } }` : ''}
} });
`;

/** What an edit does to the project: the texts of files, by their paths; null for one that is taken away. */
type Edit = Record<string, string | null>;

/** Every kind of edit, each in three variants, so that what was there before comes back now and then. */
const kinds: Record<string, (n: number) => Edit> = {
  token: (n) => ({ 'src/tokens.css': `:root { --ink: ${inks[n]}; }\n` }),
  rule: (n) => ({
    'src/sea.css': `@import './tokens.css';\n.berth { color: var(--ink); padding: ${n}px; width: 160px; }\n`,
  }),
  component: (n) => ({ 'src/Pier.tsx': component('Pier', `Pier ${n}: {label(ships)}`) }),
  comment: (n) => ({ 'src/Quay.tsx': `${component('Quay', 'Quay: {label(ships)}')}// ${n}\n` }),
  helper: (n) => ({
    'src/label.ts': `export const label = (ships: number) => \`\${ships} ${['ships', 'boats', 'ships '][n]}\`;\n`,
  }),
  asset: (n) => ({ 'src/flag.svg': svg(n) }),
  data: (n) => ({ 'src/depths.json': JSON.stringify({ depth: n }) }),
  'public file': (n) => ({ 'public/crane.svg': svg(n) }),
  'public data': (n) => ({ 'public/tide.json': JSON.stringify({ tide: n }) }),
  frame: (n) => ({
    'sguardo.frame.tsx':
      'export default ({ children }: { children: React.ReactNode }) => ' +
      `<main data-frame="${n % 2}">{children}</main>;\n`,
  }),
  configuration: (n) => ({
    'sguardo.config.ts':
      `export default { ${n % 2 ? '' : "isolate: 'file', "}lanes: 2, patience: 200, ` +
      `now: '2026-03-0${n + 1}T09:30:00Z' };\n`,
  }),
  build: (n) => ({ 'vite.config.ts': `export default { define: { __PORT__: JSON.stringify('port ${n}') } };\n` }),
  dependency: (n) => ({
    'node_modules/rope/package.json': JSON.stringify({
      name: 'rope',
      version: `1.${n}.0`,
      main: 'index.js',
      type: 'module',
    }),
    'node_modules/rope/index.js': `export const rope = 'rope ${n}';\n`,
  }),
  'new component': (n) => ({
    'src/Buoy.tsx': n === 2 ? null : component('Buoy', `Buoy ${n}: {label(ships)}`),
    'src/Buoy.look.tsx': n === 2 ? null : lookFile('Buoy'),
  }),
  mistake: (n) => ({ 'src/Lock.tsx': n === 0 ? 'export const Lock = () => <p>{;\n' : component('Lock', `Lock ${n}`) }),
  look: (n) => ({
    'src/Quay.look.tsx': lookFile('Quay', n === 2 ? '' : `await ensure(the.text('Quay')).isVisible();${' '.repeat(n)}`),
  }),
};

const dataPier = component(
  'Depth',
  `<img src={flag} alt="" /> {depths.depth} {label(ships)}`,
  "import flag from './flag.svg';\nimport depths from './depths.json';",
);
const publicPier = `import { useEffect, useState } from 'react';
export const Crane = ({ ships }: { ships: number }) => {
  const [tide, setTide] = useState('…');
  useEffect(() => { fetch('/tide.json').then((reply) => reply.json()).then((read) => setTide(read.tide)); }, []);
  return <p style={{ width: 160 }}><img src="/crane.svg" alt="" /> tide {tide}, {ships}</p>;
};
`;
const builtPier = component(
  'Port',
  '{__PORT__} {rope} {ships}',
  "import { rope } from 'rope';\ndeclare const __PORT__: string;",
);

function apply(folder: string, edit: Edit): void {
  for (const [name, text] of Object.entries(edit)) {
    const path = join(folder, name);
    mkdirSync(dirname(path), { recursive: true });
    if (text === null) rmSync(path, { force: true });
    else writeFileSync(path, text);
  }
}

/** Writes the project as it is before the first edit. */
export function writeProject(folder: string): void {
  for (const [name, edit] of Object.entries(kinds)) apply(folder, edit(name === 'mistake' ? 1 : 0));
  apply(folder, {
    'src/Pier.look.tsx': lookFile('Pier'),
    'src/Depth.tsx': dataPier,
    'src/Depth.look.tsx': lookFile('Depth'),
    'src/Crane.tsx': publicPier,
    'src/Crane.look.tsx': lookFile('Crane'),
    'src/Port.tsx': builtPier,
    'src/Port.look.tsx': lookFile('Port', 'await ensure(the.text(/rope [01]/)).isVisible();'),
    'src/Lock.look.tsx': lookFile('Lock'),
  });
}

/** One or two edits at random, and whether what the looks come to is approved before them; and what they are called. */
export type Step = { names: string[]; edits: Edit[]; approves: boolean };

export function randomStep(number: (n: number) => number): Step {
  const all = Object.keys(kinds);
  const chosen = Array.from({ length: number(4) === 0 ? 2 : 1 }, () => [all[number(all.length)]!, number(3)] as const);
  return {
    names: chosen.map(([name, n]) => `${name} ${n}`),
    edits: chosen.map(([name, n]) => kinds[name]!(n)),
    approves: number(5) === 0,
  };
}

export const carryOut = (folder: string, { edits }: Step): void => {
  for (const edit of edits) apply(folder, edit);
};

/** Runs looks; what each comes to, as lines, and how many of them were taken over. */
export async function outcomes(
  client: Client,
  request: Partial<RunRequest>,
): Promise<{ lines: string[]; reused: number }> {
  const run = await runToEnd(client, request);
  const lines = (await client.runResults(run.id)).map(
    ({ component: path, look, verdict, problem }) => `${path}/${look}: ${verdict} ${problem?.message ?? ''}`,
  );
  return { lines: [...lines.sort(), ...run.problems.map(({ message }) => message)], reused: run.reused };
}
