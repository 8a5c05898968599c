/** `sguardo causes`: why captures have changed, cause by cause. */
import type { Command } from 'commander';
import pc from 'picocolors';
import { effectText, winnerText } from '../core/cause/effect.ts';
import type { FoundEdit } from '../core/cause/found.ts';
import type { CauseList, ChangedCapture, Cluster, ClusterCapture } from '../core/cause/cluster.ts';
import { isSelected } from '../core/look/pattern.ts';
import { lookTitle } from '../core/look/look.ts';
import { counted } from '../core/text/counted.ts';
import { foundText } from './edits.ts';
import { withService, type Found } from './find.ts';
import { say, sayJson } from './say.ts';

type Options = { edits?: boolean; json?: boolean };

export function addCauses(program: Command): void {
  program
    .command('causes')
    .description('say why captures have changed: causes with their captures, pixels and lines of source')
    .argument('[pattern...]', 'only causes of these looks, as for run')
    .option('--edits', 'and the edit that did each, found by running looks without it')
    .option('--json', 'print one JSON document instead of text (docs/formats/causes.md)')
    .addHelpText(
      'after',
      `
Examples:
  sguardo causes                    what changed since it was approved, and why
  sguardo causes BerthCard          why the looks of one component changed
  sguardo causes --edits            and which edit did each
  sguardo approve --cause 2         approve what the second cause has changed
  sguardo causes --json             for other programs

Exit codes: 0 nothing has changed · 1 something has · 2 bad command or configuration · 3 no service or browser`,
    )
    .action(async (patterns: string[], options: Options) => {
      process.exitCode = await causes(patterns, options);
    });
}

/** The causes of some captures; numbers stay those of the whole list. */
export function chosenCauses(
  { causes: list, unexplained, withoutBaseline }: CauseList,
  isMeant: (capture: Omit<ChangedCapture, 'baseline' | 'difference' | 'failure'>) => boolean,
): CauseList {
  const left = list.flatMap((cluster) => {
    const captures = cluster.captures.filter(isMeant);
    // What it does is told of its first capture: in another environment it may be something else.
    const effects = captures[0] === cluster.captures[0] ? cluster.effects : [];
    return captures.length > 0 ? [{ ...cluster, captures, effects }] : [];
  });
  const others = unexplained.filter(isMeant);
  const changed = new Set([...left.flatMap(({ captures }) => captures), ...others].map(nameOf));
  return { causes: left, changes: changed.size, unexplained: others, withoutBaseline: withoutBaseline.filter(isMeant) };
}

const nameOf = ({ result, capture }: Pick<ClusterCapture, 'result' | 'capture'>): string => `${result} ${capture}`;

async function causes(patterns: string[], options: Options): Promise<number> {
  return withService(async (found) => {
    const list = chosenCauses(await found.client.causes(), isSelected(patterns));
    const edits = options.edits ? await editsOf(found, list) : null;
    if (options.json) sayJson(document(list, edits));
    else if (list.changes === 0) say('Nothing has changed.');
    else say(`${causesText(list, found.url, edits)}\n${pc.dim(wayOut)}`);
    return list.changes === 0 ? 0 : 1;
  });
}

/** The edits behind each cause, looked for in its first capture; by the cause's key. */
async function editsOf({ client }: Found, { causes: list }: CauseList): Promise<Map<string, FoundEdit>> {
  const edits = new Map<string, FoundEdit>();
  for (const { key, kind, captures } of list) {
    const [{ result, capture }] = captures as [ClusterCapture];
    const { edits: all, note } = await client.edits(result, kind === 'failed' ? null : capture);
    const own = kind === 'failed' ? all[0] : all.find((one) => one.key === key);
    edits.set(key, own ?? { key, proved: [], candidates: [], note });
  }
  return edits;
}

const document = (list: CauseList, edits: ReadonlyMap<string, FoundEdit> | null): object => ({
  format: 'sguardo-causes/1',
  ...list,
  ...(edits && { edits: [...edits].map(([key, edit]) => ({ ...edit, key })) }),
});

const wayOut = 'To approve what a cause has changed: sguardo approve --cause 1';

/** A mark and a word for how sure a cause is. */
function proofText({ kind, proof }: Cluster): string {
  if (kind === 'failed') return pc.red('✗ fails');
  if (proof === 'proved') return pc.green('✓ proved');
  return proof === 'drawn' ? pc.yellow('≈ as drawn') : pc.yellow('? not all');
}

/** So many captures of a cause are named. */
const mostNamed = 3;

function capturesText(captures: readonly ClusterCapture[]): string {
  const byLook = new Map<string, string[]>();
  for (const { component, look, environment } of captures) {
    const title = lookTitle(component, look);
    byLook.set(title, [...new Set([...(byLook.get(title) ?? []), environment])]);
  }
  const named = [...byLook].slice(0, mostNamed).map(([title, environments]) => `${title} (${environments.join(', ')})`);
  const more = byLook.size > mostNamed ? ` and ${counted(byLook.size - mostNamed, 'more look', 'more looks')}` : '';
  return named.join(', ') + more;
}

/** A cause with all that is known of it. */
export function clusterText(cluster: Cluster, url: string, edits: ReadonlyMap<string, FoundEdit> | null): string {
  const { number, title, place, captures } = cluster;
  const pixels = captures.reduce((sum, one) => sum + (one.pixels ?? 0), 0);
  const waiting = captures.filter(({ decided }) => decided?.kind === 'approve').length;
  const facts = [
    counted(captures.length, 'capture'),
    ...(pixels > 0 ? [`${pixels.toLocaleString('en')} pixels`] : []),
    ...(place ? [pc.cyan(`${place.file}:${place.line}`)] : []),
    ...(waiting > 0 ? [`${counted(waiting, 'capture waits', 'captures wait')} for another cause to be decided`] : []),
  ];
  const head = `  ${pc.bold(String(number).padStart(2))}  ${proofText(cluster)}  ${title}`;
  const edit = edits?.get(cluster.key);
  const lines = [
    facts.join(' · '),
    pc.dim(capturesText(captures)),
    ...effectLines(cluster).map((line) => pc.dim(line)),
    pc.underline(reviewUrl(url, cluster)),
    ...(edit ? foundText(edit).split('\n') : []),
  ];
  return [head, ...lines.map((line) => `      ${line}`)].join('\n');
}

/** So many effects of a cause are told. */
const mostEffects = 2;

/** What a cause does to computed styles, where its title does not say so. */
function effectLines({ kind, effects }: Cluster): string[] {
  if (kind === 'style') return [];
  const lines = effects
    .slice(0, mostEffects)
    .map((effect) => `${effectText(effect)}${effect.by ? `  by ${winnerText(effect.by)}` : ''}`);
  const more = effects.length - lines.length;
  return more > 0 ? [...lines, `and ${counted(more, 'more property', 'more properties')}`] : lines;
}

/** Where a cause is shown in the console. */
const reviewUrl = (url: string, { id }: Cluster): string => `${url}/review?cause=${id}`;

/** `4 causes behind 22 changes`, and each of them. */
export function causesText(
  { causes: list, changes, unexplained }: CauseList,
  url: string,
  edits: ReadonlyMap<string, FoundEdit> | null = null,
): string {
  const lines: string[] = [];
  if (list.length > 0)
    lines.push(
      pc.bold(`${counted(list.length, 'cause')} behind ${counted(changes - unexplained.length, 'change')}`),
      ...list.map((cluster) => clusterText(cluster, url, edits)),
    );
  if (unexplained.length > 0) {
    lines.push(pc.bold(`${counted(unexplained.length, 'change')} without a known cause`));
    for (const { component, look, environment, capture, note } of unexplained)
      lines.push(`  ? ${lookTitle(component, look)} ${pc.dim(`· ${environment} · ${capture}`)}\n      ${note}`);
  }
  return lines.join('\n');
}
