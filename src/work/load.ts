/** Makes the machine busy, as other people's work would. */
import { spawn } from 'node:child_process';
import { availableParallelism } from 'node:os';

/** Ends by itself when whoever started it is gone, however that ended. */
const loop = `const parent = process.ppid;
for (;;) {
  const until = Date.now() + 200;
  while (Date.now() < until);
  if (process.ppid !== parent) process.exit();
}`;

/** Starts so many endless loops for each processor; the returned function ends them. */
export function makeBusy(each = 1): () => void {
  const loops = Array.from({ length: each * availableParallelism() }, () =>
    spawn(process.execPath, ['-e', loop], { stdio: 'ignore' }),
  );
  // A machine that cannot start one more process is busy enough.
  for (const one of loops) one.on('error', () => {});
  return () => {
    for (const one of loops) one.kill('SIGKILL');
  };
}
