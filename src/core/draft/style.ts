/** How a project writes its code: a draft is to look like it. */

/** `isTyped` is true for TypeScript. */
export type Style = { quote: "'" | '"'; indent: string; semicolon: ';' | ''; isTyped: boolean };

/** The style of a file, as most of its lines have it. */
export function styleOf(source: string, isTyped: boolean): Style {
  const count = (pattern: RegExp): number => source.match(pattern)?.length ?? 0;
  // Attributes of markup have double quotes, whatever the code around them has.
  const code = source.replace(/[\w-]+="[^"]*"/g, '');
  const imports = code.match(/^\s*(import|export)\b.*from\s+['"].*$/gm)?.join('\n') || code;
  const double = (imports.match(/"/g) ?? []).length;
  const single = (imports.match(/'/g) ?? []).length;
  const step = /^( +|\t+)\S/m.exec(source.replace(/^\s*\*.*$/gm, ''))?.[1] ?? '  ';
  const ended = count(/[;]\s*$/gm);
  const open = count(/^(import\b|export\b|\s*const\b|\s*return\b).*[^;{([,\s]\s*$/gm);
  return {
    quote: double > single ? '"' : "'",
    indent: step.startsWith('\t') ? '\t' : step.length >= 4 && step.length % 4 === 0 ? '    ' : '  ',
    semicolon: open > ended ? '' : ';',
    isTyped,
  };
}

/** A text as a literal. */
export function quoted(text: string, { quote }: Pick<Style, 'quote'>): string {
  const json = JSON.stringify(text).slice(1, -1);
  return quote === '"' ? `"${json}"` : `'${json.replaceAll('\\"', '"').replaceAll("'", "\\'")}'`;
}

/** The key of an entry, in quotes where it needs them. */
export const keyOf = (name: string, style: Pick<Style, 'quote'>): string =>
  /^[\p{L}_$][\p{L}\p{N}_$]*$/u.test(name) ? name : quoted(name, style);
