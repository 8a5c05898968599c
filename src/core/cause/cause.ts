/** Causes: why captures changed. */
import type { Box } from '../timeline/timeline.ts';
import type { Effect } from './effect.ts';

export type CauseKind =
  /** A custom property has another value. */
  | 'token'
  /** A declaration of a rule. */
  | 'style'
  /** A rule came, went, or has another selector or condition. */
  | 'rule'
  | 'text'
  | 'attribute'
  /** What an element shows besides its attributes: a value, where it is scrolled to, a canvas. */
  | 'state'
  | 'added'
  | 'removed'
  | 'replaced'
  | 'moved'
  /** An image, a font or another file. */
  | 'file'
  /** The window: its size, where the focus and the pointer are. */
  | 'view'
  /** Another browser or other fonts drew it. */
  | 'engine'
  /** Something in the picture that no moment tells of: a canvas, an image, or a baseline without a moment. */
  | 'picture'
  /** The look failed before it came to its end: what it shows is not what it was to show. */
  | 'failed';

/** A place in the project's source; lines count from 1. */
export type CausePlace = { file: string; line: number };

/** What the source of a cause says: by this it is found. */
export type Trace = {
  property: string | null;
  selector: string | null;
  /** Texts of which one stands there, the most telling first. */
  texts: string[];
};

export type Cause = {
  /** Equal for one cause in several captures. */
  key: string;
  kind: CauseKind;
  /** What happened, in words. */
  title: string;
  before: string | null;
  now: string | null;
  /** How many elements it is about directly. */
  elements: number;
  /** Where they are in the new picture, in device pixels. */
  outlines: Box[];
  /** Pixels that this cause alone changes; null where it was not drawn alone. */
  pixels: number | null;
  /** The places of those pixels, in device pixels, the largest first. */
  regions: Box[];
  /** What it does to computed styles. */
  effects: Effect[];
  trace: Trace;
};

/**
 * How sure it is that the causes are all there is. `proved`: the baseline's moment with the causes, and nothing else,
 * is drawn as the new picture; no pixel that a person could see differs. `drawn`: it is drawn as the new moment is, but
 * neither as the screenshot. `unexplained`: something is left over.
 */
export type Proof = 'proved' | 'drawn' | 'unexplained';

/** Why a capture differs from its baseline. */
export type Explanation = {
  causes: Cause[];
  proof: Proof;
  /** Places that the causes leave over, in device pixels. */
  unexplained: Box[];
  /** Why nothing more can be said, in words; null where it can. */
  note: string | null;
};
