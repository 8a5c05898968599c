/** What a page can keep beyond a look: storage, cookies, databases, caches. */
import type { Pin } from './pin.ts';

/** Databases and caches that the look has opened. */
let opened: string[] = [];

/** A cookie's path is where the document was loaded from, unless it was given another one. */
function clearCookie(name: string): void {
  const past = 'expires=Thu, 01 Jan 1970 00:00:00 GMT';
  // biome-ignore lint/suspicious/noDocumentCookie: the Cookie Store API is asynchronous
  for (const path of name ? ['', ';path=/'] : []) document.cookie = `${name}=;${past}${path}`;
}

export const storage: Pin = {
  install() {
    const openDatabase = IDBFactory.prototype.open;
    IDBFactory.prototype.open = function (name, version) {
      opened.push(`the database “${name}”`);
      return version === undefined ? openDatabase.call(this, name) : openDatabase.call(this, name, version);
    };
    const openCache = CacheStorage.prototype.open;
    CacheStorage.prototype.open = function (name) {
      opened.push(`the cache “${name}”`);
      return openCache.call(this, name);
    };
    const getDirectory = StorageManager.prototype.getDirectory;
    StorageManager.prototype.getDirectory = function () {
      opened.push('the origin’s private files');
      return getDirectory.call(this);
    };
  },
  isMarked: () => opened.length > 0,
  end() {
    const left = opened;
    opened = [];
    try {
      localStorage.clear();
      sessionStorage.clear();
      for (const cookie of document.cookie.split(';')) clearCookie(cookie.split('=')[0]!.trim());
    } catch {
      // A page without an origin of its own has no storage to clear.
    }
    // An open connection keeps its database; both go with the document.
    return left.map((one) => `it opened ${one}`);
  },
};
