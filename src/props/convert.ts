/** Types of TypeScript as plain values, as far as a value at run time can be held against them. */
import type ts from 'typescript';
import { compiler } from './compiler.ts';
import type { Prop, PropType } from '../core/props/type.ts';
import { instances, platformFile } from './platform.ts';

/** What is found out beside the type itself: the files in which it is declared. */
export type Converting = { checker: ts.TypeChecker; files: Set<string> };

/** Types are looked into so deep, and no further. */
const deepest = 6;
/** So many entries of an object, or members of a union, are worth listing. */
const mostEntries = 200;
const mostMembers = 100;

const anything: PropType = { is: 'anything' };

/** What frameworks call that which they can draw. */
const contents = new Set(['ReactNode', 'ReactElement', 'ReactPortal', 'JSX.Element', 'VNode', 'VNodeChild', 'Snippet']);
const contentSymbols = new Set([...contents, 'Element', 'TemplateResult', 'TemplateRef']);

const isPackaged = (file: string): boolean => /[\\/]node_modules[\\/]/.test(file);

/** Types of which everything is declared by a framework or the platform, such as the attributes of a button. */
const inFramework =
  /[\\/]node_modules[\\/](@types[\\/](react|react-dom|node)|@?(vue|svelte|preact|angular|typescript))[\\/]/;

const isPlatform = (file: string): boolean =>
  file === platformFile || inFramework.test(file) || /[\\/]lib\.[\w.]+\.d\.ts$/.test(file);

const filesOf = (symbol: ts.Symbol | undefined): string[] =>
  (symbol?.declarations ?? []).map((one) => one.getSourceFile().fileName);

function note(symbol: ts.Symbol | undefined, { files }: Converting): void {
  for (const file of filesOf(symbol)) if (!isPackaged(file) && !isPlatform(file)) files.add(file);
}

const hearing = (returned: ts.Type): boolean => {
  if (returned.flags & (compiler.TypeFlags.Void | compiler.TypeFlags.Undefined)) return true;
  if (returned.isUnion()) return returned.types.every(hearing);
  const [of] = (returned as ts.TypeReference).typeArguments ?? [];
  return returned.symbol?.name === 'Promise' && of !== undefined && hearing(of);
};

function functionType(type: ts.Type, { checker }: Converting): PropType {
  const [signature] = type.getCallSignatures();
  const text = checker.typeToString(type, undefined, compiler.TypeFormatFlags.NoTruncation);
  return {
    is: 'function',
    hears: signature !== undefined && hearing(signature.getReturnType()),
    text: text.length > 200 ? `${text.slice(0, 199)}…` : text,
  };
}

function unionType(type: ts.UnionType, within: Converting, above: readonly ts.Type[]): PropType {
  if (type.types.length > mostMembers) return anything;
  const members: PropType[] = [];
  for (const one of type.types) {
    const member = visit(one, within, above);
    if (member.is === 'anything' || member.is === 'content') return member;
    members.push(member);
  }
  const isBoolean = (value: boolean) => (one: PropType) => one.is === 'value' && one.value === value;
  if (members.some(isBoolean(true)) && members.some(isBoolean(false))) {
    const rest = members.filter((one) => !(one.is === 'value' && typeof one.value === 'boolean'));
    return rest.length === 0 ? { is: 'boolean' } : { is: 'one', of: [{ is: 'boolean' }, ...rest] };
  }
  return { is: 'one', of: members };
}

/** Without `undefined`, where an entry need not be there at all. */
function withoutUndefined(type: PropType): PropType {
  if (type.is !== 'one') return type;
  const rest = type.of.filter(({ is }) => is !== 'undefined');
  return rest.length === 1 ? rest[0]! : { is: 'one', of: rest };
}

/** An entry of an object type. */
export function propOf(symbol: ts.Symbol, type: ts.Type, within: Converting, above: readonly ts.Type[] = []): Prop {
  note(symbol, within);
  const isOptional = (symbol.flags & compiler.SymbolFlags.Optional) !== 0;
  const found = visit(type, within, above);
  const files = filesOf(symbol);
  const isOwn = files.length === 0 || files.some((file) => !isPackaged(file) && !isPlatform(file));
  return { type: isOptional ? withoutUndefined(found) : found, isOptional, isOwn };
}

function objectType(type: ts.Type, within: Converting, above: readonly ts.Type[]): PropType {
  const { checker } = within;
  const entries: Record<string, Prop> = {};
  for (const symbol of checker.getPropertiesOfType(type)) {
    if (Object.keys(entries).length >= mostEntries) break;
    const files = filesOf(symbol);
    const isOptional = (symbol.flags & compiler.SymbolFlags.Optional) !== 0;
    // The attributes that every element can have say nothing of this component.
    if (isOptional && files.length > 0 && files.every(isPlatform)) continue;
    if (symbol.name.startsWith('__@') || symbol.name.startsWith('#')) continue;
    entries[symbol.name] = propOf(symbol, checker.getTypeOfSymbol(symbol), within, above);
  }
  const others = checker.getIndexInfoOfType(type, compiler.IndexKind.String);
  const name = type.aliasSymbol?.name ?? type.symbol?.name ?? '';
  return {
    is: 'object',
    name: name.startsWith('__') ? '' : name,
    entries,
    others: others ? visit(others.type, within, above) : null,
  };
}

/** What is drawn, or made by a class of others: told by its name. */
function knownByName(type: ts.Type): PropType | null {
  const alias = type.aliasSymbol?.name ?? '';
  const name = type.symbol?.name ?? '';
  const files = filesOf(type.aliasSymbol ?? type.symbol);
  const isForeign = files.length > 0 && files.every((file) => isPackaged(file) || isPlatform(file));
  if (!isForeign) return null;
  if (contents.has(alias) || contentSymbols.has(name)) return { is: 'content' };
  if (instances.includes(name)) return { is: 'instance', name };
  return null;
}

function visit(type: ts.Type, within: Converting, above: readonly ts.Type[]): PropType {
  const { checker } = within;
  note(type.aliasSymbol, within);
  note(type.symbol, within);
  const { flags } = type;
  if (flags & (compiler.TypeFlags.Any | compiler.TypeFlags.Unknown)) return anything;
  if (flags & compiler.TypeFlags.Null) return { is: 'null' };
  if (flags & (compiler.TypeFlags.Undefined | compiler.TypeFlags.Void)) return { is: 'undefined' };
  if (flags & compiler.TypeFlags.Never) return { is: 'one', of: [] };
  if (type.isStringLiteral() || type.isNumberLiteral()) return { is: 'value', value: type.value };
  if (flags & compiler.TypeFlags.BooleanLiteral) return { is: 'value', value: checker.typeToString(type) === 'true' };
  if (flags & compiler.TypeFlags.StringLike) return { is: 'text' };
  if (flags & compiler.TypeFlags.NumberLike) return { is: 'number' };
  if (flags & compiler.TypeFlags.Boolean) return { is: 'boolean' };
  const known = knownByName(type);
  if (known) return known;
  if (type.isUnion()) return unionType(type, within, above);
  if (flags & compiler.TypeFlags.TypeParameter) {
    const limit = checker.getBaseConstraintOfType(type);
    return limit && limit !== type ? visit(limit, within, above) : anything;
  }
  // A text that is marked as one of its kind is a text.
  const plain =
    type.isIntersection() &&
    type.types.find((one) => one.flags & (compiler.TypeFlags.StringLike | compiler.TypeFlags.NumberLike));
  if (plain) return visit(plain, within, above);
  if (!(flags & (compiler.TypeFlags.Object | compiler.TypeFlags.Intersection))) return anything;
  if (above.length >= deepest || above.includes(type)) return anything;
  const inner = [...above, type];
  if (type.getCallSignatures().length > 0 || type.symbol?.name === 'Function') return functionType(type, within);
  if (checker.isTupleType(type)) {
    const of = checker.getTypeArguments(type as ts.TypeReference).map((one) => visit(one, within, inner));
    const { target } = type as ts.TupleTypeReference;
    if (target.hasRestElement || target.combinedFlags & compiler.ElementFlags.Variable)
      return { is: 'list', of: anything };
    return { is: 'row', of, least: target.minLength };
  }
  if (checker.isArrayType(type)) {
    const [of] = checker.getTypeArguments(type as ts.TypeReference);
    return { is: 'list', of: of ? visit(of, within, inner) : anything };
  }
  // What only a package or the platform declares is left to them.
  const files = filesOf(type.symbol);
  const isForeign = files.length > 0 && files.every((file) => isPackaged(file) || isPlatform(file));
  if (isForeign && above.length > 0 && !type.aliasSymbol) return anything;
  return objectType(type, within, inner);
}

/** A type as a plain value; files in which it is declared are added to `within.files`. */
export const converted = (type: ts.Type, within: Converting): PropType => visit(type, within, []);
