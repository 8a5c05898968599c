/** How edits that were found are written to a terminal. */
import pc from 'picocolors';
import type { FoundEdit, FoundHunk } from '../core/cause/found.ts';
import { dedented } from '../core/cause/hunks.ts';

function commitText({ commit }: FoundHunk): string {
  if (commit === null) return 'not committed yet';
  return `${commit.id} ${commit.summary} (${commit.author}, ${commit.at.slice(0, 10)})`;
}

/** So many lines of a hunk are shown. */
const mostLines = 8;

function hunkText(hunk: FoundHunk): string {
  const lines = [
    ...hunk.removed.map((line) => pc.red(`− ${line}`)),
    ...hunk.added.map((line) => pc.green(`+ ${line}`)),
  ];
  const more = lines.length > mostLines ? [pc.dim(`… and ${lines.length - mostLines} more lines`)] : [];
  const head = `${pc.cyan(`${hunk.file}:${hunk.line}`)} ${pc.dim(`· ${commitText(hunk)}`)}`;
  return [head, ...[...lines.slice(0, mostLines), ...more].map((line) => `  ${line}`)].join('\n');
}

/** What was found for one cause, and `also` what else it explains. */
export function foundText({ proved, candidates, note }: FoundEdit, also = ''): string {
  const lines: string[] = [];
  if (proved.length === 1) lines.push(`${pc.green('✓ This edit did it:')} without it the change is gone.${also}`);
  if (proved.length > 1) lines.push(`${pc.green('✓ These edits did it together:')} without them it is gone.${also}`);
  if (proved.length === 0) lines.push(`${pc.yellow('? Not found.')} ${note ?? ''}`);
  if (candidates.length > 0) lines.push('The likeliest edits:');
  return [...lines, ...[...proved, ...candidates].map(dedented).map(hunkText)].join('\n');
}
