/** The components that a file offers: what it exports that can be put on a page. */
import { basename } from 'node:path';
import type ts from 'typescript';
import type { Kind } from '../core/look/kind.ts';
import type { Described } from '../core/props/described.ts';
import type { PropTypes } from '../core/props/type.ts';
import { compiler } from './compiler.ts';
import { singleProps, typedProps } from './component.ts';
import type { Converting } from './convert.ts';
import { describedIn } from './described.ts';
import { fileBehind } from './project.ts';

/** `tag` is that of a custom element which its file defines without exporting it. */
export type Offered = {
  name: string;
  isDefault: boolean;
  tag: string | null;
  types: PropTypes | null;
  described: Described;
};

/** A name for what a file exports as its default: that of the file. */
const nameOfFile = (path: string): string => {
  const words = basename(path)
    .replace(/\.\w+$/, '')
    .split(/[^A-Za-z0-9]+/);
  return words.map((word) => word.charAt(0).toUpperCase() + word.slice(1)).join('') || 'Component';
};

const isCapital = (name: string): boolean => /^[A-Z]/.test(name);

function hasDecorator(declaration: ts.Declaration | undefined, name: string): boolean {
  if (!declaration || !compiler.canHaveDecorators(declaration)) return false;
  return (compiler.getDecorators(declaration) ?? []).some(({ expression }) =>
    expression.getText().startsWith(`${name}(`),
  );
}

/** True for a class that is an element, however many classes are between. */
function isElement(type: ts.Type): boolean {
  const instance = type.getConstructSignatures()[0]?.getReturnType();
  const visit = (one: ts.Type | undefined): boolean =>
    one !== undefined && (/Element$/.test(one.symbol?.name ?? '') || (one.getBaseTypes() ?? []).some(visit));
  if (!instance) return false;
  const [declaration] = instance.symbol?.declarations ?? [];
  const above = declaration && compiler.isClassLike(declaration) ? (declaration.heritageClauses ?? []) : [];
  // Where a package is not understood, the name of what it offers says enough.
  return (
    visit(instance) ||
    above.some((clause) => clause.types.some(({ expression }) => /Element\b/.test(expression.getText())))
  );
}

function isComponent(symbol: ts.Symbol, type: ts.Type, kind: Kind): boolean {
  const declaration = symbol.valueDeclaration;
  // What others are made of is none itself.
  if (declaration && compiler.getCombinedModifierFlags(declaration) & compiler.ModifierFlags.Abstract) return false;
  if (kind === 'angular') return hasDecorator(declaration, 'Component');
  if (kind === 'dom') return isElement(type) || type.getCallSignatures().length > 0;
  const name = symbol.name === 'default' ? 'Default' : symbol.name;
  if (!isCapital(name) || type.symbol?.name === 'Context') return false;
  const isMade = type
    .getConstructSignatures()[0]
    ?.getReturnType()
    .getProperty(kind === 'vue' ? '$props' : 'props');
  return isMade !== undefined || type.getCallSignatures().some(({ parameters }) => parameters.length <= 2);
}

/** Elements that are defined under a tag, and exported by nobody. */
function defined(file: ts.SourceFile, within: Converting): Offered[] {
  const found: Offered[] = [];
  const visit = (node: ts.Node): void => {
    if (compiler.isCallExpression(node) && /(^|\.)customElements\.define$/.test(node.expression.getText(file))) {
      const [tag, made] = node.arguments;
      if (tag && made && compiler.isStringLiteralLike(tag)) {
        const { checker } = within;
        const type = checker.getTypeAtLocation(made);
        const types = typedProps(type, made, 'dom', within);
        const described = describedIn(file, checker.getSymbolAtLocation(made) ?? null, type, 'dom', checker);
        found.push({ name: tag.text, isDefault: false, tag: tag.text, types, described });
      }
    }
    compiler.forEachChild(node, visit);
  };
  visit(file);
  return found;
}

/** What a file offers: the one that is called as the file first, then its default. */
export function componentsIn(file: ts.SourceFile, kind: Kind, checker: ts.TypeChecker): Offered[] {
  const within: Converting = { checker, files: new Set() };
  const path = fileBehind(file.fileName);
  const own = nameOfFile(path);
  const isSingle = path !== file.fileName;
  const declared = isSingle ? singleProps(file, kind, within) : null;
  if (isSingle && (declared || kind !== 'vue')) {
    const described = describedIn(file, null, null, kind, checker);
    return [{ name: own, isDefault: true, tag: null, types: declared, described }];
  }
  const module = checker.getSymbolAtLocation(file);
  const found = (module ? checker.getExportsOfModule(module) : []).flatMap((one): Offered[] => {
    const symbol = one.flags & compiler.SymbolFlags.Alias ? checker.getAliasedSymbol(one) : one;
    if (!(symbol.flags & compiler.SymbolFlags.Value)) return [];
    const type = checker.getTypeOfSymbol(symbol);
    if (!isSingle && !isComponent(symbol, type, kind)) return [];
    const isDefault = one.name === 'default';
    const known = symbol.name === 'default' || !isCapital(symbol.name) ? own : symbol.name;
    const types = typedProps(type, file, kind, within);
    const described = describedIn(file, symbol, type, kind, checker);
    return [{ name: isDefault ? known : one.name, isDefault, tag: null, types, described }];
  });
  const rank = ({ name, isDefault }: Offered): number => (name === own ? 0 : isDefault ? 1 : 2);
  const all = found.length === 0 && kind === 'dom' ? defined(file, within) : found;
  return all.toSorted((a, b) => rank(a) - rank(b));
}
