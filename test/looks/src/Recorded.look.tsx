import { useEffect, useRef, useState } from 'react';
import { click, ensure, hover, looks, press, select, the, type } from 'sguardo';
import buoy from './buoy.svg';

/** A custom element with a shadow root and an adopted sheet. */
class TideLamp extends HTMLElement {
  connectedCallback(): void {
    if (this.shadowRoot) return;
    const root = this.attachShadow({ mode: 'open' });
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(
      'b { background: gold; padding: 4px; --edge: 3px; border: solid var(--edge) teal; border-top-width: 9px }' +
        'b:hover { background: tomato }',
    );
    root.adoptedStyleSheets = [sheet];
    // Whoever looks at rules could change them; nobody does.
    if (sheet.cssRules.length !== 2) throw new Error('There are two rules.');
    root.innerHTML = '<b>lamp <slot></slot></b>';
  }
}
customElements.define('tide-lamp', TideLamp);

/** With `var()` and a side of its own, which the browser does not write down in the attribute. */
const edged: React.CSSProperties & { '--edge': string } = {
  '--edge': '4px',
  border: 'solid var(--edge) teal',
  borderTopWidth: 12,
  padding: 'var(--edge)',
  paddingLeft: 30,
};

/** Shows everything that a moment must be able to hold. */
function Chart({ scheme }: { scheme?: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const dialog = useRef<HTMLDialogElement>(null);
  const lamp = useRef<HTMLDivElement>(null);
  const [picture, setPicture] = useState('');
  const [late, setLate] = useState('not yet');
  useEffect(() => {
    console.warn('low water', { metres: 0.4 });
    const context = canvas.current!.getContext('2d')!;
    context.fillStyle = 'teal';
    context.fillRect(4, 4, 40, 12);
    scroller.current!.scrollTop = 35;
    lamp.current!.append(Object.assign(document.createElement('tide-lamp'), { textContent: 'on' }));
    const style = document.head.appendChild(document.createElement('style'));
    const written = document.head.appendChild(document.createElement('style'));
    written.textContent = '.inserted { --side: 2px; padding: var(--side); padding-left: 30px }';
    if (written.sheet!.cssRules.length !== 1) throw new Error('There is one rule.');
    // With `var()` and a side of its own, which the browser would not write down again.
    style.sheet!.insertRule('.inserted { --edge: 3px; border: dashed var(--edge) purple; border-left-width: 20px }');
    const blob = new Blob(
      ['<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20"><path fill="green" d="M0 0h20v20z"/></svg>'],
      {
        type: 'image/svg+xml',
      },
    );
    setPicture(URL.createObjectURL(blob));
    setTimeout(() => setLate('in time'), 15);
  }, []);
  return (
    <div style={{ width: 420 }}>
      <style>
        {'.chart:hover { background: lavender } @media (prefers-color-scheme: dark) { .chart { color: red } } ' +
          '@media (prefers-reduced-motion) { .chart { letter-spacing: 1px } }'}
      </style>
      <p className="chart">Chart of the mole</p>
      <p className="inserted">Inserted rule, {late}</p>
      <p style={edged}>Edged</p>
      <canvas ref={canvas} width="60" height="20" />
      <img src={buoy} alt="Buoy" />{' '}
      {picture && <img src={picture} alt="Drawn" onLoad={() => URL.revokeObjectURL(picture)} />}
      <svg width="40" height="20" role="img" aria-label="Wave">
        <path d="M0 10Q10 0 20 10T40 10" fill="none" stroke="navy" />
      </svg>
      <div ref={lamp} />
      <div ref={scroller} style={{ height: 40, overflow: 'auto', border: '1px solid' }}>
        {['one', 'two', 'three', 'four', 'five'].map((line) => (
          <div key={line}>{line}</div>
        ))}
      </div>
      <label>
        Depth <input type="number" defaultValue="2.5" />
      </label>
      <label>
        <input type="checkbox" /> Wet
      </label>
      <select aria-label="Wind">
        <option>North</option>
        <option>South</option>
      </select>
      <button type="button" onClick={() => dialog.current!.showModal()}>
        Ask
      </button>
      <dialog ref={dialog} aria-label="Question">
        Really? <button type="button">Yes</button>
      </dialog>
      <button type="button" popoverTarget="hint">
        Hint
      </button>
      <div id="hint" popover="auto">
        A hint
      </div>
      {scheme && (
        <>
          <style>{':root:root { color-scheme: normal }'}</style>
          <meta name="color-scheme" content={scheme} />
        </>
      )}
      <noscript>no scripts here</noscript>
    </div>
  );
}

export default looks(Chart, {
  states: {
    still: {},
    'in a scheme of its own': { props: { scheme: 'light dark' } },
    filled: {
      async script() {
        await type(the.field('Depth'), '7');
        await click(the.checkbox('Wet'));
        await select(the.field('Wind'), 'South');
        await hover(the.text('Chart of the mole'));
      },
    },
    asked: {
      async script() {
        await click(the.button('Ask'));
        await ensure(the.dialog('Question')).isVisible();
      },
    },
    hinted: {
      async script() {
        await click(the.button('Hint'));
        await ensure(the.text('A hint')).isVisible();
        await press(the.button('Hint'), 'Shift+Tab');
      },
    },
    'lamp pointed at': { script: () => hover(the.text(/lamp/)) },
  },
});
