/** What runs in the thread that reads types: look files in, the types of the props of their components out. */
import type { Kind } from '../core/look/kind.ts';
import type { PropTypes } from '../core/props/type.ts';
import { propsIn } from './component.ts';
import { componentsIn, type Offered } from './offered.ts';
import { isSingleFile } from './single.ts';
import { overview, type Seen } from './overview.ts';
import { fileBehind, openProject, type Project } from './project.ts';

/** Look files of a project, with their full paths. */
export type Question = { root: string; files: readonly { path: string; kind: Kind }[] };

/** The types of the props of one look file's component, and the project's files that they are declared in. */
export type Read = { types: PropTypes | null; files: string[] };

const projects = new Map<string, Project>();

function projectAt(root: string): Project {
  const project = projects.get(root) ?? openProject(root);
  projects.set(root, project);
  return project;
}

/** Files on the way from a look file to those of its types: what they pass on may become something else. */
function filesBetween(from: string, to: ReadonlySet<string>, { importsOf }: Project): string[] {
  const leads = new Map<string, boolean>();
  const visit = (file: string): boolean => {
    const known = leads.get(file);
    if (known !== undefined) return known;
    leads.set(file, to.has(file));
    // Each is visited, also when one of them has led there.
    const found = importsOf(file).map(visit).some(Boolean) || to.has(file);
    leads.set(file, found);
    return found;
  };
  visit(from);
  return [...leads].filter(([, isLeading]) => isLeading).map(([file]) => fileBehind(file));
}

/** By the paths of the look files. */
export default function read({ root, files }: Question): Record<string, Read> {
  const project = projectAt(root);
  const program = project.program(files.map(({ path }) => path));
  const checker = program.getTypeChecker();
  const found: Record<string, Read> = {};
  for (const { path, kind } of files) {
    const source = program.getSourceFile(path);
    const declaredIn = new Set<string>();
    const types = source ? propsIn(source, kind, checker, declaredIn) : null;
    found[path] = { types, files: types ? filesBetween(path, declaredIn, project) : [] };
  }
  return found;
}

/** The components of files, by the paths of those. */
export function components({ root, files }: Question): Record<string, Offered[]> {
  const project = projectAt(root);
  const seen = files.map(({ path, kind }) => ({ path, kind, file: isSingleFile(path) ? `${path}.ts` : path }));
  const program = project.program(seen.map(({ file }) => file));
  const checker = program.getTypeChecker();
  return Object.fromEntries(
    seen.map(({ path, kind, file }) => {
      const source = program.getSourceFile(file);
      return [path, source ? componentsIn(source, kind, checker) : []];
    }),
  );
}

/** The components among files at a glance. */
export function seen({ root, files, lookFiles }: Question & { lookFiles: readonly string[] }): Seen[] {
  const { resolve } = openProject(root);
  return overview({ files, lookFiles, resolve });
}
