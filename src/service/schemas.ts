/** What requests may say. */
import { convertSchema } from '@sodaru/yup-to-json-schema';
import { array, boolean, number, object, type Schema, setLocale, string } from 'yup';
import { schemaWords } from '../core/wording.ts';

setLocale(schemaWords);

const id = number().integer().min(1).required();
const pattern = string().trim().min(1).max(500).required();

export const schemas = {
  id: object({ id }).exact(),
  hash: object({
    hash: string()
      .matches(/^[0-9a-f]{64}$/, 'a hash is 64 hexadecimal digits')
      .required(),
  }).exact(),
  look: object({ component: string().required(), look: string().required(), environment: string().required() }).exact(),
  limit: object({ limit: number().integer().min(1).max(1000).default(50) }).exact(),
  run: object({
    patterns: array().of(pattern).max(200).default([]),
    environments: array().of(string().required()).max(50).default([]),
    repeat: number().integer().min(1).max(1000).default(1),
  }).exact(),
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
    why: string().max(2000),
    who: string().trim().min(1).max(200),
  }).exact(),
};

type JsonSchema = { properties?: Record<string, JsonSchema>; items?: JsonSchema; additionalProperties?: boolean; default?: unknown; type?: unknown };

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
