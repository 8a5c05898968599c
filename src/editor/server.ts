/** The language server: what Sguardo knows of look files, for whatever editor speaks the Language Server Protocol. */
import { readFileSync } from 'node:fs';
import { isAbsolute, join, relative, sep } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import {
  type Connection,
  createConnection,
  ErrorCodes,
  type InitializeResult,
  ResponseError,
  StreamMessageReader,
  StreamMessageWriter,
  TextDocuments,
  TextDocumentSyncKind,
  type WorkspaceEdit,
} from 'vscode-languageserver/node';
import { TextDocument } from 'vscode-languageserver-textdocument';
import { componentOf, type LookName } from '../core/look/look.ts';
import { messageOf } from '../core/problem/problem.ts';
import { completionsAt, hoverAt, lensesOf } from './answers.ts';
import { diagnosticsOf } from './diagnostics.ts';
import { fixesOf } from './fixes.ts';
import { linesOf } from './lines.ts';
import { type EditorProject, openProject, type Service } from './project.ts';
import { nameAt, renameEdits, typedName } from './rename.ts';

export type ServerOptions = {
  input: NodeJS.ReadableStream;
  output: NodeJS.WritableStream;
  version: string;
  /** The service of the project that a folder is in; null where that is none of a project. */
  find(folder: string): Promise<Service | null>;
};

/** What is known of a document: its project, and its path in it. */
type Place = { project: EditorProject; file: string };

const isLookFile = (path: string): boolean => /\.look\.[jt]sx?$/.test(path);

/** Serves until the editor says that it is over. */
export function serveEditor({ input, output, version, find }: ServerOptions): Promise<void> {
  const connection = createConnection(
    new StreamMessageReader(input),
    new StreamMessageWriter(output),
  ) as unknown as Connection;
  const documents = new TextDocuments(TextDocument);
  const projects = new Map<string, Promise<EditorProject | null>>();
  const byRoot = new Map<string, Promise<EditorProject>>();
  /** Files that have diagnostics at the editor now, by root. */
  const told = new Map<string, Set<string>>();
  let canRefresh = false;

  const textAt = (path: string): string | null => {
    const open = documents.get(pathToFileURL(path).href);
    if (open) return open.getText();
    try {
      return readFileSync(path, 'utf8');
    } catch {
      return null;
    }
  };

  const publish = (project: EditorProject): void => {
    const found = diagnosticsOf(project.all(), (file) => textAt(join(project.root, file)), project.linkOf);
    const before = told.get(project.root) ?? new Set();
    for (const file of new Set([...before, ...found.keys()]))
      void connection.sendDiagnostics({
        uri: pathToFileURL(join(project.root, file)).href,
        diagnostics: found.get(file) ?? [],
      });
    told.set(project.root, new Set(found.keys()));
    if (canRefresh) connection.sendRequest('workspace/codeLens/refresh').catch(() => {});
  };

  const open = (folder: string): Promise<EditorProject | null> => {
    const known = projects.get(folder);
    if (known) return known;
    const opening = find(folder).then((service) => {
      if (!service) return null;
      const same = byRoot.get(service.root);
      if (same) return service.release().then(() => same);
      const project: Promise<EditorProject> = openProject(service, () => void project.then(publish));
      byRoot.set(service.root, project);
      return project;
    });
    projects.set(folder, opening);
    opening.catch((error: unknown) => {
      projects.delete(folder);
      connection.window.showErrorMessage(`Sguardo: ${messageOf(error)}`);
    });
    return opening;
  };

  const placeOf = async (uri: string): Promise<Place | null> => {
    if (!uri.startsWith('file:')) return null;
    const path = fileURLToPath(uri);
    if (!isLookFile(path)) return null;
    const project = await open(join(path, '..')).catch(() => null);
    const file = project ? relative(project.root, path).split(sep).join('/') : '';
    return project && !file.startsWith('..') && !isAbsolute(file) ? { project, file } : null;
  };

  /** Answers about a place of a document; nothing where it is none of a look file. */
  const about = async <T>(
    uri: string,
    answer: (place: Place, text: string) => Promise<T> | T,
    nothing: T,
  ): Promise<T> => {
    const text = documents.get(uri)?.getText();
    const place = text === undefined ? null : await placeOf(uri);
    return place ? answer(place, text!) : nothing;
  };

  connection.onInitialize(({ capabilities }): InitializeResult => {
    canRefresh = capabilities.workspace?.codeLens?.refreshSupport === true;
    return {
      serverInfo: { name: 'Sguardo', version },
      capabilities: {
        textDocumentSync: TextDocumentSyncKind.Incremental,
        codeLensProvider: {},
        hoverProvider: true,
        completionProvider: { triggerCharacters: ['.', "'", '"', '`'] },
        codeActionProvider: { codeActionKinds: ['quickfix'] },
        renameProvider: { prepareProvider: true },
        executeCommandProvider: { commands: ['sguardo.run', 'sguardo.open', 'sguardo.approve'] },
      },
    };
  });

  documents.onDidOpen(({ document }) => {
    void placeOf(document.uri).then((place) => place && publish(place.project));
  });
  connection.onCodeLens(({ textDocument: { uri } }) =>
    about(uri, ({ file, project }, text) => lensesOf(file, text, project), []),
  );
  connection.onHover(({ textDocument: { uri }, position }) =>
    about(uri, ({ file, project }, text) => hoverAt(file, text, linesOf(text).offset(position), project), null),
  );
  connection.onCompletion(({ textDocument: { uri }, position }) =>
    about(uri, ({ file, project }, text) => completionsAt(file, text, linesOf(text).offset(position), project), []),
  );
  connection.onCodeAction(({ textDocument: { uri }, context }) =>
    about(
      uri,
      (_, text) =>
        context.diagnostics.filter(({ source }) => source === 'sguardo').flatMap((one) => fixesOf(uri, text, one)),
      [],
    ),
  );

  connection.onPrepareRename(({ textDocument: { uri }, position }) =>
    about(
      uri,
      (_, text) => {
        const look = nameAt(text, linesOf(text).offset(position));
        return look && { range: linesOf(text).range(look.key), placeholder: look.name };
      },
      null,
    ),
  );
  connection.onRenameRequest(({ textDocument: { uri }, position, newName }) =>
    about<WorkspaceEdit | null>(
      uri,
      async ({ file, project }, text) => {
        const look = nameAt(text, linesOf(text).offset(position));
        if (!look) return null;
        const to = typedName(newName);
        const from: LookName = { component: componentOf(file), look: look.name };
        await project.client.renameLook(from, to).catch((error: unknown) => {
          throw new ResponseError(ErrorCodes.InvalidRequest, messageOf(error));
        });
        return { changes: { [uri]: renameEdits(text, look, to) } };
      },
      null,
    ),
  );

  type Asked = LookName & { file?: string; uri?: string; url?: string };
  connection.onExecuteCommand(async ({ command, arguments: given = [] }) => {
    const asked = given[0] as Asked;
    if (command === 'sguardo.open') return connection.window.showDocument({ uri: asked.url!, external: true });
    const all = await Promise.all([...byRoot.values()]);
    const project = all.find((one) => one.resultsOf(asked).length > 0) ?? all[0];
    if (!project) return null;
    const { component, look } = asked;
    try {
      if (command === 'sguardo.run') await project.run({ looks: [{ component, look }], fresh: true });
      else await project.client.decide({ kind: 'approve', patterns: [`${component}/${look}`] });
    } catch (error) {
      connection.window.showErrorMessage(messageOf(error));
    }
    return null;
  });

  return new Promise((resolve) => {
    const closeAll = async (): Promise<void> => {
      const all = [...byRoot.values()];
      byRoot.clear();
      for (const project of all) await project.then((one) => one.close()).catch(() => {});
    };
    // The editor is told before the process may end.
    connection.onShutdown(closeAll);
    const end = (): void => void closeAll().then(resolve);
    connection.onExit(end);
    input.once('end', end);
    documents.listen(connection);
    connection.listen();
  });
}
