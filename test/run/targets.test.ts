/** Targets: what they find, how they are said, and what is told when they find nothing or too much. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { inCode, the } from '../../src/language/target.ts';
import { copyOf, write } from '../support/project.ts';
import { problemIn, type Served, serve } from '../support/service.ts';

let folder: string;
let served: Served;
let look: (name: string) => ResultSummary;

beforeAll(async () => {
  folder = copyOf('test/looks');
  write(folder, { 'sguardo.config.ts': "export default { baselines: false, isolate: 'file', patience: 100 };" });
  served = await serve(folder);
  ({ look } = await served.run({ patterns: ['Targets'] }));
});

describe('a target', () => {
  it.each([
    'by state',
    'by what is there',
    'narrowed one way after the other',
    'through a shadow root',
    'through frames',
    'through a frame in a frame',
    'among sheets whose rules are held',
    'by a mark',
    'by structure',
  ])('finds an element %s', (name) => {
    expect(look(name).problem).toBeNull();
    expect(look(name).verdict).toBe('new');
  });

  it('that goes by structure or classes is noted, with what a person would say', () => {
    expect(look('by structure').notes).toEqual([
      "the.css('.primary') goes by structure or classes, which the next change of styles may break. " +
        "Write the.button('Cast off the second mooring line') instead.",
      "the.css('section:nth-of-type(2) > button') goes by structure or classes, " +
        'which the next change of styles may break. ' +
        "Write the.button('Refresh').in(the.region('Departures')) instead.",
    ]);
    expect(look('by state').notes).toEqual([]);
  });

  it('that is no field is told with what it is', async () => {
    write(folder, {
      'src/Named.look.tsx': `import { click, looks, the } from 'sguardo';
const Named = () => <form><input aria-label="Draught" /><button type="button">Station</button></form>;
export default looks(Named, { states: { opens: { async script() { await click(the.field(/Station/)); } } } });`,
    });
    const { look } = await served.run({ patterns: ['Named'] });
    expect(look('opens').problem!.found).toEqual(["button “Station”: the.button('Station')", 'textbox “Draught”']);
  });

  it('that is a text only is told with that, and what says one thing after the other goes by no text', async () => {
    write(folder, {
      'src/Only.look.tsx': `import { click, ensure, looks, the } from 'sguardo';
const Only = () => (
  <form>
    <input aria-label="Draught" />
    <span>Select a day</span>
    <output>9 free</output>
    <output>4 gone</output>
  </form>
);
export default looks(Only, {
  states: {
    field: {
      async script() {
        await click(the.field('Select a day'));
      },
    },
    button: {
      async script() {
        await click(the.button(/a day/));
      },
    },
    said: {
      async script() {
        await ensure(the.css('output').first()).reads('9 free');
      },
    },
  },
});`,
    });
    const { look } = await served.run({ patterns: ['Only'] });
    expect(look('field').problem!.found![0]).toBe("a text: the.text('Select a day')");
    expect(look('button').problem!.found![0]).toBe('a text: the.text(/a day/)');
    expect(look('said').notes).toEqual([]);
  });

  it(
    'is not seen where it is folded up or put out of the viewport, ' +
      'and is the element that a component hands things on to',
    async () => {
      write(folder, {
        'src/Folds.look.tsx': `import { useState } from 'react';
import { click, ensure, looks, the, type, upload } from 'sguardo';
if (!customElements.get('quay-field')) customElements.define('quay-field', class extends HTMLElement {});
const Field = 'quay-field' as 'div';
const rows = { display: 'grid', gridTemplateRows: '0fr' },
  cut = { overflow: 'hidden', minHeight: 0 };
function Folds() {
  const [open, setOpen] = useState(true);
  const [file, setFile] = useState('');
  return (
    <main>
      <button onClick={() => setOpen(!open)}>Fold</button>
      <div style={{ ...rows, ...(open && { gridTemplateRows: '1fr' }) }}>
        <div style={cut}>
          <p>In rows</p>
        </div>
      </div>
      <div style={{ maxHeight: open ? 90 : 0, overflow: 'clip' }}>
        <p>
          Not higher <b style={{ position: 'absolute' }}>Apart</b>
        </p>
      </div>
      <div style={{ width: open ? 90 : 0, overflow: 'hidden', position: 'relative' }}>
        <p style={{ position: 'absolute' }}>Not wider</p>.
      </div>
      <label>
        Papers
        <span style={{ display: 'block', height: 0, overflow: 'hidden' }}>
          <input type="file" onChange={({ target }) => setFile(target.files![0]!.name)} />
        </span>
      </label>
      <div style={{ height: 0 }}>
        <p>Out of it</p>
      </div>
      <output>
        {' '}
        {file}
        {'\\n  '}
        <i>there</i>
      </output>
      <nav style={{ position: 'fixed', top: 0, right: 0, width: 200, transform: open ? 'none' : 'translateX(100%)' }}>
        <p>At the side</p>
      </nav>
      <div style={{ position: 'fixed', bottom: 0, height: 40, width: 90, overflow: 'auto' }}>
        <p style={{ height: 900 }} />
        <p>Further down</p>
      </div>
      <Field {...{ placeholder: 'Flag' }}>
        <input placeholder="Flag" />
      </Field>
      <div role="progressbar" aria-label="Loaded" aria-valuenow={40}>
        40 of 100
      </div>
    </main>
  );
}
export default looks(Folds, {
  states: {
    folds: {
      async script() {
        const all = ['In rows', 'Not higher', 'Not wider', 'At the side', 'Apart', 'Out of it', 'Further down'];
        for (const one of all) await ensure(the.text(one)).isVisible();
        await click(the.button('Fold'));
        for (const one of all.slice(0, 4)) await ensure(the.text(one)).isAbsent();
        for (const one of all.slice(4)) await ensure(the.text(one)).isVisible();
        await upload(the.field('Papers'), new File(['x'], 'papers.csv'));
        await ensure(the.css('output')).reads('papers.csv there');
        await type(the.placeholder('Flag'), 'Malta');
        await ensure(the.placeholder('Flag')).hasValue('Malta');
        await ensure(the.progressbar('Loaded')).reads('40 of 100');
        await ensure(the.progressbar('Loaded')).hasValue('40');
      },
    },
  },
});`,
      });
      const { look } = await served.run({ patterns: ['Folds'] });
      expect([look('folds').problem?.message, look('folds').problem?.found]).toEqual([undefined, undefined]);
    },
  );

  it('is acted upon where it is once all that came into sight with it is there', async () => {
    expect(
      await problemIn(
        served,
        'Grows',
        'sends',
        `import { useEffect, useRef, useState } from 'react';
import { click, ensure, looks, the } from 'sguardo';
function Grows() {
  const above = useRef(null);
  const [height, setHeight] = useState(1);
  const [said, setSaid] = useState('');
  useEffect(() => {
    const seen = new IntersectionObserver(([one]) => one.isIntersecting && setHeight(120));
    seen.observe(above.current);
    return () => seen.disconnect();
  }, []);
  return (
    <main>
      <div style={{ height: 1500 }} />
      <div ref={above} style={{ height }} />
      <button type="button" onClick={() => setSaid('Sent')}>
        Send
      </button>
      <p>{said}</p>
      <div style={{ height: 900 }} />
    </main>
  );
}
export default looks(Grows, {
  states: {
    sends: {
      async script() {
        await click(the.button('Send'));
        await ensure(the.text('Sent')).isVisible();
      },
    },
  },
});`,
      ),
    ).toBeNull();
  });

  it('means the one that can be seen of two, and not its copy that is cut away', async () => {
    expect(
      await problemIn(
        served,
        'Copies',
        'next',
        `import { useState } from 'react';
import { click, ensure, looks, the } from 'sguardo';
const away = { position: 'absolute', width: 1, height: 1, margin: -1, overflow: 'hidden', clip: 'rect(0 0 0 0)' };
function Copies() {
  const [said, setSaid] = useState('');
  return <main><div style={away}><div><button type="button" onClick={() => setSaid('copy')}>Next</button></div></div>
    <button type="button" onClick={() => setSaid('seen')}>Next</button><p>{said}</p></main>;
}
export default looks(Copies, { states: { next: { async script() {
  document.title = 'seen';
  await click(the.button('Next'));
  await ensure(the.text('seen').first()).isVisible();
} } } });`,
      ),
    ).toBeNull();
  });

  it('is clicked where its label is, which may have a hole in its middle', async () => {
    expect(
      await problemIn(
        served,
        'Hole',
        'on',
        `import { useState } from 'react';
import { click, ensure, looks, the } from 'sguardo';
const away = {
  position: 'absolute',
  width: 1,
  height: 1,
  padding: 0,
  border: 0,
  overflow: 'hidden',
  clip: 'rect(0 0 0 0)',
};
function Hole() {
  const [on, set] = useState(false);
  return (
    <main>
      <button type="button" role="switch" id="horn" aria-checked={on} onClick={() => set(!on)} style={away} />
      <label htmlFor="horn">
        <span style={{ display: 'block' }}>Fog horn</span>
        <span style={{ display: 'inline-block', width: 40, height: 20, marginTop: 30, background: 'navy' }} />
      </label>
      <p>
        <input aria-label="Ship" />
      </p>
    </main>
  );
}
export default looks(Hole, {
  states: {
    on: {
      async script() {
        await click(the.switch('Fog horn'));
        await ensure(the.switch('Fog horn')).isChecked();
      },
    },
  },
});`,
      ),
    ).toBeNull();
  });

  it('finds what has its name from several parts in a line, with the blanks between them', async () => {
    expect(
      await problemIn(
        served,
        'Parts',
        'named',
        `import { ensure, looks, the } from 'sguardo';
const Parts = () => <form>
  <label htmlFor="length">Length<i> in metres</i></label><input id="length" aria-describedby="hint" />
  <p id="hint">From <b>bow </b>to stern</p>
  <button type="button">Save<b> all </b>berths</button>
  <a href="#tides">Read more<span style={{ position: 'absolute', clipPath: 'inset(50%)' }}>about tides</span></a>
  <button type="button" aria-labelledby="length-of verb" />
  <span id="length-of">The<i> length</i></span><b id="verb">counts</b>
  <button type="button">Un<b>moor</b></button>
  <button type="button"><img alt="Rope" src="/buoy.svg" width="9" height="9" /> of <b> hemp</b></button>
  <fieldset><legend>Side<small> of the quay</small></legend></fieldset>
</form>;
export default looks(Parts, { states: { named: { async script() {
  await ensure(the.field('Length in metres')).hasDescription('From bow to stern');
  for (const name of ['Save all berths', 'The length counts', 'Unmoor', 'Rope of hemp'])
    await ensure(the.button(name)).isVisible();
  await ensure(the.link('Read more about tides')).isVisible();
  await ensure(the.group('Side of the quay')).isVisible();
} } } });`,
      ),
    ).toBeNull();
  });

  it('is named without what is drawn around its name and not said', async () => {
    write(folder, {
      'src/Drawn.css': `
        .icon::before { content: '\\f0c7'; }
        .gone::after { content: ':'; visibility: hidden; }
        .said::before { content: '★' / 'Rated '; }
        .silent::after { content: ' →' / ''; }
        .quoted::after { content: ' \\22 north\\22'; }
        .needed::before { content: '* '; }
        .counted::before { counter-increment: n; content: counter(n) ' of '; }`,
      'src/Drawn.look.tsx': `import { ensure, looks, the } from 'sguardo';
import './Drawn.css';
const Drawn = () => <form>
  <label className="gone">Vessel <input /></label>
  <label className="needed">Draught <input /></label>
  <label className="needed">Beam <input /></label><input aria-label="Beam" />
  <button type="button"><i className="icon" /> Save</button>
  <button type="button"><span>\ue5cd</span>Close</button>
  <button type="button">\ue5ca Open</button>
  <button type="button" className="said">good</button>
  <a href="#next" className="silent">Next</a>
  <button type="button" className="quoted">Pier</button>
  <button type="button" className="counted">nine</button>
  <input aria-label="Note" aria-describedby="hint" /><p id="hint"><i className="icon" /> Seen by all</p>
</form>;
export default looks(Drawn, { states: { named: { async script() {
  await ensure(the.field('Vessel')).isVisible();
  for (const name of ['Draught', '* Draught', /^\\* Dr/]) await ensure(the.field(name)).hasName('* Draught');
  // One that has the very name is meant before one that has it but for a mark.
  await ensure(the.field('Beam')).hasName('Beam');
  for (const name of ['Save', 'Close', 'Open', 'Rated good', 'Pier "north"', 'of nine'])
    await ensure(the.button(name)).isVisible();
  await ensure(the.link('Next')).isVisible();
  await ensure(the.field('Note')).hasDescription('Seen by all');
} } } });`,
    });
    const { look: drawn } = await served.run({ patterns: ['Drawn'] });
    expect(drawn('named').problem).toBeNull();
  });

  it('finds marks by the attribute that the project uses', async () => {
    const config = "export default { baselines: false, isolate: 'file', patience: 100, markAttribute: 'data-gauge' };";
    write(folder, {
      'sguardo.config.ts': config,
      'src/Mark.look.tsx': `import { ensure, looks, the } from 'sguardo';
const Gauge = () => <p data-gauge="north" data-testid="gauge">4 m</p>;
export default looks(Gauge, { states: {
  here: { async script() { await ensure(the.marked('north')).reads('4 m'); } },
  gone: { async script() { await ensure(the.marked('gauge')).isVisible(); } },
} });`,
    });
    const { look: marked } = await served.run({ patterns: ['Mark'] });
    expect(marked('here').verdict).toBe('new');
    expect(marked('gone').problem).toMatchObject({ code: 'target-missing', found: ['“north”'] });
  });
});

describe('a target that finds nothing, or several', () => {
  it.each([
    [
      'nothing: a name from its content',
      /the alert “Changes are not saved”/,
      ["its name does not come from what it says: use the.alert().having('Changes are not saved')"],
    ],
    ['nothing: a placeholder', /the field with the placeholder “Name of the shop”/, ['“Name of the ship”']],
    ['nothing: a title', /what is titled “Lowest tide”/, ['“Lowest astronomical tide”']],
    ['nothing: a picture', /the picture “The crnae”/, ['“The crane”', '“A flag”']],
    ['nothing: a mark', /what is marked “guage”/, ['“gauge”']],
    ['nothing: narrowed', /the row having “Maestro”/, [expect.stringMatching(/^none of these: row “Alba Release”, /)]],
    ['nothing: a state', /the tab “Today” \(not selected\)/, ['tab “Today”, but it is selected']],
    ['nothing: a level', /the heading “Harbour” \(level 4\)/, ['heading “Harbour”, but its level is 1']],
    [
      'nothing: no such state',
      /the button “Refresh” \(expanded\)/,
      ['button “Refresh”, but it says nothing of being expanded'],
    ],
    [
      'several: in places with names',
      /^2 elements match the button “Refresh”/,
      [
        "button “Refresh”: the.button('Refresh').in(the.region('Arrivals'))",
        "button “Refresh”: the.button('Refresh').in(the.region('Departures'))",
      ],
    ],
    [
      'several: one after the other',
      /^2 elements match the button “Release”/,
      [
        "button “Release”: the.button('Release').in(the.row('Alba Release'))",
        "button “Release”: the.button('Release').in(the.row('Aliseo Release'))",
      ],
    ],
    ['a slip in a state', /^What the\.heading\(…\) was given has no entry “levle”\.$/, undefined],
  ])('is told: %s', (name, message, found) => {
    const { verdict, problem } = look(name);
    expect(verdict).toBe('failed');
    expect(problem!.message).toMatch(message);
    if (found) expect(problem!.found).toEqual(expect.arrayContaining(found));
    else expect(problem!.remedy).toContain('level');
  });
});

describe('in words and in code', () => {
  it.each([
    [the.button('Save').in(the.dialog()), 'the button “Save” in the dialog', "the.button('Save').in(the.dialog())"],
    [the.heading(/^Ber/, { level: 2 }), 'the heading /^Ber/ (level 2)', 'the.heading(/^Ber/, { level: 2 })'],
    [the.tab({ selected: false }), 'the tab (not selected)', 'the.tab({ selected: false })'],
    [the.button('Sa', { exact: false }), 'the button “Sa” (or a longer name)', "the.button('Sa', { exact: false })"],
    [the.row().having('Alba').first(), 'the 1st row having “Alba”', "the.row().having('Alba').first()"],
    [
      the.row().without(the.link()).nth(-2),
      'the 2nd last row without the link',
      'the.row().without(the.link()).nth(-2)',
    ],
    [the.row().last(), 'the last row', 'the.row().last()'],
    [the.titled("The 'Bora'"), "what is titled “The 'Bora'”", "the.titled('The \\'Bora\\'')"],
    [the.marked('a').nth(11), 'the 12th of what is marked “a”', "the.marked('a').nth(11)"],
  ])('is %s', (target, words, code) => {
    expect(String(target)).toBe(words);
    expect(inCode(target)).toBe(code);
  });
});
