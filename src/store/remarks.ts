/** What people leave beside decisions: comments, and that they have looked at something. */
import type { CaptureKey } from '../core/baseline/baseline.ts';
import type { Comment } from '../core/api/api.ts';
import type { Db } from './database.ts';

/** What a comment is about: a cause, or a capture. */
export type About = { cause: string } | CaptureKey;

export type Remarks = {
  comment(about: About, who: string, text: string): Comment;
  /** Oldest first. */
  comments(about: About): Comment[];
  /** Somebody has looked at pairs of pictures. */
  see(pairs: readonly string[], who: string): void;
  /** Who has looked at a pair, in the order in which they did so first. */
  seenBy(pair: string): string[];
};

const nobody = { cause: null, component: null, look: null, environment: null, capture: null };

export function remarksOf(db: Db): Remarks {
  const insert = db.prepare<object, Comment>(
    `INSERT INTO comments (at, who, cause, component, look, environment, capture, text)
     VALUES (@at, @who, @cause, @component, @look, @environment, @capture, @text) RETURNING id, at, who, text`,
  );
  const ofCause = db.prepare<[string], Comment>('SELECT id, at, who, text FROM comments WHERE cause = ? ORDER BY id');
  const ofCapture = db.prepare<CaptureKey, Comment>(
    `SELECT id, at, who, text FROM comments WHERE component = @component AND look = @look
     AND environment = @environment AND capture = @capture ORDER BY id`,
  );
  const see = db.prepare('INSERT INTO seen (pair, who, at) VALUES (?, ?, ?) ON CONFLICT (pair, who) DO NOTHING');
  const seen = db.prepare<[string], { who: string }>('SELECT who FROM seen WHERE pair = ? ORDER BY at');
  return {
    comment: (about, who, text) => insert.get({ ...nobody, ...about, at: new Date().toISOString(), who, text })!,
    comments(about) {
      if ('cause' in about) return ofCause.all(about.cause);
      const { component, look, environment, capture } = about;
      return ofCapture.all({ component, look, environment, capture });
    },
    see: db.transaction((pairs: readonly string[], who: string) => {
      const at = new Date().toISOString();
      for (const pair of pairs) see.run(pair, who, at);
    }),
    seenBy: (pair) => seen.all(pair).map(({ who }) => who),
  };
}
