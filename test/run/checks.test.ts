/** Checks: what they speak of, what is told when they do not hold, and which of them may check nothing. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import type { Timeline } from '../../src/core/timeline/timeline.ts';
import { copyOf, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

let folder: string;
let served: Served;
let look: (name: string) => ResultSummary;

const timelineOf = (name: string): Promise<Timeline> => served.client.timeline(look(name).id);

beforeAll(async () => {
  folder = copyOf('test/looks');
  const settings =
    "baselines: false, isolate: 'file', patience: 300, environments: { plain: { viewport: [640, 480] } }";
  write(folder, { 'sguardo.config.ts': `export default { ${settings} };` });
  served = await serve(folder);
  ({ look } = await served.run({ patterns: ['Checks'] }));
});

describe('a check', () => {
  it.each([
    'holds: of targets',
    'holds: of spies',
    'holds: of answers',
    'holds: of values, eventually',
    'holds: in words of its own',
    'holds: with more patience',
  ])('%s', (name) => {
    expect(look(name).problem).toBeNull();
    expect(look(name).verdict).toBe('new');
    expect(look(name).notes).toEqual([]);
  });

  it('of a value reads what is made of other elements than fields as well', async () => {
    write(folder, {
      'src/Values.look.tsx': `import { ensure, looks, press, the, type } from 'sguardo';
import { useState } from 'react';
function Values() {
  const [speed, setSpeed] = useState(4);
  return (
    <main>
      <div role="slider" tabIndex={0} aria-label="Speed" aria-valuenow={speed} onKeyDown={() => setSpeed(speed + 1)}>
        o
      </div>
      <div role="textbox" contentEditable suppressContentEditableWarning aria-label="Note">
        Calm
      </div>
      <meter aria-label="Tide" value="0.4" />
      <button type="button" role="combobox" aria-expanded="false" aria-controls="none" aria-label="Yard">
        <b>North</b> yard
      </button>
      <div role="combobox" aria-expanded="false" aria-controls="none" aria-label="Crew">
        <input defaultValue="Ada" />
        <i>▾</i>
      </div>
      <p>Free</p>
    </main>
  );
}
export default looks(Values, {
  states: {
    read: {
      async script() {
        await press(the.slider('Speed'), 'ArrowRight');
        await ensure(the.slider('Speed')).hasValue(5);
        await type(the.textbox('Note'), ' sea');
        await ensure(the.textbox('Note')).hasValue('Calm sea');
        await ensure(the.meter('Tide')).hasValue('0.4');
        await ensure(the.combobox('Yard')).hasValue('North yard');
        await ensure(the.combobox('Crew')).hasValue('Ada');
      },
    },
    none: { script: () => ensure(the.text('Free')).hasValue('Free') },
  },
});`,
    });
    const { look: values } = await served.run({ patterns: ['Values'] });
    expect(values('read').problem).toBeNull();
    expect(values('none').problem!.found).toEqual(['<p> “Free” has no value: it is not a form field']);
  });

  it('of the project’s own is one step with the others inside', async () => {
    const { steps } = await timelineOf('holds: in words of its own');
    const own = steps.filter(({ kind }) => kind === 'part');
    expect(own.map(({ title }) => title)).toEqual(['moor “Alba”, 2', 'ensure is titled the heading “Quay”, “Quay”']);
    expect(steps.filter(({ parent }) => parent === own[0]!.index)).toHaveLength(2);
  });

  it('records how often it tried, and what it saw last', async () => {
    const { steps } = await timelineOf('holds: with more patience');
    const step = steps.find(({ kind }) => kind === 'check')!;
    expect(step.tries).toBeGreaterThan(1);
    expect(step.saw).toEqual(['still there: <div> “Nothing is moored”']);
  });
});

describe('a check that does not hold', () => {
  it.each<[string, string, string[]]>([
    ['fails: with less patience', 'within 100 ms: the alert is absent.', ['still there: <div> “Nothing is moored”']],
    ['fails: a style', 'the heading “Quay” has the color “green”.', ['its color is “rgb(179, 38, 30)”']],
    ['fails: a name', 'the heading “Quay” is named “Pier”.', ['its name is “Quay”']],
    ['fails: a description', 'the heading “Quay” is described as “x”.', ['it has no description']],
    ['fails: a role', 'the heading “Quay” has the role banner.', ['its role is heading']],
    ['fails: the other order', 'comes before the heading “Quay”.', ['it comes after the heading “Quay”']],
    ['fails: not, but it does', 'the heading “Quay” does not read “Quay”.', ['it reads “Quay”']],
    ['fails: not absent', 'the dialog is not absent.', ['nothing is there']],
    ['fails: not called', 'onMoor was called.', ['it was not called']],
    [
      'fails: called',
      'onMoor was not called.',
      [
        'it was called 2 times',
        '({name: "Alba", berth: 4, crew: {captain: "Rossi", hands: 6}}, "first")',
        '({name: "Maestro", berth: 7, crew: {captain: "Neri", hands: 11}})',
      ],
    ],
    [
      'fails: called with another',
      'onMoor was called with ({name: "Alba", berth: 5, crew: {captain: "Rosso"}}, "first").',
      [
        'call 0, the nearest of 2, was ({name: "Alba", berth: 4, crew: {captain: "Rossi", hands: 6}}, "first")',
        'argument 1.berth: expected 5, received 4',
        'argument 1.crew.captain: expected "Rosso", received "Rossi"',
        '1 other entry as expected',
        'call 1 was ({name: "Maestro", berth: 7, crew: {captain: "Neri", hands: 11}})',
      ],
    ],
    [
      'fails: another sequence',
      'onMoor was called 2 times, with',
      [
        'it was called 3 times',
        'call 1, argument 1.name: expected "Rondine", received "Maestro"',
        'call 2: received [{name: "Alba", berth: 4, crew: {captain: "Rossi", hands: 6}}, "first"], ' +
          'which is not expected',
        '1 other entry as expected',
      ],
    ],
    ['fails: no such call', 'call 2 of onMoor equals', ['there is no call 2: it was called 2 times']],
    [
      'fails: asked with another',
      'PUT /api/berths/:berth was asked with',
      [
        'call 0 was {body: {name: "Alba", berth: 4, crew: {captain: "Rossi", hands: 6}}, query: {tide: "low"}}',
        'body.berth: expected 5, received 4',
        'query.tide: expected "high", received "low"',
      ],
    ],
    [
      'fails: another value',
      'the value equals',
      ['.ships[1].berth: expected 9, received 7', '1 other entry as expected'],
    ],
    [
      'fails: a list',
      'the value equals [1, 3, 4].',
      ['[1]: received 2, which is not expected', '3 other entries as expected'],
    ],
    ['fails: eventually', 'within 100 ms: the value matches /quay/.', ['expected /quay/, received ""']],
  ])('says what was there instead (%s)', (name, message, found) => {
    const { problem } = look(name);
    expect(problem?.code).toBe('check-failed');
    expect(problem?.message).toContain(message);
    expect(problem?.found).toEqual(found);
    expect(problem?.place).toMatch(/^src\/Checks\.look\.tsx:\d+/);
  });

  it('says where things are', () => {
    expect(look('fails: outside').problem?.found?.[0]).toMatch(/^it is 300 × 80 px at .*cuts it off$/);
    expect(look('fails: outside a target').problem?.found?.[0]).toMatch(/and the region “Ships” is 300 × 60 px at/);
  });

  it.each([
    ['fails: no patience', 'A check was given the patience -1.', /patience: 5000/],
    ['fails: no such style', 'There is no style property “colour”.', /as CSS does/],
    ['fails: no such value', 'padding cannot be “wide”.', /with its unit/],
    ['fails: no such role', 'There is no role “headin”.', /the\.heading/],
    ['fails: no spy to reset', 'reset(…) needs a spy, but was given undefined.', /spy\(\)/],
  ])('is told when it cannot be meant (%s)', (name, message, remedy) => {
    expect(look(name).problem?.message).toBe(message);
    expect(look(name).problem?.remedy).toMatch(remedy);
  });
});

describe('a check that may check nothing', () => {
  it('is of something that was never seen', async () => {
    expect(look('doubt: never seen').notes).toEqual([
      '“ensure the dialog “Berths” is absent” – never seen: this may check nothing. ' +
        'Let it appear first in this look, or compare the target with what does appear.',
    ]);
    const { steps } = await timelineOf('doubt: never seen');
    expect(steps.map(({ doubt }) => doubt).filter(Boolean)).toEqual(['never seen: this may check nothing']);
  });

  it('held before the first action already', () => {
    expect(look('doubt: held before the first action').notes).toEqual([
      'All 2 checks of this script could have held before its first action (click the button “Say”): ' +
        'what comes of it may not be checked.',
    ]);
  });

  it.each([
    'doubt: not seen, but it comes',
    'doubt: seen before anybody looked',
    'doubt: none of a change',
    'doubt: none of another one in its place',
    'doubt: none of one fewer',
    'doubt: none of what was typed',
    'doubt: none of a call',
    'doubt: none after a while',
  ])('is not called so when it checks something (%s)', (name) => {
    expect(look(name).problem).toBeNull();
    expect(look(name).notes).toEqual([]);
  });
});
