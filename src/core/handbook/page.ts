/** The handbook: a page for each component, and one for the tokens of the whole project. */
import type { Severity } from '../accessibility/rule.ts';
import type { Parts } from '../coverage/report.ts';
import type { Kind } from '../look/kind.ts';
import type { Verdict } from '../run/verdict.ts';
import { escaped } from '../text/escaped.ts';
import type { Outlets } from './outlets.ts';
import type { Token, TokenPair } from './tokens.ts';

/** What a look is to look like. */
export type Reference = { kind: 'picture' | 'pdf' | 'link'; address: string };

/** How a look came out in an environment, with the picture of its end. */
export type HandbookResult = {
  id: number;
  environment: string;
  verdict: Verdict;
  picture: string | null;
  width: number;
  height: number;
};

export type HandbookLook = {
  look: string;
  hasScript: boolean;
  tags: string[];
  /** Why its file leaves it out; null while it is run. */
  skip: string | null;
  /** The component as this look uses it, to copy; null where the look file does not write it out. */
  code: string | null;
  script: string | null;
  reference: Reference | null;
  results: HandbookResult[];
};

/** A prop, as a row of a table. */
export type PropRow = {
  name: string;
  type: string;
  about: string;
  /** The value that counts when none is given. */
  usual: string | null;
  isRequired: boolean;
};

export type HandbookPage = {
  /** The look file's path without its ending. */
  component: string;
  /** What people call it. */
  name: string;
  kind: Kind;
  /** The look file, and the component's own where it is known. */
  file: string;
  source: string | null;
  /** Markdown: of the file beside the component, or its doc comment. */
  prose: string | null;
  /** The file that the prose comes from; null for a doc comment. */
  proseFile: string | null;
  props: PropRow[];
  outlets: Outlets;
  looks: HandbookLook[];
  /** Names of the tokens that its rules use. */
  tokens: string[];
  findings: Record<Severity, number>;
  /** How much of its own source looks run, in the newest run that has counted; null where none has. */
  coverage: Parts | null;
};

/** A component in the list of the handbook; `words` is what it is found by. */
export type HandbookEntry = {
  component: string;
  name: string;
  about: string;
  looks: number;
  /** The worst verdict of its looks; null where none was run. */
  verdict: Verdict | null;
  words: string;
};

export type TokenPage = { tokens: Token[]; pairs: TokenPair[] };

/** A picture, a PDF, or anything else to follow a link to. */
export function referenceKind(address: string): Reference['kind'] {
  const path = address.split(/[?#]/, 1)[0]!.toLowerCase();
  if (/\.pdf$/.test(path)) return 'pdf';
  // What lies elsewhere is not fetched for anybody.
  return /\.(png|jpe?g|webp|gif|avif|svg)$/.test(path) && !/^[a-z]+:/i.test(address) ? 'picture' : 'link';
}

/** The entries in which every word that is looked for begins a word, those with a matching name first. */
export function search(entries: readonly HandbookEntry[], wanted: string): HandbookEntry[] {
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const score = (entry: HandbookEntry): number => {
    const [name, all] = [entry.name.toLowerCase(), ` ${entry.words.toLowerCase()}`];
    if (!words.every((word) => name.includes(word) || all.includes(word))) return -1;
    if (words.every((word) => name.includes(word))) return name.startsWith(words[0] ?? '') ? 3 : 2;
    return words.every((word) => new RegExp(`[^\\p{L}\\p{N}]${escaped(word)}`, 'u').test(all)) ? 1 : 0;
  };
  const scored = entries.map((entry) => ({ entry, score: score(entry) })).filter((one) => one.score >= 0);
  return scored.sort((a, b) => b.score - a.score).map(({ entry }) => entry);
}
