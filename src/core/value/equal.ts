/**
 * Equality of values as a person would see it: two files of one name, type and content are the same file, two errors of
 * one name and message the same error, two elements are the same only when they are one.
 */

/** What is known of the bytes of blobs and files, which can be read only asynchronously. */
export type Contents = ReadonlyMap<object, Uint8Array>;

const noContents: Contents = new Map();

/** What an object is to the language itself, whatever realm it comes from: `Date`, `Map`, `File`. */
const kindOf = (value: object): string => Object.prototype.toString.call(value).slice(8, -1);

/** Every blob and file in a value. */
export function blobsIn(value: unknown, found: Set<object> = new Set(), seen: Set<object> = new Set()): Set<object> {
  if (typeof value !== 'object' || value === null || seen.has(value)) return found;
  seen.add(value);
  const kind = kindOf(value);
  if (kind === 'Blob' || kind === 'File') found.add(value);
  else if (kind === 'Map' || kind === 'Set' || kind === 'FormData')
    for (const one of value as Iterable<unknown>) blobsIn(one, found, seen);
  else if (kind === 'Object' || kind === 'Array') for (const one of Object.values(value)) blobsIn(one, found, seen);
  return found;
}

/** A pattern's answer, whatever flags it has: `g` and `y` keep a place from one use to the next. */
export const matches = (pattern: RegExp, text: string): boolean =>
  new RegExp(pattern.source, pattern.flags.replace(/[gy]/g, '')).test(text);

const sameBytes = (a: ArrayLike<number>, b: ArrayLike<number>): boolean => {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};

type BlobLike = { size: number; type: string; name?: string };

function sameBlob(a: BlobLike, b: BlobLike, contents: Contents): boolean {
  if (a.size !== b.size || a.type !== b.type || a.name !== b.name) return false;
  const [bytesA, bytesB] = [contents.get(a), contents.get(b)];
  return bytesA !== undefined && bytesB !== undefined && sameBytes(bytesA, bytesB);
}

/** How values are compared: what is known of blobs, and whether records may hold more than what is wanted. */
type How = { contents: Contents; loose: boolean };

/** Pairs that are being compared: a value that holds itself equals one that does so at the same place. */
type Open = [object, object][];

const keysOf = (value: object): PropertyKey[] =>
  Reflect.ownKeys(value).filter((key) => Object.prototype.propertyIsEnumerable.call(value, key));

const read = (from: object, key: PropertyKey): unknown => (from as Record<PropertyKey, unknown>)[key];

function sameEntries(a: object, b: object, how: How, open: Open): boolean {
  const keys = keysOf(b);
  if (!how.loose && keysOf(a).length !== keys.length) return false;
  // What a class gives its instances counts when only some entries are asked for.
  const has = (key: PropertyKey): boolean => (how.loose ? key in a : Object.hasOwn(a, key));
  return keys.every((key) => has(key) && visit(read(a, key), read(b, key), how, open));
}

/** Order is no part of a set or a map: each entry of one has a partner in the other. */
function samePool(a: readonly unknown[], b: readonly unknown[], how: How, open: Open): boolean {
  if (how.loose ? a.length < b.length : a.length !== b.length) return false;
  const rest = [...a];
  return b.every((wanted) => {
    const at = rest.findIndex((other) => visit(other, wanted, how, open));
    if (at >= 0) rest.splice(at, 1);
    return at >= 0;
  });
}

const bytesOf = (value: ArrayBufferView | ArrayBuffer): Uint8Array =>
  ArrayBuffer.isView(value) ? new Uint8Array(value.buffer, value.byteOffset, value.byteLength) : new Uint8Array(value);

type ErrorLike = { name: string; message: string; cause?: unknown };

/** True for records: objects of no class, whatever realm they come from. */
const isPlain = (value: object): boolean => {
  const prototype = Object.getPrototypeOf(value) as object | null;
  return prototype === null || Object.getPrototypeOf(prototype) === null;
};

function sameObjects(a: object, b: object, how: How, open: Open): boolean {
  const kind = kindOf(a);
  if (how.loose && isPlain(b) && kindOf(b) === 'Object') return sameEntries(a, b, how, open);
  if (kind !== kindOf(b)) return false;
  switch (kind) {
    case 'Date':
      return Object.is((a as Date).getTime(), (b as Date).getTime());
    case 'RegExp':
      return String(a) === String(b);
    case 'Number':
    case 'String':
    case 'Boolean':
    case 'BigInt':
    case 'Symbol':
      return Object.is(a.valueOf(), b.valueOf()) && sameEntries(a, b, how, open);
    case 'Map':
      return samePool([...(a as Map<unknown, unknown>)], [...(b as Map<unknown, unknown>)], how, open);
    case 'Set':
      return samePool([...(a as Set<unknown>)], [...(b as Set<unknown>)], how, open);
    case 'ArrayBuffer':
    case 'SharedArrayBuffer':
    case 'DataView':
      return sameBytes(bytesOf(a as ArrayBuffer | DataView), bytesOf(b as ArrayBuffer | DataView));
    case 'Blob':
    case 'File':
      return sameBlob(a as BlobLike, b as BlobLike, how.contents);
    case 'URL':
    case 'URLSearchParams':
      return String(a) === String(b);
    case 'FormData':
    case 'Headers':
      return visit([...(a as Iterable<unknown>)], [...(b as Iterable<unknown>)], how, open);
    case 'Error':
    case 'DOMException': {
      const [one, other] = [a as ErrorLike, b as ErrorLike];
      return (
        one.name === other.name &&
        one.message === other.message &&
        visit(one.cause, other.cause, how, open) &&
        sameEntries(a, b, how, open)
      );
    }
  }
  if (ArrayBuffer.isView(a)) return sameBytes(bytesOf(a), bytesOf(b as ArrayBufferView));
  if (kind === 'Array') return (a as unknown[]).length === (b as unknown[]).length && sameEntries(a, b, how, open);
  // What else an object holds may be hidden in private fields: those of classes not known here are equal when they
  // are one.
  return isPlain(a) && isPlain(b) && sameEntries(a, b, how, open);
}

function visit(actual: unknown, wanted: unknown, how: How, open: Open): boolean {
  if (Object.is(actual, wanted)) return true;
  if (typeof wanted !== 'object' || wanted === null) return false;
  if (typeof actual === 'string') return kindOf(wanted) === 'RegExp' && matches(wanted as RegExp, actual);
  if (typeof actual !== 'object' || actual === null) return false;
  if (open.some(([one, other]) => one === actual && other === wanted)) return true;
  return sameObjects(actual, wanted, how, [...open, [actual, wanted]]);
}

/**
 * True when `actual` is what a person would call the wanted value. A pattern as the wanted value, or inside it,
 * matches a text. The bytes of blobs are taken from `contents`; without them two different blobs are never equal.
 */
export const equal = (actual: unknown, wanted: unknown, contents: Contents = noContents): boolean =>
  visit(actual, wanted, { contents, loose: false }, []);

/**
 * True when `actual` is what is wanted as far as that goes: records in it may hold more entries, maps and sets more
 * members. Lists have as many.
 */
export const matchesLoosely = (actual: unknown, wanted: unknown, contents: Contents = noContents): boolean =>
  visit(actual, wanted, { contents, loose: true }, []);

/** True for records: values whose entries can be told one by one. */
export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && kindOf(value) === 'Object' && isPlain(value);
