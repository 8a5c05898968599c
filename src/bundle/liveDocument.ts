/** Documents of stages: the one that loads a look file, and the one that says why there is nothing to be seen. */
import { inMarkup } from '../core/text/inMarkup.ts';
import type { FromStage } from '../core/wire/live.ts';

/** The value of an attribute that tells the console of trouble where nothing of ours runs. */
function telling(message: string): string {
  const news: FromStage = { from: 'sguardo-stage', kind: 'trouble', message };
  return inMarkup(`parent.postMessage(${JSON.stringify(news)}, '*')`);
}

const documentOf = (title: string, body: string): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${inMarkup(title)}</title>
<link rel="icon" href="data:,">
</head>
${body}
</html>
`;

const notLoaded = 'The look file could not be loaded. The stage says why.';

/** The document of a look file, which `script` puts on the stage. */
export const documentFor = (file: string, script: string): string =>
  documentOf(
    `Stage: ${file}`,
    `<body><div id="look"></div>
<script type="module" src="${inMarkup(script)}" onerror="${telling(notLoaded)}"></script></body>`,
  );

/** A document that says why there is no stage, to whoever looks at it and to the console around it. */
export const documentSaying = (message: string): string =>
  documentOf(
    'Stage',
    `<body style="margin: 24px; font: 14px system-ui, sans-serif" onload="${telling(message)}">
<p>${inMarkup(message)}</p></body>`,
  );
