/** Looks whose pages do their worst, with innocent neighbours, which have to come to what they always do. */
import type { Fault } from './fault.ts';
import { harm } from './ground.ts';

/** What a component does as soon as it is rendered, by what it is. */
const doings: Record<string, string> = {
  'never ends': 'for (;;) {}',
  'never rests': 'queueMicrotask(function again() { queueMicrotask(again); })',
  'eats the memory': 'const all = []; for (;;) all.push(new Array(1e6).fill(all.length))',
  'grows without end': 'setInterval(() => document.body.append(document.createElement("p")), 0)',
  'throws at every turn': 'setInterval(() => { throw new Error("again") }, 0)',
  'throws nothing': 'throw null',
  'throws what throws': 'throw { get message() { throw new Error("no") }, toString() { throw new Error("no") } }',
  'closes the window': 'window.close(); window.top.close()',
  'goes away': 'location.replace("about:blank")',
  'goes to a file': 'location.href = "file:///etc/passwd"',
  reloads: 'location.reload()',
  'asks and asks': 'for (let i = 0; i < 1000; i++) alert(i)',
  'writes the document': 'document.write("<h1>mine now</h1>"); document.close()',
  'removes the document': 'document.documentElement.remove()',
  'empties the body': 'document.body.replaceChildren()',
  'replaces prototypes': 'Array.prototype.push = Array.prototype.map = Map.prototype.get = JSON.stringify = () => 7',
  'replaces promises': 'window.Promise = class { then() { return this } }; Promise.prototype.then = () => {}',
  'freezes everything':
    'Object.freeze(Object.prototype); Object.freeze(Array.prototype); Object.freeze(window.document)',
  'breaks toString': 'Object.prototype.toString = Function.prototype.call = () => { throw new Error("no") }',
  'leaves styles':
    'document.head.append(Object.assign(document.createElement("style"), ' +
    '{ textContent: "* { color: red !important }" }))',
  'leaves listeners':
    'for (const type of ["click", "keydown", "focus"]) addEventListener(type, ' +
    '(e) => { e.stopImmediatePropagation(); e.preventDefault() }, true)',
  'leaves storage': 'localStorage.setItem("mine", "x".repeat(1e6)); document.cookie = "mine=1"; indexedDB.open("mine")',
  'leaves a worker': 'new Worker(URL.createObjectURL(new Blob(["for (;;) {}"])))',
  'leaves frames': 'for (let i = 0; i < 50; i++) document.body.append(document.createElement("iframe"))',
  'opens sockets': 'for (let i = 0; i < 200; i++) new WebSocket("ws://127.0.0.1:1/" + i)',
  'asks for secrets':
    'fetch("file:///etc/passwd"); fetch("http://127.0.0.1/api/project"); fetch("http://169.254.169.254/")',
  'speaks to the host':
    'for (const name of Object.keys(window)) if (/sguardo/i.test(name)) try { window[name]("{}"); ' +
    'window[name].run("x", {}) } catch {}',
  'forges messages':
    'for (const name of ["__sguardoHost", "__sguardo"]) try { window[name]?.reply?.("", 1, null, []); ' +
    'window[name]?.(JSON.stringify({ token: "", kind: "events", look: 1, ' +
    'events: [{ kind: "step" }] })) } catch {}',
  'shows a million letters': 'document.body.append("x".repeat(1e6))',
  'nests deeply':
    'let at = document.body; for (let i = 0; i < 5000; i++) at = at.appendChild(document.createElement("div"))',
  'draws a huge canvas':
    'const c = document.createElement("canvas"); c.width = c.height = 16000; ' +
    'c.getContext("2d")?.fillRect(0, 0, 9, 9); document.body.append(c)',
  'is a huge page': 'document.body.style.width = document.body.style.height = "1000000px"',
  'goes full screen':
    'document.documentElement.requestFullscreen?.().catch(() => {}); document.body.requestPointerLock?.()',
  prints: 'print()',
  downloads: 'Object.assign(document.createElement("a"), { href: "data:,x", download: "x.txt" }).click()',
  'logs a flood': 'for (let i = 0; i < 50000; i++) console.log("flood", i, { i })',
  'marks a flood': 'for (let i = 0; i < 50000; i++) performance.mark("m" + i)',
  'stops the clock':
    'Date.now = performance.now = () => NaN; window.setTimeout = window.requestAnimationFrame = () => 0',
};

const lookFile = (doing: string): string => `import { looks } from 'sguardo';
import { useEffect } from 'react';
function Bad({ when }) {
  const act = new Function(${JSON.stringify(doing)});
  if (when === 'rendered') act();
  useEffect(() => { if (when === 'shown') act(); }, []);
  return <p>bad</p>;
}
export default looks(Bad, { timeLimit: 2000, states: {
  rendered: { props: { when: 'rendered' } }, shown: { props: { when: 'shown' } }, calm: { props: { when: 'never' } },
} });`;

export const looks: Fault[] = Object.entries(doings).map(([name, doing]) => ({
  name: `a page that ${name}`,
  tries: 1,
  files: { 'src/Bad.look.jsx': lookFile(doing) },
  async attack(ground, _, damage) {
    const run = await ground.run({ fresh: true });
    const { id, done, planned, tally } = run;
    if (done !== planned || planned !== 9) harm(damage, 'lost', `${done} of ${planned} looks have a verdict`);
    const calm = (await ground.client.runResults(id)).find(({ look }) => look === 'calm');
    if (calm?.verdict !== 'new')
      harm(damage, 'spoiled', `its calm sibling is ${calm?.verdict}: ${calm?.problem?.message}`);
    if (tally.passed !== 6) harm(damage, 'spoiled', `${tally.passed} of 6 neighbours passed`);
    for (const { code, message } of run.problems) harm(damage, 'spoiled', `${code}: ${message}`);
    const inside = (await ground.client.runResults(id)).filter(({ problem }) => problem?.code === 'internal');
    for (const { look, problem } of inside) harm(damage, 'spoiled', `${look}: ${problem!.message}`);
    await ground.inspect(damage);
  },
}));

/** Look files that cannot even be read. */
const texts: Record<string, string> = {
  'is empty': '',
  'is no module': '\u0000\u0001\u0002',
  'exports nothing': 'export const a = 1;',
  'exports a number': 'export default 7;',
  'throws when it is loaded': 'throw new Error("at once");',
  'never ends when it is loaded': 'for (;;) {}',
  'waits for ever when it is loaded': 'await new Promise(() => {});',
  'imports itself': 'import me from "./Bad.look.jsx"; export default me;',
  'imports what is not there': 'import x from "./nowhere"; export default x;',
  'is a megabyte': `/* ${'x'.repeat(1e6)} */ export default 1;`,
  'has no end': 'export default looks(',
  'has states that are no states':
    'import { looks } from "sguardo"; export default looks(() => null, { states: { a: 7, b: null, c: [] } });',
  'has a look without a name':
    'import { looks } from "sguardo"; export default looks(() => null, { states: { "": {}, " ": {} } });',
  'has a thousand letters for a name':
    'import { looks } from "sguardo"; export default looks(() => null, { states: { ["n".repeat(1000)]: {} } });',
};

export const lookFiles: Fault[] = Object.entries(texts).map(([name, text]) => ({
  name: `a look file that ${name}`,
  tries: 1,
  files: { 'src/Bad.look.jsx': text },
  async attack(ground, _, damage) {
    const { tally, problems } = await ground.run({ fresh: true });
    if (tally.passed !== 6) harm(damage, 'spoiled', `${tally.passed} of 6 neighbours passed`);
    for (const { code, message } of problems) if (code === 'internal') harm(damage, 'spoiled', message);
    await ground.inspect(damage);
  },
}));
