/**
 * Which edit did it, against the truth: a component behind which are a theme in JavaScript, a helper, data, a style
 * sheet and an imported one. One to six edits that matter are made by chance among ten that do not; then the edits are
 * looked for by running the look without them.
 */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { connect } from '../src/client/client.ts';
import { numbersFrom, shuffled } from '../src/core/steady/chance.ts';
import { startService } from '../src/service/service.ts';
import { type Figure, median, runToEnd } from './workshop.ts';

const repository = join(import.meta.dirname, '..');
const limit = 0.95;

/** Lines that are there in every file for edits that do nothing. */
const idle = (n: number, comment: (text: string) => string): string =>
  Array.from({ length: n }, (_, i) => comment(`idle ${i}`)).join('\n\n');

const script = (text: string): string => `// ${text}`;
const sheet = (text: string): string => `/* ${text} */`;

const files: Record<string, string> = {
  'sguardo.config.ts': 'export default { environments: { day: { viewport: [480, 320] } } };\n',
  'sguardo.frame.tsx': `import './kit.css';
export default function Frame({ children }: { children: React.ReactNode }) { return <>{children}</>; }
`,
  'kit.css': `@import './tokens.css';\n${idle(4, sheet)}\n.card {\n  padding: 12px;\n}\n`,
  'tokens.css': `${idle(3, sheet)}\n:root {\n  --calm: #2c7a4b;\n}\n`,
  'src/theme.ts': `${idle(4, script)}
export const theme = {
  ink: tone('22'),
};

function tone(two: string): string {
  return \`#\${two}\${two}33\`;
}
`,
  'src/format.ts': `${idle(4, script)}\nexport const metres = (n: number): string => \`\${n.toFixed(1)} m\`;\n`,
  'src/berths.json': '{\n  "first": "North mole",\n\n  "idle 0": 0,\n\n  "second": "South mole"\n}\n',
  'src/Card.tsx': `import list from './berths.json';
import { metres } from './format';
import { theme } from './theme';

${idle(4, script)}
export function Card({ depth }: { depth: number }) {
  return (
    <section className="card" style={{ color: theme.ink }}>
      <h2>Berth C-14</h2>
      <p>{metres(depth)}</p>
      <ul><li>{list.first}</li><li>{list.second}</li></ul>
      <div style={{ background: 'var(--calm)', height: 10 }} />
    </section>
  );
}
`,
  'src/Card.look.tsx': `import { looks } from 'sguardo';
import { Card } from './Card';
export default looks(Card, { props: { depth: 3 }, states: { plain: {} } });
`,
};

/** Edits that matter: a file, what stands there, and what may stand there instead. */
const telling: { file: string; from: string; to: (n: number) => string }[] = [
  { file: 'kit.css', from: 'padding: 12px', to: (n) => `padding: ${20 + n}px` },
  { file: 'tokens.css', from: '--calm: #2c7a4b', to: (n) => `--calm: #aa${20 + n}44` },
  { file: 'src/theme.ts', from: "tone('22')", to: (n) => `tone('${40 + n}')` },
  { file: 'src/format.ts', from: 'toFixed(1)', to: (n) => `toFixed(${2 + (n % 5)})` },
  { file: 'src/berths.json', from: 'South mole', to: (n) => `Fish quay ${n}` },
  { file: 'src/Card.tsx', from: 'Berth C-14', to: (n) => `Berth D-${n}` },
];

/** Where edits that do nothing can be made. */
const noise = Object.entries(files).flatMap(([file, text]) =>
  [...text.matchAll(/idle \d/g)].map(([from]) => ({ file, from })),
);

type Case = { texts: Record<string, string>; matter: string[] };

function makeCase(seed: number): Case {
  const number = numbersFrom(seed);
  const texts = { ...files };
  const matter: string[] = [];
  for (const { file, from, to } of shuffled(telling, seed).slice(0, 1 + number(telling.length))) {
    texts[file] = texts[file]!.replace(from, to(number(50)));
    matter.push(file);
  }
  for (const { file, from } of shuffled(noise, seed + 1).slice(0, 10))
    texts[file] = texts[file]!.replace(from, file.endsWith('json') ? 'idle' : `${from}, edited`);
  return { texts, matter };
}

const write = (folder: string, texts: Record<string, string>): void => {
  for (const [name, text] of Object.entries(texts)) {
    mkdirSync(dirname(join(folder, name)), { recursive: true });
    writeFileSync(join(folder, name), text);
  }
};

export async function measureWhy(cases = 30): Promise<Figure> {
  mkdirSync(join(repository, 'bench/.tmp'), { recursive: true });
  const folder = mkdtempSync(join(repository, 'bench/.tmp/why-'));
  write(folder, files);
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const client = connect(service.url);
  let wanted = 0;
  let named = 0;
  let wrong = 0;
  const times: number[] = [];
  try {
    await runToEnd(client);
    await client.decide({ kind: 'approve', all: true });
    for (let seed = 1; seed <= cases; seed++) {
      const { texts, matter } = makeCase(seed);
      write(folder, texts);
      await runToEnd(client);
      const [result] = await client.looks();
      const began = performance.now();
      const { edits, hunks, note } = await client.edits(result!.id, 'end');
      times.push(performance.now() - began);
      const proved = edits.flatMap((edit) => edit.proved);
      const isIdle = (lines: readonly string[]): boolean =>
        lines.every((line) => line.includes('idle') || !line.trim());
      const found = new Set(proved.filter(({ added }) => !isIdle(added)).map(({ file }) => file));
      const invented = proved.filter(({ file, added }) => isIdle(added) || !matter.includes(file));
      const missed = matter.filter((file) => !found.has(file));
      wanted += matter.length;
      named += matter.length - missed.length;
      wrong += invented.length;
      if (missed.length + invented.length > 0)
        process.stdout.write(
          `  case ${seed}, ${hunks} edits: missed ${missed.join(', ') || 'none'}; ` +
            `wrong ${invented.map(({ file, line }) => `${file}:${line}`).join(', ') || 'none'} ${note ?? ''}\n`,
        );
    }
  } finally {
    await service.close();
    rmSync(folder, { recursive: true, force: true });
  }
  const share = named / wanted;
  return {
    text:
      `${named} of ${wanted} edits that matter named in ${cases} cases (${(share * 100).toFixed(1)} %), ` +
      `${wrong} wrong ones, ` +
      `${(median(times) / 1000).toFixed(1)} s a case, ${(Math.max(...times) / 1000).toFixed(1)} s at most`,
    limit: `at least ${limit * 100} %, none wrong`,
    within: share >= limit && wrong === 0,
  };
}
