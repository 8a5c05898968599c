/** What the host has set for the look that runs. */
let waiting = 2000;

/** How long checks and waits are retried, in milliseconds. */
export const patience = (): number => waiting;

export function setPatience(milliseconds: number): void {
  waiting = milliseconds;
}
