import { click, ensure, looks, type RoleState, scroll, the, type } from 'sguardo';
import { useEffect, useRef } from 'react';

/** A list inside an open shadow root. */
function Shaded() {
  const host = useRef<HTMLElement>(null);
  useEffect(() => {
    const root = host.current!.shadowRoot ?? host.current!.attachShadow({ mode: 'open' });
    root.innerHTML = '<ul aria-label="Buoys"><li>Red buoy</li><li>Green buoy</li></ul>';
  }, []);
  return <section ref={host} aria-label="Shade" />;
}

const inner = `<label>Draught <input></label><label><input type="checkbox"> Ice</label>
<button
  onclick="document.querySelector('output').textContent = 'Sent ' + document.querySelector('input').value">Send</button>
<output></output><p style="margin-top: 300px">Far below</p>`;

const nested = `<iframe title="Annex" style="width: 200px; height: 80px" srcdoc="
<button onclick='this.textContent = &quot;Rung&quot;'>Ring</button>"></iframe>`;

/** A page of the same origin inside the page, and one in that. */
function Nested() {
  return <iframe title="Office" srcDoc={nested} style={{ width: 300, height: 140, border: '4px solid', padding: 7 }} />;
}

/** A page of the same origin inside the page. */
function Framed() {
  return (
    <div style={{ padding: 30 }}>
      <iframe title="Office" srcDoc={inner} style={{ width: 300, height: 140, border: '4px solid', padding: 7 }} />
      <h2>Behind it</h2>
    </div>
  );
}

/** How often a rule was written down. */
let written = 0;
const texts = Object.getOwnPropertyDescriptor(CSSRule.prototype, 'cssText')!;

/** Many shadow roots with a sheet each, whose rules their components hold. */
function Held() {
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    Object.defineProperty(CSSRule.prototype, 'cssText', { ...texts, get: countsText });
    for (let i = 0; i < 30; i++) {
      const sheet = new CSSStyleSheet();
      sheet.replaceSync('b { color: teal } '.repeat(20));
      const root = list.current!.appendChild(document.createElement('p')).attachShadow({ mode: 'open' });
      root.adoptedStyleSheets = [sheet];
      root.innerHTML = `<b role="button">Buoy ${sheet.cssRules.length + i}</b>`;
    }
    written = 0;
    return () => void Object.defineProperty(CSSRule.prototype, 'cssText', texts);
  }, []);
  return <div ref={list} />;
}

function countsText(this: CSSRule): string {
  written++;
  return texts.get!.call(this) as string;
}

/** One of everything that a target can go by. */
function Harbour() {
  return (
    <div>
      <h1>Harbour</h1>
      <h2>Berths</h2>
      {/* biome-ignore lint/a11y/useSemanticElements: levels are said by attribute, too */}
      <div role="heading" aria-level={3}>
        Berths
      </div>
      <details open>
        <summary>Tides</summary>
        <p>High water at nine</p>
      </details>
      <button type="button" aria-expanded="false">
        More
      </button>
      <button type="button" aria-pressed="true">
        Lights
      </button>
      <button type="button" aria-pressed="mixed">
        Horns
      </button>
      <button type="button" disabled aria-describedby="why">
        Cast off
      </button>
      <p id="why">The tide is too low</p>
      <button type="button" className="primary">
        Cast off the second mooring line
      </button>
      <div role="tablist" aria-label="Days">
        <button type="button" role="tab" aria-selected="true">
          Today
        </button>
        <button type="button" role="tab" aria-selected="false">
          Tomorrow
        </button>
      </div>
      <nav aria-label="Piers">
        <a href="#north" aria-current="page">
          North
        </a>
        <a href="#south">South</a>
      </nav>
      <input
        type="checkbox"
        aria-label="Ice"
        ref={(box) => {
          if (box) box.indeterminate = true;
        }}
      />
      <input type="checkbox" aria-label="Wind" defaultChecked />
      <input placeholder="Name of the ship" />
      <img alt="The crane" src="data:," width="10" height="10" />
      <svg width="10" height="10">
        <title>A flag</title>
      </svg>
      <abbr title="Lowest astronomical tide">LAT</abbr>
      <div role="alert">
        Changes are <b>not saved</b>
      </div>
      <table aria-label="Ships">
        <tbody>
          {['Alba', 'Aliseo', 'Bora'].map((ship) => (
            <tr key={ship}>
              <td>{ship}</td>
              <td>{ship === 'Bora' ? 'at sea' : <button type="button">Release</button>}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <section aria-label="Arrivals">
        <button type="button">Refresh</button>
      </section>
      <section aria-label="Departures">
        <button type="button">Refresh</button>
      </section>
      <p data-testid="gauge" data-gauge="north">
        4 m
      </p>
      <Shaded />
    </div>
  );
}

export default looks(Harbour, {
  states: {
    'by state': {
      async script() {
        await ensure(the.heading('Berths')).counts(2);
        await ensure(the.heading('Berths', { level: 2 })).counts(1);
        await ensure(the.heading({ level: 3 })).reads('Berths');
        await ensure(the.button({ expanded: false })).reads('More');
        await ensure(the.button({ pressed: true })).reads('Lights');
        await ensure(the.button({ pressed: 'mixed' })).reads('Horns');
        await ensure(the.button({ disabled: true })).reads('Cast off');
        await ensure(the.button('Cast off', { disabled: false })).isAbsent();
        await ensure(the.button({ description: 'The tide is too low' })).reads('Cast off');
        await ensure(the.button({ description: /too high/ })).isAbsent();
        await ensure(the.button('second mooring', { exact: false })).hasAttribute('class', 'primary');
        await ensure(the.tab({ selected: true })).reads('Today');
        await ensure(the.tab({ selected: false })).reads('Tomorrow');
        await ensure(the.link({ current: true })).reads('North');
        await ensure(the.link({ current: 'page' })).reads('North');
        await ensure(the.link({ current: 'step' })).isAbsent();
        await ensure(the.link({ current: false })).reads('South');
        await ensure(the.checkbox({ checked: 'mixed' })).hasAttribute('aria-label', 'Ice');
        await ensure(the.checkbox({ checked: true })).hasAttribute('aria-label', 'Wind');
      },
    },
    'by what is there': {
      async script() {
        await ensure(the.placeholder('Name of the ship')).isVisible();
        await ensure(the.placeholder(/ship$/)).isVisible();
        await ensure(the.picture('The crane')).hasAttribute('src', 'data:,');
        await ensure(the.picture('A flag')).isVisible();
        await ensure(the.titled('Lowest astronomical tide')).reads('LAT');
        await ensure(the.alert().having('not saved')).isVisible();
        await ensure(the.alert().without('not saved')).isAbsent();
      },
    },
    'narrowed one way after the other': {
      async script() {
        await ensure(the.row().having('Ali')).reads(/^Aliseo/);
        await ensure(the.row().having(/^Al/)).counts(2);
        await ensure(the.row().having(the.button('Release'))).counts(2);
        await ensure(the.row().without(the.button())).reads(/^Bora/);
        await ensure(the.row().first()).reads(/^Alba/);
        await ensure(the.row().last()).reads(/^Bora/);
        await ensure(the.row().nth(-2)).reads(/^Aliseo/);
        await ensure(the.row().having(the.button()).last()).reads(/^Aliseo/);
        // What is asked for last is done last.
        await ensure(the.row().last().having(the.button())).isAbsent();
        await click(the.button('Release').in(the.row().having('Aliseo')));
      },
    },
    'through a shadow root': {
      async script() {
        await ensure(the.listitem()).counts(2);
        await ensure(the.listitem().having('Green').in(the.region('Shade'))).isVisible();
        await ensure(the.region('Shade').having('Red buoy')).isVisible();
        await ensure(the.region('Shade').having(the.list('Buoys'))).isVisible();
        await ensure(the.css('li')).counts(2);
        await ensure(the.css('li').nth(1).in(the.region('Shade'))).reads('Green buoy');
      },
    },
    'through frames': {
      render: Framed,
      async script() {
        await type(the.field('Draught'), '3');
        await ensure(the.field('Draught')).hasValue('3');
        await click(the.button('Send').in(the.css('iframe')));
        await ensure(the.status()).reads('Sent 3');
        await ensure(the.button('Send')).isFocused();
        await ensure(the.checkbox('Ice')).isUnchecked();
        await click(the.checkbox('Ice'));
        await ensure(the.checkbox('Ice', { checked: true })).isVisible();
        await ensure(the.text('Far below')).not.isWithin('viewport');
        await scroll(the.text('Far below'));
        await ensure(the.text('Far below')).isWithin('viewport');
        await ensure(the.css('output')).comesBefore(the.heading('Behind it'));
      },
    },
    'through a frame in a frame': {
      render: Nested,
      async script() {
        await click(the.button('Ring'));
        await ensure(the.button('Rung')).isFocused();
      },
    },
    'among sheets whose rules are held': {
      render: Held,
      async script() {
        written = 0;
        await ensure(the.button('Buoy 27')).isVisible();
        // Every one of 600 rules for each of 30 roots would be 18,000.
        await ensure(() => written < 6000).equals(true);
      },
    },
    'by a mark': {
      async script() {
        await ensure(the.marked('gauge')).reads('4 m');
      },
    },
    'by structure': {
      async script() {
        await ensure(the.css('.primary')).isEnabled();
        await ensure(the.css('section:nth-of-type(2) > button')).isEnabled();
        await ensure(the.css('[data-gauge]')).isVisible();
      },
    },

    'nothing: a name from its content': { script: () => click(the.alert('Changes are not saved')) },
    'nothing: a placeholder': { script: () => click(the.placeholder('Name of the shop')) },
    'nothing: a title': { script: () => click(the.titled('Lowest tide')) },
    'nothing: a picture': { script: () => click(the.picture('The crnae')) },
    'nothing: a mark': { script: () => click(the.marked('guage')) },
    'nothing: narrowed': { script: () => click(the.row().having('Maestro')) },
    'nothing: a state': { script: () => click(the.tab('Today', { selected: false })) },
    'nothing: a level': { script: () => click(the.heading('Harbour', { level: 4 })) },
    'nothing: no such state': { script: () => click(the.button('Refresh', { expanded: true })) },
    'several: in places with names': { script: () => click(the.button('Refresh')) },
    'several: one after the other': { script: () => click(the.button('Release')) },
    'a slip in a state': { script: () => click(the.heading('Berths', { levle: 2 } as RoleState)) },
  },
});
