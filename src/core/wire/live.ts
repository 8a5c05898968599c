/** What the console and a stage, a look as a live page, say to one another: messages between two windows. */
import type { PropTypes } from '../props/type.ts';

/** Where the stage of a look is, from the origin of stages. */
export const livePath = '/__sguardo/stage';

/** A prop as it can be shown: as JSON, as a date, or only in words. */
export type GivenProp = { json: unknown } | { date: string } | { words: string };

/** A look that can be put on the stage. */
export type LiveLook = { look: string; hasScript: boolean };

/** A target, and how many elements it means without a number. */
export type PointedTarget = { code: string; matches: number };

/** A computed value that an element does not inherit, the tokens it was written with, and the selector of its rule. */
export type PointedStyle = {
  property: string;
  value: string;
  tokens: { name: string; value: string }[];
  rule: string | null;
};

/** An element that somebody has pointed at: its best targets first, its box in CSS pixels of the page. */
export type Pointed = {
  element: string;
  targets: PointedTarget[];
  role: string | null;
  name: string;
  description: string;
  states: string[];
  box: [left: number, top: number, width: number, height: number];
  styles: PointedStyle[];
  component: { name: string; props: string; place: string | null } | null;
};

/** Something that a person did on a stage; `path` leads to the element, from the document's root. */
export type Deed = { path: number[] } & (
  | { did: 'click' }
  | { did: 'fill'; value: string | null; checked: boolean }
  | { did: 'press'; key: string; code: string }
);

/** What a stage tells. */
export type FromStage =
  | {
      from: 'sguardo-stage';
      kind: 'shown';
      component: string;
      look: string;
      looks: LiveLook[];
      types: PropTypes | null;
      /** The look's own props, without those that were put over them. */
      props: Record<string, GivenProp>;
    }
  | { from: 'sguardo-stage'; kind: 'called'; prop: string; args: string }
  | { from: 'sguardo-stage'; kind: 'did'; deed: Deed }
  | { from: 'sguardo-stage'; kind: 'pointing'; isOn: boolean }
  | { from: 'sguardo-stage'; kind: 'pointed'; pointed: Pointed | null }
  | { from: 'sguardo-stage'; kind: 'trouble'; message: string };

/**
 * What a stage is told: the props that are put over those of its look, by name (dates are `{ $date: ISO 8601 }`), what
 * was done on another one, to let somebody point at an element, or to begin anew.
 */
export type ToStage =
  | { to: 'sguardo-stage'; kind: 'props'; props: Record<string, unknown> }
  | { to: 'sguardo-stage'; kind: 'do'; deed: Deed }
  | { to: 'sguardo-stage'; kind: 'point'; isOn: boolean }
  | { to: 'sguardo-stage'; kind: 'reset' };

/** The address of a stage, from its origin. */
export function stageAddress(file: string, look: string | null, props: Record<string, unknown>): string {
  const entries = [
    ['file', file],
    ...(look === null ? [] : [['look', look]]),
    ...(Object.keys(props).length === 0 ? [] : [['props', JSON.stringify(props)]]),
  ];
  const query = entries.map(([name, value]) => `${name}=${encodeURIComponent(value!)}`).join('&');
  return `${livePath}?${query}`;
}

/** Props out of an address; none when they cannot be read. */
export function propsIn(text: string | null): Record<string, unknown> {
  try {
    const value: unknown = JSON.parse(text ?? '{}');
    return typeof value === 'object' && value !== null && !Array.isArray(value)
      ? (value as Record<string, unknown>)
      : {};
  } catch {
    return {};
  }
}
