/** One service a project: a lock that the system itself takes back when its holder ends, however it ends. */
import Database from 'better-sqlite3';

/** Takes the lock kept in a file; null when somebody else holds it. */
export function takeLock(file: string): { release(): void } | null {
  const db = new Database(file, { timeout: 0 });
  try {
    // Nothing is ever written: it is SQLite's lock on the file that is wanted.
    db.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    db.close();
    if ((error as { code?: string }).code === 'SQLITE_BUSY') return null;
    throw error;
  }
  return { release: () => void db.close() };
}
