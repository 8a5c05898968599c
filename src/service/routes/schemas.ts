/** What requests may say. */
import { convertSchema } from '@sodaru/yup-to-json-schema';
import { array, boolean, mixed, number, object, type Schema, setLocale, string, ValidationError } from 'yup';
import { usualMost } from '../../core/challenge/challenge.ts';
import { fail } from '../../core/problem/problem.ts';
import { schemaWords } from '../../core/problem/wording.ts';

setLocale(schemaWords);

const isRecord = (value: unknown): boolean => typeof value === 'object' && value !== null && !Array.isArray(value);

const id = number().integer().min(1).required();
const pattern = string().trim().min(1).max(500).required();

/** Text of people, which terminals print as well. */
const plain = /^(?:[^\p{Cc}]|[\n\t])*$/u;
const plainly = '${path} must not hold control characters';

const who = string().trim().min(1).max(200).matches(plain, plainly);

const look = object({ component: string().required(), look: string().required() }).exact();

export const schemas = {
  id: object({ id }).exact(),
  hash: object({
    hash: string()
      .matches(/^[0-9a-f]{64}$/, 'a hash is 64 hexadecimal digits')
      .required(),
  }).exact(),
  beginning: object({
    hash: string()
      .matches(/^[0-9a-f]{16,64}$/, 'give at least the first 16 of a hash’s 64 hexadecimal digits')
      .required(),
  }).exact(),
  look: object({ component: string().required(), look: string().required(), environment: string().required() }).exact(),
  edits: object({ result: id, capture: string().min(1).max(300).nullable().default(null) }).exact(),
  comparison: object({
    before: string()
      .matches(/^[0-9a-f]{64}$/, 'a hash is 64 hexadecimal digits')
      .required(),
    now: string()
      .matches(/^[0-9a-f]{64}$/, 'a hash is 64 hexadecimal digits')
      .required(),
  }).exact(),
  alone: object({
    result: id,
    capture: string().required().max(300),
    cause: string().required().max(20_000),
  }).exact(),
  captureName: object({ capture: string().required().max(300) }).exact(),
  ofRun: object({ run: number().integer().min(1).nullable().default(null) }).exact(),
  source: object({
    run: number().integer().min(1).nullable().default(null),
    path: string().required().max(4000),
  }).exact(),
  component: object({ component: string().required().max(4000) }).exact(),
  path: object({ path: string().required().max(4000) }).exact(),
  own: object({ own: boolean().default(false) }).exact(),
  watch: object({ watch: boolean().default(false) }).exact(),
  limit: object({ limit: number().integer().min(1).max(1000).default(50) }).exact(),
  run: object({
    patterns: array().of(pattern).max(200).default([]),
    looks: array().of(look).max(10_000).default([]),
    environments: array().of(string().required()).max(50).default([]),
    repeat: number().integer().min(1).max(1000).default(1),
    fresh: boolean().default(false),
    audit: number().min(0).max(100).nullable().default(null),
    changed: string().trim().min(1).max(500).nullable().default(null),
    due: boolean().default(false),
    tags: array().of(string().required().max(200)).max(200).default([]),
    withoutTags: array().of(string().required().max(200)).max(200).default([]),
    refuseOnly: boolean().default(false),
    listing: boolean().default(false),
    steady: boolean().default(false),
    headed: boolean().default(false),
    upgrade: boolean().default(false),
    coverage: boolean().default(false),
    timing: boolean().default(false),
    everyStep: boolean().default(false),
    pace: number().min(0).max(60_000).default(0),
  }).exact(),
  rename: object({
    component: string().required().max(4000),
    look: string().required().max(1000),
    to: string().trim().min(1).max(1000).required(),
  }).exact(),
  challenge: object({
    patterns: array().of(pattern).max(200).default([]),
    most: number().integer().min(1).max(1000).default(usualMost),
  }).exact(),
  draft: object({
    file: string().required().max(4000),
    component: string().trim().min(1).max(200).nullable().default(null),
    write: boolean().default(true),
  }).exact(),
  keep: object({
    file: string().required().max(4000),
    look: string().required().max(1000),
    as: string().trim().min(1).max(200).nullable().default(null),
    props: mixed<Record<string, unknown>>((value): value is Record<string, unknown> => isRecord(value)).required(),
    seen: string().nullable().default(null),
    write: boolean().default(true),
  }).exact(),
  keepLines: object({
    file: string().required().max(4000),
    look: string().required().max(1000),
    as: string().trim().min(1).max(200).nullable().default(null),
    lines: array().of(string().required().max(1_000_000)).min(1).max(1000).required(),
    before: number().integer().min(1).nullable().default(null),
    from: string()
      .oneOf(['start', 'end'] as const)
      .default('end'),
    seen: string().nullable().default(null),
    write: boolean().default(true),
  }).exact(),
  undoKeep: object({ file: string().required().max(4000), seen: string().required() }).exact(),
  tidy: object({ remove: boolean().default(false) }).exact(),
  decision: object({
    kind: string()
      .oneOf(['approve', 'reject'] as const)
      .required(),
    captures: array()
      .of(object({ result: id, capture: string().required() }).exact())
      .max(10_000)
      .default(undefined),
    patterns: array().of(pattern).max(200).default(undefined),
    all: boolean(),
    causes: array().of(string().required().max(20_000)).min(1).max(1000).default(undefined),
    except: array().of(pattern).max(200).default(undefined),
    take: string().oneOf(['base', 'ours', 'theirs'] as const),
    unsteady: boolean(),
    why: string().max(2000).matches(plain, plainly),
    who,
    fixer: who,
  }).exact(),
  undo: object({ batch: number().integer().min(1), who }).exact(),
  comment: object({
    cause: string().max(20_000),
    capture: object({ result: id, capture: string().required() }).exact().default(undefined),
    text: string().trim().min(1).max(5000).matches(plain, plainly).required(),
    who,
  }).exact(),
  seen: object({ pairs: array().of(string().required().max(200)).max(100_000).required(), who }).exact(),
};

/** How deep a request may be nested: deeper than any that means something. */
const deepest = 12;

/** True for a value that no schema here describes, told without recursion. */
function isTooDeep(value: unknown): boolean {
  const stack: { value: unknown; depth: number }[] = [{ value, depth: 0 }];
  for (let next = stack.pop(); next; next = stack.pop()) {
    if (typeof next.value !== 'object' || next.value === null) continue;
    if (next.depth >= deepest) return true;
    for (const one of Object.values(next.value)) stack.push({ value: one, depth: next.depth + 1 });
  }
  return false;
}

/**
 * Reads a part of a request. A body means what it says; addresses are text, from which numbers are read.
 * @throws ValidationError, ProblemError `request-wrong`: whatever was sent, never anything else
 */
export function readPart(schema: Schema, data: unknown, part: string | undefined): unknown {
  if (isTooDeep(data)) fail('request-wrong', { error: 'The request is nested too deeply.' });
  const strict = part === 'body';
  try {
    // Defaults are filled in by casting, which must not turn one type into another.
    if (strict) schema.validateSync(data, { strict: true });
    return schema.validateSync(data, { strict: false });
  } catch (error) {
    if (error instanceof ValidationError) throw error;
    return fail('request-wrong', { error: 'The request could not be understood.' });
  }
}

type JsonSchema = {
  properties?: Record<string, JsonSchema>;
  items?: JsonSchema;
  additionalProperties?: boolean;
  default?: unknown;
  type?: unknown;
};

/** The converter knows neither `exact` nor that an object's empty default says nothing. */
function tidy(schema: JsonSchema): JsonSchema {
  if (schema.type === 'object') {
    schema.additionalProperties = false;
    delete schema.default;
  }
  for (const property of Object.values(schema.properties ?? {})) tidy(property);
  if (schema.items) tidy(schema.items);
  return schema;
}

/** A Yup schema as JSON Schema, for the OpenAPI document. */
export const toJsonSchema = (schema: Schema): object => tidy(convertSchema(schema) as JsonSchema);
