import { action, answer, check, clear, click, clock, ensure, looks, reset, spy, the, type, type Target } from 'sguardo';
import { useEffect, useState } from 'react';

type Ship = { name: string; berth: number; crew: { captain: string; hands: number } };
type Props = { onMoor: (ship: Ship, ...more: unknown[]) => void; onAsk: () => void; late: boolean };

const alba: Ship = { name: 'Alba', berth: 4, crew: { captain: 'Rossi', hands: 6 } };
const maestro: Ship = { name: 'Maestro', berth: 7, crew: { captain: 'Neri', hands: 11 } };

/** One of everything that checks can speak of. */
function Quay({ onMoor, onAsk, late }: Props) {
  const [said, setSaid] = useState('');
  const [draught, setDraught] = useState('');
  useEffect(() => {
    if (!late) return;
    const timer = setTimeout(() => setSaid('Moored'), 300);
    return () => clearTimeout(timer);
  }, [late]);
  return (
    <main style={{ ['--tone' as string]: '#b3261e' }}>
      <h1 id="title" style={{ color: 'var(--tone)', padding: '4px 8px', border: '1px solid teal', fontSize: 24 }}>
        Quay
      </h1>
      <p aria-live="polite">{said || 'Free'}</p>
      <label>
        Draught <input value={draught} onChange={(event) => setDraught(event.target.value)} aria-describedby="unit" />
      </label>
      <span id="unit">in metres</span>
      <section aria-label="Ships" style={{ width: 300, height: 60, overflow: 'hidden' }}>
        <button type="button" style={{ width: 120, height: 30 }} onClick={() => onMoor(alba, 'first')}>
          Moor Alba
        </button>
        <button type="button" style={{ width: 120, height: 30 }} onClick={() => onMoor(maestro)}>
          Moor Maestro
        </button>
        <div role="note" aria-label="Deep" style={{ height: 80 }}>
          Deep
        </div>
      </section>
      <button type="button" onClick={onAsk}>
        Ask
      </button>
      <button type="button" onClick={() => setSaid('Moored')}>
        Say
      </button>
      <button
        type="button"
        onClick={() =>
          void fetch('/api/berths/4?tide=low', {
            method: 'PUT',
            headers: { 'X-Pier': 'north' },
            body: JSON.stringify(alba),
          })
        }
      >
        Send
      </button>
      {said === 'Moored' ? null : <div role="alert">Nothing is moored</div>}
      <ol>
        {(said === 'Moored' ? ['Bice', 'Ada'] : ['Ada', 'Bice']).map((pilot) => (
          <li key={pilot}>{pilot}</li>
        ))}
      </ol>
      {said === 'Moored' ? null : <meter aria-label="Wind" value={0.3} />}
      <meter aria-label="Tide" value={0.6} />
    </main>
  );
}

const both = async (): Promise<void> => {
  await click(the.button('Moor Alba'));
  await click(the.button('Moor Maestro'));
};

const moor = action('moor', async (ship: string, times?: number) => {
  for (let i = 0; i < (times ?? 1); i++) await click(the.button(`Moor ${ship}`));
});

const isTitled = check('is titled', async (target: Target, text: string) => {
  await ensure(target).isVisible();
  await ensure(target).reads(text);
});

const title = the.heading('Quay');
const draught = the.textbox('Draught');

export default looks(Quay, {
  props: { onMoor: spy(), onAsk: spy(), late: false },
  answers: { 'PUT /api/berths/:berth': { json: {} } },
  states: {
    'holds: of targets': {
      async script() {
        await ensure(title).hasStyle('color', '#b3261e');
        await ensure(title).hasStyle('color', 'rgb(70% 15% 12%)');
        await ensure(title).hasStyle('color', 'var(--tone)');
        await ensure(title).hasStyle('padding', '4px 8px');
        await ensure(title).hasStyle('paddingTop', '0.25rem');
        await ensure(title).hasStyle('border', '1px solid teal');
        await ensure(title).hasStyle('--tone', '#b3261e');
        await ensure(title).hasStyle('font-size', /^24/);
        await ensure(title).not.hasStyle('color', 'black');
        await ensure(title).hasName('Quay');
        await ensure(title).hasRole('heading');
        await ensure(draught).hasDescription(/metres/);
        await ensure(title).isWithin('viewport');
        await ensure(the.button('Moor Alba')).isWithin(the.region('Ships'));
        await ensure(the.note('Deep')).not.isWithin('viewport');
        await ensure(the.button('Moor Alba')).comesBefore(the.button('Moor Maestro'));
        await ensure(the.button('Moor Maestro')).not.comesBefore(the.button('Moor Alba'));
        await ensure(title).not.isAbsent();
        await ensure(title).not.counts(2);
        await ensure(draught).not.hasValue('3');
        await ensure(title).not.reads('Pier');
        await ensure(title).not.isFocused();
        await ensure(draught).not.isDisabled();
      },
    },
    'holds: of spies': {
      async script({ props }) {
        await ensure(props.onMoor).wasNotCalled();
        await both();
        await ensure(props.onMoor).wasCalledWith({ name: 'Alba', crew: { hands: 6 } });
        await ensure(props.onMoor).callsWere([[{ name: /^Al/ }, 'first'], [{ berth: 7 }]]);
        await ensure(props.onMoor)
          .call(1)
          .matches([{ name: 'Maestro' }]);
        await ensure(props.onMoor).call(-1).equals([maestro]);
        await ensure(props.onMoor).not.wasCalledWith({ name: 'Rondine' });
        await reset(props.onMoor);
        await ensure(props.onMoor).wasNotCalled();
        await ensure(props.onMoor).calls(0);
      },
    },
    'holds: of answers': {
      async script({ answers }) {
        const berths = answers['PUT /api/berths/:berth']!;
        await ensure(berths).wasNotAsked();
        await click(the.button('Send'));
        await ensure(berths).wasAsked();
        await ensure(berths).wasAskedWith({
          body: { name: 'Alba' },
          headers: { 'x-pier': 'north' },
          query: { tide: 'low' },
          params: { berth: '4' },
        });
        await ensure(berths).callsWere([{ query: { tide: /low|high/ } }]);
        await ensure(berths).call(0).matches({ method: 'PUT' });
      },
    },
    'holds: of values, eventually': {
      props: { late: true },
      async script() {
        await ensure.eventually(() => document.querySelector('p')?.textContent).equals('Moored');
        await ensure(alba).matches({ crew: { captain: /^R/ } });
        await ensure(alba).not.equals(maestro);
      },
    },
    'holds: in words of its own': {
      async script({ props }) {
        await moor('Alba', 2);
        await isTitled(title, 'Quay');
        await ensure(props.onMoor).calls(2);
      },
    },
    'holds: with more patience': {
      props: { late: true },
      patience: 50,
      async script() {
        await ensure(the.alert(), { patience: 1000 }).isAbsent();
      },
    },
    'fails: with less patience': {
      props: { late: true },
      async script() {
        await ensure(the.alert(), { patience: 100 }).isAbsent();
      },
    },
    'fails: no patience': { script: () => ensure(title, { patience: -1 }).isVisible() },
    'fails: a style': { script: () => ensure(title).hasStyle('color', 'green') },
    'fails: no such style': { script: () => ensure(title).hasStyle('colour', 'green') },
    'fails: no such value': { script: () => ensure(title).hasStyle('padding', 'wide') },
    'fails: a name': { script: () => ensure(title).hasName('Pier') },
    'fails: a description': { script: () => ensure(title).hasDescription('x') },
    'fails: a role': { script: () => ensure(title).hasRole('banner') },
    'fails: no such role': { script: () => ensure(title).hasRole('headin') },
    'fails: outside': { script: () => ensure(the.note('Deep')).isWithin('viewport') },
    'fails: outside a target': { script: () => ensure(title).isWithin(the.region('Ships')) },
    'fails: the other order': { script: () => ensure(draught).comesBefore(title) },
    'fails: not, but it does': { script: () => ensure(title).not.reads('Quay') },
    'fails: not absent': { script: () => ensure(the.dialog()).not.isAbsent() },
    'fails: not called': { script: ({ props }) => ensure(props.onMoor).wasCalled() },
    'fails: called': {
      async script({ props }) {
        await both();
        await ensure(props.onMoor).wasNotCalled();
      },
    },
    'fails: called with another': {
      async script({ props }) {
        await both();
        await ensure(props.onMoor).wasCalledWith({ name: 'Alba', berth: 5, crew: { captain: 'Rosso' } }, 'first');
      },
    },
    'fails: another sequence': {
      async script({ props }) {
        await both();
        await click(the.button('Moor Alba'));
        await ensure(props.onMoor).callsWere([[{ name: 'Alba' }], [{ name: 'Rondine', berth: 7 }]]);
      },
    },
    'fails: no such call': {
      async script({ props }) {
        await both();
        await ensure(props.onMoor).call(2).equals([alba]);
      },
    },
    'fails: asked with another': {
      async script({ answers }) {
        await click(the.button('Send'));
        await ensure(answers['PUT /api/berths/:berth']!).wasAskedWith({
          body: { name: 'Alba', berth: 5 },
          query: { tide: 'high' },
        });
      },
    },
    'fails: another value': {
      script: () =>
        ensure({ ships: [alba, maestro], tide: 'low' }).equals({
          ships: [alba, { ...maestro, berth: 9 }],
          tide: 'low',
        }),
    },
    'fails: a list': { script: () => ensure([1, 2, 3, 4]).equals([1, 3, 4]) },
    'fails: an entry more': { script: () => ensure({ a: 1, b: 2 }).equals({ a: 1 }) },
    'fails: a long text': {
      script: () => ensure(`${'sea '.repeat(60)}north`).equals(`${'sea '.repeat(60)}south`),
    },
    'fails: eventually': {
      script: () => ensure.eventually(() => document.title, { patience: 100 }).matches(/quay/),
    },
    'fails: no spy to reset': { script: () => reset(undefined) },
    'doubt: never seen': {
      async script() {
        await ensure(the.dialog('Berths')).isAbsent();
        await ensure(the.alert()).isVisible();
      },
    },
    'doubt: not seen, but it comes': {
      async script() {
        await ensure(the.text('Moored')).isAbsent();
        await click(the.button('Say'));
        await ensure(the.text('Moored')).isVisible();
      },
    },
    'doubt: seen before anybody looked': {
      async script() {
        await click(the.button('Say'));
        await ensure(the.alert()).isAbsent();
        await ensure(the.text('Free')).isAbsent();
      },
    },
    'doubt: held before the first action': {
      async script({ props }) {
        await click(the.button('Say'));
        await ensure(title).isVisible();
        await ensure(props.onMoor).wasNotCalled();
      },
    },
    'doubt: none of a change': {
      async script() {
        await click(the.button('Say'));
        await ensure(the.text('Moored')).isVisible();
      },
    },
    'doubt: none of another one in its place': {
      async script() {
        await click(the.button('Say'));
        await ensure(the.listitem().first()).reads('Bice');
      },
    },
    'doubt: none of one fewer': {
      async script() {
        await click(the.button('Say'));
        await ensure(the.meter()).hasName('Tide');
      },
    },
    'doubt: none of what was typed': {
      async script() {
        await type(draught, '3');
        await ensure(draught).hasValue('3');
        await clear(draught);
        await ensure(draught).not.hasValue('3');
      },
    },
    'doubt: none of a call': {
      async script({ props }) {
        await click(the.button('Ask'));
        await ensure(props.onAsk).wasCalled();
      },
    },
    'doubt: none after a while': {
      props: { late: true },
      async script() {
        await clock.advance(400);
        await ensure(the.alert()).isAbsent();
        const tide = await answer('/api/tide', {});
        await ensure(tide).wasNotAsked();
      },
    },
  },
});
