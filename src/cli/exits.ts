/** Exit codes of the command line. */
import { lookFileCodes, stepCodes } from '../core/problem/catalogue.ts';
import type { Problem } from '../core/problem/problem.ts';

/** 1: something failed; 2: something could not be understood; 3: the service, a browser or the disk is missing. */
export type Exit = 1 | 2 | 3;

/** Where the code differs from that of its kind. */
const special: Record<string, Exit> = {
  'browser-gone': 3,
  'run-ended': 1,
  'run-stopped': 1,
  'config-missing': 2,
  'config-empty': 2,
  'config-threw': 2,
  'config-wrong': 2,
  'frame-missing': 2,
  'frame-wrong': 2,
  'looks-missing': 2,
  'environment-unknown': 2,
  'nothing-selected': 2,
  'commit-unknown': 2,
  'baseline-corrupt': 1,
  'baseline-unreadable': 1,
  'baseline-torn': 1,
  'baseline-twice': 1,
  'journal-wrong': 2,
  'baselines-not-folder': 2,
  'request-wrong': 2,
  'request-too-large': 2,
  'not-found': 2,
  'coverage-none': 2,
  'known-wrong': 2,
  'look-there': 2,
  'site-folder': 2,
  'site-nothing': 2,
  'setup-where': 2,
  'setup-which': 2,
  'setup-there': 2,
  'setup-unasked': 2,
  'keep-unclear': 2,
  'keep-conflict': 2,
  'draft-where': 2,
  'draft-nothing': 2,
  'draft-there': 2,
  'nothing-to-decide': 2,
  'cause-gone': 2,
  'cause-unknown': 2,
  'cause-failed': 2,
  'reason-missing': 2,
  'capture-unsteady': 2,
};

/** The exit code for a problem. */
export const exitOf = ({ code }: Problem): Exit =>
  special[code] ?? (stepCodes.includes(code) ? 1 : lookFileCodes.includes(code) ? 2 : 3);
