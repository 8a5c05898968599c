/** The frame around every look, as the app's entry has it around its components. */
import { keyOf } from '../core/draft/style.ts';
import type { Findings } from './find.ts';

type File = { path: string; text: string };

const about = 'Around every look: what the app puts around its components.';

/** Lines of code, each with the semicolon that the project has at their ends, or has not. */
const lines = (all: readonly string[], end: string): string[] => all.map((one) => `${one.replace(/;$/, '')}${end}`);

const imports = ({ around, style }: Findings): string[] => {
  const { quote, semicolon } = style;
  return [
    ...lines(around.needed.imports, semicolon),
    ...[...around.modules, ...around.styles].map((path) => `import ${quote}${path}${quote}${semicolon}`),
  ];
};

const statements = ({ around, style }: Findings): string[] => lines(around.needed.statements, style.semicolon);

/** The app's elements around what a frame is given, and what stands beside it in them. */
function markup({ around: { wrappers }, isTyped, style: { semicolon, indent } }: Findings): string[] {
  if (wrappers.length === 0) return [`${indent}return ${isTyped ? '<>{children}</>' : 'children'}${semicolon}`];
  const nested = around(wrappers, '{children}', indent).map((line) => indent.repeat(2) + line);
  return [`${indent}return (`, ...nested, `${indent})${semicolon}`];
}

/** Elements around what is given, a line each. */
function around(wrappers: Findings['around']['wrappers'], given: string, indent: string): string[] {
  const at = (depth: number, texts: readonly string[]): string[] => texts.map((one) => indent.repeat(depth) + one);
  const opened = wrappers.flatMap(({ open, before }, i) => [...at(i, [open]), ...at(i + 1, before)]);
  const closed = wrappers.map(({ name, behind }, i) => [...at(i + 1, behind), ...at(i, [`</${name}>`])]);
  return [...opened, ...at(wrappers.length, [given]), ...closed.toReversed().flat()];
}

/** `const client = new Client()` */
const instance = /^const (\w+)(?:: [^=]+)? = (new [\s\S]+?);?$/;

/** Statements of the entry: those that make what only the markup needs, and the others. */
function instances(findings: Findings): { made: [name: string, by: string][]; other: string[] } {
  const all = statements(findings);
  const made: [string, string][] = [];
  const other = all.filter((one) => {
    const [, name, by] = instance.exec(one) ?? [];
    if (!name || all.some((another) => another !== one && new RegExp(`\\b${name}\\b`).test(another))) return true;
    made.push([name, by!]);
    return false;
  });
  return { made, other };
}

function react(findings: Findings): File {
  const { isPreact, isTyped, style } = findings;
  const { quote, semicolon, indent } = style;
  const type = isPreact ? 'ComponentChildren' : 'ReactNode';
  const library = isPreact ? 'preact' : 'react';
  const hooks = isPreact ? 'preact/hooks' : 'react';
  const { made, other } = instances(findings);
  const text = [
    ...(isTyped ? [`import type { ${type} } from ${quote}${library}${quote}${semicolon}`] : []),
    ...(made.length > 0 ? [`import { useState } from ${quote}${hooks}${quote}${semicolon}`] : []),
    ...imports(findings),
    '',
    ...(other.length > 0 ? [...other, ''] : []),
    `/** ${about} */`,
    `export default function Frame(${isTyped ? `{ children }: { children: ${type} }` : '{ children }'}) {`,
    ...(made.length > 0 ? [`${indent}// Made for each look: what one leaves in it is not there for the next.`] : []),
    ...made.map(([name, by]) => `${indent}const [${name}] = useState(() => ${by})${semicolon}`),
    ...markup(findings),
    '}',
  ];
  return { path: `sguardo.frame.${isTyped ? 'tsx' : 'jsx'}`, text: text.join('\n').trimStart() };
}

function vue(findings: Findings): File {
  const { around: found, isTyped, style } = findings;
  const { quote, semicolon, indent } = style;
  const hasSetup = found.calls.length > 0;
  const type = isTyped ? ': App' : '';
  const block = (open: string, code: readonly string[]): string =>
    code.length > 0 ? `<${open}${isTyped ? ' lang="ts"' : ''}>\n${code.join('\n')}\n</script>\n\n` : '';
  const code = [
    ...(hasSetup && isTyped ? [`import type { App } from ${quote}vue${quote}${semicolon}`] : []),
    ...imports(findings),
    ...(hasSetup
      ? [
          '',
          ...statements(findings),
          '/** What the app has before it is mounted. */',
          `export function setup(app${type}) {`,
          ...found.calls.map((call) => `${indent}app.${call}${semicolon}`),
          '}',
          '',
          `export default {}${semicolon}`,
        ]
      : []),
  ];
  const inside = [...lines(found.inside.imports, semicolon), ...lines(found.inside.statements, semicolon)];
  const scripts = hasSetup
    ? block('script', code) + block('script setup', inside)
    : block('script setup', [...code, ...inside]);
  const shown = [...around(found.wrappers, '<slot />', indent), ...found.messages].map((line) => indent + line);
  const styles = found.blocks.map((one) => `\n\n${one}`).join('');
  const template = `<template>\n${shown.join('\n')}\n</template>`;
  return { path: 'sguardo.frame.vue', text: `${scripts}<!-- ${about} -->\n${template}${styles}` };
}

function svelte(findings: Findings): File {
  const { around: found, isTyped, style } = findings;
  const { indent, semicolon, quote } = style;
  const type = isTyped ? ': { children: Snippet }' : '';
  const code = [
    ...(isTyped ? [`import type { Snippet } from ${quote}svelte${quote}${semicolon}`] : []),
    ...imports(findings),
    `let { children }${type} = $props()${semicolon}`,
    ...statements(findings),
    ...lines(found.calls, semicolon),
  ].map((line) => indent + line);
  const open = `<script${isTyped ? ' lang="ts"' : ''}>`;
  const shown = [...around(found.wrappers, '{@render children()}', indent), ...found.messages];
  return {
    path: 'sguardo.frame.svelte',
    text: `<!-- ${about} -->\n${open}\n${code.join('\n')}\n</script>\n\n${shown.join('\n')}`,
  };
}

function angular(findings: Findings): File {
  const { around, style } = findings;
  const { semicolon } = style;
  const text = [
    ...imports(findings),
    '',
    // A component here would have to be among the files that Angular's compiler is told of.
    '/** What the app provides to its components. A component as the default export would stand around every look. */',
    `export const providers = ${around.providers ?? '[]'}${semicolon}`,
  ];
  return { path: 'sguardo.frame.ts', text: text.join('\n').trimStart() };
}

function dom(findings: Findings): File {
  const { isTyped, style } = findings;
  const type = isTyped ? 'content: Node' : 'content';
  const text = [
    ...imports(findings),
    '',
    `/** ${about} */`,
    `export default function frame(${type})${isTyped ? ': Node' : ''} {`,
    `${style.indent}return content${style.semicolon}`,
    '}',
  ];
  return { path: `sguardo.frame.${isTyped ? 'ts' : 'js'}`, text: text.join('\n').trimStart() };
}

const frames = { react, vue, svelte, angular, dom };

export function frameFor(findings: Findings): File {
  const { path, text } = frames[findings.kind](findings);
  return { path, text: `${text}\n` };
}

/** The configuration file. */
export function configFor({ isTyped, isDark, mark, style }: Findings): File {
  const { quote, semicolon, indent } = style;
  const entries = [
    ...(isDark
      ? [
          'environments: {',
          `${indent}day: {},`,
          `${indent}night: { ${keyOf('scheme', style)}: ${quote}dark${quote} },`,
          '},',
        ]
      : []),
    ...(mark && mark.attribute !== 'data-testid' ? [`markAttribute: ${quote}${mark.attribute}${quote},`] : []),
  ].map((line) => indent + line);
  const body = entries.length === 0 ? '{}' : `{\n${entries.join('\n')}\n}`;
  const text = isTyped
    ? `import type { Config } from ${quote}sguardo/config${quote}${semicolon}\n\n` +
      `export default ${body} satisfies Config${semicolon}\n`
    : `/** @type {import('sguardo/config').Config} */\nexport default ${body}${semicolon}\n`;
  return { path: `sguardo.config.${isTyped ? 'ts' : 'js'}`, text };
}
