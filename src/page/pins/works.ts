/** Watches over what the browser does beside the page's thread, and tells with a promise or an event. */
import { native } from '../host/natives.ts';
import { forgetWorks, workBegins } from '../works.ts';
import type { Pin } from './pin.ts';

type Method = (this: unknown, ...args: unknown[]) => unknown;

function replace(holder: object | undefined, names: readonly string[], wrap: (original: Method) => Method): void {
  const methods = holder as Record<string, Method> | undefined;
  for (const name of names) {
    const original = methods?.[name];
    if (typeof original !== 'function') continue;
    const { enumerable = true } = native.getOwnPropertyDescriptor(methods!, name) ?? {};
    native.defineProperty(methods!, name, { value: wrap(original), writable: true, configurable: true, enumerable });
  }
}

/** What is told with a promise. */
const promising = (original: Method): Method =>
  function (...args) {
    const promise = original.apply(this, args) as Promise<unknown>;
    const over = workBegins();
    // What is returned is what follows: of a promise that we hear ourselves nobody is told that it was not caught.
    return promise.finally(over);
  };

/** What is told with one of these events of what is returned, or of what it is called on. */
const telling =
  (events: readonly string[], isOfReturned: boolean) =>
  (original: Method): Method =>
    function (...args) {
      const returned = original.apply(this, args);
      const over = workBegins();
      const target = (isOfReturned ? returned : this) as EventTarget;
      for (const event of events) native.addEventListener.call(target, event, over, { once: true });
      return returned;
    };

/** What is told with one of the functions that it is given. */
const calling = (original: Method): Method =>
  function (...args) {
    const over = workBegins();
    const heard = args.map((one) =>
      typeof one === 'function'
        ? function (this: unknown, ...told: unknown[]) {
            over();
            return (one as Method).apply(this, told);
          }
        : one,
    );
    return original.apply(this, heard);
  };

/** The prototype of something that not every page has: some is there in secure contexts only. */
const prototypeOf = (name: string): object | undefined =>
  (window as unknown as Record<string, { prototype?: object } | undefined>)[name]?.prototype;

const digests = ['digest', 'encrypt', 'decrypt', 'sign', 'verify', 'generateKey', 'importKey', 'exportKey'];
const keys = ['deriveKey', 'deriveBits', 'wrapKey', 'unwrapKey'];
const cached = ['match', 'matchAll', 'add', 'addAll', 'put', 'delete', 'keys'];

export const worksPin: Pin = {
  install() {
    replace(window, ['createImageBitmap'], promising);
    replace(prototypeOf('Blob'), ['text', 'arrayBuffer', 'bytes'], promising);
    replace(prototypeOf('OffscreenCanvas'), ['convertToBlob'], promising);
    replace(prototypeOf('SubtleCrypto'), [...digests, ...keys], promising);
    replace(prototypeOf('CacheStorage'), ['open', 'match', 'has', 'delete', 'keys'], promising);
    replace(prototypeOf('Cache'), cached, promising);
    replace(prototypeOf('StorageManager'), ['estimate', 'persisted', 'getDirectory'], promising);
    replace(prototypeOf('BaseAudioContext'), ['decodeAudioData'], promising);
    const reading = ['readAsText', 'readAsDataURL', 'readAsArrayBuffer', 'readAsBinaryString'];
    replace(prototypeOf('FileReader'), reading, telling(['loadend'], false));
    replace(prototypeOf('IDBFactory'), ['open', 'deleteDatabase'], telling(['success', 'error', 'blocked'], true));
    replace(prototypeOf('IDBDatabase'), ['transaction'], telling(['complete', 'abort'], true));
    replace(prototypeOf('HTMLCanvasElement'), ['toBlob'], calling);
    replace(prototypeOf('FileSystemFileEntry'), ['file'], calling);
    replace(prototypeOf('FileSystemDirectoryReader'), ['readEntries'], calling);
  },
  begin: forgetWorks,
};
