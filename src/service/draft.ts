/** Drafts look files for components, and writes them where there are none. */
import { existsSync, statSync, writeFileSync } from 'node:fs';
import { isAbsolute, join, relative, resolve, sep } from 'node:path';
import type { Draft } from '../core/api/api.ts';
import { type Component, draftOf } from '../core/draft/draft.ts';
import { styleOf } from '../core/draft/style.ts';
import { onDisk } from '../core/problem/disk.ts';
import { fail } from '../core/problem/problem.ts';
import { componentsOf, draftPlace } from '../work/index.ts';

/** A file of the project, by its path from the root. @throws ProblemError `draft-where` */
function fileIn(root: string, file: string): string {
  const path = resolve(root, file);
  const inside = relative(root, path);
  if (inside.startsWith('..') || isAbsolute(inside))
    return fail('draft-where', { file, why: 'is not in this project' });
  if (!existsSync(path)) return fail('draft-where', { file, why: 'does not exist' });
  if (!statSync(path).isFile()) return fail('draft-where', { file, why: 'is a folder' });
  if (/\.look\.\w+$/.test(inside)) return fail('draft-where', { file, why: 'is a look file already' });
  if (!/\.([cm]?[jt]sx?|vue|svelte)$/.test(inside)) return fail('draft-where', { file, why: 'holds no component' });
  return inside.split(sep).join('/');
}

/** @throws ProblemError `draft-nothing` */
function chosen(found: readonly Component[], file: string, wanted: string | null): Component {
  const one = wanted === null ? found[0] : found.find(({ name }) => name === wanted);
  if (one) return one;
  const names = found.map(({ name }) => name).join(', ');
  return fail('draft-nothing', { file, wanted: wanted ?? '', names });
}

/**
 * A look file for the component of a file, or for the one of that name. One that is there is never written over.
 * @throws ProblemError `draft-where`, `draft-nothing`, `draft-there`
 */
export async function draft(root: string, file: string, wanted: string | null, isWritten: boolean): Promise<Draft> {
  const from = fileIn(root, file);
  const place = draftPlace(root, from);
  if (place.isThere) return fail('draft-there', { file: place.path });
  const component = chosen(await componentsOf(root, from), from, wanted);
  const text = draftOf(component, styleOf(place.source, place.isTyped));
  // Somebody else may have written one meanwhile.
  const path = join(root, place.path);
  if (isWritten)
    onDisk(path, () => {
      writeFileSync(path, text, { flag: 'wx' });
    });
  return { file: place.path, component: component.name, text, isWritten };
}
