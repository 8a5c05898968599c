/** Keeping lines in look files: where they belong, with all that they need, and nothing else touched. */
import { describe, expect, it } from 'vitest';
import { keep } from '../../src/keep/keep.ts';
import { type KeepingLines, wordsOfLanguage } from '../../src/keep/lines.ts';
import * as language from '../../src/language/index.ts';

const keeping = (given: Partial<KeepingLines>): KeepingLines => ({
  look: 'moored',
  as: null,
  lines: ["click(the.button('Release'))"],
  before: null,
  from: 'end',
  ...given,
});
const kept = (source: string, given: Partial<KeepingLines> = {}): string => {
  const result = keep('src/Berth.look.tsx', source, keeping(given));
  if ('why' in result) throw new Error(result.why);
  return result.text;
};
const why = (source: string, given: Partial<KeepingLines> = {}): string => {
  const result = keep('src/Berth.look.tsx', source, keeping(given));
  return 'why' in result ? result.why : 'it was kept';
};
const file = (states: string, imported = 'looks'): string =>
  `import { ${imported} } from 'sguardo';
import { Berth } from './Berth';

export default looks(Berth, {
  states: {
${states}
  },
});
`;

describe('keeping lines', () => {
  it('knows every word of the language that a line can call', () => {
    const others = ['looks', 'action', 'check'];
    expect([...wordsOfLanguage].sort()).toEqual(
      Object.keys(language)
        .filter((name) => !others.includes(name))
        .sort(),
    );
  });

  it('gives a look that has none a script, and imports what it needs', () => {
    expect(kept(file('    moored: { props: { depth: 3 } }, // as it is'))).toBe(
      file(
        `    moored: { props: { depth: 3 }, async script() {
      click(the.button('Release'));
    } }, // as it is`,
        'looks, click, the',
      ),
    );
  });

  it('adds to the end of a script, and asks for the props that it names', () => {
    const before = file(
      `    moored: {
      async script() {
        await click(the.button('Ask'));
        // and then?
      },
    },`,
      'click, looks, the',
    );
    expect(kept(before, { lines: ['await ensure(props.onAsk).calls(1);'] })).toBe(
      file(
        `    moored: {
      async script({ props }) {
        await click(the.button('Ask'));
        // and then?
        await ensure(props.onAsk).calls(1);
      },
    },`,
        'click, looks, the, ensure',
      ),
    );
  });

  it('puts lines before what stands on a line, in a script or a helper that it calls', () => {
    const before = `import { click, looks, the } from 'sguardo';
async function ask() {
  await click(the.button('Ask'));
}
export default looks(Berth, { states: { moored: { script: async ({ answers }) => {
  await ask();
  if (answers) {
    await click(the.button('Release'));
  }
} } } });
`;
    const lines = ["hover(the.text('C-14'))"];
    expect(kept(before, { lines, before: 3 })).toContain(
      "async function ask() {\n  hover(the.text('C-14'));\n  await click(the.button('Ask'));\n}",
    );
    expect(kept(before, { lines, before: 8 })).toContain(
      "  if (answers) {\n    hover(the.text('C-14'));\n    await click(the.button('Release'));\n  }",
    );
    const named = ['ensure(props.onAsk).calls(1)'];
    expect(kept(before, { lines: named, before: 6 })).toContain(
      'async ({ answers, props }) => {\n  ensure(props.onAsk).calls(1);\n  await ask();',
    );
    expect(why(before, { lines: named, before: 3 })).toBe(
      '“props” is not known on line 3, which is outside of a script.',
    );
    expect(why(before, { before: 1 })).toBe('No step begins on line 1.');
  });

  it('names what a script is given by the name that it has there', () => {
    const before = file('    moored: { async script(given) { await given.answers; } },');
    expect(
      kept(before, { lines: ["await ensure(props.on['x']).calls(1)", 'await ensure(other.props.x).calls(1)'] }),
    ).toContain("await ensure(given.props.on['x']).calls(1);\n    await ensure(other.props.x).calls(1);");
  });

  it('makes a look that begins where another one has ended, or as it begins', () => {
    const before = file(`    moored: {
      props: { depth: 3 },
      answers: { 'GET /tide': { json: 2 } },
      only: true,
      async script() {},
    },`);
    expect(kept(before, { as: 'moored, released' })).toContain(`    },
    'moored, released': {
      after: 'moored',
      async script() {
        click(the.button('Release'));
      },
    },
  },`);
    expect(kept(before, { as: 'released', from: 'start' })).toContain(`    released: {
      props: { depth: 3 },
      answers: { 'GET /tide': { json: 2 } },
      async script() {
        click(the.button('Release'));
      },
    },`);
  });

  it('writes as the file is written', () => {
    const before = `import { looks } from "sguardo"
import { Berth } from "./Berth"

export default looks(Berth, {
\tstates: {
\t\tmoored: {},
\t},
})
`.replaceAll('\n', '\r\n');
    expect(kept(before, { as: 'released', lines: ["await click(the.button('Release'));"] })).toBe(
      `import { looks, click, the } from "sguardo"
import { Berth } from "./Berth"

export default looks(Berth, {
\tstates: {
\t\tmoored: {},
\t\treleased: {
\t\t\tafter: "moored",
\t\t\tasync script() {
\t\t\t\tawait click(the.button("Release"))
\t\t\t},
\t\t},
\t},
})
`.replaceAll('\n', '\r\n'),
    );
  });

  it.each<[string, string, Partial<KeepingLines>, RegExp]>([
    ['no lines', file('    moored: {},'), { lines: ['', ' ; '] }, /nothing to keep/],
    ['a name that is taken', file('    moored: {},'), { as: 'moored' }, /a look called “moored” already/],
    [
      'a word that means something else',
      file('    moored: {},').replace('{ Berth }', '{ Berth, click }'),
      {},
      /“click” means/,
    ],
    ['a script from elsewhere', file('    moored: { script: ask },'), {}, /script of “moored” is not written out/],
    [
      'an expression',
      file("    moored: { script: () => click(the.button('Ask')) },", 'click, looks, the'),
      {},
      /one expression/,
    ],
    ['a look that is made of others', file('    [name]: {},'), {}, /“moored” is not written out/],
    ['code that cannot be read', 'export default looks(', {}, /fix its code first/],
  ])('says why it cannot be done: %s', (_, source, given, expected) => {
    expect(why(source, given)).toMatch(expected);
  });
});
