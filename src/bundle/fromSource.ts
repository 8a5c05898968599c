/** Programs of ours that run in a process or thread of their own, also in a checkout that runs from source. */
import { createRequire } from 'node:module';
import { fileURLToPath, pathToFileURL } from 'node:url';

/** Where a module of ours lies, by its path from another, and the arguments that Node needs to run it. */
export function programBeside(url: string, name: string): { file: string; execArgv: string[] } {
  const isSource = url.endsWith('.ts');
  return {
    file: fileURLToPath(new URL(`./${name}.${isSource ? 'ts' : 'js'}`, url)),
    // Somebody has to compile it.
    execArgv: isSource ? ['--import', pathToFileURL(createRequire(url).resolve('tsx')).href] : [],
  };
}
