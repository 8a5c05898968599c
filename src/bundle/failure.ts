/** Why something could not be built, in our words: the cause behind all others, its place, and the code around it. */
import { existsSync, readFileSync } from 'node:fs';
import { isAbsolute, relative, resolve, sep } from 'node:path';
import { codeFrame } from '../core/problem/codeframe.ts';
import { messageOf, type Problem, problem } from '../core/problem/problem.ts';
import { shownPath } from './graph.ts';

type BuildError = Error & {
  id?: string;
  loc?: { file?: string; line: number; column: number };
  errors?: BuildError[];
  cause?: unknown;
  /** Full paths of the project's files that had been read by then. */
  loaded?: string[];
};

/** What stands between an error and the one that it comes of. */
export const because = '\n  because: ';

// biome-ignore lint/suspicious/noControlCharactersInRegex: colours of a terminal are control characters
const uncoloured = (text: string): string => text.replace(/\u001b\[[0-9;]*m/g, '');

/** The first line that says anything: what follows is the bundler's own drawing of the code. */
function firstLine(text: string): string {
  const whole = uncoloured(text);
  // Of plugins of its own the bundler tells what they threw further down.
  const thrown = /plugin .* threw an error\s+Caused by:\s+/.exec(whole);
  const plain = thrown ? whole.slice(thrown.index + thrown[0].length) : whole;
  const line = plain.split('\n').find((one) => one.trim() && !/^Build failed/.test(one)) ?? plain;
  return line.replace(/^\s*(?:\[[\w:.-]+\])?[\s:]*/, '').trim();
}

/** Longer chains go round in a circle. */
const mostCauses = 10;

/** An error's message, those of the errors that it comes of behind it, each said once. */
export function causesOf(error: unknown): string[] {
  const said: string[] = [];
  let one = error;
  for (let i = 0; i < mostCauses && one !== undefined && one !== null; i++) {
    const { errors, cause } = one as BuildError;
    const message = firstLine(messageOf(errors?.[0] ?? one));
    if (message && !said.some((before) => before.includes(message))) said.push(message);
    one = errors?.[0]?.cause ?? cause;
  }
  return said;
}

/** The file of a part of it, such as the script of a component. */
const fileIn = (id: string): string => id.split('?', 1)[0]!;

type Place = { path: string; line: number; column: number };

const linesOf = (path: string): string[] => (existsSync(path) ? readFileSync(path, 'utf8').split('\n') : []);

const lineAt = (path: string, line: number): string | undefined => linesOf(path)[line - 1];

/** Where a file imports something, of which the bundler only tells both names. */
function placeOfImport(path: string, wanted: string): Place | null {
  const lines = linesOf(path);
  const line = lines.findIndex((one) => one.includes(`'${wanted}'`) || one.includes(`"${wanted}"`));
  return line < 0 ? null : { path, line: line + 1, column: lines[line]!.indexOf(wanted) };
}

/** The import that the bundler has drawn, as its file writes it; null where it has drawn something else. */
const drawnImport = (message: string): string | null =>
  /╭─\[ .+? \]\s*│\s*\d+ │ .*?(?:from|import)\s*\(?\s*["'](.+?)["']/.exec(uncoloured(message))?.[1] ?? null;

/** The file that an error says it lies in, without a line. */
function fileOf(error: unknown): string | null {
  const all = error as BuildError;
  const { id: part } = all.errors?.[0] ?? all;
  const id = part === undefined ? undefined : fileIn(part);
  return id !== undefined && isAbsolute(id) && existsSync(id) ? id : null;
}

/** Where an error, or one that it comes of, says that it lies. */
function placeOf(root: string, error: unknown, most = mostCauses): Place | null {
  if (most === 0 || error === undefined || error === null) return null;
  const all = error as BuildError;
  const first = all.errors?.[0] ?? all;
  const deeper = placeOf(root, first.cause ?? all.cause, most - 1);
  if (deeper) return deeper;
  const unresolved = /failed to resolve import "(.+?)" from "(.+?)"/i.exec(messageOf(first));
  if (unresolved) return placeOfImport(resolve(root, fileIn(unresolved[2]!)), unresolved[1]!);
  const shown = /╭─\[ (.+?):(\d+):(\d+) \]/.exec(uncoloured(messageOf(first)));
  // The bundler shows paths from where the service was started, which need not be the project.
  const drawn = shown ? [root, process.cwd()].map((from) => resolve(from, shown[1]!)).find(existsSync) : undefined;
  const path = first.loc?.file ?? first.id ?? drawn;
  const line = first.loc?.line ?? (shown ? Number(shown[2]) : undefined);
  if (!path || line === undefined) return null;
  const full = [root, process.cwd()].map((from) => resolve(from, path)).find(existsSync) ?? path;
  // What is drawn is what plugins have made of the file: its imports stand on other lines there.
  const name = drawnImport(messageOf(first));
  const moved = name === null || lineAt(full, line)?.includes(name) ? null : placeOfImport(full, name);
  if (moved) return moved;
  return { path: full, line, column: first.loc ? first.loc.column + 1 : Number(shown![3]) };
}

/** The full path of the file that keeps something from being built; null where the error does not say which one. */
export function fileBlamed(root: string, error: unknown): string | null {
  const path = (placeOf(root, error) ?? missingPart(error)?.at)?.path ?? fileOf(error);
  return path !== null && existsSync(path) ? path : null;
}

/** An import of ours that is not there is told by what a look file calls it, not by where our files lie. */
const ownNames = (told: string): string =>
  told.replace(
    /^"(.+?)" is not exported by "[^"]*?language\/(?:index|kinds\/(\w+))\.[jt]s"(, imported by "[^"]*")?\.?/,
    (_, name: string, kind?: string) => `“sguardo${kind ? `/${kind}` : ''}” exports no “${name}”.`,
  );

/** Without the place that Vite 5 to 7 put in front, which is shown anyway, and without the part of a component. */
const withoutPlace = (told: string): string =>
  told.replace(/^\S+ \(\d+:\d+\): (?=")/, '').replace(/(\.(?:vue|svelte))\?(?:vue|svelte|type=)[^"\s]*(?=")/g, '$1');

/** `"./forms" is not exported under the conditions […] from package …/tides (see exports field in …)`. */
const unexported = /"\.\/(.+?)" is not exported under the conditions .*? from package (\S+) \(see .*?\)\.?/;

/** The texts of a source that may be names of what it imports. */
const namesIn = (path: string): string[] =>
  existsSync(path) ? Array.from(readFileSync(path, 'utf8').matchAll(/['"]([^'"\s]+)['"]/g), ([, name]) => name!) : [];

/** Where a part of a package is imported that the package does not have, and as what; null where nobody imports it. */
function missingPart(error: unknown): { name: string; at: Place } | null {
  const [, part, folder] = unexported.exec(causesOf(error).join(because)) ?? [];
  if (part === undefined) return null;
  const owner = /(?:^|\/)node_modules\/((?:@[^/]+\/)?[^/]+)$/.exec(folder!)?.[1];
  const isIt = (name: string): boolean =>
    owner === undefined ? !name.startsWith('.') && name.endsWith(`/${part}`) : name === `${owner}/${part}`;
  for (const path of (error as BuildError).loaded ?? []) {
    const name = namesIn(path).find(isIt);
    const at = name === undefined ? null : placeOfImport(path, name);
    if (at) return { name: name!, at };
  }
  return null;
}

/** What a bundler's error says of a file that could not be built with all that it imports. */
export function explainBuild(
  root: string,
  file: string,
  error: unknown,
  code: 'bundle-failed' | 'frame-failed' = 'bundle-failed',
): Problem {
  const caused = causesOf(error).join(because).replaceAll(`${root}${sep}`, '');
  const part = missingPart(error);
  const told =
    part === null
      ? ownNames(withoutPlace(caused))
      : caused.replace(unexported, `“${part.name}” is none of its package’s exports.`);
  const at = placeOf(root, error) ?? part?.at;
  if (!at) {
    const other = fileOf(error);
    const path = other === null ? file : shownPath(root, other);
    return problem(code, { file, error: told, ...(path === file ? {} : { in: path }) });
  }
  const path = shownPath(root, at.path);
  return problem(code, { file, error: told, ...(path === file ? {} : { in: path }) }, shown(path, at));
}

/** A place as a problem tells it, with the code around it where the file can still be read. */
function shown(path: string, at: Place): { place: string; frame?: string } {
  const place = `${path}:${at.line}:${at.column}`;
  try {
    return { place, frame: codeFrame(readFileSync(at.path, 'utf8'), at) };
  } catch {
    return { place };
  }
}

/** Where an error says that it lies, for people who are in `root`; nothing where it does not say so. */
export function placedBy(root: string, error: unknown): { place?: string; frame?: string } {
  const at = placeOf(root, error);
  if (!at) return {};
  // Vite puts words of its own before the first line of a configuration.
  const line = lineAt(at.path, at.line);
  const isOn = line !== undefined && at.column <= line.length + 1;
  return shown(relative(root, at.path), isOn ? at : { ...at, column: 1 });
}
