/** Bundles look files, and keeps what it has built for as long as nothing behind it changes. */
import { createHash } from 'node:crypto';
import { statSync } from 'node:fs';
import { join } from 'node:path';
import { globSync } from 'tinyglobby';
import { filesBehind, type Graph } from '../core/run/graph.ts';
import type { Settings } from '../core/settings/config.ts';
import { bundleLooks, renewBuilder } from './builder.ts';
import type { Bundle, BundledLooks } from './bundle.ts';
import { fullPath, shownPath } from './graph.ts';
import { inputsOf } from './inputs.ts';
import { hashOfAll, type Survey, surveyProject } from './survey.ts';
import { viteVersionOf } from './vite.ts';

/** Where what is known of a project is kept from one service to the next. */
export type GraphKeeper = { read(): Graph | null; write(graph: Graph): void };

/** Look files in a bundle, each with the hash of what it was built from; null where that changed meanwhile. */
export type Bundled = { bundle: Bundle; hashes: Map<string, string | null> };

/** A look file as it was built; `own` is the hash of its own files alone. */
type Piece = { hash: string; own: string | null; entry: BundledLooks; built: Bundle };

/** So many builds of parts are kept at most: what they have in common is there once for each of them. */
const mostBuilds = 12;

export class Bundler {
  readonly #root: string;
  readonly #keeper: GraphKeeper;
  readonly #version: string;
  readonly #inputs = inputsOf();
  #graph: Graph | null;
  /** Which packages it was built with last. */
  #packages: string | null = null;
  #pieces = new Map<string, Piece>();
  /** One bundle is made at a time: what each learns of the project is the next one's. */
  #last: Promise<unknown> = Promise.resolve();

  /** `version` is that of Sguardo. */
  constructor(root: string, version: string, keeper: GraphKeeper) {
    this.#root = root;
    this.#version = version;
    this.#keeper = keeper;
    this.#graph = keeper.read();
  }

  /** Looks at the project as it is now. */
  async survey(settings: Settings): Promise<Survey> {
    // The configuration may be made of several files; how many windows there are changes nothing.
    const { lanes, keep, reasons, family, coverage, ...rest } = settings;
    const own = JSON.stringify([this.#version, viteVersionOf(this.#root), rest]);
    return surveyProject(this.#root, settings, this.#graph, this.#inputs, own);
  }

  /**
   * Looks at the project as `survey` does, and has style sheets made again where files beside their own have changed:
   * whatever has them needs nothing else to be known. `files` are all look files.
   */
  async learn(settings: Settings, files: readonly string[]): Promise<Survey> {
    let survey = await this.survey(settings);
    const isChanged = (file: string): boolean => {
      const piece = this.#pieces.get(file);
      return piece !== undefined && piece.own !== survey.ownHashOf(file);
    };
    const stale = files.filter(survey.isStale);
    // Those come first that have to be built anyway; where they cannot be, any other one says what all have in common.
    const changed = stale.filter(isChanged);
    const other = stale.filter((file) => !changed.includes(file)).slice(0, 1);
    for (const some of [changed, other]) {
      if (some.length === 0 || !stale.some(survey.isStale)) continue;
      const before = survey;
      const built = this.#last.then(() => this.#build(settings, some, before));
      this.#last = built.catch(() => {});
      await built;
      survey = await this.survey(settings);
    }
    return survey;
  }

  /** The project's folder of files that are served as they are, where it is known and inside the project. */
  get publicFolder(): string | null {
    const folder = this.#graph?.publicFolder;
    return folder ? shownPath(this.#root, folder) : null;
  }

  /** True for a look file that need not be built again. */
  isAtHand(file: string, survey: Survey): boolean {
    const piece = this.#pieces.get(file);
    return piece !== undefined && piece.hash === survey.hashOf(file);
  }

  /**
   * A bundle of these look files, of which only those are built again whose files have changed.
   * @throws ProblemError as `bundleLooks`
   */
  bundle(settings: Settings, files: readonly string[], survey: Survey): Promise<Bundled> {
    const built = this.#last.then(() => this.#bundle(settings, files, survey));
    this.#last = built.catch(() => {});
    return built;
  }

  async #bundle(settings: Settings, files: readonly string[], survey: Survey): Promise<Bundled> {
    const missing = files.filter((file) => !this.isAtHand(file, survey));
    const tooMany = new Set([...this.#pieces.values()].map(({ built }) => built)).size >= mostBuilds;
    const wanted = tooMany && missing.length > 0 ? files : missing;
    if (tooMany && missing.length > 0) this.#pieces.clear();
    const built = wanted.length > 0 || files.length === 0 ? await this.#build(settings, wanted, survey) : null;
    return this.#compose(files, built);
  }

  async #build(settings: Settings, files: readonly string[], before: Survey): Promise<Bundled> {
    const began = Date.now();
    if (this.#packages !== null && this.#packages !== before.packages) renewBuilder();
    this.#packages = before.packages;
    const built = await bundleLooks(this.#root, settings, files);
    for (const { file } of built.unusable) this.#pieces.delete(file);
    if (built.entries.length === 0) return { bundle: built, hashes: new Map() };
    const graph = this.#learn(built, before.key);
    // The configuration's own files are known only now.
    graph.key = (await this.survey(settings)).key;
    const after = await this.survey(settings);
    // Files that came or went meanwhile may have been seen, or not.
    const isKnown = after.paths === before.paths;
    if (isKnown) this.#keeper.write(graph);
    else this.#graph = null;
    const touched = this.#touched(graph, built, began);
    const hashes = new Map<string, string | null>();
    for (const entry of built.entries) {
      const isSettled = isKnown && filesBehind(graph, entry.file)?.every((file) => !touched.has(file));
      const hash = isSettled ? after.hashOf(entry.file) : null;
      hashes.set(entry.file, hash);
      if (hash === null) this.#pieces.delete(entry.file);
      else this.#pieces.set(entry.file, { hash, own: after.ownHashOf(entry.file), entry, built });
    }
    return { bundle: built, hashes };
  }

  #learn({ behind, configuration, publicFolder }: Bundle, key: string): Graph {
    const before = this.#graph?.key === key ? this.#graph : { closures: {}, styles: {} };
    const styles = Object.entries(behind.styles).map(([file, style]) => {
      const of = hashOfAll(this.#root, this.#inputs, style.files);
      return [file, { ...style, of }] as const;
    });
    this.#graph = {
      key,
      configuration,
      publicFolder,
      closures: { ...before.closures, ...behind.closures },
      styles: { ...before.styles, ...Object.fromEntries(styles) },
    };
    return this.#graph;
  }

  /** Files that were written while they were being built: nobody knows what was read of them. */
  #touched(graph: Graph, { entries }: Bundle, began: number): Set<string> {
    const all = new Set(entries.flatMap(({ file }) => filesBehind(graph, file) ?? []));
    return new Set(
      [...all].filter((file) => {
        const about = statSync(fullPath(this.#root, file), { throwIfNoEntry: false });
        return about === undefined || about.mtimeMs >= began;
      }),
    );
  }

  /**
   * Hashes of files that nothing imports: those of the public folder by the path that pages ask for, others by a
   * pattern from the project's root. Empty for what is not there.
   */
  hashesBeside(names: readonly string[]): Record<string, string> {
    const folder = this.#graph?.publicFolder;
    const publicHash = (path: string): string => (folder ? this.#inputs.hashOf(join(folder, path)) : '');
    return Object.fromEntries(
      names.map((name) => [name, name.startsWith('/') ? publicHash(name) : this.#hashOfPattern(name)]),
    );
  }

  #hashOfPattern(pattern: string): string {
    const found = globSync(pattern, { cwd: this.#root, ignore: '**/node_modules/**', expandDirectories: true });
    return hashOfAll(this.#root, this.#inputs, found.sort());
  }

  #compose(files: readonly string[], fresh: Bundled | null): Bundled {
    const kept = files.flatMap((file) => {
      const piece = this.#pieces.get(file);
      return piece && piece.built !== fresh?.bundle ? [piece] : [];
    });
    if (fresh && kept.length === 0) return fresh;
    const parts = [...new Set([...(fresh ? [fresh.bundle] : []), ...kept.map(({ built }) => built)])];
    const entries = [...(fresh?.bundle.entries ?? []), ...kept.map(({ entry }) => entry)];
    entries.sort((a, b) => (a.file < b.file ? -1 : 1));
    const id = createHash('sha256').update(parts.map((part) => part.id).join());
    for (const { file, script } of entries) id.update(`\n${file} ${script}`);
    return {
      bundle: {
        ...parts[0]!,
        id: id.digest('hex').slice(0, 16),
        // One of which nothing could be built knows no folder.
        publicFolder: parts.find(({ publicFolder }) => publicFolder !== null)?.publicFolder ?? null,
        files: new Map(parts.flatMap((part) => [...part.files])),
        maps: new Map(parts.flatMap((part) => [...part.maps])),
        entries,
        unusable: fresh?.bundle.unusable ?? [],
      },
      hashes: new Map([...(fresh?.hashes ?? []), ...kept.map(({ entry, hash }) => [entry.file, hash] as const)]),
    };
  }
}
