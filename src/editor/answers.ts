/** What the editor shows about a place of a look file: lenses over looks, targets under the pointer, what may come. */
import { type CodeLens, type CompletionItem, CompletionItemKind, type Hover, MarkupKind } from 'vscode-languageserver';
import { componentOf } from '../core/look/look.ts';
import type { Named } from '../core/moment/named.ts';
import type { ResultSummary } from '../core/run/run.ts';
import { type Verdict, verdicts } from '../core/run/verdict.ts';
import { counted } from '../core/text/counted.ts';
import { linesOf } from './lines.ts';
import { lookAt, looksIn, targetAt, writingAt } from './lookFile.ts';
import type { EditorProject } from './project.ts';
import { isCalled, isMeant, type Shown, untold } from './seen.ts';

const shapes: Record<Verdict, string> = { passed: '✓', failed: '✗', broken: '▲', changed: '≠', new: '+' };

/** How long ago something was, in words. */
export function ageText(milliseconds: number): string {
  const minutes = Math.floor(milliseconds / 60_000);
  if (minutes < 1) return 'just now';
  if (minutes < 60) return `${counted(minutes, 'minute')} ago`;
  const hours = Math.floor(minutes / 60);
  return hours < 48 ? `${counted(hours, 'hour')} ago` : `${counted(Math.floor(hours / 24), 'day')} ago`;
}

/** `✗ failed (night), 3 minutes ago`: the worst of a look's results. */
function verdictText(results: readonly ResultSummary[], project: EditorProject): string {
  if (results.length === 0) return 'not run yet';
  const worst = verdicts.find((verdict) => results.some((one) => one.verdict === verdict))!;
  const where = results.filter(({ verdict }) => verdict === worst).map(({ environment }) => environment);
  const end = Math.max(...results.map(({ run }) => project.endOf(run) ?? 0));
  const place = where.length < results.length ? ` (${where.join(', ')})` : '';
  return `${shapes[worst]} ${worst}${place}${end > 0 ? `, ${ageText(Date.now() - end)}` : ''}`;
}

/** Above each look: run it, open it on the bench, what it came to and when. */
export function lensesOf(file: string, text: string, project: EditorProject): CodeLens[] {
  const component = componentOf(file);
  const lines = linesOf(text);
  return looksIn(text).flatMap(({ name: look, key }): CodeLens[] => {
    const range = lines.range(key);
    const results = project.resultsOf({ component, look });
    const wrong = results.find(({ verdict }) => verdict !== 'passed') ?? results[0];
    const show = wrong ? [{ url: project.linkOf(wrong) }] : [];
    return [
      { range, command: { title: 'run', command: 'sguardo.run', arguments: [{ component, look, file }] } },
      ...(wrong ? [{ range, command: { title: 'open on the bench', command: 'sguardo.open', arguments: show } }] : []),
      {
        range,
        command: { title: verdictText(results, project), command: wrong ? 'sguardo.open' : '', arguments: show },
      },
    ];
  });
}

/** What the looks of a file have shown, those of one look first. */
async function shownOf(file: string, look: string | null, project: EditorProject): Promise<Shown[][]> {
  const component = componentOf(file);
  const own = project.all().filter((one) => one.component === component);
  const [environment] = own.map((one) => one.environment);
  const first = own.filter((one) => one.environment === environment);
  first.sort((a, b) => Number(b.look === look) - Number(a.look === look));
  return Promise.all(first.slice(0, 20).map((one) => project.shown(one)));
}

const described = ({ role, name, mark }: Named): string =>
  `${role ?? 'element'}${name ? ` “${name}”` : ''}${mark === null ? '' : `, marked ${mark}`}`;

/** How many elements the target at a place matched when the look was run last. */
export async function hoverAt(
  file: string,
  text: string,
  offset: number,
  project: EditorProject,
): Promise<Hover | null> {
  const target = targetAt(text, offset);
  if (!target || untold.includes(target.kind)) return null;
  const look = lookAt(looksIn(text), offset)?.name ?? null;
  const own = project.resultsOf({ component: componentOf(file), look: look ?? '' });
  const moments = own[0] ? await project.shown(own[0]) : ((await shownOf(file, look, project))[0] ?? []);
  if (moments.length === 0) return null;
  const counts = moments.map(({ named, texts }) =>
    target.kind === 'text'
      ? texts
          .filter((one) => isCalled(one, target.name))
          .map((one): Named => ({ node: 0, role: 'text', name: one, mark: null }))
      : named.filter((one) => isMeant(target, one)),
  );
  const last = counts.at(-1)!;
  const most = counts.reduce((a, b) => (b.length > a.length ? b : a), last);
  const shown = last.length > 0 ? last : most;
  const says =
    last.length > 0
      ? `${counted(last.length, 'element')} at the end of the last run`
      : most.length > 0
        ? `${counted(most.length, 'element')} in between, none at the end of the last run`
        : 'No element in the last run';
  const list = [...new Set(shown.map(described))].slice(0, 8).map((one) => `- ${one}`);
  const before = target.isNarrowed && shown.length > 0 ? ', before what narrows it' : '';
  const value = [`**${says}${before}**`, ...list].join('\n');
  return { contents: { kind: MarkupKind.Markdown, value }, range: linesOf(text).range(target.span) };
}

const ownKinds = ['text', 'field', 'marked', 'placeholder', 'css'];

/** Names, roles and marks that occurred in the component's last moments. */
export async function completionsAt(
  file: string,
  text: string,
  offset: number,
  project: EditorProject,
): Promise<CompletionItem[]> {
  const writing = writingAt(text, offset);
  if (!writing) return [];
  const look = lookAt(looksIn(text), offset)?.name ?? null;
  const moments = (await shownOf(file, look, project)).flat();
  if (writing.of === 'kind') {
    const counts = new Map<string, number>();
    for (const { role } of moments.at(-1)?.named ?? []) if (role) counts.set(role, (counts.get(role) ?? 0) + 1);
    for (const { named } of moments) for (const { role } of named) if (role && !counts.has(role)) counts.set(role, 0);
    const there = [...counts].map(
      ([label, n]): CompletionItem => ({
        label,
        kind: CompletionItemKind.Method,
        detail: n > 0 ? `${counted(n, 'element')} at the end` : 'in between',
        sortText: `0${label}`,
      }),
    );
    const own = ownKinds.map(
      (label): CompletionItem => ({ label, kind: CompletionItemKind.Method, sortText: `1${label}` }),
    );
    return [...there, ...own];
  }
  const { kind } = writing;
  const names = new Map<string, string>();
  for (const { named, texts } of moments) {
    if (kind === 'text') for (const one of texts) names.set(one, 'text');
    for (const one of named) {
      const name = kind === 'marked' ? one.mark : one.name;
      if (name && kind !== 'text' && isMeant({ kind, name }, one)) names.set(name, described(one));
    }
  }
  return [...names].map(([label, detail]) => ({
    label,
    detail,
    kind: CompletionItemKind.Value,
    insertText: label.replaceAll('\\', '\\\\').replaceAll(writing.quote, `\\${writing.quote}`),
  }));
}
