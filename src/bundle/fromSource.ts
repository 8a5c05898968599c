/** Programs of ours that run in a process or thread of their own, also in a checkout that runs from source. */
import { createRequire } from 'node:module';
import { fileURLToPath, pathToFileURL } from 'node:url';

/**
 * Where a module of ours lies, by its path from another, and the arguments that Node needs to run it. `loads` is the
 * path of a large module of others that it imports.
 */
export function programBeside(url: string, name: string, loads?: string): { file: string; execArgv: string[] } {
  const isSource = url.endsWith('.ts');
  const file = fileURLToPath(new URL(`./${name}.${isSource ? 'ts' : 'js'}`, url));
  if (!isSource) return { file, execArgv: [] };
  // Somebody has to compile ours, and would take most of a second to look through the other one.
  const first = [...(loads ? [loads] : []), createRequire(url).resolve('tsx')];
  return { file, execArgv: first.flatMap((one) => ['--import', pathToFileURL(one).href]) };
}
