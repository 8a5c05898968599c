/** Kills everything that can be killed, in the middle of everything that takes a while. */
import { spawn, type ChildProcess } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { ended, env, program } from '../test/support/cli.ts';
import { write } from '../test/support/project.ts';
import type { Fault } from './fault.ts';
import { type Damage, type Ground, harm, innocent, innocentLooks, innocents } from './ground.ts';

const victims = ['browser', 'renderer', 'service', 'worker', 'client'] as const;
type Victim = (typeof victims)[number];

const activities = ['run', 'approve', 'prune', 'publish'] as const;
type Activity = (typeof activities)[number];

/** Starts what takes a while, as a command of its own; nothing is awaited. */
function begin(ground: Ground, activity: Activity, attempt: number): ChildProcess {
  const commands: Record<Activity, string[]> = {
    run: ['run', '--fresh', '--repeat', '3'],
    approve: ['approve', '--all'],
    // Every run is followed by the removal of what is too old.
    prune: ['run', '--fresh', '--repeat', '2'],
    publish: ['publish', join(ground.root, '.sguardo', `site-${attempt}`)],
  };
  return spawn(process.execPath, [program, ...commands[activity]], { cwd: ground.root, env, stdio: 'ignore' });
}

/** What is killed, by its processes. */
async function strike(ground: Ground, victim: Victim, client: ChildProcess): Promise<void> {
  if (victim === 'service') return ground.kill();
  if (victim === 'client') {
    client.kill('SIGKILL');
    return;
  }
  const marks = { browser: '--remote-debugging-pipe', renderer: '--type=renderer', worker: 'builderProcess' };
  for (const pid of ground.processes(marks[victim]))
    try {
      process.kill(pid, 'SIGKILL');
    } catch {
      // It has ended by itself.
    }
}

/** Decisions are carried out whole or not at all. */
async function afterApproval(ground: Ground, damage: Damage): Promise<void> {
  if (!ground.isRunning) await ground.start();
  // What a client asked for before it was killed may be carried out while the first run goes on.
  await ground.run({ fresh: true });
  const { changed, passed } = (await ground.run({ fresh: true })).tally;
  const isWhole = changed === 0 || changed === innocentLooks / 2;
  if (!isWhole || changed + passed !== innocentLooks)
    harm(damage, 'lost', `an approval was carried out by halves: ${changed} changed, ${passed} passed`);
  write(ground.root, ground.innocentFiles());
  await ground.settle();
}

/**
 * How often each is tried, and after how many milliseconds something is killed: an approval is short, and begins when
 * its command has found the service.
 */
const timesOf = (activity: Activity): { tries: number; first: number; later: number } =>
  activity === 'approve' ? { tries: 8, first: 300, later: 60 } : { tries: 3, first: 400, later: 350 };

function killing(victim: Victim, activity: Activity): Fault {
  const { tries, first, later } = timesOf(activity);
  return {
    name: `${victim} killed during ${activity}`,
    tries,
    async attack(ground, attempt, damage) {
      if (activity === 'approve') {
        // All looks of the file come out differently, each time another way.
        write(ground.root, { [innocents[0]!]: innocent(`${innocents[0]!} ${attempt}`) });
        await ground.run();
      }
      const client = begin(ground, activity, attempt);
      await delay(first + later * attempt);
      await strike(ground, victim, client);
      // Whoever waits for the client waits in vain when it was killed.
      await Promise.race([ended(client), delay(60_000, null, { ref: false })]);
      if (client.exitCode === null && client.signalCode === null) {
        harm(damage, 'dead', `the ${activity} command did not end`);
        client.kill('SIGKILL');
      }
      if (activity === 'approve') await afterApproval(ground, damage);
      await ground.inspect(damage, victim === 'service');
      rmSync(join(ground.root, '.sguardo', `site-${attempt}`), { recursive: true, force: true });
    },
  };
}

export const kills: Fault[] = victims.flatMap((victim) => activities.map((activity) => killing(victim, activity)));
