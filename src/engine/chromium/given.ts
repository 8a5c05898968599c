/** Files that a page is given, which the browser reads from the disk. */
import { mkdir, rm, utimes, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';

export type GivenFiles = {
  /** Writes files, each as old as `modified`; their paths. */
  hold(files: readonly { name: string; bytes: Uint8Array }[], modified: Date): Promise<string[]>;
  /** Removes all that was written. */
  forget(): Promise<void>;
};

/** Keeps files in a folder of its own, which is there only as long as there are any. */
export function givenFilesIn(folder: string): GivenFiles {
  let count = 0;
  return {
    async hold(files, modified) {
      const paths: string[] = [];
      for (const { name, bytes } of files) {
        // Two files may have the same name.
        const own = join(folder, String(count++));
        const path = join(own, basename(name));
        await mkdir(own, { recursive: true });
        await writeFile(path, bytes);
        await utimes(path, modified, modified);
        paths.push(path);
      }
      return paths;
    },
    async forget() {
      if (count > 0) await rm(folder, { recursive: true, force: true }).catch(() => {});
      count = 0;
    },
  };
}
