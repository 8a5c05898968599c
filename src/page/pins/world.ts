/** The page's world: the platform's own functions and globals. A look that replaces one of them spoils its document. */
import { native } from '../host/natives.ts';
import type { Pin } from './pin.ts';
import { constructors, interfaces, objects } from './platform.ts';

const { getOwnPropertyDescriptor, ownKeys } = native;

/** Names of the window that were there before anything of the project. */
let ofBrowser: ReadonlySet<PropertyKey> = new Set();

const isConstructor = (key: PropertyKey): boolean => typeof key === 'string' && /^(?:[A-Z]|webkit[A-Z])/.test(key);

/** A property as it was: a value, or the functions that get and set it. */
type Property = { key: PropertyKey; isAccessor: boolean; value: unknown; setter: unknown };

/** An object with its own properties: the names of all, and those that can be changed. */
type Holder = { path: string; object: Record<PropertyKey, unknown>; keys: PropertyKey[]; properties: Property[] };

let holders: Holder[] = [];

function remember(path: string, object: object, isLeft = (_: PropertyKey): boolean => false): Holder {
  const keys = ownKeys(object);
  const properties: Property[] = [];
  for (const key of keys) {
    if (isLeft(key)) continue;
    const { value, get, set, writable, configurable } = getOwnPropertyDescriptor(object, key)!;
    const isAccessor = get !== undefined || set !== undefined;
    // Thousands of constants need not be looked at after every look.
    if (!configurable && (isAccessor || !writable)) continue;
    properties.push({ key, isAccessor, value: isAccessor ? get : value, setter: set });
  }
  return { path, object: object as Holder['object'], keys, properties };
}

/** Globals that change by themselves. */
const restless = new Set<PropertyKey>(['event', 'name', 'status']);

function snapshot(): Holder[] {
  const looked = new Set<PropertyKey>([...interfaces, ...constructors, ...objects]);
  const isLeft = (key: PropertyKey): boolean => isConstructor(key) && ofBrowser.has(key) && !looked.has(key);
  const found: Holder[] = [remember('', window, isLeft), remember('document', document)];
  const globals = window as unknown as Record<string, { prototype?: object } | undefined>;
  for (const name of interfaces) {
    const value = globals[name];
    if (!value) continue;
    found.push(remember(name, value));
    if (value.prototype) found.push(remember(`${name}.prototype`, value.prototype));
  }
  for (const name of objects) if (globals[name]) found.push(remember(name, globals[name] as object));
  return found;
}

/** A property that holds nothing is as good as none: frameworks set some for a moment and put `undefined` back. */
const isNothing = (a: PropertyDescriptor | undefined): boolean =>
  a === undefined || (a.value === undefined && a.get === undefined && a.set === undefined);

/** They make no object for each answer: a fingerprint of thousands of properties must cost next to nothing. */
const { getterOf, setterOf, is } = native;

function isAsBefore(object: Holder['object'], { key, isAccessor, value, setter }: Property): boolean {
  // A setter is not given to what had none: two thirds of them need not be asked for.
  if (isAccessor)
    return getterOf.call(object, key) === value && (setter === undefined || setterOf.call(object, key) === setter);
  const now = object[key];
  return now === value || is(now, value);
}

const nameOf = (path: string, key: PropertyKey): string => {
  const name = typeof key === 'symbol' ? `[${key.description}]` : `${String(key)}`;
  return path === '' ? name : `${path}.${name}`;
};

/**
 * Libraries mark the document that they listen on, and keep things of their own under symbols: no harm to the next
 * look.
 */
const isMark = (path: string, key: PropertyKey): boolean =>
  (path === 'document' && typeof key === 'string' && /^_react|^__react/.test(key)) ||
  (path === '' && typeof key === 'symbol');

// Only what was taken beforehand is used from here on: this looks at functions that a look may have replaced.
function differences({ path, object, keys, properties }: Holder): PropertyKey[] {
  const different: PropertyKey[] = [];
  for (let i = 0; i < properties.length; i++) {
    const property = properties[i]!;
    if (!isAsBefore(object, property) && !(path === '' && restless.has(property.key)))
      different[different.length] = property.key;
  }
  const now = ownKeys(object);
  // What is new stands behind what was there: the search begins where the two part.
  let from = 0;
  while (from < now.length && now[from] === keys[from]) from++;
  for (let i = from; i < now.length; i++) {
    const key = now[i]!;
    let known = isMark(path, key) || isNothing(getOwnPropertyDescriptor(object, key));
    for (let j = 0; j < keys.length && !known; j++) known = keys[j] === key;
    if (!known) different[different.length] = key;
  }
  return different;
}

/** What is no object, and no function: nothing else can hold on to it. */
const isPlain = (value: unknown): boolean =>
  value === null || (typeof value !== 'object' && typeof value !== 'function');

/** Takes back plain values of the window: a flag that a library has set in one look is not set when the next begins. */
function takeBack({ object, properties }: Holder, changed: PropertyKey[]): void {
  for (let i = 0; i < changed.length; i++) {
    const key = changed[i]!;
    const { value, writable, configurable } = getOwnPropertyDescriptor(object, key) ?? {};
    if (!writable || !configurable || !isPlain(value)) continue;
    let at = 0;
    while (at < properties.length && properties[at]!.key !== key) at++;
    const before = properties[at];
    if (!before) delete object[key];
    else if (!before.isAccessor && isPlain(before.value)) object[key] = before.value;
  }
}

let found: string[] = [];

/** Looks for what has been replaced since the look file was evaluated, in the holders `from` one on. */
function look(from = 0): void {
  found = [];
  for (let i = from; i < holders.length; i++) {
    const { path } = holders[i]!;
    const different = differences(holders[i]!);
    for (let j = 0; j < different.length; j++) found[found.length] = nameOf(path, different[j]!);
  }
}

/** What is replaced now; for a look that could not even be ended. */
export function replacedNow(): string[] {
  try {
    look();
  } catch {
    // Then it is something that looking itself needs.
    found[found.length] = 'functions that all code needs';
  }
  return found;
}

/** What the look has replaced of the platform, such as `Array.prototype.push`; for the look's own notes. */
export const replacedNatives = (): string[] => found.filter((name) => name.includes('.'));

export const world: Pin = {
  install() {
    ofBrowser = new Set(ownKeys(window));
  },
  settle() {
    holders = snapshot();
  },
  isMarked() {
    look();
    return found.length > 0;
  },
  end() {
    const ofWindow = differences(holders[0]!);
    if (ofWindow.length > 0) takeBack(holders[0]!, ofWindow);
    look(ofWindow.length > 0 ? 0 : 1);
    const left: string[] = [];
    for (let i = 0; i < found.length; i++) left[i] = `it replaced ${found[i]}`;
    return left;
  },
};
