/** Lines that were tried, as a script has them. */
import type { TriedLine } from './sitting.ts';

/** The lines that held and did something, as a script has them. */
export const keptLines = (lines: readonly TriedLine[]): string[] =>
  lines
    .filter(({ problem, steps }) => problem === null && steps > 0)
    .map(({ text }) => {
      const line = text.trim().replace(/;*$/, ';');
      return /^(await|const|let|return|for|if)\b/.test(line) ? line : `await ${line}`;
    });
