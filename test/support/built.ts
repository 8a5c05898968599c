/** Builds what has been changed since it was built, before the first test: services and commands are run from there. */
import { spawnSync } from 'node:child_process';

export default function built(): void {
  const { status } = spawnSync(process.execPath, ['scripts/setup.mjs'], { stdio: ['ignore', 'ignore', 'inherit'] });
  if (status !== 0) throw new Error('It could not be built: npm run setup');
}
