/** How sure a cause is, and what kind of entry one is, by sign and word. */
import type { Entry } from '../../core/review/entries.ts';

export type Mark = { sign: string; word: string; tone: string; why: string };

const proofs: Record<'proved' | 'drawn' | 'unexplained', Mark> = {
  proved: {
    sign: '✓',
    word: 'proved',
    tone: 'text-passed',
    why: 'The baseline’s page with these causes alone, drawn again, is the new picture.',
  },
  drawn: {
    sign: '≈',
    word: 'as drawn',
    tone: 'text-changed',
    why: 'Drawn again with these causes it is the new page, but neither is the screenshot to the last pixel.',
  },
  unexplained: {
    sign: '?',
    word: 'not all',
    tone: 'text-changed',
    why: 'The causes found leave something over: it is dotted in the picture.',
  },
};

const kinds: Record<Exclude<Entry['kind'], 'cause'>, Mark> = {
  failed: {
    sign: '✗',
    word: 'fails',
    tone: 'text-failed',
    why: 'These looks failed before they came to their end: what they show cannot be approved.',
  },
  unexplained: { sign: '?', word: 'no cause known', tone: 'text-changed', why: 'No cause of this change was found.' },
  conflict: {
    sign: '⇄',
    word: 'merge conflict',
    tone: 'text-changed',
    why: 'A merge has left two baselines. Take one of them, or approve what is shown now.',
  },
  unreadable: {
    sign: '!',
    word: 'unreadable baseline',
    tone: 'text-failed',
    why: 'There is a baseline, and it cannot be read. Restore its file, or approve the new picture.',
  },
  new: { sign: '+', word: 'new', tone: 'text-new', why: 'Nobody has approved anything here yet.' },
};

export const entryMark = ({ kind, cluster }: Entry): Mark =>
  kind === 'cause' ? proofs[cluster?.proof ?? 'unexplained'] : kinds[kind];
