/** The handbook: what there is to say of each component, put together from its sources, its looks and their results. */
import { readFileSync, statSync } from 'node:fs';
import { posix } from 'node:path';
import { captureMaterial, type Material } from '../baselines/material.ts';
import { severityOf } from '../core/accessibility/finding.ts';
import { severities, type Severity } from '../core/accessibility/rule.ts';
import { textOfSheet } from '../core/cause/tree.ts';
import type { Component } from '../core/draft/draft.ts';
import { outletsIn } from '../core/handbook/outlets.ts';
import { folded } from '../core/text/folded.ts';
import {
  type HandbookEntry,
  type HandbookLook,
  type HandbookPage,
  type PropRow,
  type Reference,
  referenceKind,
  type TokenPage,
} from '../core/handbook/page.ts';
import { pairsOf, tokensIn, tokensOf } from '../core/handbook/tokens.ts';
import { elementName, type FileUsage, usageText } from '../core/handbook/usage.ts';
import { type LookInfo, shortName } from '../core/look/look.ts';
import { isText } from '../core/moment/moment.ts';
import { fail } from '../core/problem/problem.ts';
import { type PropType, typeInWords } from '../core/props/type.ts';
import { type ResultSummary, standing } from '../core/run/run.ts';
import { verdicts } from '../core/run/verdict.ts';
import type { Store } from '../store/index.ts';
import { typeOf } from '../work/index.ts';
import { type About, aboutOf, read } from './about.ts';
import type { AccessibilityDesk } from './accessibility.ts';
import type { CoverageDesk } from './coverage.ts';
import { fileInside } from './projectFile.ts';

export type HandbookDesk = {
  contents(): Promise<HandbookEntry[]>;
  /** @throws ProblemError `not-found` */
  page(component: string): Promise<HandbookPage>;
  tokens(): TokenPage;
  /** A picture or PDF of the project that a page shows. @throws ProblemError `not-found` */
  file(path: string): { bytes: Buffer; type: string };
};

type Desks = { root: string; store: Store; accessibility: AccessibilityDesk; coverage: CoverageDesk };

/** Files that are larger are not shown. */
const largest = 30 * 1024 * 1024;

const shown = /\.(png|jpe?g|webp|gif|avif|svg|pdf)$/i;

const objects = (types: PropType | null): Extract<PropType, { is: 'object' }>[] =>
  types?.is === 'object' ? [types] : types?.is === 'one' ? types.of.flatMap(objects) : [];

function rowsOf(component: Component | undefined): PropRow[] {
  const { types = null, described } = component ?? {};
  const rows = new Map<string, PropRow>();
  for (const { entries } of objects(types))
    for (const [name, { type, isOptional, isOwn }] of Object.entries(entries)) {
      // What a platform or package gives every component says nothing of this one.
      if (!isOwn || rows.has(name)) continue;
      const { about = '', usual = null } = described?.props[name] ?? {};
      rows.set(name, { name, type: typeInWords(type), about, usual, isRequired: !isOptional && usual === null });
    }
  return [...rows.values()].sort((a, b) => Number(b.isRequired) - Number(a.isRequired));
}

function referenceOf({ file, reference }: LookInfo): Reference | null {
  if (!reference) return null;
  const address = reference.startsWith('./') ? posix.join(posix.dirname(file), reference) : reference;
  return { kind: referenceKind(address), address };
}

function lookOf(
  info: LookInfo,
  { usages }: FileUsage,
  kind: Component['kind'],
  element: string | null,
  results: readonly ResultSummary[],
): HandbookLook {
  const usage = usages[info.look];
  return {
    look: info.look,
    hasScript: info.hasScript,
    tags: info.tags ?? [],
    skip: info.skip ?? null,
    code: usage && element !== null ? usageText(kind, element, usage) : null,
    script: usage?.script ?? null,
    reference: referenceOf(info),
    results: results.map((result) => {
      const { id, environment, captures } = result;
      const end = captures.find(({ name }) => name === 'end');
      return {
        id,
        environment,
        verdict: standing(result),
        picture: end?.hash ?? null,
        width: end?.width ?? 0,
        height: end?.height ?? 0,
      };
    }),
  };
}

const worst = (results: readonly ResultSummary[]) =>
  verdicts.find((verdict) => results.some((one) => standing(one) === verdict)) ?? null;

/** What an element of a page can be meant by in selectors. */
function namesIn(materials: readonly Material[]) {
  const [classes, tags, styles] = [new Set<string>(), new Set<string>(), new Set<string>()];
  for (const { moment } of materials)
    for (const entry of Object.values(moment.nodes)) {
      if (isText(entry) || /^(html|body|head)$/.test(entry.tag)) continue;
      tags.add(entry.tag);
      for (const name of (entry.attrs?.class ?? '').split(/\s+/)) if (name) classes.add(name);
      if (entry.attrs?.style) styles.add(entry.attrs.style);
    }
  return { classes, tags, styles: [...styles] };
}

const sheetsOf = ({ moment }: Material): string[] =>
  Object.keys(moment.sheets).map((id) => textOfSheet(moment, Number(id)));

/** The first words of Markdown, without its signs and its title. */
const firstWords = (plain: string, name: string): string =>
  plain
    .split(/\n\s*\n/)
    .map(folded)
    .find((one) => one !== '' && one !== name) ?? '';

function entryOf(
  component: string,
  looks: readonly LookInfo[],
  verdict: HandbookEntry['verdict'],
  { prose, component: offered, usage }: About,
): HandbookEntry {
  const plain = (prose ?? '').replace(/[#*_`>|]/g, ' ');
  const name = offered?.name ?? usage.component ?? shortName(component);
  const props = rowsOf(offered).map((row) => `${row.name} ${row.about}`);
  const tags = looks.flatMap((look) => look.tags ?? []);
  const words = [component, plain, ...looks.map(({ look }) => look), ...props, ...tags].join(' ').slice(0, 20_000);
  return { component, name, about: firstWords(plain, name), looks: looks.length, verdict, words };
}

export function handbookOf({ root, store, accessibility, coverage }: Desks): HandbookDesk {
  const looksOf = (component: string): LookInfo[] =>
    store.catalogue.looks().filter((look) => look.component === component);
  /** Materials by the description of what was captured, which never changes. */
  const known = new Map<string, Material | null>();
  const materialOf = ({ id }: ResultSummary): Material | null => {
    const end = store.results.captures(id).find(({ name }) => name === 'end');
    if (!end?.manifest) return null;
    if (!known.has(end.manifest)) known.set(end.manifest, captureMaterial(store, end.manifest));
    if (known.size > 400) known.delete(known.keys().next().value!);
    return known.get(end.manifest) ?? null;
  };
  const materialsOf = (results: readonly ResultSummary[]): Material[] =>
    results.flatMap((result) => materialOf(result) ?? []);

  async function findingsOf(component: string): Promise<Record<Severity, number>> {
    const { findings } = await accessibility.list(null);
    const own = findings.filter((one) => one.component === component && one.standing.is !== 'accepted');
    const counts = severities.map((severity) => [severity, own.filter((one) => severityOf(one) === severity).length]);
    return Object.fromEntries(counts) as Record<Severity, number>;
  }

  return {
    async contents() {
      const looks = store.catalogue.looks();
      const results = store.results.latest();
      const components = [...new Map(looks.map((look) => [look.component, look.file])).entries()];
      const entries = components.map(async ([component, file]) => {
        const own = looks.filter((look) => look.component === component);
        const run = new Set(own.filter(({ skip }) => skip === undefined).map(({ look }) => look));
        const verdict = worst(results.filter((one) => one.component === component && run.has(one.look)));
        return entryOf(component, own, verdict, await aboutOf(root, store, file));
      });
      return (await Promise.all(entries)).sort((a, b) => (a.name.toLowerCase() < b.name.toLowerCase() ? -1 : 1));
    },
    async page(component) {
      const looks = looksOf(component);
      const file = looks[0]?.file ?? fail('not-found', { what: `component ${component}` });
      const { usage, source, component: offered, prose, proseFile } = await aboutOf(root, store, file);
      const kind = offered?.kind ?? 'react';
      const text = (source && read(root, source)) ?? '';
      // Some components are written right into their look file.
      const isNamed = usage.component !== null && /^[\w$-]+$/.test(usage.component);
      const element = isNamed ? elementName(kind, usage.component!, offered?.name ?? null, text) : null;
      const results = store.results.latest().filter((one) => one.component === component);
      const resultsFor = (look: string) => results.filter((one) => one.look === look);
      const materials = materialsOf(results);
      const counted = await coverage.report(null).catch(() => null);
      const covered = counted?.files.find(({ path }) => path === source);
      return {
        component,
        name: offered?.name ?? usage.component ?? shortName(component),
        kind,
        file,
        source,
        prose,
        proseFile,
        props: rowsOf(offered),
        outlets: outletsIn(kind, text),
        looks: looks.map((info) => lookOf(info, usage, kind, element, resultsFor(info.look))),
        tokens: tokensOf(tokensIn(materials.flatMap(sheetsOf)), namesIn(materials)),
        findings: await findingsOf(component),
        coverage: covered ? { lines: covered.lines, branches: covered.branches, functions: covered.functions } : null,
      };
    },
    tokens() {
      // One result of each component: all of them bring the same sheets.
      const first = new Map(store.results.latest().map((result) => [result.component, result]));
      const { tokens, uses } = tokensIn(materialsOf([...first.values()]).flatMap(sheetsOf));
      return { tokens, pairs: pairsOf(tokens, uses) };
    },
    file(path) {
      const full = shown.test(path) ? fileInside(root, path) : null;
      if (full === null || statSync(full).size > largest) return fail('not-found', { what: `picture or PDF ${path}` });
      return { bytes: readFileSync(full), type: typeOf(full) };
    },
  };
}
