/** A hash of the fonts that are installed: text is drawn with them, so a baseline depends on them. */
import { createHash } from 'node:crypto';
import { readdirSync, statSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';

export function fontsHash(): string {
  const found: string[] = [];
  const visit = (folder: string): void => {
    let names: string[];
    try {
      names = readdirSync(folder).sort();
    } catch {
      return;
    }
    for (const name of names) {
      const path = join(folder, name);
      const about = statSync(path, { throwIfNoEntry: false });
      if (about?.isDirectory()) visit(path);
      else if (about && /\.(ttf|otf|ttc|pfb|woff2?)$/i.test(name)) found.push(`${name}:${about.size}`);
    }
  };
  for (const folder of [
    '/usr/share/fonts',
    '/usr/local/share/fonts',
    join(homedir(), '.fonts'),
    join(homedir(), '.local/share/fonts'),
  ])
    visit(folder);
  return createHash('sha256').update(found.sort().join('\n')).digest('hex').slice(0, 8);
}
