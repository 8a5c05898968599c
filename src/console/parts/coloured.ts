/** Sources with their words in colours. */
import { highlight } from 'sugar-high';

/** The lines between `<script>` and `</script>`, each on a line of its own, as components of Vue and Svelte have it. */
function* blocksOf(lines: readonly string[]): Generator<readonly string[]> {
  let from = 0;
  for (const [at, line] of lines.entries()) {
    const isBegin = /^\s*<script\b[^>]*>\s*$/.test(line);
    const isEnd = /^\s*<\/script>/.test(line);
    const to = isBegin ? at + 1 : isEnd ? at : from;
    if (to === from) continue;
    yield lines.slice(from, to);
    from = to;
  }
  yield lines.slice(from);
}

/**
 * The lines of a source as HTML, which the highlighter escapes. It takes what is between tags for text, so the scripts
 * of a component that is written as markup are given to it by themselves.
 */
export const colouredLines = (source: string): string[] =>
  [...blocksOf(source.split('\n'))].flatMap((lines) => highlight(lines.join('\n')).split('\n'));
