/** What an API can answer, by its OpenAPI description (3.0 or 3.1): answers that it could not give are told. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Ajv2020, type ErrorObject } from 'ajv/dist/2020.js';
import { parse } from 'yaml';
import { array, object, string } from 'yup';
import { addressOf, decodePath } from '../core/address/address.ts';
import { fail, messageOf, type Problem, problem } from '../core/problem/problem.ts';
import { recordOf } from '../core/value/record.ts';
import { nearest } from '../core/text/nearest.ts';

type Response = { content?: unknown };
type Operation = { responses?: unknown };
type Reference = { $ref: string };
type Description = { paths: Record<string, unknown>; servers?: { url: string }[] | null };

/** A reply as far as an API has a say in it. */
export type Answered = { method: string; url: string; status: number; type: string; body: string };

export type Contract = {
  /** The description's path from the project's root. */
  file: string;
  /** Why the API could not give an answer; null when it could. */
  objection(answered: Answered): Problem | null;
};

/** `/berths/{id}` as a pattern. */
const patternOf = (template: string): RegExp =>
  new RegExp(`^${template.replace(/[.*+?^$()|[\]\\]/g, '\\$&').replace(/\{[^/}]+\}/g, '[^/]+')}/?$`);

/** Where the paths of an API begin: under the path of its first server. */
function basesOf({ servers }: Description): string[] {
  const bases = (servers ?? []).map(({ url }) => addressOf(url, 'http://any.test')?.pathname.replace(/\/$/, '') ?? '');
  return [...new Set([...bases, ''])];
}

const methods = ['get', 'put', 'post', 'delete', 'options', 'head', 'patch', 'trace'];

const known = ({ paths }: Description): string[] =>
  Object.entries(paths).flatMap(([path, operations]) =>
    Object.keys(recordOf(operations)).flatMap((method) =>
      methods.includes(method) ? `${method.toUpperCase()} ${path}` : [],
    ),
  );

const pointer = (keys: readonly string[]): string =>
  keys.map((key) => `/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');

const keysOf = (reference: string): string[] =>
  reference
    .slice(2)
    .split('/')
    .map((key) => (decodePath(key) ?? key).replaceAll('~1', '/').replaceAll('~0', '~'));

/** A part of a description, and where it stands: there, or where it is said to be instead, in the same file. */
type Part<T> = { keys: string[]; value: T };

/** Longer chains of references go round in a circle. */
const mostReferences = 20;

function partAt<T>(description: Description, keys: string[], most = mostReferences): Part<T> | null {
  const found = keys.reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], description);
  const reference = (found as Partial<Reference> | undefined)?.$ref;
  if (reference?.startsWith('#/') && most > 0) return partAt(description, keysOf(reference), most - 1);
  return typeof found === 'object' && found !== null ? { keys, value: found as T } : null;
}

/** True for a media type that a description means, which may be for all of a kind: `application/*`. */
const isMeant = (described: string, type: string): boolean =>
  type.toLowerCase().startsWith(described.toLowerCase().replace(/\*.*$/, ''));

/** The operation that a request is for. Paths without names in them come first. */
function operationFor(description: Description, method: string, pathname: string): Part<Operation> | null {
  const templates = Object.keys(description.paths).toSorted(
    (a, b) => Number(a.includes('{')) - Number(b.includes('{')),
  );
  for (const base of basesOf(description)) {
    if (!pathname.startsWith(base)) continue;
    const path = pathname.slice(base.length) || '/';
    for (const template of templates) {
      const all = patternOf(template).test(path) ? partAt(description, ['paths', template]) : null;
      const operation = all && partAt<Operation>(description, [...all.keys, method.toLowerCase()]);
      if (operation) return operation;
    }
  }
  return null;
}

/** `/berths/0/depth must be number`. */
const errorInWords = ({ instancePath, message, params }: ErrorObject): string => {
  const extra = (params as { additionalProperty?: string }).additionalProperty;
  return `${instancePath || 'the body'} ${message}${extra ? `: “${extra}”` : ''}`;
};

/** The response that a status is declared with: itself, its class, or the default. */
const declaredFor = ({ responses }: Operation, status: number): string | null => {
  const declared = Object.keys(recordOf(responses));
  return [String(status), `${Math.floor(status / 100)}XX`, 'default'].find((key) => declared.includes(key)) ?? null;
};

const shape = object({
  paths: object().typeError('its paths are not an object').required('it has no paths'),
  servers: array()
    .of(object({ url: string().required() }).required())
    .nullable()
    .typeError('its servers are not a list'),
})
  .typeError('it is not an object')
  .required('it is empty');

const validator = (): Ajv2020 => new Ajv2020({ strict: false, allErrors: true, validateFormats: false, logger: false });

/** A description, which a validator then knows as `api`. @throws ProblemError `openapi-wrong` if it cannot be read */
function describedIn(root: string, file: string, ajv: Ajv2020): Description {
  try {
    const found: unknown = parse(readFileSync(join(root, file), 'utf8'));
    const description = shape.validateSync(found, { strict: true }) as Description;
    ajv.addSchema(description, 'api');
    return description;
  } catch (error) {
    return fail('openapi-wrong', { file, error: messageOf(error) });
  }
}

/** Reads an OpenAPI description, JSON or YAML. @throws ProblemError `openapi-wrong` */
export function contractOf(root: string, file: string): Contract {
  const ajv = validator();
  const description = describedIn(root, file, ajv);
  const wrong = (request: string, what: string, found: string[] = []): Problem =>
    problem('answer-impossible', { request, what, file }, found.length > 0 ? { found } : {});
  return {
    file,
    objection({ method, url, status, type, body }) {
      const address = addressOf(url);
      const request = `${method} ${address?.pathname ?? url}`;
      const found = operationFor(description, method, address?.pathname ?? '');
      if (!found) {
        const near = nearest(request, known(description));
        return wrong(request, `has no such operation${near ? `; the nearest one is ${near}` : ''}`);
      }
      const { keys, value: operation } = found;
      const declared = declaredFor(operation, status);
      const statuses = Object.keys(recordOf(operation.responses)).join(', ');
      if (declared === null)
        return wrong(request, `never answers with ${status}; it answers with ${statuses || 'nothing'}`);
      const response = partAt<Response>(description, [...keys, 'responses', declared]);
      const content = recordOf(response?.value.content);
      const media = Object.keys(content).find((one) => isMeant(one, type));
      if (!response || !media || !recordOf(content[media]).schema || !/json/.test(type)) return null;
      const where = pointer([...response.keys, 'content', media, 'schema']);
      return bodyObjection(ajv, `api#${where}`, body, (what, lines) => wrong(request, what, lines));
    },
  };
}

function bodyObjection(
  ajv: Ajv2020,
  $ref: string,
  body: string,
  wrong: (what: string, lines: string[]) => Problem,
): Problem | null {
  try {
    const validate = ajv.getSchema($ref) ?? ajv.compile({ $ref });
    if (validate(JSON.parse(body))) return null;
    return wrong('could not give this body', (validate.errors ?? []).slice(0, 20).map(errorInWords));
  } catch (error) {
    return wrong(`describes it in a way that cannot be read: ${messageOf(error)}`, []);
  }
}

/** What does not conform to a JSON Schema, one thing a line. @throws Error for a schema that cannot be read */
export function unlike(schema: object, value: unknown): string[] {
  const validate = validator().compile(schema);
  return validate(value) ? [] : (validate.errors ?? []).slice(0, 20).map(errorInWords);
}
