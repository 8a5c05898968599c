/** Reads `sguardo.config.ts`. */
import { existsSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { array, lazy, mixed, number, object, setLocale, string, ValidationError } from 'yup';
import { addressOf } from '../core/address/address.ts';
import { severities } from '../core/accessibility/rule.ts';
import { rules } from '../core/accessibility/rules.ts';
import type { Config, Settings } from '../core/settings/config.ts';
import type { Allowing, CompareConfig } from '../core/settings/comparing.ts';
import { defaultEnvironment, type Environment } from '../core/settings/environment.ts';
import { fail, ProblemError } from '../core/problem/problem.ts';
import { schemaWords } from '../core/problem/wording.ts';
import { nearest } from '../core/text/nearest.ts';
import { because, causesOf, placedBy } from './failure.ts';
import { viteOf } from './vite.ts';

setLocale(schemaWords);

const isTimeZone = (value: string | undefined): boolean => {
  try {
    return value === undefined || Boolean(new Intl.DateTimeFormat('en', { timeZone: value }));
  } catch {
    return false;
  }
};

const isLocale = (value: string | undefined): boolean => {
  try {
    return value === undefined || Intl.getCanonicalLocales(value).length === 1;
  } catch {
    return false;
  }
};

const isOrigin = (value: string | undefined): boolean => {
  const address = value === undefined ? null : addressOf(value);
  if (!address || !/^(https?|wss?):$/.test(address.protocol)) return false;
  return [`${address.protocol}//${address.host}`, `${address.protocol}//${address.host}/`].includes(value!);
};

const isPattern = (value: unknown): value is string | RegExp => typeof value === 'string' || value instanceof RegExp;

/** A text as a pattern for whatever holds it. */
const patternOf = (value: string | RegExp): Settings['failsOn'][number] =>
  typeof value === 'string'
    ? { source: value.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&'), flags: '' }
    : { source: value.source, flags: value.flags.replace(/[gy]/g, '') };

const side = number().integer().min(50).max(8000).required();

const environmentSchema = object({
  viewport: array().of(side).length(2, '${path} must be [width, height]'),
  ratio: number().min(0.5).max(4),
  scheme: string().oneOf(['light', 'dark']),
  motion: string().oneOf(['reduce', 'no-preference']),
  contrast: string().oneOf(['more', 'no-preference']),
  pointer: string().oneOf(['mouse', 'touch', 'none']),
  locale: string().test('locale', '${path} must be a language tag such as en-GB', isLocale),
  timeZone: string().test('zone', '${path} must be a time zone such as Europe/Rome', isTimeZone),
}).noUnknown();

const environmentsSchema = lazy((value: unknown) =>
  object(
    Object.fromEntries(Object.keys((value as object | undefined) ?? {}).map((name) => [name, environmentSchema])),
  ).default(undefined),
);

const isSaid = (value: string | undefined): boolean => value?.trim() !== '';
const reason = string().required().test('reason', '${path} must say why', isSaid);
const place = string().required().test('place', '${path} must not be empty', isSaid);

const compareSchema = object({
  what: string().oneOf(['both', 'picture', 'markup']),
  leaveOut: array().of(object({ target: place, why: reason }).noUnknown()),
  tolerate: array().of(
    lazy((value: unknown) =>
      typeof value === 'object'
        ? object({ upTo: number().moreThan(0).max(1).required(), in: place, why: reason }).noUnknown()
        : mixed()
            .oneOf(['anti-aliasing'], '${path} must be “anti-aliasing”, or { upTo, in, why } for one part')
            .required(),
    ),
  ),
})
  .noUnknown()
  .default(undefined);

const share = number().min(0).max(100);
const thresholdSchema = object({ lines: share, branches: share, functions: share }).noUnknown();

const coverageSchema = object({
  include: array().of(place).min(1),
  exclude: array().of(place),
  thresholds: lazy((value: unknown) =>
    object(
      Object.fromEntries(Object.keys((value as object | undefined) ?? {}).map((glob) => [glob, thresholdSchema])),
    ).default(undefined),
  ),
})
  .noUnknown()
  .default(undefined);

const accessibilitySchema = object({
  failsOn: string().oneOf([...severities, 'never']),
  accept: array().of(
    object({
      rule: string().oneOf(Object.keys(rules)).required(),
      element: place.notRequired(),
      why: reason,
    }).noUnknown(),
  ),
})
  .noUnknown()
  .default(undefined);

/** The exceptions of a configuration, one form for all. */
const allowingOf = ({ leaveOut = [], tolerate = [] }: CompareConfig): Allowing[] => [
  ...leaveOut.map(({ target, why }): Allowing => ({ kind: 'left-out', target, why, upTo: null })),
  ...tolerate.map(
    (one): Allowing =>
      one === 'anti-aliasing'
        ? { kind: 'anti-aliasing', target: null, why: one, upTo: null }
        : { kind: 'difference', target: one.in, why: one.why, upTo: one.upTo },
  ),
];

const schema = object({
  looks: array().of(string().required()).min(1),
  frame: string(),
  baselines: mixed().test(
    'baselines',
    'baselines must be a folder, or false',
    (value) => value === undefined || value === false || typeof value === 'string',
  ),
  environments: environmentsSchema,
  patience: number().min(0).max(600_000),
  settle: number().min(0).max(600_000),
  clock: string().oneOf(['look', 'real']),
  timeLimit: number().min(100).max(3_600_000),
  now: string().test(
    'now',
    'now must be a date such as 2026-03-02T09:30:00Z',
    (value) => value === undefined || !Number.isNaN(Date.parse(value)),
  ),
  lanes: number().integer().min(1).max(16),
  isolate: string().oneOf(['file', 'look']),
  compare: compareSchema,
  reasons: string().oneOf(['rejections', 'all']),
  family: string().matches(/^[\w-]+$/, '${path} must be a name of letters, digits, - and _; it becomes a folder'),
  markAttribute: string().matches(
    /^[a-z][\w.:-]*$/i,
    '${path} has to be the name of an attribute, such as data-testid',
  ),
  unanswered: string().oneOf(['fail', 'note']),
  openapi: string(),
  failsOn: array().of(
    mixed().test('text', '${path} must be a text or a regular expression', (value) => isPattern(value) && value !== ''),
  ),
  accessibility: accessibilitySchema,
  coverage: coverageSchema,
  network: array().of(
    string().required().test('origin', '${path} must be an origin such as https://tiles.example', isOrigin),
  ),
  keep: number().integer().min(1).max(100_000),
})
  .noUnknown()
  .strict();

/** The entries that there are at a place of the configuration. */
function entriesAt(path: string): string[] {
  if (path === '') return Object.keys(schema.fields);
  if (path.startsWith('environments')) return Object.keys(environmentSchema.fields);
  if (path === 'accessibility') return ['failsOn', 'accept'];
  if (path.startsWith('accessibility.')) return ['rule', 'element', 'why'];
  if (path === 'coverage') return ['include', 'exclude', 'thresholds'];
  if (path.startsWith('coverage.')) return ['lines', 'branches', 'functions'];
  if (path === 'compare') return ['what', 'leaveOut', 'tolerate'];
  return path.startsWith('compare.leaveOut') ? ['target', 'why'] : ['upTo', 'in', 'why'];
}

function explain(file: string, error: ValidationError): never {
  const unknown = (error.params as { unknown?: string } | undefined)?.unknown;
  if (!unknown) return fail('config-wrong', { file, error: error.message });
  const known = entriesAt(error.path ?? '');
  const instead = nearest(unknown, known);
  const where = error.path ? `${error.path}.${unknown}` : unknown;
  return fail('config-wrong', {
    file,
    error: `there is no entry “${where}”.`,
    remedy: instead
      ? `Did you mean “${instead}”? docs/configuration.md lists every entry.`
      : `Entries are: ${known.join(', ')}.`,
  });
}

/**
 * Reads a configuration file and fills in the defaults.
 * @throws ProblemError `config-threw`, `config-wrong`, `frame-missing`
 */
export async function loadConfig(path: string): Promise<Settings> {
  const root = dirname(path);
  const file = relative(process.cwd(), path) || path;
  let config: Config;
  try {
    const vite = await viteOf(root);
    const loaded = await vite.loadConfigFromFile({ command: 'build', mode: 'development' }, path, root, 'silent');
    config = (loaded?.config ?? {}) as Config;
  } catch (error) {
    const told = causesOf(error).join(because);
    // Vite's word for it knows of functions and of no entry of ours.
    if (/^config must export or return an object/.test(told)) return fail('config-empty', { file });
    return fail('config-threw', { file, error: told }, placedBy(root, error));
  }
  try {
    schema.validateSync(config, { abortEarly: true });
  } catch (error) {
    if (error instanceof ValidationError) explain(file, error);
    throw error;
  }
  return settingsOf(config, root, file);
}

/** Frames that need not be named. */
const frames = ['tsx', 'jsx', 'vue', 'svelte', 'ts', 'js'].map((ending) => `sguardo.frame.${ending}`);

function settingsOf(config: Config, root: string, file: string): Settings {
  const frame = config.frame ?? frames.find((name) => existsSync(join(root, name))) ?? frames[0]!;
  const hasFrame = existsSync(join(root, frame));
  if (config.frame && !hasFrame) fail('frame-missing', { file: frame, config: file });
  const environments = Object.entries(config.environments ?? {}).map(
    ([name, given]): Environment => ({ ...defaultEnvironment, ...given, name }),
  );
  for (const { name } of environments) {
    if (!/^[\w-]+$/.test(name))
      throw new ProblemError({
        code: 'config-wrong',
        message: `${file}: “${name}” cannot be an environment's name.`,
        remedy: 'Use letters, digits, - and _; it becomes a folder.',
      });
  }
  return {
    looks: config.looks ?? ['**/*.look.tsx', '**/*.look.jsx', '**/*.look.ts', '**/*.look.js'],
    frame: hasFrame ? frame : null,
    baselines: config.baselines === false ? null : (config.baselines ?? 'baselines'),
    environments: environments.length > 0 ? environments : [defaultEnvironment],
    patience: config.patience ?? 2000,
    settle: config.settle ?? 1000,
    clock: config.clock ?? 'look',
    timeLimit: config.timeLimit ?? 15_000,
    now: config.now ?? '2026-03-02T09:30:00Z',
    lanes: config.lanes ?? 4,
    isolate: config.isolate ?? null,
    compares: config.compare?.what ?? 'both',
    allowed: allowingOf(config.compare ?? {}),
    reasons: config.reasons ?? 'rejections',
    family: config.family ?? null,
    markAttribute: config.markAttribute ?? 'data-testid',
    unanswered: config.unanswered ?? 'fail',
    openapi: config.openapi ?? null,
    failsOn: (config.failsOn ?? []).map(patternOf),
    network: (config.network ?? []).map((origin) => origin.replace(/\/$/, '')),
    accessibility: {
      failsOn: config.accessibility?.failsOn ?? null,
      accepted: (config.accessibility?.accept ?? []).map(({ rule, element = null, why }) => ({ rule, element, why })),
    },
    coverage: {
      include: config.coverage?.include ?? [existsSync(join(root, 'src')) ? 'src/**' : '**'],
      exclude: config.coverage?.exclude ?? [],
      thresholds: config.coverage?.thresholds ?? {},
    },
    keep: config.keep ?? 50,
  };
}
