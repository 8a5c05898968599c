/** Everything that people get wrong in look files: each message names the line of the mistake, and the way out. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { project } from '../support/project.ts';
import { serve } from '../support/service.ts';

/** A mistake in a script: what is written, and what is said of it. */
const mistakes: Record<string, [code: string, message: RegExp, remedy: RegExp]> = {
  'no target': ['await click();', /^click\(…\) needs a target\.$/, /click\(the\.button\('Save'\)\)/],
  'a text for a target': ["await click('Save');", /^click\(…\) needs a target\.$/, /the\.button/],
  'a function for a target': ['await click(the.button);', /^click\(…\) needs a target\.$/, /the\.button/],
  'a role misspelt': ["await click(the.buton('Save'));", /There is no role “buton”/, /the\.button/],
  'a name misspelt': ["await click(the.button('Sve'));", /Nothing matched the button “Sve”/, /Compare the name/],
  'two of a name': ["await click(the.button('Twin'));", /2 elements match the button “Twin”/, /targets listed/],
  'something hidden': ["await click(the.css('#hidden'));", /cannot be seen: .*display: none/, /First do what shows it/],
  'something disabled': ["await click(the.button('Locked'));", /is disabled/, /isDisabled\(\)/],
  'something covered': ["await click(the.button('Under'));", /is covered by <div id="scrim">/, /Close what covers it/],
  'a state misspelt': ["await click(the.tab('A', { selectd: true }));", /no entry “selectd”/, /“selected”/],
  'a broken selector': ["await click(the.css('li:['));", /“li:\[” is not a CSS selector/, /Correct it/],
  'text for a button': ["await type(the.button('Save'), 'a');", /does not take text/, /the\.field/],
  'a date as people write it': [
    "await type(the.field('Day'), '31.12.2026');",
    /did not take “31\.12\.2026”/,
    /2026-03-02/,
  ],
  'a key misspelt': ["await press('Entr');", /“Entr” is not a key/, /Enter, Escape/],
  'a modifier misspelt': ["await press('Ctrl+a');", /“Ctrl” is not a modifier key/, /Control, Shift/],
  'keys for a text': ["await press(the.text('Free'), 'a');", /cannot have the focus/, /reach with Tab/],
  'an option misspelt': ["await select(the.field('Pier'), 'Nort');", /no option “Nort”/, /options listed/],
  'an option of a button': ["await select(the.button('Save'), 'a');", /neither a select element/, /combobox/],
  'two options of one': ["await select(the.field('Pier'), ['North', 'South']);", /takes one option/, /multiple/],
  'nothing to drag': ["await drag({}, the.region('Yard'));", /drag\(…\) was given \{\}/, /Give it a target/],
  'nowhere to drop': ["await drag({ text: 'a' }, { by: [1, 1] });", /to drop something from outside on/, /target/],
  'a way misspelt': [
    "await drag(the.button('Save'), { to: [60, 0] });",
    /drag\(…\) was given \{to: \[60, 0\]\}/,
    /how far/,
  ],
  'a way of one number': ["await drag(the.button('Save'), { by: 60 });", /was given \{by: 60\}/, /\{ by: \[40, 0\] \}/],
  'a way of no number': ["await drag(the.button('Save'), { by: [60, 0 / 0] });", /by: \[60, NaN\]/, /how far/],
  'more than a way': ["await drag(the.button('Save'), { by: [6, 0], at: [1, 1] });", /no entry “at”/, /by/],
  'nothing to scroll': ["await scroll(the.text('Free'), { by: [0, 9] });", /Nothing scrolls/, /overflow: auto/],
  'a side misspelt': ["await scroll(the.text('Free'), { to: 'end' });", /the to "end"/, /'top' or 'bottom'/],
  'no file chooser': ["await upload(the.button('Save'), new File([''], 'a'));", /opened no file chooser/, /drag/],
  'a file that is not there': ["await upload(the.field('File'), 'src/none.csv');", /no file src\/none\.csv/, /root/],
  'no file': ["await upload(the.field('File'), 4);", /was given 4 for a file/, /new File/],
  'two files for one': [
    "await upload(the.field('File'), [new File([''], 'a'), new File([''], 'b')]);",
    /one file/,
    /multiple/,
  ],
  'nothing to paste': ['await paste({});', /paste\(…\) was given \{\}/, /Give it a text/],
  'a table to paste': ["await paste({ files: [new File([''], 'a.csv')] });", /no clipboard holds/, /one PNG/],
  'a touch misspelt': ["await touch(the.button('Save'), { hold: 500 });", /no entry “hold”/, /“held”/],
  'no scale': ["await pinch(the.button('Save'), {});", /the scale undefined/, /scale: 0\.5/],
  'no size': ['await resize(360);', /resize\(…\) was given 360/, /\[360, 640\]/],
  'outside of it': ["await hover(the.button('Save'), { at: [900, 1] });", /lies outside the button “Save”/, /top left/],
  'no focus to take': ["await blur(the.button('Save'));", /does not have the focus/, /focus\(target\)/],
  'a click misspelt': ["await click(the.button('Save'), { button: 'rigth' });", /the button "rigth"/, /'right'/],
  'too many clicks': ["await click(the.button('Save'), { times: 9 });", /the times 9/, /from 1 to 3/],
  'a check of a text': ["await ensure('Save').isVisible();", /isVisible\(\) is a check of a target/, /the\.button/],
  'calls of a target': ["await ensure(the.button('Save')).wasCalled();", /a check of a spy/, /props\.onRelease/],
  'calls of nothing': ['await ensure(props.onGone).wasCalled();', /needs a spy/, /spy\(\)/],
  'requests of a spy': ['await ensure(props.onSave).wasAsked();', /given the spy onSave/, /\.wasCalled\(\)/],
  'a request of a spy': [
    'await ensure(props.onSave).wasAskedWith({ body: 1 });',
    /a check of an answer/,
    /wasCalledWith\(…\)/,
  ],
  'calls of an answer': [
    "await ensure(answers['GET /api/tides']).not.wasCalled();",
    /was given the answer to GET \/api\/tides\./,
    /\.wasAsked\(\)/,
  ],
  'a call of an answer': [
    "await ensure(answers['GET /api/tides']).wasCalledWith('A-1');",
    /a check of a spy/,
    /wasAskedWith\(\{ body: … \}\)/,
  ],
  'nothing said': ["ensure(the.button('Save'));", /says nothing of it/, /isVisible/],
  'a style misspelt': [
    "await ensure(the.button('Save')).hasStyle('colour', 'red');",
    /no style property/,
    /as CSS does/,
  ],
  'no value of a style': ["await ensure(the.button('Save')).hasStyle('width', '4');", /cannot be “4”/, /with its unit/],
  'no role': ["await ensure(the.button('Save')).hasRole('btn');", /There is no role “btn”/, /WAI-ARIA|the\./],
  'no patience': [
    "await ensure(the.button('Save'), { patience: 'long' }).isVisible();",
    /the patience "long"/,
    /milliseconds/,
  ],
  'another text': ["await ensure(the.status()).reads('Taken');", /reads “Taken”/, /change the check/],
  'another number': ['await ensure(the.button()).counts(99);', /is there 99 times/, /change the check/],
  'another value': ['await ensure({ a: 1 }).equals({ a: 2 });', /the value equals/, /change the check/],
  'another call': [
    "await click(the.button('Save')), await ensure(props.onSave).wasCalledWith('x');",
    /was called with/,
    /change/,
  ],
  'a call too many': ["await ensure(props.onSave).callsWere([['a']]);", /was called 1 time, with/, /change the check/],
  'no such call': ['await ensure(props.onSave).call(5).equals([]);', /call 5 of onSave/, /change the check/],
  'an answer misspelt': ["await answers['GET /api/tide'].letGo();", /no answer to GET \/api\/tide/, /GET \/api\/tides/],
  'no route': ["await answer('GET  /a b', {});", /is not a route/, /POST \/api/],
  'no status': ["await answer('/a', { status: 42 });", /the status 42/, /from 200 to 599/],
  'no header': ["await answer('/a', { headers: { 'a b': 'c' } });", /the header “a b”/, /tokens/],
  'two contents': ["await answer('/a', { json: 1, body: 'a' });", /both json and body/, /one content/],
  'a reply misspelt': ["await answer('/a', { jsn: 1 });", /no entry “jsn”/, /“json”/],
  'nothing open': ["await (await answer('/a', { events: [] })).send('a');", /is open/, /stays open/],
  'a world misspelt': ['await world({ onlin: false });', /no entry “onlin”/, /“online”/],
  'no such media': ["await world({ media: { scheme: 'sepia' } });", /scheme: "sepia"/, /'light' or 'dark'/],
  'time going back': ['await clock.advance(-5);', /cannot be moved by -5 ms/, /only moves on/],
  'a date that has passed': ["await clock.set('1999-01-01');", /cannot be set to that date/, /later date/],
  'an action not awaited': ["void click(the.button('Save'));", /did not wait for/, /await/],
  'a check not awaited': ["void ensure(the.button('Sav')).isVisible();", /did not wait for “ensure/, /await/],
  'an action not awaited that ends meanwhile': [
    'reset(props.onSave); await clock.advance(500);',
    /did not wait for “forget the calls of onSave”/,
    /await/,
  ],
  'a part not awaited': [
    "void part('All', async () => {}), await clock.advance(5);",
    /did not wait for “All”/,
    /await/,
  ],
  'an action waited for too late': ["click(the.button('Save')).then(() => {});", /did not wait for “click/, /await/],
  'a capture not awaited': ["void capture('early');", /did not wait for/, /await/],
  'a capture twice': ["await capture('a'), await capture('a');", /already taken/, /name of its own/],
  'a capture without a name': ["await capture(' ');", /needs a name/, /capture\("question"\)/],
  'a capture that settles never': ["await capture('a', { settle: 'long' });", /the settle long/, /milliseconds/],
  'a spy misspelt': [
    'await ensure(props.onSav).wasCalled();',
    /needs a spy, but was given undefined/,
    /name of the prop/,
  ],
  'calls of nothing to forget': ['await reset(props.onGone);', /needs a spy/, /spy\(\)/],
  'an error of its own': ["throw new Error('no rope');", /The script threw: Error: no rope/, /line shown/],
  'nothing there': ['await props.gone.name;', /Cannot read properties of undefined/, /line shown/],
};

const imports =
  'answer, blur, capture, click, clock, drag, ensure, hover, looks, part, paste, pinch, press, reset, resize, ' +
  'scroll, select, ' +
  'spy, the, touch, type, upload, world';

const head = `import { ${imports} } from 'sguardo';
const Yard = ({ onSave }) => <main>
  <button type="button" onClick={() => onSave('a')}>Save</button><button type="button">Twin</button>
  <button type="button">Twin</button><button type="button" disabled>Locked</button>
  <div style={{ position: 'relative' }}><button type="button">Under</button>
    <div id="scrim" style={{ position: 'absolute', inset: 0 }} /></div>
  <button type="button" id="hidden" style={{ display: 'none' }}>Hidden</button>
  <p>Free</p><output>Empty</output><section aria-label="Yard">Yard</section>
  <label>Day <input type="date" /></label><label>File <input type="file" /></label>
  <label>Pier <select><option>North</option><option>South</option></select></label>
  <div role="tab" aria-selected="true">A</div>
</main>;
export default looks(Yard, { props: { onSave: spy() }, answers: { 'GET /api/tides': {} }, patience: 40, states: {
`;

const source = `${head}${Object.entries(mistakes)
  .map(([name, [code]]) => `  '${name}': { script: async ({ props, answers }) => {\n    ${code}\n  } },`)
  .join('\n')}
} });
`;

/** Mistakes that concern a file as a whole: what the file says, and what is said of it. */
const files: Record<string, [code: string, message: RegExp, remedy: RegExp, line: number | null]> = {
  Entry: ['export default looks(A, { state: { a: {} } });', /no entry “state”/, /“states”/, 3],
  State: ['export default looks(A, { states: { a: { scrip() {} } } });', /no entry “scrip”/, /“script”/, 3],
  Setting: [
    "export default looks(A, { states: { a: { patience: 'long' } } });",
    /the patience "long"/,
    /a number from/,
    3,
  ],
  Below: [
    'export default looks(A, { states: {\n  a: {},\n  b: { prop: { name: 1 } },\n} });',
    /The look “b” has no entry “prop”/,
    /Did you mean “props”/,
    5,
  ],
  Shape: ['export default looks(A, { states: { a: () => {} } });', /The look “a” is function/, /Use an object/, 3],
  Made: ['export default looks(<A />, { states: { a: {} } });', /given an element for/, /component itself/, 3],
  Render: ['export default looks(A, { states: { a: { render: <A /> } } });', /the render/, /a component: render/, 3],
  Slots: ['export default looks(A, { states: { a: { slots: 4 } } });', /the slots 4/, /an object/, 3],
  Nothing: ['export default looks(A);', /beside the component is undefined/, /states: { plain/, 3],
  List: ["export default looks(A, { states: ['a'] });", /the states \["a"\]/, /Use an object/, 3],
  Script: ["export default looks(A, { states: { a: { script: 'click' } } });", /the script "click"/, /async script/, 3],
  Nameless: ["export default looks(A, { states: { '': {} } });", /a look without a name/, /Give it one/, null],
  Part: [
    "import 'sguardo/boats'; export default looks(A, { states: { a: {} } });",
    /“sguardo\/boats” is none of its package’s exports/,
    /code/,
    3,
  ],
  Where: ["export default looks(A, { states: { a: { environments: ['dusk'] } } });", /no environment “dusk”/, /day/, 3],
  Skip: ['export default looks(A, { states: { a: { skip: true } } });', /the skip true/, /a reason/, 3],
  Each: ['export default looks(A, { states: { a: { each: { n: 3 } } } });', /n: 3 in each/, /list of the values/, 3],
  Gone: ['export default looks(undefined, { states: { a: {} } });', /given undefined for a component/, /import/, 3],
  Place: [
    "export default looks(A, { states: { a: { location: 'berths' } } });",
    /the location "berths"/,
    /from the root/,
    3,
  ],
  None: ['export const a = looks(A, { states: { a: {} } });', /does not export looks/, /export default looks/, null],
  Empty: ['export default looks(A, { states: {} });', /describes no looks/, /Add one/, null],
  Throws: ["throw new Error('no anchor');", /could not be loaded: Error: no anchor/, /code shown/, 3],
  Import: [
    "import { clik } from 'sguardo'; export default looks(A, { states: { a: { script: () => clik() } } });",
    /“sguardo” exports no “clik”/,
    /code shown/,
    3,
  ],
  Syntax: ['export default looks(A, { states: { a: {} );', /could not be bundled/, /code shown/, 3],
};

let look: (name: string) => ResultSummary;
let results: ResultSummary[];

beforeAll(async () => {
  const folder = project({
    'src/Yard.look.jsx': source,
    'src/After.look.jsx': `import { looks } from 'sguardo';
export default looks(() => null, { states: { a: { after: 'c' }, c1: { after: 'c2' }, c2: { after: 'c1' } } });`,
    'src/Deep.look.jsx': `import { looks } from 'sguardo';
import { Deep } from './quay/Deep';
export default looks(Deep, { states: { a: {} } });`,
    'src/quay/Deep.jsx': "import './depths';\nexport const Deep = () => null;",
    'src/quay/depths.js': "// Sounded in May.\nimport { boats } from 'sguardo/boats';\nexport const depths = boats;",
    'src/Unawaited.look.jsx': `import { click, ensure, looks, part, the } from 'sguardo';
const A = () => (
  <main>
    <button>Save</button>
    <p>Free</p>
  </main>
);
export default looks(A, {
  states: {
    early: {
      async script() {
        await Promise.all([click(the.button('Save')), ensure(the.text('Free')).isVisible()]);
      },
    },
    awaited: {
      async script() {
        await part('All', async () => {
          await click(the.button('Save'));
        });
        await ensure(the.text('Free')).isVisible();
      },
    },
  },
});`,
    'src/Provider.look.jsx': `import { looks } from 'sguardo'; import { createContext, useContext } from 'react';
const Tide = createContext(null);
const A = () => { if (!useContext(Tide)) throw new Error('useTide must be used within a TideProvider'); return null; };
export default looks(A, { states: { lost: {} } });`,
    ...Object.fromEntries(
      Object.entries(files).map(([name, [code]]) => [
        `src/${name}.look.jsx`,
        `import { looks } from 'sguardo';\nconst A = () => null;\n${code}\n`,
      ]),
    ),
  });
  ({ look, results } = await (await serve(folder)).run());
});

describe('a mistake in a script', () => {
  it.each(Object.entries(mistakes))('is told: %s', (name, [code, message, remedy]) => {
    const { verdict, problem } = look(name);
    expect(verdict).toBe('failed');
    expect(problem?.message).toMatch(message);
    expect(problem?.remedy).toMatch(remedy);
    const line = source.split('\n').indexOf(`    ${code}`) + 1;
    expect(problem?.place).toMatch(new RegExp(`^src/Yard\\.look\\.jsx:${line}:`));
    expect(problem?.frame).toContain(code.slice(0, 40));
  });
});

it('a spy that is not there is told with those that are', () => {
  expect(look('a spy misspelt').problem?.found).toEqual(['props.onSave']);
});

describe('a mistake in a file', () => {
  it.each(Object.entries(files))('is told: %s', (name, [, message, remedy, line]) => {
    const { verdict, problem } = results.find(({ component }) => component === `src/${name}`)!;
    expect(verdict).toBe('broken');
    expect(problem?.message).toMatch(message);
    expect(problem?.remedy).toMatch(remedy);
    if (line !== null) expect(problem?.place).toMatch(new RegExp(`^src/${name}\\.look\\.jsx:${line}\\b`));
  });

  it('is told: looks that come after nothing, or after themselves', () => {
    const of = (name: string) => results.find((one) => one.component === 'src/After' && one.look === name)!;
    expect(of('a').problem?.message).toBe('“a” starts after “c”, but this file has no such look.');
    expect(of('a').problem?.place).toMatch(/\.look\.\w+:\d+:\d+$/);
    expect(of('c1').problem?.message).toMatch(/^“c1” starts after itself/);
  });

  it('is told where it stands, when what a look file imports wants a part that no package has', () => {
    const found = results.find(({ component }) => component === 'src/Deep')!.problem;
    expect(found?.message).toMatch(
      /^src\/quay\/depths\.js, which .* “sguardo\/boats” is none of its package’s exports/,
    );
    expect([found?.place, found?.frame?.includes('▲')]).toEqual(['src/quay/depths.js:2:23', true]);
  });

  it('is told: a step that nobody waits for, although the script goes on', () => {
    expect(look('early').notes).toContainEqual(
      expect.stringMatching(
        /^“click the button “Save”” \(src\/Unawaited\.look\.jsx:12\) went on while “ensure .*” began\. Put await /,
      ),
    );
    expect(look('awaited').notes.filter((note) => note.includes('went on while'))).toEqual([]);
  });

  it('is told: a provider that is missing', () => {
    expect(look('lost').problem).toMatchObject({
      code: 'render-threw',
      remedy: expect.stringMatching(/wants a provider around it.*sguardo\.frame\.tsx/),
    });
  });
});
