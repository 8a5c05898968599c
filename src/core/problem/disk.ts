/** What a failed file operation is to a person, by the error codes of POSIX and of SQLite. */
import { messageOf, type Problem, problem, ProblemError } from './problem.ts';

const full = new Set(['ENOSPC', 'EDQUOT', 'SQLITE_FULL']);
const readOnly = new Set(['EROFS', 'EACCES', 'EPERM', 'SQLITE_READONLY', 'SQLITE_CANTOPEN', 'SQLITE_PERM']);
const damaged = new Set(['SQLITE_CORRUPT', 'SQLITE_NOTADB']);
const others = new Set(['EIO', 'EEXIST', 'EISDIR', 'ENOTDIR', 'EMFILE', 'ENAMETOOLONG', 'ELOOP', 'SQLITE_IOERR']);

/** `SQLITE_IOERR_WRITE` is a kind of `SQLITE_IOERR`. */
const kindOf = (code: string): string => (code.startsWith('SQLITE_') ? code.split('_').slice(0, 2).join('_') : code);

/** The problem that an error of the disk is, with the file or folder it concerns; null for any other error. */
export function diskProblem(error: unknown, file: string): Problem | null {
  if (error instanceof ProblemError) return null;
  const { code, path } = (error ?? {}) as { code?: unknown; path?: unknown };
  if (typeof code !== 'string') return null;
  const details = { file: typeof path === 'string' ? path : file, error: messageOf(error) };
  const kind = kindOf(code);
  if (full.has(kind)) return problem('disk-full', { file });
  if (damaged.has(kind)) return problem('database-corrupt', { ...details, file });
  if (readOnly.has(kind)) return problem('disk-read-only', details);
  return others.has(kind) ? problem('disk-failed', details) : null;
}

/** Does something with files; what the disk says is thrown as a problem. */
export function onDisk<T>(file: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    const wrong = diskProblem(error, file);
    throw wrong ? new ProblemError(wrong) : error;
  }
}
