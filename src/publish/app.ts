/** The console and the drawing page as files of a site, and the pages that begin them. */
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { fail } from '../core/problem/problem.ts';
import type { SiteList, SitePage } from '../core/site/site.ts';
import { inMarkup } from '../core/text/inMarkup.ts';
import { writeWhole } from './objects.ts';
import { scriptsWithService } from './shown.ts';

const built = resolve(dirname(fileURLToPath(import.meta.url)), '../../dist/console');

/** Nothing comes from elsewhere, and nothing goes there. */
const policy =
  "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; " +
  "font-src 'self' data:; frame-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'none'";

/** The document that moments are drawn into; scripts are off in its frame. */
const blankPolicy = "default-src 'none'; img-src 'self' data:; font-src 'self' data:; style-src 'unsafe-inline' 'self'";
const blank =
  `<!doctype html><html><head><meta http-equiv="content-security-policy" content="${blankPolicy}"></head>` +
  '<body></body></html>';

const ofFolder = (folder: string): string[] =>
  existsSync(folder) ? readdirSync(folder).map((name) => join(folder, name)) : [];

/** The files of the console that a site shows pages with. */
function consoleFiles(): string[] {
  const unused = scriptsWithService(JSON.parse(readFileSync(join(built, 'manifest.json'), 'utf8')));
  const all = [...ofFolder(join(built, 'assets')), ...ofFolder(join(built, 'scripts'))];
  // What is packed is for the service: servers of sites do as they like.
  return all.filter((file) => !file.endsWith('.br') && !unused.has(relative(built, file))).sort();
}

/** Puts the console's files into a folder of the site that is called by what they hold. Gives back its name. */
export function putApp(site: string): string {
  if (!existsSync(join(built, 'index.html'))) return fail('not-found', { what: 'console; build it: npm run build' });
  const files = consoleFiles();
  const hash = createHash('sha256').update(blank);
  for (const file of [join(built, 'index.html'), join(built, 'draw.html'), ...files]) hash.update(readFileSync(file));
  const name = hash.digest('hex').slice(0, 12);
  const home = join(site, 'app', name);
  if (existsSync(join(home, 'draw.html'))) return name;
  for (const file of files) writeWhole(join(home, relative(built, file)), readFileSync(file));
  writeWhole(join(home, 'blank.html'), blank);
  const draw = readFileSync(join(built, 'draw.html'), 'utf8')
    .replace('<html ', '<html data-assets="../../objects/" ')
    .replace('src="/draw/blank"', 'src="./blank.html"')
    .replaceAll('"/draw/', '"./');
  // Last: where it is, all of it is.
  writeWhole(join(home, 'draw.html'), draw);
  return name;
}

/** The page of an entry: the console, told what it reads from. */
export function entryPage(app: string, page: SitePage): string {
  const said = JSON.stringify(page).replaceAll('<', '\\u003c');
  return readFileSync(join(built, 'index.html'), 'utf8')
    .replaceAll('"/assets/', `"../app/${app}/assets/`)
    .replace(
      '<title>Sguardo</title>',
      `<title>${inMarkup(page.project)}, ${inMarkup(page.entry.name)}: Sguardo</title>`,
    )
    .replace('<head>', `<head>\n    <meta http-equiv="content-security-policy" content="${policy}">`)
    .replace(
      '<div id="console">',
      `<script id="site" type="application/json">${said}</script>\n    <div id="console">`,
    );
}

/** The first page of a site: what was published, the newest first. It needs no script. */
export function firstPage({ project, entries }: SiteList): string {
  const rows = entries.map(({ name, commit, branch, at, looks, verdicts, reports = [] }) => {
    const folder = `./${encodeURIComponent(name)}`;
    const files = reports.map(
      (file) => `<a href="${folder}/reports/${encodeURIComponent(file)}">${inMarkup(file)}</a>`,
    );
    const counts = Object.entries(verdicts)
      .filter(([, count]) => count > 0)
      .map(([verdict, count]) => `<span class="${verdict}">${count} ${verdict}</span>`)
      .join(', ');
    return `<tr><td><a href="${folder}/index.html">${inMarkup(commit?.slice(0, 12) ?? name)}</a></td>
<td>${inMarkup(branch ?? '')}</td><td><time datetime="${at}">${at.slice(0, 16).replace('T', ' ')} UTC</time></td>
<td class="number">${looks}</td><td>${counts}</td><td class="files">${files.join(' ')}</td></tr>`;
  });
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="color-scheme" content="light dark">
<meta http-equiv="content-security-policy" content="default-src 'none'; style-src 'unsafe-inline'">
<title>${inMarkup(project)}: Sguardo</title>
<style>
:root { --paper: #f5f4ef; --ink: #20242f; --soft: #666a75; --rule: #d9d6cb; --accent: #4b55a8; --wrong: #b02a2a; }
@media (prefers-color-scheme: dark) {
  :root { --paper: #15171d; --ink: #e4e4df; --soft: #9a9fac; --rule: #313643; --accent: #a3abf0; --wrong: #f08b83; }
}
body { margin: 0 auto; max-width: 72rem; padding: 2.5rem 1.5rem; background: var(--paper); color: var(--ink);
  font: 14px/1.5 "Inter", "DejaVu Sans", system-ui, sans-serif; }
h1 { font-size: 20px; margin: 0 0 .25rem; } p { color: var(--soft); margin: 0 0 1.5rem; }
table { width: 100%; border-collapse: collapse; }
th { text-align: left; font-weight: 500; color: var(--soft); }
th, td { padding: .45rem 1rem .45rem 0; border-bottom: 1px solid var(--rule); vertical-align: top; }
td:first-child { font-family: ui-monospace, monospace; font-size: 13px; }
td { white-space: nowrap; } .files { white-space: normal; } .files a { margin-right: .6rem; white-space: nowrap; }
.number { font-variant-numeric: tabular-nums; } a { color: var(--accent); }
.failed, .broken { color: var(--wrong); font-weight: 600; }
</style>
</head>
<body>
<h1>${inMarkup(project)}</h1>
<p>What was published, the newest first. Each opens as it was then.</p>
<table>
<thead><tr><th>Commit</th><th>Branch</th><th>Published</th><th>Looks</th><th>Verdicts</th><th>Reports</th></tr></thead>
<tbody>
${rows.join('\n')}
</tbody>
</table>
</body>
</html>
`;
}
