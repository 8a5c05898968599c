import { click, ensure, looks, the } from 'sguardo';

function forever(): void {
  for (;;) if (Math.cos(1) > 2) break;
}

type Kind = 'fine' | 'throws' | 'endless' | 'alert' | 'close' | 'leave' | 'reload' | 'link' | 'open' | 'crash';

/** A component that does what a component must not do. */
function Trouble({ kind }: { kind: Kind }) {
  if (kind === 'throws') throw new Error('the bilge pump failed');
  if (kind === 'endless') forever();
  const act = (): void => {
    if (kind === 'alert') {
      window.alert('Gale');
      document.title = String(window.confirm('Cast off?'));
    }
    if (kind === 'close') window.close();
    if (kind === 'leave') location.href = 'http://elsewhere.test/';
    if (kind === 'reload') location.reload();
    if (kind === 'open') window.open('http://elsewhere.test/');
    if (kind === 'crash') {
      const hold: unknown[] = [];
      for (;;) hold.push(new Array(1e7).fill(1.5));
    }
  };
  return (
    <p>
      <button type="button" onClick={act}>
        Do it
      </button>
      <a href="http://elsewhere.test/list">Elsewhere</a>
    </p>
  );
}

export default looks(Trouble, {
  props: { kind: 'fine' },
  states: {
    before: {},
    'throws at render': { props: { kind: 'throws' } },
    'after a throw': {},
    'endless at render': { props: { kind: 'endless' } },
    'after an endless render': {},
    'endless in the script': {
      async script() {
        forever();
      },
    },
    'after an endless script': {},
    'waits for ever': { script: () => new Promise<void>(() => {}) },
    'opens a dialog': {
      props: { kind: 'alert' },
      async script() {
        await click(the.button('Do it'));
        await ensure(() => document.title).equals('false');
      },
    },
    'closes its window': { props: { kind: 'close' }, script: () => click(the.button('Do it')) },
    'after a closed window': {},
    'leaves the page': { props: { kind: 'leave' }, script: () => click(the.button('Do it')) },
    'follows a link': { script: () => click(the.link('Elsewhere')) },
    'loads itself again': { props: { kind: 'reload' }, script: () => click(the.button('Do it')) },
    'opens a window': { props: { kind: 'open' }, script: () => click(the.button('Do it')) },
    after: {},
  },
});
