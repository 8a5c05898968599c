/** A project with as many looks as are wanted. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

export const looksEach = 10;

/** The text of a component. */
export const component = (n: number, text: string): string => `import { label } from './label.ts';
import './sea.css';
export const Berth${n} = ({ ships }: { ships: number }) => <p className="berth">${text} ${n}: {label(ships)}</p>;
`;

const lookFile = (n: number): string => `import { looks } from 'sguardo';
import { Berth${n} } from './Berth${n}';
export default looks(Berth${n}, { props: { ships: 0 }, states: {
${Array.from({ length: looksEach }, (_, i) => `  'ships ${i}': { props: { ships: ${i} } },`).join('\n')}
} });
`;

/** A helper that every component uses, and the sheet that all share, in their first form and in others. */
export const label = (note = ''): string => `export const label = (n: number): string => \`\${n} ships\`;${note}\n`;
export const sheet = (more = ''): string => `.berth { color: navy; width: 160px;${more} }\n`;

/** Once everything is approved the project is as most are. */
export const settle = (folder: string): void =>
  writeFileSync(join(folder, 'sguardo.config.ts'), 'export default {};\n');

/** Writes a project of so many components, each with ten looks. */
export function generate(folder: string, components: number): void {
  mkdirSync(join(folder, 'src'), { recursive: true });
  const write = (name: string, text: string): void => writeFileSync(join(folder, name), text);
  // What is new would get a document of its own: that takes long, and is not measured.
  write('sguardo.config.ts', "export default { isolate: 'file' };\n");
  write('src/label.ts', label());
  write('src/sea.css', sheet());
  for (let n = 0; n < components; n++) {
    write(`src/Berth${n}.tsx`, component(n, 'Berth'));
    write(`src/Berth${n}.look.tsx`, lookFile(n));
  }
}
