/** What an editor has open, with services that are not what they were: as it asks them, without processes. */
import { setTimeout as pause } from 'node:timers/promises';
import { expect, it } from 'vitest';
import type { Connection, TextDocuments } from 'vscode-languageserver/node';
import type { TextDocument } from 'vscode-languageserver-textdocument';
import type { Client } from '../../src/client/client.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import type { Service } from '../../src/editor/project.ts';
import { workplaceOf } from '../../src/editor/workplace.ts';

const said: string[] = [];
const connection = {
  sendNotification: async (_: unknown, { message }: { message: string }) => void said.push(message),
  sendDiagnostics: async () => {},
  sendRequest: async () => {},
} as unknown as Connection;
const documents = { get: () => ({ getText: () => 'looks' }) } as unknown as TextDocuments<TextDocument>;
const uri = 'file:///harbour/src/Buoy.look.tsx';

let released = 0;

/** A service that answers for its project when `ask` does. */
const service = (ask: () => Promise<unknown>): Service => ({
  client: {
    looks: async (): Promise<ResultSummary[]> => [],
    runs: async () => [],
    project: ask,
    async *events() {
      yield await pause(60_000, undefined, { ref: false });
    },
  } as unknown as Client,
  url: 'http://127.0.0.1',
  root: '/harbour',
  release: async () => void released++,
});

it('asks once more for a project whose service went while it was opened, and lets go of that service', async () => {
  const services = [
    service(async () => {
      // Longer than it takes until what is new is told.
      await pause(150);
      throw new Error('The service has gone.');
    }),
    service(async () => ({ markAttribute: 'data-mark' })),
  ];
  const workplace = workplaceOf(
    connection,
    documents,
    async () => services.shift() ?? null,
    () => false,
  );
  const ask = (): Promise<string> => workplace.about(uri, ({ file }) => file, 'nothing');
  expect(await ask()).toBe('nothing');
  expect([said.length, released]).toEqual([1, 1]);
  expect(said[0]).toContain('The service has gone.');
  expect(await ask()).toBe('src/Buoy.look.tsx');
  expect(await workplace.projects()).toHaveLength(1);
  await workplace.close();
  expect(released).toBe(2);
});
