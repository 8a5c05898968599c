/** Mutations: one thing about a page that is made wrong while a look runs, to see whether anything notices. */
import type { Identity } from './identity.ts';

export type Mutation =
  /** Nothing that people do to the element reaches its handlers. */
  | { kind: 'handlers'; at: Identity }
  /** Its own text is another one. */
  | { kind: 'text'; at: Identity; instead: string }
  /** One of its attributes is another one, or with null gone. */
  | { kind: 'attribute'; at: Identity; name: string; instead: string | null }
  | { kind: 'hidden'; at: Identity }
  /** The last one of its elements comes first. */
  | { kind: 'order'; at: Identity }
  /** A request is answered with an error of the server: its method and path, as the network lane has them. */
  | { kind: 'answer'; request: string }
  /** No style sheet counts. */
  | { kind: 'styles' };

export type MutationKind = Mutation['kind'];

/** In the order in which they are chosen. */
export const mutationKinds: readonly MutationKind[] = [
  'handlers',
  'answer',
  'text',
  'hidden',
  'attribute',
  'order',
  'styles',
];

const next =
  (first: string, size: number) =>
  (letter: string): string =>
    String.fromCharCode(((letter.charCodeAt(0) - first.charCodeAt(0) + 1) % size) + first.charCodeAt(0));

/** Another text that is as long: every letter and digit is the next one. */
export const otherText = (text: string): string =>
  text.replace(/[a-z]/g, next('a', 26)).replace(/[A-Z]/g, next('A', 26)).replace(/[0-9]/g, next('0', 10));

/** Attributes whose value is made of ids. */
export const refersByIds = /^aria-(labelledby|describedby|controls|owns|details|errormessage|activedescendant|flowto)$/;

/** What an attribute is changed to: turned round, another text, or null for gone. */
export function otherValue(name: string, value: string): string | null {
  if (value === 'true') return 'false';
  if (value === 'false') return 'true';
  if (value === '' || refersByIds.test(name)) return null;
  if (name === 'href') return '#';
  const other = otherText(value);
  return other === value ? null : other;
}
