/** What the page's side does with shadow roots, scrollers, fields, pins and the network: one project, many looks. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { ElementEntry, Moment } from '../../src/core/moment/moment.ts';
import { isText } from '../../src/core/moment/moment.ts';
import { momentAt } from '../../src/core/moment/patch.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import type { Timeline } from '../../src/core/timeline/timeline.ts';
import { configuration, project } from '../support/project.ts';
import { serve, type Served } from '../support/service.ts';

/** A look file whose component renders HTML, sets itself up when it is mounted, and whose looks are scripts. */
const file = (
  html: string,
  setUp: string,
  looks: Record<string, string>,
): string => `import { useLayoutEffect, useRef } from 'react';
import { answer, capture, clear, click, ensure, hover, looks, press, select, spy, the, type } from 'sguardo';
function Thing(props) {
  const root = useRef(null);
  useLayoutEffect(() => { ((root) => { ${setUp} })(root.current); }, []);
  return <div ref={root} dangerouslySetInnerHTML={{ __html: ${JSON.stringify(html)} }} />;
}
const $ = (selector) => document.querySelector(selector);
export default looks(Thing, { states: { ${Object.entries(looks)
  .map(
    ([name, body]) =>
      `${JSON.stringify(name)}: ${body.trim().startsWith('{') ? body : `{ async script() { ${body} } }`},`,
  )
  .join('\n')} } });
`;

const actions: Record<string, string> = {
  'a button deep in nested scrollers': `await click(the.button('Deep'));
    await ensure(() => window.clicked).equals('Deep');`,
  'a button in a scroller in a shadow root': `await click(the.button('Shadow'));
    await ensure(() => window.clicked).equals('Shadow');`,
  'a button that a scroller hides within the viewport': `await click(the.button('Near'));
    await ensure(() => window.clicked).equals('Near');`,
  'slotted content of a button': `await click(the.button('slotted'));
    await ensure(() => window.clicked).equals('host');`,
  'type behind an address': `await type(the.field('Mail'), '.it'); await ensure(the.field('Mail')).hasValue('a@b.it');`,
  'type behind a number': `await type(the.field('Number'), '5'); await ensure(the.field('Number')).hasValue(125);`,
  'type behind a text': `await type(the.field('Text'), ' two'); await ensure(the.field('Text')).hasValue('one two');`,
  'type behind lines': `await type(the.field('Lines'), '!'); await ensure(the.field('Lines')).hasValue('a\\nb!');`,
  'type behind what is editable': `await type(the.css('#editable'), '!');
    await ensure(() => $('#editable').textContent).equals('one two!');`,
  'type over what is selected': `await press(the.field('Text'), 'Control+a'); await type(the.field('Text'), 'two');
    await ensure(the.field('Text')).hasValue('two'); await click(the.field('Mail'), { times: 3 });
    await type(the.field('Mail'), 'c@d.it'); await ensure(the.field('Mail')).hasValue('c@d.it');`,
  'type over what the page selects': `
    $('input[value=one]').addEventListener('click', () => $('input[value=one]').select());
    await type(the.field('Text'), 'two');
    await ensure(the.field('Text')).hasValue('two');`,
  'type on where keys have left the caret': `await press(the.field('Text'), 'Home');
    await type(the.field('Text'), 'number ');
    await ensure(the.field('Text')).hasValue('number one');
    await click(the.field('Lines'), { at: [4, 8] });
    await press('End');
    await type(the.field('Lines'), '!');
    await ensure(the.field('Lines')).hasValue('a!\\nb');
    await press('Enter');
    await type(the.field('Lines'), 'c');
    await ensure(the.field('Lines')).hasValue('a!\\nc\\nb');`,
  'type behind what is there after a click': `await press(the.field('Text'), 'Home');
    await click(the.field('Text'), { at: [6, 8] });
    await type(the.field('Text'), '!');
    await ensure(the.field('Text')).hasValue('one!');
    await press(the.field('Number'), 'Home');
    await type(the.field('Mail'), '!');
    await ensure(the.field('Mail')).hasValue('a@b!');`,
  'type on in what is editable': `await press(the.css('#editable'), 'Home'); await type(the.css('#editable'), 'No ');
    await ensure(() => $('#editable').textContent).equals('No one two'); await press('Shift+End');
    await type(the.css('#editable'), 'way'); await ensure(() => $('#editable').textContent).equals('No way');`,
  'clear what is editable': `await clear(the.css('#editable'));
    await ensure(() => $('#editable').textContent.trim()).equals('');`,
  'select tells once': `
    const heard = [];
    for (const kind of ['input', 'change'])
      $('#tide').addEventListener(kind, (event) => heard.push([kind, event.target.value, event.isTrusted]));
    await select(the.field('Tide'), 'High');
    await ensure(the.field('Tide')).hasValue('high');
    await ensure(heard).equals([
      ['input', 'high', true],
      ['change', 'high', true],
    ]);
    heard.length = 0;
    await select(the.field('Tide'), 'Low');
    await ensure(heard).equals([
      ['input', 'low', true],
      ['change', 'low', true],
    ]);
    heard.length = 0;
    await select(the.field('Tide'), 'Low');
    await ensure(heard).equals([]);`,
  'select where the page goes by another value': `
    const heard = [];
    $('#tide').addEventListener('change', (event) => {
      heard.push(event.target.value);
      event.target.value = 'low';
    });
    $('#tide').value = 'low';
    await select(the.field('Tide'), 'High');
    await ensure(heard).equals(['high']);
    await ensure(the.field('Tide')).hasValue('low');`,
  'select where the page keeps the keys': `$('#tide').addEventListener('keydown', (event) => event.preventDefault());
    $('#tide').value = 'low'; await select(the.field('Tide'), 'High');`,
  'select over disabled ones': `await select(the.field('Tide'), 'Last');
    await ensure(the.field('Tide')).hasValue('last');`,
  'select from a disabled group': `await select(the.field('Tide'), 'Spring');`,
  'select from none': `$('#tide').selectedIndex = -1; await select(the.field('Tide'), 'High');
    await ensure(the.field('Tide')).hasValue('high');`,
};

/** Controls as libraries build them: the native one is transparent or clipped, and a twin is painted. */
const controlHtml = `
<style>.clipped { position: absolute; width: 1px; height: 1px; overflow: hidden; clip: rect(0 0 0 0); }</style>
<span style="position: relative"><input type="checkbox" aria-label="Lit"
  style="opacity: 0; position: absolute"><svg width="13" height="13"></svg></span>
<label><input type="radio" name="side" class="clipped"><i>Port</i></label><input id="star"
  type="radio" name="side" class="clipped"><label for="star">Starboard</label>
<div style="position: relative; width: 90px"><button id="under"
  onkeydown="window.pressed = event.key">Under</button><div
  style="position: absolute; inset: 0; background: navy"></div></div>
<label>Day <input type="date"
  onchange="window.heard = event.target.value"></label><label>Hour <input type="time"></label>
<label>Flag <input type="color"></label><label>Month <input type="month"></label><label>Draught <input
  type="range" max="20" step="0.5"></label>`;
const controls: Record<string, string> = {
  'twins are seen in the place of their controls': `await ensure(the.checkbox('Lit')).isVisible();
    await ensure(the.radio('Port')).isVisible(); await ensure(the.radio('Starboard')).isVisible();`,
  'a twin that differs from one by being transparent, too': `$('span').style.opacity = '0';
    await ensure(the.checkbox('Lit')).isVisible();`,
  'a transparent checkbox over its twin': `await click(the.checkbox('Lit'));
    await ensure(the.checkbox('Lit')).isChecked();`,
  'a clipped radio inside its label': `await click(the.radio('Port')); await ensure(the.radio('Port')).isChecked();`,
  'a clipped radio beside its label': `await click(the.radio('Starboard'));
    await ensure(the.radio('Starboard')).isChecked();`,
  'keys for what a pointer cannot reach': `await press(the.button('Under'), 'Enter');
    await ensure(() => window.pressed).equals('Enter');`,
  'a date': `await type(the.field('Day'), '2026-12-31'); await ensure(the.field('Day')).hasValue('2026-12-31');
    await ensure(() => window.heard).equals('2026-12-31');
    await clear(the.field('Day')); await ensure(the.field('Day')).hasValue('');`,
  'a time, a month, a colour, a place on a line': `await type(the.field('Hour'), '09:45');
    await ensure(the.field('Hour')).hasValue('09:45');
    await type(the.field('Month'), '2026-03'); await ensure(the.field('Month')).hasValue('2026-03');
    await type(the.field('Flag'), '#1F6FEB'); await ensure(the.field('Flag')).hasValue('#1f6feb');
    await type(the.field('Draught'), '7.5'); await ensure(() => $('[type=range]').value).equals('7.5');`,
  'a date that differs from one': `await type(the.field('Day'), '31.12.2026');`,
  'keys for what differs from a control': `await press(the.css('svg'), 'Enter');`,
  'a click on what differs from what is reached': `await click(the.button('Under'));`,
};

const actionHtml = `
<div style="height:30px;overflow:auto"><div style="height:100px"></div><button
  onclick="window.clicked='Near'">Near</button></div>
<div style="height:120px;overflow:auto"><div style="height:900px"></div><div
  style="height:100px;overflow:auto"><div style="height:700px"></div><button
  onclick="window.clicked='Deep'">Deep</button></div></div>
<div id="host"></div><span id="host-button"><b>slotted</b></span>
<label>Mail <input type="email" value="a@b"></label><label>Number <input
  type="number" value="12"></label><label>Text <input value="one"></label>
<label>Lines <textarea>a\nb</textarea></label><div id="editable" contenteditable>one <b>two</b></div>
<label>Tide <select id="tide"><option value="low">Low</option><option disabled>Slack</option><optgroup
  disabled label="Rare"><option>Spring</option></optgroup><option value="mid">Mid</option><option
  value="high">High</option><option value="last">Last</option></select></label>`;
const actionSetUp = `
const host = root.querySelector('#host').attachShadow({ mode: 'closed' });
host.innerHTML = '<div style="height:80px;overflow:auto"><div style="height:500px"></div><button>Shadow</button></div>';
host.querySelector('button').onclick = () => {
  window.clicked = 'Shadow';
};
const button = root.querySelector('#host-button').attachShadow({ mode: 'open' });
button.innerHTML = '<button><slot></slot></button>';
button.querySelector('button').onclick = () => {
  window.clicked = 'host';
};`;

const pins: Record<string, string> = {
  'dates that nobody gave': `
    const options = { dateStyle: 'short', timeStyle: 'short', timeZone: 'UTC' };
    const format = new Intl.DateTimeFormat('en-GB', options);
    await ensure(format.format()).equals('02/03/2026, 09:30');
    await ensure(format.formatToParts().map((part) => part.value).join('')).equals('02/03/2026, 09:30');
    await ensure(format.format(0)).equals('01/01/1970, 00:00');
    await ensure([1, 2].map(format.format).length).equals(2);`,
  Temporal: `
    if (typeof Temporal !== 'undefined') {
      await ensure(String(Temporal.Now.plainDateISO())).equals('2026-03-02');
      await ensure(String(Temporal.Now.plainDateTimeISO('UTC')).slice(0, 16)).equals('2026-03-02T09:30');
      await ensure(String(Temporal.Now.instant()).slice(0, 16)).equals('2026-03-02T09:30');
      await ensure(String(Temporal.Now.zonedDateTimeISO('Europe/Rome')).slice(0, 16)).equals('2026-03-02T10:30');
    }`,
  origins: `
    await ensure(performance.timeOrigin).equals(Date.UTC(2026, 2, 2, 9, 30));
    await ensure(performance.toJSON().timeOrigin).equals(Date.UTC(2026, 2, 2, 9, 30));
    await ensure(document.lastModified).equals('03/02/2026 09:30:00');
    await ensure(new Date(new File([], 'x').lastModified).toISOString().slice(0, 16)).equals('2026-03-02T09:30');
    await ensure(new File([], 'x', { lastModified: 5 }).lastModified).equals(5);
    await ensure(new (new Date().constructor)().getFullYear()).equals(2026);`,
  'chance by any way': `
    const numbers = () => [
      Array.from(Crypto.prototype.getRandomValues.call(crypto, new Uint8Array(4))).join(),
      Crypto.prototype.randomUUID.call(crypto),
      crypto.randomUUID(),
      Math.random(),
    ];
    await ensure(numbers()[1]).matches(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
    window.$numbers = numbers().join(' ');
    document.body.append(Object.assign(document.createElement('p'), { textContent: window.$numbers }));
    await capture('numbers');`,
};

const values: Record<string, string> = {
  'files by content': `
    const file = (text, name = 'a.txt', type = 'text/plain') => new File([text], name, { type });
    await ensure(file('x')).equals(file('x'));
    const upload = spy(); upload(file('x'), { list: [new Blob(['y'])] });
    await ensure(upload).wasCalledWith(file('x'), { list: [new Blob(['y'])] });`,
  'files that differ in content': `await ensure(new File(['x'], 'a')).equals(new File(['z'], 'a'));`,
  'files that differ in name': `await ensure(new File(['x'], 'a')).equals(new File(['x'], 'b'));`,
  'errors that differ': `await ensure(new Error('a')).equals(new Error('b'));`,
  'errors that are alike': `await ensure(new TypeError('a')).equals(new TypeError('a'));`,
  'elements that differ': `await ensure(document.createElement('p')).equals(document.createElement('p'));`,
  'addresses that differ': `await ensure(new URL('http://a/')).equals(new URL('http://b/'));`,
  'a pattern with a memory': `
    const moored = /moored/g;
    for (let i = 0; i < 3; i++) {
      await ensure('moored').matches(moored);
      await ensure(the.text(/^one$/g)).counts(0);
    }
    await ensure('moored').equals(moored);`,
};

const doors: Record<string, string> = {
  'an unanswered stranger': `await fetch('https://elsewhere.test/x').then(() => {
    throw new Error('it got through') }, () => {});`,
  'an answered stranger': `{ answers: { 'https://elsewhere.test/x': { json: { ok: 1 } } }, async script() {
    const reply = await fetch('https://elsewhere.test/x'); await ensure(await reply.json()).equals({ ok: 1 }); } }`,
  'a web socket': `await new Promise((resolve) => { const socket = new WebSocket('ws://elsewhere.test/live');
    socket.onerror = resolve; socket.onopen = () => { throw new Error('open') }; });`,
  'an event source': `{
    answers: { '/api/feed': { body: 'data: high water\\n\\n' } },
    async script() {
      const said = await new Promise((resolve, reject) => {
        const source = new EventSource('/api/feed');
        source.onmessage = (event) => {
          source.close();
          resolve(event.data);
        };
        source.onerror = reject;
      });
      await ensure(said).equals('high water');
    },
  }`,
  'a beacon': `{
    answers: { 'POST /api/log': {} },
    async script({ answers }) {
      navigator.sendBeacon('/api/log', 'moored');
      navigator.sendBeacon('/api/log', 'adrift');
      await ensure(answers['POST /api/log']).calls(2);
      await ensure(answers['POST /api/log']).wasAskedWith({ body: 'moored' });
    },
  }`,
  'a worker': `{
    answers: { '/api/tide': { body: '3' } },
    async script() {
      const work = new Worker(
        URL.createObjectURL(
          new Blob(["fetch('http://looks.localhost/api/tide').then((r) => r.text()).then(postMessage)"]),
        ),
      );
      const said = await new Promise((resolve) => {
        work.onmessage = (event) => resolve(event.data);
      });
      await ensure(said).equals('3');
    },
  }`,
  'a shared worker': `let refused = false;
    try { new SharedWorker('data:text/javascript,0') } catch { refused = true } await ensure(refused).equals(true);`,
  'an image from elsewhere': `await new Promise((resolve) => { const image = new Image(); image.onerror = resolve;
    image.src = 'http://elsewhere.test/flag.png'; });`,
};

const unrest: Record<string, string> = {
  'works for ever': `{
    async script() {
      const channel = new MessageChannel();
      let on = true;
      channel.port1.onmessage = () => {
        if (on) {
          const until = performance.now() + 3;
          while (performance.now() < until);
          channel.port2.postMessage(0);
        }
      };
      channel.port2.postMessage(0);
    },
  }`,
  'changes in a shadow root': `let n = 0; setInterval(() => {
    $('#quiet').shadowRoot.querySelector('i').textContent = String(n++); }, 4);`,
  'an image in a shadow root': `
    const image = new Image();
    image.src =
      'data:image/svg+xml,' +
      encodeURIComponent(
        '<svg xmlns="http://www.w3.org/2000/svg" width="30" height="30"><rect width="30" height="30"/></svg>',
      );
    $('#quiet').shadowRoot.append(image);`,
};

let look: (name: string) => ResultSummary;
let served: Served;
beforeAll(async () => {
  served = await serve(
    project({
      'sguardo.config.ts': configuration({ patience: 600, lanes: 3, environments: { day: { viewport: [500, 400] } } }),
      'src/Acts.look.jsx': file(actionHtml, actionSetUp, actions),
      'src/Controls.look.jsx': file(controlHtml, '', controls),
      'src/Pins.look.jsx': file('<p>pins</p>', '', { ...pins, ...values }),
      'src/Doors.look.jsx': file('<p>doors</p>', '', doors),
      'src/Rest.look.jsx': file(
        '<p>rest</p><div id="quiet"></div><div id="wide"></div>',
        `root.querySelector('#quiet').attachShadow({ mode: 'open' }).innerHTML = '<i>0</i>';
         root.querySelector('#wide').attachShadow({ mode: 'closed' }).innerHTML =
           '<div style="position:absolute;top:300px;left:10px;width:40px;height:50px;background:navy"></div>';`,
        unrest,
      ),
      'src/Record.look.jsx': file(recordedHtml, recordedSetUp, recorded),
    }),
  );
  ({ look } = await served.run());
});

const failing = [
  'select from a disabled group',
  'select where the page keeps the keys',
  'an unanswered stranger',
  'a web socket',
  ...Object.keys({ ...values, ...controls }).filter((name) => name.includes('differs') || name.includes('that differ')),
];

describe('actions, pins, values and doors', () => {
  it.each(Object.keys({ ...actions, ...controls, ...pins, ...values, ...doors }))('%s', (name) => {
    const { verdict, problem } = look(name);
    expect([verdict, problem?.message]).toEqual(
      failing.includes(name) ? ['failed', expect.any(String)] : ['new', undefined],
    );
  });

  it('what a control does not take, and what keys cannot reach, is told', () => {
    expect(look('a date that differs from one').problem).toMatchObject({
      code: 'value-not-taken',
      message: expect.stringContaining('did not take “31.12.2026”'),
    });
    expect(look('keys for what differs from a control').problem).toMatchObject({ code: 'target-not-focusable' });
    expect(look('a click on what differs from what is reached').problem).toMatchObject({ code: 'target-covered' });
  });

  it('what reads the same says how it differs', () => {
    expect(look('files that differ in content').problem!.found).toEqual([
      'it is File("a", 1 byte, no type), with other content',
    ]);
    expect(look('elements that differ').problem!.found).toEqual([
      'it is <p>, which reads the same but is another object',
    ]);
  });

  it('an option of a disabled group is named as such', () => {
    expect(look('select from a disabled group').problem).toMatchObject({
      code: 'option-disabled',
      found: ['“Low”', '“Slack” (disabled)', '“Spring” (disabled)', '“Mid”', '“High”', '“Last”'],
    });
  });

  it('chance is the same in every run', async () => {
    const again = await served.run({ patterns: ['Pins/chance by any way'] });
    const hashes = (result: ResultSummary): string[] => result.captures.map(({ hash }) => hash);
    expect(hashes(again.look('chance by any way'))).toEqual(hashes(look('chance by any way')));
  });

  it('what was refused is noted, with what to write', () => {
    expect(look('an unanswered stranger').problem).toMatchObject({
      message: 'GET https://elsewhere.test/x has no answer: it was refused: looks reach no network.',
      remedy:
        "Add to the look: answers: { 'GET https://elsewhere.test/x': { json: … } }\n" +
        "Or let it through with network: ['https://elsewhere.test'] in sguardo.config.ts.",
    });
    expect(look('a web socket').problem?.remedy).toMatch(
      /'WS ws:\/\/elsewhere\.test\/live': \{ messages: … \}.*\n.*network: \['ws:\/\/elsewhere\.test'\]/,
    );
    expect(look('an image from elsewhere').notes.join()).toContain("network: ['http://elsewhere.test']");
    expect(look('a shared worker').notes.join()).toContain('A shared worker was refused');
    for (const name of ['an answered stranger', 'an event source', 'a beacon', 'a worker'])
      expect(look(name).notes).toEqual([]);
  });
});

describe('stillness', () => {
  it.each([['works for ever', 'it never stopped working, although nothing that it shows changed']])(
    '%s is told',
    (name, why) => {
      const hence = 'The picture may differ from run to run.';
      const told = `The page had not come to rest when “end” was captured: ${why}. ${hence}`;
      expect(look(name).notes).toEqual(expect.arrayContaining([told]));
    },
  );

  it('what goes on for ever in the look’s own time gets its share of it, and is told', () => {
    expect(look('changes in a shadow root').notes).toEqual([
      'Something was still going on when “end” was captured: an interval of 4 ms kept going. ' +
        "It got 1000 ms of the look's time, the same in every run. To give it more, raise settle.",
    ]);
  });

  it('the picture reaches as far as what a shadow root shows', () => {
    expect(look('an image in a shadow root').captures[0]!.height).toBe(300 + 50 + 16);
  });
});

/** Changes that a recorder could miss, each followed by a check: the moment after it must show them. */
const recordedHtml =
  '<ul><li id="a">a</li><li id="b">b</li></ul><div id="host"></div>' +
  '<div id="box" style="height:40px;overflow:auto"><div style="height:400px">tall</div></div>' +
  '<svg width="90" height="50"><foreignObject width="90" height="50">' +
  '<div id="chart" style="height:40px;overflow:auto"><div style="height:300px">deep</div></div></foreignObject>' +
  '<foreignObject id="legend" y="60" width="90" height="30" style="overflow:auto">' +
  '<div style="height:90px">far</div></foreignObject></svg><p id="p" style="background: url(flag.svg)">p</p>' +
  '<iframe id="frame" style="width:120px;height:60px"></iframe>' +
  '<iframe id="far" src="data:text/html,far" style="width:77px;height:33px"></iframe>';
const recordedSetUp = `
const frame = root.querySelector('#frame');
frame.srcdoc = '<style>i { color: red }</style><i>inside</i>';
const style = document.createElement('style');
style.id = 'own';
style.textContent = '.x { color: red } @media all { .y { color: blue } }';
root.append(style);
const shadow = root.querySelector('#host').attachShadow({ mode: 'open' });
shadow.innerHTML = '<b>b</b>';`;
const recorded: Record<string, string> = {
  'a node that left, changed and came back': `
    const a = $('#a');
    const list = a.parentNode;
    a.remove();
    await Promise.resolve();
    a.firstChild.data = 'changed';
    a.setAttribute('title', 't');
    list.append(a);
    await ensure(the.text('changed')).isVisible();`,
  'a root on a known element': `$('#p').attachShadow({ mode: 'open' }).innerHTML = '<i>new root</i>';
    await ensure(1).equals(1);`,
  'sheets of a root': `const sheet = new CSSStyleSheet(); sheet.replaceSync('b { color: green }');
    $('#host').shadowRoot.adoptedStyleSheets = [sheet]; await ensure(1).equals(1);`,
  'a rule of a sheet': `$('#own').sheet.cssRules[0].style.color = 'green'; await ensure(1).equals(1);
    $('#own').sheet.cssRules[1].insertRule('.z { color: pink }', 0); await ensure(1).equals(1);`,
  'a sheet switched off': `$('#own').sheet.disabled = true; await ensure(1).equals(1);`,
  'a scroll before its event': `$('#box').scrollTop = 123; await ensure(1).equals(1);`,
  'a scroll inside a drawing': `$('#chart').scrollTop = 45; $('#legend').scrollTop = 15; await ensure(1).equals(1);`,
  'attributes that look like handlers': `$('#p').setAttribute('once', '1'); $('#p').setAttribute('onward', '2');
    $('#p').setAttribute('onclick', 'x()'); await ensure(1).equals(1);`,
  'inside a frame': `
    await ensure(() => $('#frame').contentDocument?.querySelector('i')?.textContent).equals('inside');
    $('#frame').contentDocument.querySelector('i').textContent = 'changed inside';
    await ensure(1).equals(1);`,
  'a target that appears': `setTimeout(() => { const p = document.createElement('button'); p.textContent = 'Late';
    $('#host').after(p); }, 60); await click(the.button('Late'));`,
};

describe('a moment', () => {
  const lastOf = async (name: string): Promise<{ timeline: Timeline; moment: Moment; all: ElementEntry[] }> => {
    const timeline = await served.client.timeline(look(name).id);
    const check = timeline.steps.filter(({ kind }) => kind === 'check' || kind === 'action').at(-1)!;
    const moment = momentAt(timeline.base, timeline.patches, check.after!);
    return { timeline, moment, all: Object.values(moment.nodes).filter((node): node is ElementEntry => !isText(node)) };
  };
  const byId = (all: readonly ElementEntry[], id: string): ElementEntry => all.find(({ attrs }) => attrs?.id === id)!;
  const texts = (moment: Moment): string[] =>
    Object.values(moment.nodes).flatMap((node) => (isText(node) ? [node.text] : []));
  const sheetTexts = (moment: Moment): string => JSON.stringify(moment.sheets);

  it('has a node that left, changed and came back', async () => {
    const { moment, all } = await lastOf('a node that left, changed and came back');
    expect(texts(moment)).toContain('changed');
    expect(byId(all, 'a').attrs).toMatchObject({ title: 't' });
  });

  it('has a shadow root that was attached to a known element, and its sheets', async () => {
    const { moment, all } = await lastOf('a root on a known element');
    expect(byId(all, 'p').shadow?.kids).toHaveLength(1);
    expect(texts(moment)).toContain('new root');
    const sheets = await lastOf('sheets of a root');
    expect(byId(sheets.all, 'host').shadow?.sheets).toHaveLength(1);
    expect(sheetTexts(sheets.moment)).toContain('b { color: green }');
  });

  it('has what was changed through rules', async () => {
    const { moment } = await lastOf('a rule of a sheet');
    expect(sheetTexts(moment)).toContain('.x { color: green; }');
    expect(sheetTexts(moment)).toContain('.z { color: pink; }');
    const off = await lastOf('a sheet switched off');
    expect(sheetTexts(off.moment)).not.toContain('.x {');
  });

  it('has scroll offsets before their event', async () => {
    expect(byId((await lastOf('a scroll before its event')).all, 'box').state?.scroll).toEqual([0, 123]);
    const { all } = await lastOf('a scroll inside a drawing');
    expect(byId(all, 'chart').state?.scroll).toEqual([0, 45]);
    expect(byId(all, 'legend').state?.scroll).toEqual([0, 15]);
  });

  it('has attributes that only look like handlers, and no handlers', async () => {
    const { attrs } = byId((await lastOf('attributes that look like handlers')).all, 'p');
    expect(attrs).toMatchObject({ once: '1', onward: '2' });
    expect(attrs).not.toHaveProperty('onclick');
  });

  it('has the documents of frames of its origin, and boxes for the others', async () => {
    const { moment, all } = await lastOf('inside a frame');
    expect(texts(moment)).toContain('changed inside');
    expect(byId(all, 'frame').frame).toMatchObject({ kid: expect.any(Number), width: 124, height: 64 });
    expect(byId(all, 'far').frame).toEqual({ kid: null, width: 81, height: 37 });
  });

  it('knows the target of a step that appeared during it', async () => {
    const { timeline, moment } = await lastOf('a target that appears');
    const step = timeline.steps.find(({ kind }) => kind === 'action')!;
    expect(step.target!.node).not.toBeNull();
    expect(moment.nodes[step.target!.node!]).toMatchObject({ tag: 'button' });
  });
});
