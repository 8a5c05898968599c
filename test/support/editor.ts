/** An editor, as far as a language server can tell: a real client over standard input and output. */
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import {
  createProtocolConnection,
  type Diagnostic,
  StreamMessageReader,
  StreamMessageWriter,
  type TextEdit,
  type WorkspaceEdit,
} from 'vscode-languageserver/node';
import { afterwards } from './afterwards.ts';
import { env, program } from './cli.ts';

export type Place = { line: number; character: number };

/** Starts `sguardo language-server` in a folder, as an editor does. */
export async function editor(root: string) {
  const child = spawn(process.execPath, [program, 'language-server', '--stdio'], {
    cwd: root,
    env,
    // Why it ended, should it.
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  const connection = createProtocolConnection(
    new StreamMessageReader(child.stdout),
    new StreamMessageWriter(child.stdin),
  );
  const diagnostics = new Map<string, Diagnostic[]>();
  const listeners = new Set<() => void>();
  const shown: string[] = [];
  const messages: string[] = [];
  connection.onNotification('textDocument/publishDiagnostics', (told: { uri: string; diagnostics: Diagnostic[] }) => {
    diagnostics.set(told.uri, told.diagnostics);
    for (const listener of listeners) listener();
  });
  connection.onRequest('window/showDocument', ({ uri }: { uri: string }) => {
    shown.push(uri);
    return { success: true };
  });
  connection.onNotification('window/showMessage', ({ message }: { message: string }) => void messages.push(message));
  connection.onRequest('workspace/codeLens/refresh', () => null);
  connection.listen();
  const capabilities = { workspace: { codeLens: { refreshSupport: true } } };
  const initialized = await connection.sendRequest('initialize', {
    processId: process.pid,
    rootUri: pathToFileURL(root).href,
    capabilities,
  });
  await connection.sendNotification('initialized', {});
  const uriOf = (file: string): string => pathToFileURL(join(root, file)).href;
  const end = async (): Promise<void> => {
    if (child.exitCode !== null) return;
    await connection.sendRequest('shutdown');
    await connection.sendNotification('exit');
    await new Promise((resolve) => child.once('exit', resolve));
  };
  afterwards(end);
  return {
    connection,
    initialized: initialized as { capabilities: Record<string, unknown> },
    shown,
    messages,
    uriOf,
    end,
    async open(file: string): Promise<void> {
      const text = readFileSync(join(root, file), 'utf8');
      const textDocument = { uri: uriOf(file), languageId: 'typescriptreact', version: 1, text };
      await connection.sendNotification('textDocument/didOpen', { textDocument });
    },
    /** Replaces the text of an open file, as somebody who types does. */
    async type(file: string, text: string): Promise<void> {
      const textDocument = { uri: uriOf(file), version: 2 };
      await connection.sendNotification('textDocument/didChange', { textDocument, contentChanges: [{ text }] });
    },
    ask: <T>(method: string, file: string, more: object): Promise<T> =>
      connection.sendRequest(method, { textDocument: { uri: uriOf(file) }, ...more }),
    /** Waits until the diagnostics of a file are as they should be. */
    diagnosed(file: string, isSo: (found: Diagnostic[]) => boolean): Promise<Diagnostic[]> {
      return new Promise((resolve) => {
        const look = (): void => {
          const found = diagnostics.get(uriOf(file)) ?? [];
          if (!isSo(found)) return;
          listeners.delete(look);
          resolve(found);
        };
        listeners.add(look);
        look();
      });
    },
  };
}

/** Where a part of a text begins, or `after` characters behind that. */
export function placeOf(text: string, part: string, after = 0): Place {
  const offset = text.indexOf(part) + after;
  const before = text.slice(0, offset).split('\n');
  return { line: before.length - 1, character: before.at(-1)!.length };
}

/** A text with edits in it, as an editor makes them. */
export function edited(text: string, edits: readonly TextEdit[]): string {
  const lines = text.split('\n');
  const offset = ({ line, character }: Place): number =>
    lines.slice(0, line).reduce((sum, one) => sum + one.length + 1, 0) + character;
  return edits
    .toSorted((a, b) => offset(b.range.start) - offset(a.range.start))
    .reduce(
      (now, { range, newText }) => now.slice(0, offset(range.start)) + newText + now.slice(offset(range.end)),
      text,
    );
}

export const editsOf = (edit: WorkspaceEdit | undefined): TextEdit[] => Object.values(edit?.changes ?? {})[0] ?? [];
