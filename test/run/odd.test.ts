/** Causes in places that are no plain element: canvases, files, pseudo-elements, shadow roots, frames, dialogs. */
import { beforeAll, expect, it } from 'vitest';
import type { CauseList } from '../../src/core/cause/cluster.ts';
import { project, swatch, write } from '../support/project.ts';
import { serve } from '../support/service.ts';

type Kind = { tone: string; word: string; css: string; frame: string; title: string };

const before: Kind = { tone: 'teal', word: 'Free', css: 'padding: 4px', frame: 'Tides', title: 'Release?' };
const now: Kind = { tone: 'crimson', word: 'Taken', css: 'padding: 9px', frame: 'Currents', title: 'Let go?' };

const look = (body: string, before_ = ''): string => `import { looks } from 'sguardo';
import { useEffect, useRef } from 'react';
${before_}
function Odd() { ${body} }
export default looks(Odd, { states: { plain: {} } });
`;

const files = ({ tone, word, css, frame, title }: Kind): Record<string, string> => ({
  'public/flag.svg': swatch(tone, 40, 30),
  'src/Image.look.tsx': look('return <img src="/flag.svg" alt="Flag" />;'),
  'src/Canvas.look.tsx': look(`
    const canvas = useRef<HTMLCanvasElement>(null);
    useEffect(() => {
      const context = canvas.current!.getContext('2d')!;
      context.fillStyle = '${tone}';
      context.fillRect(5, 5, 20, 20);
    }, []);
    return <canvas ref={canvas} width={40} height={40} />;`),
  'src/Pseudo.look.tsx': look('return <p className="pseudo">Berth</p>;', "import './pseudo.css';"),
  'src/pseudo.css': `.pseudo::before { content: '${word} '; }\n`,
  'src/Shadow.look.tsx': look(`
    const host = useRef<HTMLDivElement>(null);
    useEffect(() => {
      const root = host.current!.shadowRoot ?? host.current!.attachShadow({ mode: 'open' });
      const sheet = new CSSStyleSheet();
      sheet.replaceSync('b { display: inline-block; ${css} }');
      root.adoptedStyleSheets = [sheet];
      root.innerHTML = '<b>Berth</b>';
    }, []);
    return <div ref={host} />;`),
  'src/Frame.look.tsx': look(`return <iframe title="Tides" srcDoc="<p>${frame}</p>" width={200} height={60} />;`),
  'src/Dialog.look.tsx': look(`
    const dialog = useRef<HTMLDialogElement>(null);
    useEffect(() => dialog.current!.showModal(), []);
    return <dialog ref={dialog}><h2>${title}</h2></dialog>;`),
});

let list: CauseList;

beforeAll(async () => {
  const folder = project(files(before));
  const { run, client } = await serve(folder);
  await run();
  await client.decide({ kind: 'approve', all: true });
  write(folder, files(now));
  await run();
  list = await client.causes();
});

it.each([
  ['Image', 'file', 'the file flag.svg changed'],
  ['Canvas', 'state', 'the drawing of canvas changed'],
  ['Pseudo', 'style', "content of .pseudo::before: 'Free ' → 'Taken '"],
  ['Shadow', 'style', 'padding of b: 4px → 9px'],
  ['Frame', 'text', 'text of the paragraph: “Tides” → “Currents”'],
  ['Dialog', 'text', 'text of the heading: “Release?” → “Let go?”'],
])('%s: one cause, proved', (component, kind, title) => {
  const found = list.causes.filter(({ captures }) => captures.some((one) => one.component === `src/${component}`));
  expect(found.map((one) => [one.kind, one.title.replaceAll('"', "'"), one.proof])).toEqual([[kind, title, 'proved']]);
});
