/**
 * A gate: an address that does not answer before the test says so. A look that asks for it is under way for exactly
 * that long.
 */
import { once } from 'node:events';
import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterwards } from './afterwards.ts';

/** Origins of the gates that there are: a project that is made after them lets its looks reach them. */
export const gateOrigins: string[] = [];

export type Gate = {
  /** A statement for a look's script: goes on when the gate is open. */
  wait: string;
  /** Settles when somebody stands before the gate. */
  reached: Promise<void>;
  /** Lets everybody through, from now on. */
  open(): void;
};

/** A closed gate on a free port; it goes with the file's tests. */
export async function gate(): Promise<Gate> {
  const waiting: ServerResponse[] = [];
  let isOpen = false;
  let isReached = (): void => {};
  const reached = new Promise<void>((resolve) => {
    isReached = resolve;
  });
  const server = createServer((_request, reply) => {
    reply.setHeader('access-control-allow-origin', '*');
    isReached();
    if (isOpen) reply.end();
    else waiting.push(reply);
  }).listen(0, '127.0.0.1');
  await once(server, 'listening');
  afterwards(() => {
    server.close();
    server.closeAllConnections();
  });
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  gateOrigins.push(origin);
  return {
    wait: `await fetch('${origin}/');`,
    reached,
    open() {
      isOpen = true;
      for (const reply of waiting.splice(0)) reply.end();
    },
  };
}
