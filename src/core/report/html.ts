/** A run as one HTML file that needs nothing else: what is wrong with its pictures, and the rest as a list. */
import { addParts, type CoverageReport, coverageKinds, percentText, shortfallText } from '../coverage/report.ts';
import type { CaptureSummary, ResultSummary } from '../run/run.ts';
import { hasFailed, verdicts } from '../run/verdict.ts';
import { counted } from '../text/counted.ts';
import { isWrong, placeIn, reasonOf, type Recorded, type ReportData, titleOf } from './report.ts';

const escaped = (text: string): string => text.replace(/[&<>"']/g, (found) => `&#${found.charCodeAt(0)};`);

const style = `
:root{color-scheme:light dark;--paper:light-dark(#f5f4ef,#15171d);--sheet:light-dark(#fdfcf9,#1c1f27);
--rule:light-dark(#d9d6cb,#313643);--ink:light-dark(#20242f,#e4e4df);--soft:light-dark(#666a75,#9a9fac);
--failed:light-dark(#b02a2a,#f08b83);--passed:light-dark(#2d6e4a,#7cc79c);--changed:light-dark(#8f5c06,#e3b25c)}
*{box-sizing:border-box}
body{margin:0 auto;max-width:1160px;padding:24px;background:var(--paper);color:var(--ink);
font:13px/1.5 Inter,"DejaVu Sans",system-ui,sans-serif}
h1{font-size:18px;margin:0 0 4px}h2{font-size:14px;margin:28px 0 8px}p{margin:4px 0}
.soft{color:var(--soft)}
article{background:var(--sheet);border:1px solid var(--rule);border-radius:8px;padding:14px 16px;margin:10px 0}
article h3{font-size:13px;margin:0 0 4px}.failed,.broken{color:var(--failed)}
.changed,.new{color:var(--changed)}.passed{color:var(--passed)}
pre{overflow:auto;margin:8px 0;padding:8px 10px;border:1px solid var(--rule);border-radius:6px;
background:var(--paper);font:11.5px/1.5 "DejaVu Sans Mono",ui-monospace,monospace}
.shots{display:flex;flex-wrap:wrap;gap:12px;margin-top:8px}figure{margin:0;max-width:100%}
figcaption{color:var(--soft)}
img{display:block;max-width:100%;border:1px solid var(--rule);background:#fff}
table{border-collapse:collapse;width:100%}
td,th{padding:3px 12px 3px 0;text-align:left;vertical-align:top;border-bottom:1px solid var(--rule)}
ol{margin:6px 0;padding-left:24px}`;

const shapes: Record<string, string> = { passed: '✓', failed: '✗', broken: '▲', changed: '≠', new: '+' };

export type HtmlParts = {
  coverage: CoverageReport | null;
  /** Timelines of what is wrong. */
  recorded: readonly Recorded[];
  /** A picture as the address of its own data; null for one that is not kept any more. */
  dataOf(hash: string): string | null;
};

function shotsOf({ name, hash, baseline, difference }: CaptureSummary, dataOf: HtmlParts['dataOf']): string {
  const all: [string, string | null][] = [
    ['approved', baseline],
    ['now', hash],
    ['difference', difference],
  ];
  const figures = all.flatMap(([what, picture]) => {
    const data = picture && dataOf(picture);
    const label = `${name === 'end' ? '' : `${name}, `}${what}`;
    return data
      ? `<figure><figcaption>${escaped(label)}</figcaption><img alt="${escaped(label)}" src="${data}"></figure>`
      : [];
  });
  return `<div class="shots">${figures.join('')}</div>`;
}

function stepsOf({ timeline, result }: Recorded): string {
  const shown = timeline.steps.filter(({ parent }) => parent === null);
  const items = shown.map(({ title, outcome, index }) => {
    const isHere = index === result.failedStep;
    const text = `${isHere ? '✗ ' : ''}${escaped(title)}${outcome === 'running' ? ', not finished' : ''}`;
    return `<li class="${isHere ? 'failed' : 'soft'}">${text}</li>`;
  });
  return `<details><summary>${counted(timeline.steps.length, 'step')}</summary><ol>${items.join('')}</ol></details>`;
}

function articleOf(data: ReportData, result: ResultSummary, { dataOf, recorded }: HtmlParts): string {
  const { file, line } = placeIn(data, result);
  const { problem, captures, verdict, notes } = result;
  const own = recorded.find((one) => one.result.id === result.id);
  const pictured = captures.filter(({ state }) => state.kind !== 'same' || hasFailed(result));
  const parts = [
    `<h3><span class="${verdict}">${shapes[verdict]} ${verdict}</span> ${escaped(titleOf(result))}</h3>`,
    `<p>${escaped(problem?.message ?? reasonOf(result)).replaceAll('\n', '<br>')}</p>`,
    ...(problem?.found ?? []).map((found) => `<p>instead: ${escaped(found)}</p>`),
    `<p class="soft">${escaped(file)}${line === null ? '' : `:${line}`}</p>`,
    ...(problem?.frame ? [`<pre>${escaped(problem.frame)}</pre>`] : []),
    ...(problem ? [`<p>→ ${escaped(problem.remedy)}</p>`] : []),
    ...notes.map((note) => `<p class="soft">Note: ${escaped(note)}</p>`),
    ...(own ? [stepsOf(own)] : []),
    ...pictured.map((capture) => shotsOf(capture, dataOf)),
  ];
  return `<article id="result-${result.id}">${parts.join('')}</article>`;
}

function coverageOf(report: CoverageReport): string {
  const total = addParts(report.files);
  const row = (name: string, parts: typeof total): string =>
    `<tr><td>${escaped(name)}</td>${coverageKinds.map((kind) => `<td>${percentText(parts[kind])}</td>`).join('')}</tr>`;
  const head = `<tr><th>source</th>${coverageKinds.map((kind) => `<th>${kind}</th>`).join('')}</tr>`;
  const short = report.shortfalls.map((one) => `<p class="failed">✗ ${escaped(shortfallText(one))}</p>`).join('');
  const rows = report.files.map((file) => row(file.path, file)).join('');
  return `<h2>Coverage</h2>${short}<table>${head}${row('all', total)}${rows}</table>`;
}

export function htmlOf(data: ReportData, parts: HtmlParts): string {
  const { run, results, isStrict, project } = data;
  const wrong = results.filter((result) => isWrong(result, isStrict));
  const rest = results.filter((result) => !wrong.includes(result));
  const tally = verdicts
    .filter((verdict) => run.tally[verdict] > 0)
    .map((verdict) => `<span class="${verdict}">${shapes[verdict]} ${run.tally[verdict]} ${verdict}</span>`);
  const about = [run.started, run.engine, run.branch, run.commit].filter((one) => one !== null).join(' · ');
  const problems = run.problems.map(
    ({ message, remedy }) => `<p class="failed">✗ ${escaped(message)} ${escaped(remedy)}</p>`,
  );
  const list = rest.map(({ verdict, took, ...one }) => {
    const cells = [`<td class="${verdict}">${shapes[verdict]} ${verdict}</td>`, `<td>${escaped(titleOf(one))}</td>`];
    return `<tr>${cells.join('')}<td class="soft">${took} ms</td></tr>`;
  });
  const body = [
    `<h1>${escaped(project)}</h1><p>${tally.join(', ') || 'No looks were run.'}</p>`,
    `<p class="soft">Run ${run.id} · ${escaped(about)}</p>`,
    ...problems,
    ...(wrong.length > 0 ? ['<h2>What is wrong</h2>', ...wrong.map((one) => articleOf(data, one, parts))] : []),
    ...(parts.coverage ? [coverageOf(parts.coverage)] : []),
    ...(rest.length > 0 ? [`<h2>${counted(rest.length, 'other look')}</h2><table>${list.join('')}</table>`] : []),
  ];
  // Nothing may be loaded, and nothing runs: what pages have shown is in here as text and pictures only.
  const policy = "default-src 'none'; img-src data:; style-src 'unsafe-inline'";
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<meta http-equiv="Content-Security-Policy" content="${policy}"><title>${escaped(project)}, run ${run.id}</title>
<style>${style}</style></head><body>${body.join('\n')}</body></html>\n`;
}
