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

/** Pairs that are being compared: a value that holds itself equals one that does so at the same place. */
type Open = [object, object][];

function sameEntries(a: object, b: object, contents: Contents, open: Open): boolean {
  const keys = Reflect.ownKeys(a).filter((key) => Object.prototype.propertyIsEnumerable.call(a, key));
  const others = Reflect.ownKeys(b).filter((key) => Object.prototype.propertyIsEnumerable.call(b, key));
  if (keys.length !== others.length) return false;
  const read = (from: object, key: PropertyKey): unknown => (from as Record<PropertyKey, unknown>)[key];
  return keys.every((key) => Object.hasOwn(b, key) && visit(read(a, key), read(b, key), contents, open));
}

/** Order is no part of a set or a map: each entry of one has a partner in the other. */
function samePool(a: readonly unknown[], b: readonly unknown[], contents: Contents, open: Open): boolean {
  if (a.length !== b.length) return false;
  const rest = [...b];
  return a.every((one) => {
    const at = rest.findIndex((other) => visit(one, other, contents, open));
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

function sameObjects(a: object, b: object, contents: Contents, open: Open): boolean {
  const kind = kindOf(a);
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
      return Object.is(a.valueOf(), b.valueOf()) && sameEntries(a, b, contents, open);
    case 'Map':
      return samePool([...(a as Map<unknown, unknown>)], [...(b as Map<unknown, unknown>)], contents, open);
    case 'Set':
      return samePool([...(a as Set<unknown>)], [...(b as Set<unknown>)], contents, open);
    case 'ArrayBuffer':
    case 'SharedArrayBuffer':
    case 'DataView':
      return sameBytes(bytesOf(a as ArrayBuffer | DataView), bytesOf(b as ArrayBuffer | DataView));
    case 'Blob':
    case 'File':
      return sameBlob(a as BlobLike, b as BlobLike, contents);
    case 'URL':
    case 'URLSearchParams':
      return String(a) === String(b);
    case 'FormData':
    case 'Headers':
      return visit([...(a as Iterable<unknown>)], [...(b as Iterable<unknown>)], contents, open);
    case 'Error':
    case 'DOMException': {
      const [one, other] = [a as ErrorLike, b as ErrorLike];
      return (
        one.name === other.name &&
        one.message === other.message &&
        visit(one.cause, other.cause, contents, open) &&
        sameEntries(a, b, contents, open)
      );
    }
  }
  if (ArrayBuffer.isView(a)) return sameBytes(bytesOf(a), bytesOf(b as ArrayBufferView));
  if (kind === 'Array') return (a as unknown[]).length === (b as unknown[]).length && sameEntries(a, b, contents, open);
  // What else an object holds may be hidden in private fields: those of classes not known here are equal when they
  // are one.
  return isPlain(a) && isPlain(b) && sameEntries(a, b, contents, open);
}

function visit(actual: unknown, wanted: unknown, contents: Contents, open: Open): boolean {
  if (Object.is(actual, wanted)) return true;
  if (typeof wanted !== 'object' || wanted === null) return false;
  if (typeof actual === 'string') return kindOf(wanted) === 'RegExp' && matches(wanted as RegExp, actual);
  if (typeof actual !== 'object' || actual === null) return false;
  if (open.some(([one, other]) => one === actual && other === wanted)) return true;
  return sameObjects(actual, wanted, contents, [...open, [actual, wanted]]);
}

/**
 * True when `actual` is what a person would call the wanted value. A pattern as the wanted value, or inside it,
 * matches a text. The bytes of blobs are taken from `contents`; without them two different blobs are never equal.
 */
export const equal = (actual: unknown, wanted: unknown, contents: Contents = noContents): boolean =>
  visit(actual, wanted, contents, []);
