/** What the host has set for the look that runs. */
import type { LookRequest } from '../../core/wire/wire.ts';

let settings: Pick<LookRequest, 'patience' | 'network'> = { patience: 2000, network: [] };

/** How long checks and waits are retried, in milliseconds. */
export const patience = (): number => settings.patience;

/** Origins that requests may reach for real. */
export const networkOrigins = (): readonly string[] => settings.network;

/** A look begins. */
export function setSettings(given: LookRequest): void {
  settings = given;
}
