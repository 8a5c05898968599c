/** A project as TypeScript sees it: its files as they are now, and what each of them imports. */
import { existsSync, readFileSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type ts from 'typescript';
import { compiler, compilerFile } from './compiler.ts';
import { neededIn } from './needed.ts';
import { platform, platformFile } from './platform.ts';
import { isSingleFile, scriptsOf } from './single.ts';

export type Project = {
  /** A program of these files as they are now, and of what they import. */
  program(files: readonly string[]): ts.Program;
  /** The file that a name leads to, of a package or not; null for none. */
  resolve(name: string, from: string): string | null;
  /** The files that a file imports, those of packages left out. */
  importsOf(file: string): readonly string[];
};

/** TypeScript looks for `X.vue.ts` where `X.vue` is imported: it finds the scripts of that file. */
const isShadow = (path: string): boolean => path.endsWith('.ts') && isSingleFile(path.slice(0, -3));

/** The file behind what TypeScript sees. */
export const fileBehind = (path: string): string => (isShadow(path) ? path.slice(0, -3) : path);

const forced: ts.CompilerOptions = {
  noEmit: true,
  allowJs: true,
  checkJs: false,
  strict: true,
  skipLibCheck: true,
  skipDefaultLibCheck: true,
  types: [],
  lib: ['lib.es2015.d.ts'],
  target: compiler.ScriptTarget.ESNext,
  module: compiler.ModuleKind.ESNext,
  moduleResolution: compiler.ModuleResolutionKind.Bundler,
  jsx: compiler.JsxEmit.Preserve,
  allowImportingTsExtensions: true,
  resolveJsonModule: true,
};

/** A configuration may only point at others, of which one is for the sources: `tsconfig.app.json`, mostly. */
function pathsIn(config: string, seen: readonly string[] = []): ts.CompilerOptions {
  const { config: read } = compiler.readConfigFile(config, compiler.sys.readFile);
  const { options } = compiler.parseJsonConfigFileContent(
    read ?? {},
    { ...compiler.sys, readDirectory: () => [] },
    dirname(config),
  );
  const { baseUrl, paths, pathsBasePath, jsxImportSource } = options;
  if (paths || !Array.isArray(read?.references)) return { baseUrl, paths, pathsBasePath, jsxImportSource };
  for (const { path } of read.references as { path?: unknown }[]) {
    if (typeof path !== 'string') continue;
    const other = [join(dirname(config), path), join(dirname(config), path, 'tsconfig.json')].find(
      (one) => existsSync(one) && statSync(one).isFile(),
    );
    const found = other && !seen.includes(other) ? pathsIn(other, [...seen, config]) : {};
    if (found.paths) return found;
  }
  return { jsxImportSource };
}

function optionsOf(root: string): ts.CompilerOptions {
  const config =
    compiler.findConfigFile(root, existsSync) ?? compiler.findConfigFile(root, existsSync, 'jsconfig.json');
  return { ...(config ? pathsIn(config) : {}), ...forced };
}

const stamp = (path: string): string => {
  const about = statSync(fileBehind(path), { throwIfNoEntry: false });
  return about ? `${about.mtimeMs} ${about.size}` : '';
};

const contentOf = (path: string): string | undefined => {
  if (path === platformFile) return platform;
  try {
    const content = readFileSync(fileBehind(path), 'utf8');
    return isShadow(path) ? scriptsOf(content) : content;
  } catch {
    return undefined;
  }
};

/** What TypeScript knows of the platform lies beside it. */
const libraries = dirname(compilerFile);

/**
 * What is not looked into: our own types, files without any, and a package of a megabyte that lists what may stand in
 * style sheets.
 */
const left = /^(sguardo(\/.*)?|csstype)$|\.(css|scss|sass|less|styl|svg|png|jpe?g|webp|avif|gif|woff2?)(\?|$)/;

/** Comments are nine tenths of what packages declare, and say nothing of types outside of JavaScript. */
const jsDocParsingMode = compiler.JSDocParsingMode.ParseForTypeInfo;

/** What was read once is known to every project that has it, too: the platform, and shared packages. */
const documents = compiler.createDocumentRegistry(true, undefined, jsDocParsingMode);

/** Opens a project. Files that were read before are read again only when they have changed. */
export function openProject(root: string): Project {
  const imports = new Map<string, string[]>();
  let files: readonly string[] = [];
  let options = optionsOf(root);
  let cache = compiler.createModuleResolutionCache(root, (name) => name, options);
  const resolve = (name: string, from: string): ts.ResolvedModuleFull | undefined => {
    if (left.test(name)) return undefined;
    const host = {
      ...compiler.sys,
      fileExists: (path: string) => (isShadow(path) ? existsSync(fileBehind(path)) : existsSync(path)),
    };
    const { resolvedModule } = compiler.resolveModuleName(name, from, options, host, cache);
    return resolvedModule;
  };
  const host: ts.LanguageServiceHost = {
    getCompilationSettings: () => options,
    getScriptFileNames: () => [platformFile, ...files],
    getScriptVersion: stamp,
    getScriptSnapshot(path) {
      const content = contentOf(path);
      return content === undefined ? undefined : compiler.ScriptSnapshot.fromString(content);
    },
    jsDocParsingMode,
    getCurrentDirectory: () => root,
    getDefaultLibFileName: () => join(libraries, 'lib.d.ts'),
    fileExists: (path) => path === platformFile || existsSync(fileBehind(path)),
    readFile: contentOf,
    resolveModuleNameLiterals(literals, from, _redirected, _options, file) {
      const isNeeded = neededIn(file);
      const found = literals.map((name) => ({ resolvedModule: isNeeded(name) ? resolve(name.text, from) : undefined }));
      const own = found.flatMap(({ resolvedModule: one }) =>
        one && !one.isExternalLibraryImport ? [one.resolvedFileName] : [],
      );
      imports.set(from, own);
      return found;
    },
  };
  const service = compiler.createLanguageService(host, documents);
  return {
    program(wanted) {
      files = wanted;
      // Files may have come or gone since the last time.
      options = optionsOf(root);
      cache = compiler.createModuleResolutionCache(root, (name) => name, options);
      return service.getProgram()!;
    },
    resolve(name, from) {
      const found = resolve(name, from)?.resolvedFileName;
      return found === undefined ? null : fileBehind(found);
    },
    importsOf: (file) => imports.get(file) ?? [],
  };
}
