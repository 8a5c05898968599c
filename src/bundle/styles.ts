/** What a look file brings into its document: scripts and style sheets. */
import type { Rolldown } from 'vite';

type Chunk = Rolldown.OutputChunk & { viteMetadata?: { importedCss: Set<string> } };

type Output = Rolldown.RolldownOutput['output'];

const isChunk = (one: Output[number]): one is Chunk => one.type === 'chunk';

/** Names of the chunks of modules, `?` for one that has none of its own. */
export const chunksOf = (output: Output, modules: readonly string[]): string[] =>
  modules.map((module) => output.filter(isChunk).find((one) => one.facadeModuleId === module)?.fileName ?? '?');

/**
 * Address paths of the sheets that a document has when it has imported modules one after the other, in the order in
 * which Vite has it load them: those of what a chunk imports come before its own. Null when a module has no chunk.
 */
export function stylesOf(output: Output, modules: readonly string[]): string[] | null {
  const chunks = output.filter(isChunk);
  const byName = new Map(chunks.map((chunk) => [chunk.fileName, chunk]));
  const seen = new Set<string>();
  const styles = new Set<string>();
  const visit = (name: string): void => {
    const chunk = byName.get(name);
    if (!chunk || seen.has(name)) return;
    seen.add(name);
    for (const imported of chunk.imports) visit(imported);
    for (const sheet of chunk.viteMetadata?.importedCss ?? []) styles.add(`/${sheet}`);
  };
  for (const module of modules) {
    const [name] = chunksOf(output, [module]);
    if (!byName.has(name!)) return null;
    visit(name!);
  }
  return [...styles];
}
