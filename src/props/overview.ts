/** The components of a project at a glance, by the looks of their source alone: types are not asked. */
import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import type ts from 'typescript';
import type { Kind } from '../core/look/kind.ts';
import { compiler } from './compiler.ts';
import { isSingleFile, scriptsOf } from './single.ts';

/** A file of components: the one it is for, how many files import it, and whether looks of it are among those. */
export type Seen = { path: string; component: string; imports: number; hasLooks: boolean };

/** Files, which of them are look files, and how names of modules lead to files. */
export type Sight = {
  files: readonly { path: string; kind: Kind }[];
  lookFiles: readonly string[];
  resolve(name: string, from: string): string | null;
};

const nameOf = (path: string): string => basename(path).replace(/\.\w+$/, '');

const isMarked = (node: ts.Node, mark: ts.SyntaxKind): boolean =>
  compiler.canHaveModifiers(node) && (compiler.getModifiers(node) ?? []).some(({ kind }) => kind === mark);

/** Names of the functions, classes and constants that a module exports where it declares them. */
function exportsOf(file: ts.SourceFile): string[] {
  return file.statements.flatMap((one): string[] => {
    if (compiler.isExportAssignment(one))
      return [compiler.isIdentifier(one.expression) ? one.expression.text : nameOf(file.fileName)];
    if (compiler.isExportDeclaration(one) && one.exportClause && compiler.isNamedExports(one.exportClause))
      return one.moduleSpecifier ? [] : one.exportClause.elements.map(({ name }) => name.text);
    // An abstract class is what others are made of.
    if (!isMarked(one, compiler.SyntaxKind.ExportKeyword) || isMarked(one, compiler.SyntaxKind.AbstractKeyword))
      return [];
    if (compiler.isFunctionDeclaration(one) || compiler.isClassDeclaration(one))
      return [one.name?.text ?? nameOf(file.fileName)];
    if (!compiler.isVariableStatement(one)) return [];
    return one.declarationList.declarations.flatMap(({ name }) => (compiler.isIdentifier(name) ? [name.text] : []));
  });
}

/** What a component of a kind cannot be without. */
const marks: Record<Kind, RegExp> = {
  react: /<\/|\/>|createElement\(/,
  vue: /defineComponent\(|\bh\(/,
  svelte: /(?!)/,
  angular: /@Component\(/,
  dom: /extends\s+\w*Element\b|customElements\.define\(/,
};

function componentIn(path: string, kind: Kind, source: string, file: ts.SourceFile): string | null {
  if (isSingleFile(path)) return nameOf(path);
  if (!marks[kind].test(source)) return null;
  const names = exportsOf(file).filter((name) => /^[A-Z]/.test(name) && !/^[A-Z\d_]+$/.test(name));
  const own = names.find((name) => name === nameOf(path)) ?? names[0];
  return own ?? (/customElements\.define\(\s*['"]([\w-]+)/.exec(source)?.[1] || null);
}

function importedBy(file: ts.SourceFile): string[] {
  const names: string[] = [];
  for (const one of file.statements)
    if (
      (compiler.isImportDeclaration(one) || compiler.isExportDeclaration(one)) &&
      one.moduleSpecifier &&
      compiler.isStringLiteral(one.moduleSpecifier)
    )
      names.push(one.moduleSpecifier.text);
  for (const [, name] of file.text.matchAll(/\bimport\(\s*['"]([^'"]+)['"]\s*\)/g)) names.push(name!);
  return names;
}

/** Reads the files, those that cannot be read left out. */
export function overview({ files, lookFiles, resolve }: Sight): Seen[] {
  const looks = new Set(lookFiles);
  const importers = new Map<string, Set<string>>();
  const found: { path: string; component: string }[] = [];
  for (const { path, kind } of [...files, ...lookFiles.map((look) => ({ path: look, kind: 'react' as const }))]) {
    let source: string;
    try {
      source = readFileSync(path, 'utf8');
    } catch {
      continue;
    }
    const code = isSingleFile(path) ? scriptsOf(source) : source;
    const shown = isSingleFile(path) ? `${path}.ts` : path;
    const file = compiler.createSourceFile(shown, code, compiler.ScriptTarget.ESNext, false);
    const component = looks.has(path) ? null : componentIn(path, kind, source, file);
    if (component) found.push({ path, component });
    for (const name of importedBy(file)) {
      const target = resolve(name, path);
      if (target) importers.set(target, (importers.get(target) ?? new Set()).add(path));
    }
  }
  return found.map(({ path, component }) => {
    const by = [...(importers.get(path) ?? [])];
    const lookedAt = by.filter((one) => looks.has(one));
    return { path, component, imports: by.length - lookedAt.length, hasLooks: lookedAt.length > 0 };
  });
}
