/** A fault: something that goes wrong around Sguardo, or is done to it. */
import type { Damage, Ground } from './ground.ts';

export type Fault = {
  name: string;
  /** How often it is tried. */
  tries: number;
  /** Files that the project has beside its innocent ones. */
  files?: Record<string, string>;
  /** The folder of the project; null where this machine cannot have it. */
  root?: () => string | null;
  /** Does it once, and tells what came of it; `attempt` counts from 0. */
  attack(ground: Ground, attempt: number, damage: Damage): Promise<void>;
};
