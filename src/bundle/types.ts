/** Media types of the files that a page loads. */
import { lookup } from 'mrmime';

/** The media type of a path by its ending. */
export function typeOf(path: string): string {
  const type = lookup(path) ?? 'application/octet-stream';
  return /^text\/|javascript|json$/.test(type) ? `${type}; charset=utf-8` : type;
}
