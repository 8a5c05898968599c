/** Whether the props of a look are such as real use can bring about. */
import { impossibleNote } from '../../core/problem/notes.ts';
import { messageOf } from '../../core/problem/problem.ts';
import { contradictions } from '../../core/props/contradiction.ts';
import { mistyped } from '../../core/props/mistyped.ts';
import type { PropTypes } from '../../core/props/type.ts';
import { ask } from '../host/host.ts';
import { native } from '../host/natives.ts';

/** The Standard Schema (version 1), which Zod, Valibot, ArkType and others follow. */
type Standard = { '~standard': { validate(value: unknown): unknown } };
type Issue = { message: string; path?: readonly (PropertyKey | { key: PropertyKey })[] };
type Yup = { validateSync(value: unknown, options: object): unknown };

const isStandard = (shape: object): shape is Standard => '~standard' in shape;
const isYup = (shape: object): shape is Yup => 'validateSync' in shape;

function issueInWords({ message, path = [] }: Issue): string {
  const where = path.map((key) => String(typeof key === 'object' ? key.key : key)).join('.');
  return where ? `${where}: ${message}` : message;
}

/**
 * What props are held against: the types that the component declares, with the names by which it
 * calls back, and a schema that the look file gives.
 */
export type Limits = { types: PropTypes | null; shape: object | undefined; callbacks: readonly string[] };

/** Everything in which props contradict a schema, one thing a line. */
async function unlike(look: number, shape: object, props: Record<string, unknown>): Promise<string[]> {
  if (isYup(shape)) {
    try {
      shape.validateSync(props, { strict: true, abortEarly: false });
      return [];
    } catch (error) {
      return (error as { errors?: string[] }).errors ?? [messageOf(error)];
    }
  }
  if (isStandard(shape)) {
    const { issues = [] } = (await shape['~standard'].validate(props)) as { issues?: Issue[] };
    return issues.map(issueInWords);
  }
  const plain: unknown = JSON.parse(native.stringify(props) ?? '{}');
  return ask(look, { do: 'conform', schema: JSON.parse(native.stringify(shape)), value: plain }).then(
    () => [],
    (error: unknown) => messageOf(error).split('\n'),
  );
}

/**
 * What is to be said of props that no real use can produce; null for others. What stands in a slot may be a prop as
 * well.
 */
export async function impossible(
  look: number,
  { types, shape, callbacks }: Limits,
  props: Record<string, unknown>,
  slots: Record<string, unknown>,
): Promise<string | null> {
  const unlikeTypes = types
    ? [...contradictions(types, { ...slots, ...props }), ...mistyped(types, props, callbacks)]
    : [];
  const unlikeShape = shape ? await unlike(look, shape, props).catch((error: unknown) => [messageOf(error)]) : [];
  const found = [...unlikeTypes, ...unlikeShape];
  return found.length === 0 ? null : impossibleNote(found);
}
