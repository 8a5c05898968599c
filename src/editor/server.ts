/** The language server: what Sguardo knows of look files, for whatever editor speaks the Language Server Protocol. */
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
import { fixesOf } from './fixes.ts';
import { linesOf } from './lines.ts';
import type { Service } from './project.ts';
import { tellError } from './tellError.ts';
import { nameAt, renameEdits, typedName } from './rename.ts';
import { type Workplace, workplaceOf } from './workplace.ts';

export type ServerOptions = {
  input: NodeJS.ReadableStream;
  output: NodeJS.WritableStream;
  version: string;
  /** The service of the project that a folder is in; null where that is none of a project. */
  find(folder: string): Promise<Service | null>;
};

/** What the editor may ask for. */
const capabilities: InitializeResult['capabilities'] = {
  textDocumentSync: TextDocumentSyncKind.Incremental,
  codeLensProvider: {},
  hoverProvider: true,
  completionProvider: { triggerCharacters: ['.', "'", '"', '`'] },
  codeActionProvider: { codeActionKinds: ['quickfix'] },
  renameProvider: { prepareProvider: true },
  executeCommandProvider: { commands: ['sguardo.run', 'sguardo.open', 'sguardo.approve'] },
};

/** What is shown about places of look files. */
function showPlaces(connection: Connection, { about }: Workplace): void {
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
}

/** Renames a look where it is written, with its baselines and its history. */
function renameLooks(connection: Connection, { about }: Workplace): void {
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
}

type Asked = LookName & { file?: string; uri?: string; url?: string };

/** Carries out what a lens or a fix stands for. */
function carryOut(connection: Connection, workplace: Workplace): void {
  connection.onExecuteCommand(async ({ command, arguments: given = [] }) => {
    const asked = given[0] as Asked;
    if (command === 'sguardo.open') return connection.window.showDocument({ uri: asked.url!, external: true });
    const all = await workplace.projects();
    const project = all.find((one) => one.resultsOf(asked).length > 0) ?? all[0];
    if (!project) return null;
    const { component, look } = asked;
    try {
      if (command === 'sguardo.run') await project.run({ looks: [{ component, look }], fresh: true });
      else await project.client.decide({ kind: 'approve', patterns: [`${component}/${look}`] });
    } catch (error) {
      tellError(connection, error);
    }
    return null;
  });
}

/** Serves until the editor says that it is over. */
export function serveEditor({ input, output, version, find }: ServerOptions): Promise<void> {
  const connection = createConnection(
    new StreamMessageReader(input),
    new StreamMessageWriter(output),
  ) as unknown as Connection;
  const documents = new TextDocuments(TextDocument);
  let canRefresh = false;
  const workplace = workplaceOf(connection, documents, find, () => canRefresh);
  connection.onInitialize(({ capabilities: { workspace } }): InitializeResult => {
    canRefresh = workspace?.codeLens?.refreshSupport === true;
    return { serverInfo: { name: 'Sguardo', version }, capabilities };
  });
  documents.onDidOpen(({ document }) => workplace.publishFor(document.uri));
  showPlaces(connection, workplace);
  renameLooks(connection, workplace);
  carryOut(connection, workplace);
  return new Promise((resolve) => {
    // The editor is told before the process may end.
    connection.onShutdown(workplace.close);
    const end = (): void => void workplace.close().then(resolve);
    connection.onExit(end);
    input.once('end', end);
    documents.listen(connection);
    connection.listen();
  });
}
