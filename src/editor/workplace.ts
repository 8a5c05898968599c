/** What an editor has open: the projects that its documents are in, and what it was told of them. */
import { readFileSync } from 'node:fs';
import { dirname, isAbsolute, join, relative, sep } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import type { Connection, TextDocuments } from 'vscode-languageserver/node';
import type { TextDocument } from 'vscode-languageserver-textdocument';
import { messageOf } from '../core/problem/problem.ts';
import { diagnosticsOf } from './diagnostics.ts';
import { type EditorProject, openProject, type Service } from './project.ts';
import { tellError } from './tellError.ts';

/** What is known of a document: its project, and its path in it. */
export type Place = { project: EditorProject; file: string };

/** The path of a file on this machine; null for anything else that an editor may have open. */
function pathOf(uri: string): string | null {
  try {
    return uri.startsWith('file:') ? fileURLToPath(uri) : null;
  } catch {
    return null;
  }
}

const isCalledLookFile = (path: string): boolean => /\.look\.[jt]sx?$/.test(path);

/** True for a look file, also for one that the project calls otherwise. */
const isLookFile = ({ project, file }: Place): boolean =>
  isCalledLookFile(file) || project.all().some((one) => one.file === file);

/** What is asked of it. */
export type Workplace = {
  /** Answers about a document; `nothing` where it is none of a look file. */
  about<T>(uri: string, answer: (place: Place, text: string) => Promise<T> | T, nothing: T): Promise<T>;
  /** Tells the editor what is wrong in the project of a document. */
  publishFor(uri: string): void;
  projects(): Promise<EditorProject[]>;
  close(): Promise<void>;
};

/** Tells the editor what is wrong in a project, and of what is not wrong any more. */
function publisherOf(
  connection: Connection,
  documents: TextDocuments<TextDocument>,
  canRefresh: () => boolean,
): (project: EditorProject) => void {
  /** Files that have diagnostics at the editor now, by root. */
  const told = new Map<string, Set<string>>();
  const textAt = (path: string): string | null => {
    const open = documents.get(pathToFileURL(path).href);
    if (open) return open.getText();
    try {
      return readFileSync(path, 'utf8');
    } catch {
      return null;
    }
  };
  return ({ root, all, linkOf }) => {
    const found = diagnosticsOf(all(), (file) => textAt(join(root, file)), linkOf);
    for (const file of new Set([...(told.get(root) ?? []), ...found.keys()]))
      connection
        .sendDiagnostics({ uri: pathToFileURL(join(root, file)).href, diagnostics: found.get(file) ?? [] })
        .catch(() => {});
    told.set(root, new Set(found.keys()));
    if (canRefresh()) connection.sendRequest('workspace/codeLens/refresh').catch(() => {});
  };
}

/** `find` gives the service of the project that a folder is in; `canRefresh` says whether lenses can be asked for. */
export function workplaceOf(
  connection: Connection,
  documents: TextDocuments<TextDocument>,
  find: (folder: string) => Promise<Service | null>,
  canRefresh: () => boolean,
): Workplace {
  const publish = publisherOf(connection, documents, canRefresh);
  const projects = new Map<string, Promise<EditorProject | null>>();
  const byRoot = new Map<string, Promise<EditorProject>>();
  /** Why a project could not be opened, as it was told last: once, and not at every key that is pressed. */
  let trouble = '';

  /** Whoever asks next about a document of a project whose service is gone has another one found. */
  const forget = (project: EditorProject): void => {
    byRoot.delete(project.root);
    for (const [folder, one] of projects)
      one.then((same) => same === project && projects.delete(folder)).catch(() => {});
    project.close().catch(() => {});
  };

  const open = (folder: string): Promise<EditorProject | null> => {
    const known = projects.get(folder);
    if (known) return known;
    const opening = find(folder).then((service) => {
      trouble = '';
      if (!service) return null;
      const same = byRoot.get(service.root);
      if (same) return service.release().then(() => same);
      const nothing = (): void => {};
      const changed = (): void => void project.then(publish, nothing);
      const project: Promise<EditorProject> = openProject(service, changed, () => void project.then(forget, nothing));
      byRoot.set(service.root, project);
      // Its service may go while it is being asked.
      project.catch(() => {
        byRoot.delete(service.root);
        service.release().catch(nothing);
      });
      return project;
    });
    projects.set(folder, opening);
    opening.catch((error: unknown) => {
      projects.delete(folder);
      if (messageOf(error) !== trouble) tellError(connection, error);
      trouble = messageOf(error);
    });
    return opening;
  };

  const placeOf = async (uri: string): Promise<Place | null> => {
    const path = pathOf(uri);
    const project = path === null ? null : await open(dirname(path)).catch(() => null);
    if (path === null || !project) return null;
    const file = relative(project.root, path).split(sep).join('/');
    return file.startsWith('..') || isAbsolute(file) ? null : { project, file };
  };

  return {
    async about(uri, answer, nothing) {
      const text = documents.get(uri)?.getText();
      const isAsked = text !== undefined && (isCalledLookFile(uri) || byRoot.size > 0);
      const place = isAsked ? await placeOf(uri) : null;
      return place && isLookFile(place) ? answer(place, text!) : nothing;
    },
    publishFor: (uri) => void placeOf(uri).then((place) => place && publish(place.project)),
    projects: () => Promise.all([...byRoot.values()]),
    async close() {
      const all = [...byRoot.values()];
      byRoot.clear();
      for (const project of all) await project.then((one) => one.close()).catch(() => {});
    },
  };
}
