/** Drafts of look files: which states a component's props suggest, and how they are written. */
import { describe, expect, it } from 'vitest';
import { type Component, draftOf } from '../../src/core/draft/draft.ts';
import { inWords } from '../../src/core/draft/sample.ts';
import { quoted, type Style, styleOf } from '../../src/core/draft/style.ts';
import { undescribed } from '../../src/core/props/described.ts';
import type { Prop, PropType } from '../../src/core/props/type.ts';

const long = 'A text that is far longer than anybody had in mind, which shows where it wraps, and what it pushes aside';
const style: Style = { quote: "'", indent: '  ', semicolon: ';', isTyped: true };
const text: PropType = { is: 'text' };
const value = (one: string): PropType => ({ is: 'value', value: one });
const one = (...of: PropType[]): PropType => ({ is: 'one', of });
const told: PropType = { is: 'function', hears: true, text: '() => void' };

/** An object of which entries with a question mark may be left out. */
function object(entries: Record<string, PropType>): PropType {
  const props = Object.entries(entries).map(([key, type]): [string, Prop] => [
    key.replace('?', ''),
    { type, isOptional: key.endsWith('?'), isOwn: true },
  ]);
  return { is: 'object', name: '', entries: Object.fromEntries(props), others: null };
}

const drafted = (types: PropType | null, more: Partial<Component> = {}, how = style): string =>
  draftOf(
    {
      name: 'Berth',
      kind: 'react',
      from: './Berth',
      isDefault: false,
      tag: null,
      types,
      described: undescribed,
      ...more,
    },
    how,
  );

/** The states of a draft, by their names: what stands behind each of them. */
const states = (types: PropType): string[] =>
  [...drafted(types).matchAll(/^ {4}(?:'(.*)'|(\w+)): \{(.*)$/gm)].map(([, quotedName, name]) => quotedName ?? name!);

describe('a draft', () => {
  it('is a whole look file', () => {
    const types = object({ name: text, onRelease: told, 'depth?': { is: 'number' } });
    expect(drafted(types)).toBe(`import { looks, spy } from 'sguardo/react';
import { Berth } from './Berth';

export default looks(Berth, {
  props: { name: 'Name', onRelease: spy() },
  states: {
    default: {},
    'with everything': { props: { depth: 1 } },
    'long texts': {
      props: {
        name: '${long}',
      },
    },
  },
});
`);
  });

  it('of a component without props, or of which nothing is known, has one look', () => {
    const bare = `import { looks } from 'sguardo/react';
import Berth from './Berth';

export default looks(Berth, {
  states: {
    default: {},
  },
});
`;
    expect(drafted(object({}), { isDefault: true })).toBe(bare);
    expect(drafted(null, { isDefault: true })).toBe(bare);
  });

  it.each<[string, PropType, string[]]>([
    ['members of a union', object({ tone: one(value('calm'), value('gale')) }), ['default', 'tone gale']],
    [
      'all of them where none is needed',
      object({ 'tone?': one(value('calm'), value('gale')) }),
      ['default', 'tone calm', 'tone gale'],
    ],
    [
      'switches',
      object({ 'isOpen?': { is: 'boolean' }, disabled: { is: 'boolean' } }),
      ['default', 'open', 'disabled'],
    ],
    ['lists', object({ fees: { is: 'list', of: text } }), ['default', 'no fees']],
    ['what may be missing', object({ vessel: one(object({}), { is: 'null' }) }), ['default', 'no vessel']],
    [
      'props of several shapes',
      one(object({ kind: value('a') }), object({ kind: value('b'), x: { is: 'number' } })),
      ['default', 'kind b'],
    ],
    [
      'no more than a person can look at',
      object({ code: one(...Array.from({ length: 30 }, (_, i) => value(`${i}`))) }),
      ['default'],
    ],
  ])('has looks for %s', (_, types, names) => {
    expect(states(types)).toEqual(names);
  });

  it.each<[string, PropType, string]>([
    ['an address', object({ homeUrl: text }), "homeUrl: 'https://example.com/'"],
    [
      'a list',
      object({ fees: { is: 'list', of: object({ what: text }) } }),
      "fees: [{ what: 'What 1' }, { what: 'What 2' }]",
    ],
    ['a date', object({ since: { is: 'instance', name: 'Date' } }), "since: new Date('2026-03-02T09:30:00Z')"],
    ['a row', object({ at: { is: 'row', of: [{ is: 'number' }, text], least: 2 } }), "at: [1, 'At 1']"],
    [
      'a function that is asked',
      object({ rowFor: { is: 'function', hears: false, text: '(a: string) => string' } }),
      "rowFor: () => 'Text'",
    ],
    ['what is not known', object({ extra: { is: 'anything' } }), 'extra: {} as never'],
    ['a key that needs quotes', object({ 'data-x': text }), "'data-x': 'Data x'"],
    ['what may be null', object({ vessel: one({ is: 'null' }, text) }), "vessel: 'Vessel'"],
  ])('gives %s', (_, types, entry) => {
    expect(drafted(types)).toContain(`  props: { ${entry} },\n`);
  });

  it('gives content in slots where a framework has them', () => {
    expect(drafted(object({ name: text, children: { is: 'content' } }), { kind: 'svelte' })).toContain(
      "  props: { name: 'Name' },\n  slots: { default: 'Children' },\n",
    );
  });

  it('of an element that nobody exports goes by its tag', () => {
    expect(drafted(object({}), { kind: 'dom', tag: 'x-berth' })).toContain(
      "import './Berth';\n\nexport default looks('x-berth', {",
    );
  });

  it('is written as its project is', () => {
    const other = styleOf('import x from "x"\n\nexport function X() {\n\treturn x\n}\n', false);
    expect(other).toEqual({ quote: '"', indent: '\t', semicolon: '', isTyped: false });
    expect(drafted(object({ extra: { is: 'anything' } }), {}, other)).toContain(
      'import { Berth } from "./Berth"\n\nexport default looks(Berth, {\n\tprops: { extra: {} },\n',
    );
  });
});

describe('style', () => {
  it.each([
    ["import a from 'a';\nfunction b() {\n  return 1;\n}\n", { quote: "'", indent: '  ', semicolon: ';' }],
    ["import a from 'a';\nfunction b() {\n    return 1;\n}\n", { quote: "'", indent: '    ', semicolon: ';' }],
    ['/**\n * A comment.\n */\nexport const a = "b"\n', { quote: '"', indent: '  ', semicolon: '' }],
    ['', { quote: "'", indent: '  ', semicolon: ';' }],
  ])('is that of most lines of %j', (source, expected) => {
    expect(styleOf(source, true)).toMatchObject(expected);
  });

  it('quotes what it has to, and words what it can', () => {
    expect(quoted(`it's "so"\n`, { quote: "'" })).toBe(`'it\\'s "so"\\n'`);
    expect(quoted(`it's "so"`, { quote: '"' })).toBe(`"it's \\"so\\""`);
    expect(['vesselName', 'data-id', 'URL', 'x2Depth'].map(inWords)).toEqual([
      'Vessel name',
      'Data id',
      'Url',
      'X2 depth',
    ]);
  });
});
