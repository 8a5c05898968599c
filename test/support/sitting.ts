/** Live looks as tests use them. */
import type { BeginSitting, Client } from '../../src/client/client.ts';
import type { Orders, SittingState } from '../../src/core/sitting/sitting.ts';

/** Waits until the script stands, or its page is gone. */
export async function standing(client: Client, id: number): Promise<SittingState> {
  for (;;) {
    const state = await client.sitting(id);
    if (state.phase === 'stopped' || state.phase === 'over') return state;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

/** Begins a live look and waits until it stands. */
export const begun = async (client: Client, request: BeginSitting): Promise<SittingState> =>
  standing(client, (await client.beginSitting(request)).id);

/** Lets it go on, and waits until it stands again. */
export async function gone(client: Client, id: number, orders: Partial<Orders> = {}): Promise<SittingState> {
  await client.go(id, orders);
  return standing(client, id);
}

/** The steps of a live look in short: those that were tried in brackets. */
export const titles = ({ steps }: SittingState): string[] =>
  steps.map(({ title, tried }) => (tried ? `(${title})` : title));
