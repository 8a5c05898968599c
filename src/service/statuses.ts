/** The HTTP status that each problem is answered with. */
import type { ProblemCode } from '../core/problem/problem.ts';

/** Where a problem is not one with what was sent (422). */
const special: Partial<Record<ProblemCode, number>> = {
  'browser-gone': 503,
  'bundler-gone': 503,
  'run-ended': 503,
  'run-stopped': 409,
  'config-missing': 400,
  'config-threw': 400,
  'config-wrong': 400,
  'frame-missing': 400,
  'looks-missing': 404,
  'environment-unknown': 404,
  'nothing-selected': 404,
  'commit-unknown': 404,
  'database-corrupt': 500,
  'database-newer': 500,
  'disk-full': 507,
  'disk-read-only': 500,
  'disk-failed': 500,
  'browser-missing': 503,
  'browser-start': 503,
  'site-without': 404,
  'site-read-only': 405,
  'site-folder': 409,
  'site-nothing': 404,
  'port-taken': 409,
  'service-missing': 503,
  'service-start': 503,
  'service-ending': 503,
  'service-there': 409,
  'host-refused': 421,
  'origin-refused': 403,
  'request-wrong': 400,
  'queue-full': 429,
  'not-found': 404,
  'coverage-none': 404,
  'look-there': 409,
  'draft-there': 409,
  'keep-conflict': 409,
  'nothing-to-decide': 409,
  'reason-missing': 400,
  internal: 500,
};

/** RFC 9110 (and 507 of RFC 4918 for a full disk). */
export const statusOf = (code: ProblemCode): number => special[code] ?? 422;
