/**
 * Where stages are served: a port of its own from the beginning, behind which the project's Vite is started when
 * somebody comes for the first time.
 */
import { type ChildProcess, fork } from 'node:child_process';
import { connect, createServer, type Socket } from 'node:net';
import { programBeside } from './fromSource.ts';
import { documentSaying } from './liveDocument.ts';
import { ourVite } from './vite.ts';
import type { LiveNews, LiveOptions } from './liveProcess.ts';

export type LiveGate = { port: number; close(): Promise<void> };

/** Starts the process, and resolves with the port that it listens on. */
function start(options: LiveOptions, started: (child: ChildProcess) => void): Promise<number> {
  const { file, execArgv } = programBeside(import.meta.url, 'liveProcess', ourVite());
  const { VITEST: _, NODE_ENV: __, ...env } = process.env;
  const child = fork(file, [JSON.stringify(options)], { execArgv, env });
  started(child);
  return new Promise((resolve, reject) => {
    child.once('message', (news: LiveNews) => ('port' in news ? resolve(news.port) : reject(new Error(news.error))));
    child.once('exit', () => reject(new Error('it has ended')));
    child.once('error', reject);
  });
}

const refusal = (why: string): string => {
  const body = documentSaying(`The stage could not be opened: ${why}`);
  const lines = [
    'HTTP/1.1 502 Bad Gateway',
    'content-type: text/html; charset=utf-8',
    `content-length: ${Buffer.byteLength(body)}`,
    'connection: close',
  ];
  return `${lines.join('\r\n')}\r\n\r\n${body}`;
};

/** Opens the gate on a free port of loopback. `options` are asked for when the process is started. */
export async function openLiveGate(options: () => LiveOptions): Promise<LiveGate> {
  let child: ChildProcess | null = null;
  let behind: Promise<number> | null = null;
  const sockets = new Set<Socket>();
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.once('close', () => sockets.delete(socket));
    socket.on('error', () => socket.destroy());
    behind ??= start(options(), (started) => {
      child = started;
      // Whoever comes next finds a new one.
      started.once('exit', () => {
        if (child === started) behind = null;
      });
    });
    behind.then(
      (port) => {
        const inner = connect(port, '127.0.0.1');
        inner.on('error', () => socket.destroy());
        socket.once('close', () => inner.destroy());
        socket.pipe(inner).pipe(socket);
      },
      (error: Error) => {
        behind = null;
        socket.end(refusal(error.message));
      },
    );
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(0, '127.0.0.1', resolve);
  });
  return {
    port: (server.address() as { port: number }).port,
    async close() {
      if (child?.connected) child.disconnect();
      for (const socket of sockets) socket.destroy();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}
