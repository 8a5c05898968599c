/** Which of the console's files a site has use for. */

/** What Vite tells of a file that it built, under the name of what it was built from. */
export type BuiltFile = { file: string; imports?: string[]; dynamicImports?: string[] };

/** Pages that ask a service for something to happen, which a site has none for. */
const withService = ['sitting/Live.tsx', 'stage/Stage.tsx'];

/** The files of scripts that nothing but the pages with a service needs, in a console that begins at `index.html`. */
export function scriptsWithService(built: Readonly<Record<string, BuiltFile>>): Set<string> {
  const reached = new Set<string>();
  const reach = (name: string): void => {
    const found = built[name];
    if (!found || reached.has(name) || withService.includes(name)) return;
    reached.add(name);
    for (const next of [...(found.imports ?? []), ...(found.dynamicImports ?? [])]) reach(next);
  };
  reach('index.html');
  const others = Object.entries(built).filter(([name, { file }]) => !reached.has(name) && file.endsWith('.js'));
  return new Set(others.map(([, { file }]) => file));
}
