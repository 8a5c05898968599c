/** Controls as component libraries build them: in shadow roots, with slots, and with inputs that nobody can see. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { configuration, project } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const pier = `import * as React from 'react';
import { useState } from 'react';
import { click, ensure, hover, looks, select, the, type, upload } from 'sguardo/react';

const shadows: Record<string, string> = {
  'pier-button':
    '<style>:host { display: inline-block } button { padding: 12px 30px }</style>' +
    '<button part="base"><slot name="start"></slot><slot></slot></button>',
  'pier-dialog':
    '<div role="dialog" aria-label="Cast off?"><slot></slot><footer><slot name="footer"></slot></footer></div>',
  'pier-select':
    '<div role="combobox" tabindex="0" aria-controls="list" aria-expanded="false" aria-label="Port" ' +
    'style="border:1px solid">Any</div><div id="list" role="listbox" aria-label="Ports" hidden><slot></slot></div>',
  'pier-sign': '<style>:host { display: inline-block; padding: 4px }</style><label><slot>Ebb</slot></label>',
  'pier-hint': '<div style="display: none"><slot></slot></div>',
  'pier-tip': '<style>:host { display: contents }</style><div style="padding: 4px"><slot></slot></div>',
};
for (const [name, inside] of Object.entries(shadows))
  if (!customElements.get(name))
    customElements.define(
      name,
      class extends HTMLElement {
        constructor() {
          super();
          const root = this.attachShadow({ mode: 'open' });
          root.innerHTML = inside;
          const box = root.querySelector('[role=combobox]');
          const list = root.querySelector<HTMLElement>('[role=listbox]');
          box?.addEventListener('click', () => {
            list!.hidden = false;
            box.setAttribute('aria-expanded', 'true');
          });
          this.addEventListener('click', ({ target }) => {
            if (!(target as Element).matches('[role=option]')) return;
            box!.textContent = (target as Element).textContent;
            list!.hidden = true;
          });
        }
      },
    );

/** A switch that says what it is to the browser alone. */
class PierSwitch extends HTMLElement {
  static formAssociated = true;
  inside = this.attachInternals();
  constructor() {
    super();
    this.attachShadow({ mode: 'open' }).innerHTML =
      '<style>:host { display: inline-block; width: 40px; height: 20px; background: teal }</style>';
    this.inside.role = 'switch';
    this.inside.ariaChecked = 'false';
    this.addEventListener('click', () => {
      this.inside.ariaChecked = String(this.inside.ariaChecked !== 'true');
    });
  }
}
/** A button that says so to the browser alone, called by its text; and a tab that lets the pointer through. */
class PierPlank extends HTMLElement {
  constructor() {
    super();
    this.attachShadow({ mode: 'open' }).innerHTML = '<b><slot></slot></b>';
    this.attachInternals().role = 'button';
  }
}
class PierTab extends HTMLElement {
  constructor() {
    super();
    this.attachShadow({ mode: 'open' }).innerHTML =
      '<style>:host { display: inline-block }</style>' +
      '<button role="tab" aria-selected="false" style="pointer-events: none"><slot></slot></button>';
  }
}
for (const [name, one] of Object.entries({ 'pier-switch': PierSwitch, 'pier-plank': PierPlank, 'pier-tab': PierTab }))
  if (!customElements.get(name)) customElements.define(name, one);

const Element = (name: string) => (props: object) => {
  const Tag = name as 'div';
  return <Tag {...props} />;
};
const PierButton = Element('pier-button'),
  PierDialog = Element('pier-dialog'),
  PierSelect = Element('pier-select'),
  PierTip = Element('pier-tip');

/** A select whose input lets the pointer through to its field. */
function Field() {
  const [open, setOpen] = useState(false);
  const [is, setIs] = useState('Quay');
  return (
    <div>
      <div
        style={{ width: 200, height: 40, position: 'relative', border: '1px solid' }}
        onMouseDown={() => setOpen(true)}
      >
        <span style={{ position: 'absolute', zIndex: 1, left: 90, top: 8 }}>{is}</span>
        <input type="hidden" value={is} />
        <input
          role="combobox"
          aria-label="Berth"
          aria-expanded={open}
          aria-controls="b"
          readOnly
          style={{ pointerEvents: 'none', width: 180, height: 36, position: 'absolute', color: 'transparent' }}
        />
      </div>
      {open && (
        <ul role="listbox" id="b" aria-label="Berths">
          <li
            role="option"
            aria-selected={false}
            onClick={() => {
              setIs('Buoy');
              setOpen(false);
            }}
          >
            Buoy
          </li>
        </ul>
      )}
    </div>
  );
}

/** A field that shows a text of its own, which lets the pointer through, or over which the field lies. */
const Blurred = ({ inside = false, over = '' }) => {
  const [open, setOpen] = useState(false);
  const lies = { position: 'absolute', inset: 0 } as const;
  if (over === 'field')
    return (
      <div>
        <div style={{ position: 'relative', width: 200, height: 30 }}>
          <input
            aria-label="Rope"
            readOnly
            tabIndex={-1}
            style={{ ...lies, width: '100%', background: 'white' }}
            onClick={() => setOpen(true)}
          />
          <div style={{ ...lies, pointerEvents: 'none' }}>
            <span>Pick one</span>
          </div>
        </div>
        {open && <p>Open</p>}
      </div>
    );
  if (over)
    return (
      <div style={{ position: 'relative', width: 200, height: 30 }}>
        {over === 'button' ? (
          <button>
            <span>Pick one</span>
          </button>
        ) : (
          <span>Pick one</span>
        )}
        {over === 'scrim' ? (
          <div style={lies} />
        ) : (
          <div
            tabIndex={0}
            role="button"
            aria-label="Over"
            style={{ ...lies, ...(over === 'ground' && { background: 'rgba(0, 0, 0, 0.4)' }) }}
          />
        )}
      </div>
    );
  const text = <span style={{ pointerEvents: inside ? 'none' : 'auto' }}>Pick one</span>;
  return (
    <div style={{ position: 'relative', width: 200 }}>
      {inside ? (
        <div tabIndex={0} role="combobox" aria-label="Rope" aria-expanded={open} onClick={() => setOpen(true)}>
          {text}
        </div>
      ) : (
        <>
          {text}
          <input aria-label="Rope" style={{ ...lies, background: 'none', border: 0 }} onClick={() => setOpen(true)} />
        </>
      )}
      {open && <p>Open</p>}
    </div>
  );
};

/** An area over a control that makes it easier to hit. */
function Touch({ cursor = 'pointer', size = 48 }) {
  const [n, setN] = useState(0);
  return (
    <div style={{ position: 'relative', width: 100, height: 48 }}>
      <div
        role="combobox"
        tabIndex={0}
        aria-label="Rows"
        aria-expanded={false}
        style={{ position: 'absolute', top: 12, width: 84, height: 24 }}
      >
        {n}
      </div>
      <div
        style={{ position: 'absolute', top: 0, width: size * 2, height: size, cursor }}
        onClick={() => setN(n + 1)}
      />
    </div>
  );
}

const Hidden = ({ around = 0 }) => {
  const [is, setIs] = useState('');
  return (
    <div style={{ width: 200 }}>
      <div style={{ border: '1px solid', padding: 8 }}>
        <div style={{ opacity: is ? 1 : around }}>
          <input
            aria-label="Search"
            style={{ border: 0, width: 150 }}
            value={is}
            onChange={(event) => setIs(event.target.value)}
          />
        </div>
      </div>
    </div>
  );
};

const Thumb = () => {
  const [v, setV] = useState(2);
  return (
    <div style={{ width: 200, padding: 20 }}>
      <span
        style={{ display: 'block', position: 'relative', width: 20, height: 20, background: 'teal' }}
        onMouseDown={() => setV(9)}
      >
        <input
          type="range"
          aria-label="Wind"
          value={v}
          onChange={() => {}}
          style={{
            clip: 'rect(0 0 0 0)',
            position: 'absolute',
            width: '100%',
            height: '100%',
            overflow: 'hidden',
            margin: -1,
          }}
        />
      </span>
      <p>{'Force ' + v}</p>
    </div>
  );
};

/** A list that opens from its field, over whose input a text lies that is no part of it. */
const Chooser = () => {
  const [open, setOpen] = useState(false);
  const [is, setIs] = useState('');
  return (
    <div style={{ width: 400 }}>
      <div style={{ border: '1px solid', width: 380, height: 34, position: 'relative' }} onClick={() => setOpen(true)}>
        <input
          role="combobox"
          aria-label="Tongue"
          aria-expanded={open}
          aria-controls="tongues"
          style={{ width: 11, border: 0, outline: 'none' }}
        />
        <div style={{ position: 'absolute', inset: 0, padding: '0 60px' }}>
          <span>{is || 'Choose'}</span>
        </div>
        <i role="button" style={{ position: 'absolute', right: 0 }}>
          v
        </i>
      </div>
      {open && (
        <ul role="listbox" id="tongues" aria-label="Tongues">
          <li
            role="option"
            aria-selected={false}
            onClick={() => {
              setIs('Ligurian');
              setOpen(false);
            }}
          >
            Ligurian
          </li>
        </ul>
      )}
    </div>
  );
};

/** The same, but of its combo box nothing can be seen as long as it is empty. */
const Blank = () => {
  const [open, setOpen] = useState(false);
  const [is, setIs] = useState('');
  return (
    <div style={{ width: 400 }}>
      <div style={{ border: '1px solid', width: 380, height: 34 }} onClick={() => setOpen(true)}>
        <span
          role="combobox"
          tabIndex={0}
          aria-label="Tongue"
          aria-expanded={open}
          aria-controls="tongues"
          style={{ display: 'block', opacity: is ? 1 : 0 }}
        >
          {is || '\\u00a0'}
        </span>
      </div>
      {open && (
        <ul role="listbox" id="tongues" aria-label="Tongues">
          <li
            role="option"
            aria-selected={false}
            onClick={() => {
              setIs('Ligurian');
              setOpen(false);
            }}
          >
            Ligurian
          </li>
        </ul>
      )}
    </div>
  );
};

const cut = {
  position: 'absolute',
  width: 1,
  height: 1,
  margin: -1,
  overflow: 'hidden',
  clip: 'rect(0 0 0 0)',
  opacity: 0,
} as const;

/** A switch whose words stand elsewhere, and which is turned where it is drawn and nowhere else. */
const Switch = () => {
  const [is, setIs] = useState(false);
  return (
    <div style={{ display: 'flex', width: 500 }}>
      <label htmlFor="night" style={{ width: 200 }}>
        By night
      </label>
      <div
        onClick={(event) => {
          event.preventDefault();
          if (!(event.target as Element).matches('input')) setIs(!is);
        }}
      >
        <input id="night" type="checkbox" role="switch" checked={is} onChange={() => {}} style={{ ...cut }} />
        <span style={{ display: 'block', width: 40, height: 20, background: 'teal' }} />
      </div>
    </div>
  );
};

/** Stars over radio buttons that something around each cuts to nothing. */
const Stars = () => {
  const [is, setIs] = useState(0);
  return (
    <div style={{ display: 'flex' }}>
      {[1, 2, 3].map((n) => (
        <div key={n} onClick={() => setIs(n)} style={{ position: 'relative' }}>
          <span style={cut}>
            <input type="radio" name="stars" aria-label={n + ' stars'} checked={is === n} onChange={() => {}} />
          </span>
          <svg width="20" height="20" style={{ display: 'block' }}>
            <rect width="20" height="20" />
          </svg>
        </div>
      ))}
      <p>{is + ' given'}</p>
    </div>
  );
};

function Pier({ part }: { part: string }) {
  const [said, say] = useState('Moored');
  switch (part) {
    case 'button':
      return (
        <div>
          <PierButton onClick={() => say('Gone')}>Cast off</PierButton>
          <p>{said}</p>
        </div>
      );
    case 'dialog':
      return (
        <div>
          <button>Yes</button>
          <PierDialog>
            It leaves at once.
            <span slot="footer">
              <button onClick={() => say('Gone')}>Yes</button>
            </span>
          </PierDialog>
          <p>{said}</p>
        </div>
      );
    case 'select':
      return (
        <PierSelect>
          <span role="option" aria-selected="false">
            Bari
          </span>
          <span role="option" aria-selected="false">
            Genova
          </span>
        </PierSelect>
      );
    case 'inside':
      return (
        <div>
          <label htmlFor="fog">Fog horn</label>
          {React.createElement('pier-switch', { id: 'fog' })}
          {React.createElement('pier-plank', { onClick: () => say('Laid') }, 'Lay the plank')}
          {React.createElement('pier-tab', { onClick: () => say('Turned') }, 'Tides')}
          <p>{said}</p>
        </div>
      );
    case 'sign':
      return (
        <div>
          <button aria-haspopup="true" aria-labelledby="any of">
            <span id="any">Any</span>
            <span id="of">Crew</span>
          </button>
          {React.createElement('pier-sign', { role: 'tab', onClick: () => say('Ebbing') })}
          <button onClick={() => say('Raised')}>
            Raise{React.createElement('pier-hint', {}, 'Blue Peter')}
          </button>
          <p>{said}</p>
        </div>
      );
    case 'tip':
      return <PierTip>Call 112</PierTip>;
    case 'beside':
      return (
        <div>
          <p>
            Force 8. <button>Delete</button>
          </p>
        </div>
      );
    case 'copies':
      return (
        <div>
          <span style={{ visibility: 'hidden' }}>Call 112</span>
          <span>Call 112</span>
        </div>
      );
    case 'faded papers':
      return (
        <div style={{ border: '1px solid', width: 200, position: 'relative' }}>
          <input
            type="file"
            aria-label="Papers"
            style={{ opacity: 0, position: 'absolute', width: 200, height: 40 }}
            onChange={(event) => say(event.target.files![0]!.name)}
          />
          <div
            style={{ padding: 10, position: 'relative' }}
            onClick={({ currentTarget }) => (currentTarget.previousSibling as HTMLInputElement).click()}
          >
            Choose papers
          </div>
          <p>{said}</p>
        </div>
      );
    case 'papers':
      return (
        <div
          style={{ border: '1px solid', width: 200 }}
          onClick={({ currentTarget }) => currentTarget.querySelector('input')!.click()}
        >
          <div style={{ padding: 10 }}>
            <input
              type="file"
              aria-label="Papers"
              style={{ pointerEvents: 'none' }}
              onChange={(event) => say(event.target.files![0]!.name)}
            />
          </div>
          <p>{said}</p>
        </div>
      );
    default:
      return null;
  }
}

export default looks(Pier, {
  props: { part: 'button' },
  patience: 100,
  states: {
    'a button by its slotted text': {
      async script() {
        await click(the.button('Cast off'));
        await ensure(the.text('Gone')).isVisible();
      },
    },
    'what a slot shows in a dialog': {
      props: { part: 'dialog' },
      async script() {
        await ensure(the.button('Yes')).counts(2);
        await click(the.button('Yes').in(the.dialog('Cast off?')));
        await ensure(the.text('Gone')).isVisible();
        await ensure(the.dialog().having('It leaves at once.')).isVisible();
        await ensure(the.dialog()).reads('It leaves at once. Yes');
        await ensure(the.css('button').in(the.dialog())).counts(1);
      },
    },
    'options in a slot': {
      props: { part: 'select' },
      async script() {
        await select(the.combobox('Port'), 'Genova');
        await ensure(the.combobox('Port')).reads('Genova');
      },
    },
    'a host without a box': {
      props: { part: 'tip' },
      async script() {
        await ensure(the.text('Call 112')).isVisible();
        await hover(the.text('Call 112'));
      },
    },
    'a field that is a button': {
      props: { part: 'sign' },
      async script() {
        await click(the.field('Crew'));
      },
    },
    'names that shadow roots and slots make': {
      props: { part: 'sign' },
      async script() {
        await click(the.tab('Ebb'));
        await ensure(the.text('Ebbing')).isVisible();
        await click(the.button('Raise'));
        await ensure(the.text('Raised')).isVisible();
      },
    },
    'a text beside other elements': {
      props: { part: 'beside' },
      async script() {
        await ensure(the.text('Force 8.')).isVisible();
        await ensure(the.text('Force')).isAbsent();
      },
    },
    'the copy that is seen': {
      props: { part: 'copies' },
      async script() {
        await ensure(the.text('Call 112')).isVisible();
        await ensure(the.text('Call 112')).counts(2);
      },
    },
    'a field around an input that lets the pointer through': {
      render: Field,
      async script() {
        await select(the.combobox('Berth'), 'Buoy');
        await ensure(the.text('Buoy')).isVisible();
      },
    },
    'a transparent file input under its field': {
      props: { part: 'faded papers' },
      async script() {
        await upload(the.field('Papers'), new File(['x'], 'papers.csv'));
        await ensure(the.text('papers.csv')).isVisible();
      },
    },
    'a file input that lets the pointer through': {
      props: { part: 'papers' },
      async script() {
        await upload(the.field('Papers'), new File(['x'], 'papers.csv'));
        await ensure(the.text('papers.csv')).isVisible();
      },
    },
    'an area for fingers': {
      render: () => <Touch />,
      async script() {
        await click(the.combobox('Rows'));
        await ensure(the.combobox('Rows')).reads('1');
      },
    },
    'an input in something transparent': {
      render: () => <Hidden />,
      async script() {
        await type(the.field('Search'), '16');
        await ensure(the.field('Search')).hasValue('16');
      },
    },
    'a clipped input in its thumb': {
      render: () => <Thumb />,
      async script() {
        await click(the.slider('Wind'));
        await ensure(the.text('Force 9')).isVisible();
      },
    },
    'what says its role to the browser alone': {
      props: { part: 'inside' },
      async script() {
        await ensure(the.switch('Fog horn')).not.isChecked();
        await click(the.switch('Fog horn'));
        await ensure(the.switch('Fog horn', { checked: true })).isChecked();
        await ensure(the.field('Fog horn')).hasRole('switch');
        await click(the.button('Lay the plank'));
        await ensure(the.text('Laid')).isVisible();
      },
    },
    'a host whose inside lets the pointer through': {
      props: { part: 'inside' },
      async script() {
        await click(the.tab('Tides'));
        await ensure(the.text('Turned')).isVisible();
      },
    },
    'a list under its placeholder': {
      render: () => <Chooser />,
      async script() {
        await select(the.combobox('Tongue'), 'Ligurian');
        await ensure(the.text('Ligurian')).isVisible();
      },
    },
    'a list whose field is empty': {
      render: () => <Blank />,
      async script() {
        await select(the.combobox('Tongue'), 'Ligurian');
        await ensure(the.text('Ligurian')).isVisible();
      },
    },
    'a switch whose words stand elsewhere': {
      render: () => <Switch />,
      async script() {
        await click(the.switch('By night'));
        await ensure(the.switch('By night')).isChecked();
      },
    },
    'stars over radio buttons': {
      render: () => <Stars />,
      async script() {
        await click(the.radio('2 stars'));
        await ensure(the.text('2 given')).isVisible();
      },
    },
    'a placeholder in its field': {
      render: () => <Blurred inside />,
      async script() {
        await click(the.text('Pick one'));
        await ensure(the.text('Open')).isVisible();
      },
    },
    'a placeholder over its field': {
      render: () => <Blurred over="field" />,
      async script() {
        await click(the.text('Pick one'));
        await ensure(the.text('Open')).isVisible();
      },
    },
    'a placeholder under its field': {
      render: () => <Blurred />,
      async script() {
        await click(the.text('Pick one'));
        await ensure(the.text('Open')).isVisible();
      },
    },
    'not a text under a scrim': {
      render: () => <Blurred over="scrim" />,
      async script() {
        await click(the.text('Pick one'));
      },
    },
    'not a text under a ground': {
      render: () => <Blurred over="ground" />,
      async script() {
        await click(the.text('Pick one'));
      },
    },
    'not a button under another': {
      render: () => <Blurred over="button" />,
      async script() {
        await click(the.text('Pick one'));
      },
    },
    'not an area that waits': {
      render: () => <Touch cursor="wait" />,
      async script() {
        await click(the.combobox('Rows'));
      },
    },
    'not a layer over more': {
      render: () => <Touch size={400} />,
      async script() {
        await click(the.combobox('Rows'));
      },
    },
    'not a button that lets the pointer through': {
      render: () => (
        <div style={{ padding: 8 }}>
          <button style={{ pointerEvents: 'none' }}>Sail</button>
        </div>
      ),
      async script() {
        await click(the.button('Sail'));
      },
    },
    'not what fades with all around it': {
      render: () => (
        <section style={{ opacity: 0 }}>
          <a href="#x">Elsewhere</a>
          <Hidden around={1} />
        </section>
      ),
      async script() {
        await type(the.field('Search'), '16');
      },
    },
    'not an input that has faded': {
      render: () => (
        <div style={{ opacity: 0, width: 150 }}>
          <input aria-label="Search" />
        </div>
      ),
      async script() {
        await ensure(the.field('Search')).not.isVisible();
        await type(the.field('Search'), '16');
      },
    },
    'not a button that has faded': {
      render: () => (
        <div style={{ border: '1px solid', width: 150 }}>
          <p style={{ opacity: 0 }}>
            <button>Sail</button>
          </p>
        </div>
      ),
      async script() {
        await ensure(the.button('Sail')).not.isVisible();
        await click(the.button('Sail'));
      },
    },
    'a message of the browser': {
      render: () => (
        <form>
          <input aria-label="Name" required style={{ outline: 'none' }} />
          <button>Send</button>
        </form>
      ),
      async script() {
        await click(the.button('Send'));
        await ensure(the.field('Name')).isFocused();
      },
    },
    'a control before the corner': {
      render: () => (
        <div>
          <button style={{ position: 'absolute', left: -300, top: 8, outline: 'none' }}>Back</button>
          <p>Slide</p>
        </div>
      ),
    },
    'nothing of that role': {
      render: () => (
        <button role="combobox" aria-expanded="false" aria-controls="x" aria-label="Size">
          Any
        </button>
      ),
      async script() {
        await click(the.button('Size'));
      },
    },
  },
});
`;

/** A list of 60 berths that holds only those that can be seen; or whose items are drawn, and others told beside it. */
const berths = `import { useState } from 'react';
import { click, ensure, looks, select, the } from 'sguardo/react';

const all = Array.from({ length: 60 }, (_, i) => 'Berth ' + i);
const closed = (i: number) => i === 7 || i === 50;

function Berths({ told = false, count = 60 }) {
  const [open, setOpen] = useState(false);
  const [is, setIs] = useState('None');
  const [top, setTop] = useState(0);
  const from = Math.floor(top / 32);
  const rows = all.slice(0, count).slice(from, from + 6);
  const attributes = (i: number) => (told ? { title: all[i] } : { role: 'option', 'aria-selected': false });
  const list = (
    <div
      onScroll={(event) => setTop(event.currentTarget.scrollTop)}
      style={{ height: 160, overflow: 'auto', border: '1px solid' }}
    >
      <div
        {...(told ? {} : { role: 'listbox', id: 'berths' })}
        style={{ height: count * 32, paddingTop: from * 32, boxSizing: 'border-box' }}
      >
        {rows.map((row, i) => (
          <div
            key={row}
            {...attributes(from + i)}
            aria-disabled={closed(from + i)}
            style={{ height: 32 }}
            onClick={() => {
              if (closed(from + i)) return;
              setIs(row);
              setOpen(false);
            }}
          >
            <b>{row}</b>
          </div>
        ))}
      </div>
    </div>
  );
  return (
    <div style={{ width: 200 }}>
      <button
        role="combobox"
        aria-label="Berth"
        aria-expanded={open}
        aria-controls="berths"
        onClick={() => setOpen(true)}
      >
        {is}
      </button>
      {open && (
        <div>
          {told && (
            <div role="listbox" id="berths" style={{ width: 0, height: 0, overflow: 'hidden' }}>
              {rows.slice(0, 2).map((row) => (
                <div key={row} role="option" aria-selected={false} aria-label={row}>
                  {row}
                </div>
              ))}
            </div>
          )}
          {list}
        </div>
      )}
    </div>
  );
}

const chooses = (name: string) => async () => {
  await select(the.combobox('Berth'), name);
  await ensure(the.combobox('Berth')).reads(name);
};

export default looks(Berths, {
  patience: 300,
  states: {
    'near in a long list': { script: chooses('Berth 2') },
    'far in a long list': { script: chooses('Berth 44') },
    'near where options are only told': { props: { told: true }, script: chooses('Berth 3') },
    'far where options are only told': { props: { told: true }, script: chooses('Berth 44') },
    'where all is drawn': { props: { told: true, count: 4 }, script: chooses('Berth 3') },
    'an option that is only told': {
      props: { told: true },
      async script() {
        await click(the.combobox('Berth'));
        await ensure(the.option('Berth 1')).isVisible();
        await click(the.option('Berth 1'));
        await ensure(the.combobox('Berth')).reads('Berth 1');
      },
    },
    'not there in a long list': { script: chooses('Berth 60') },
    'not there where options are only told': { props: { told: true }, script: chooses('Berth 60') },
    'closed in a long list': { script: chooses('Berth 50') },
    'closed where options are only told': { props: { told: true }, script: chooses('Berth 7') },
  },
});
`;

let served: Served;
let look: (name: string) => ResultSummary;

beforeAll(async () => {
  served = await serve(
    project({ 'sguardo.config.ts': configuration({}), 'src/Pier.look.tsx': pier, 'src/Berths.look.tsx': berths }),
  );
  ({ look } = await served.run());
});

describe('a person can use', () => {
  it.each([
    'a button by its slotted text',
    'what a slot shows in a dialog',
    'options in a slot',
    'a host without a box',
    'names that shadow roots and slots make',
    'a text beside other elements',
    'the copy that is seen',
    'a field around an input that lets the pointer through',
    'a file input that lets the pointer through',
    'a transparent file input under its field',
    'an area for fingers',
    'an input in something transparent',
    'a clipped input in its thumb',
    'what says its role to the browser alone',
    'a host whose inside lets the pointer through',
    'a list under its placeholder',
    'a list whose field is empty',
    'a placeholder in its field',
    'a placeholder over its field',
    'a placeholder under its field',
    'a switch whose words stand elsewhere',
    'stars over radio buttons',
    'near in a long list',
    'far in a long list',
    'near where options are only told',
    'far where options are only told',
    'where all is drawn',
    'an option that is only told',
  ])('%s', (name) => {
    const { verdict, problem } = look(name);
    expect([verdict, problem?.message, problem?.found]).toEqual(['new', undefined, undefined]);
  });

  it.each([
    ['not a text under a scrim', 'target-covered'],
    ['not a text under a ground', 'target-covered'],
    ['not a button under another', 'target-covered'],
    ['not an area that waits', 'target-covered'],
    ['not a layer over more', 'target-covered'],
    ['not a button that lets the pointer through', 'target-covered'],
    ['not what fades with all around it', 'target-hidden'],
    ['not an input that has faded', 'target-hidden'],
    ['not a button that has faded', 'target-hidden'],
    ['not there in a long list', 'option-missing'],
    ['not there where options are only told', 'option-missing'],
    ['closed in a long list', 'option-disabled'],
    ['closed where options are only told', 'option-disabled'],
  ])('%s', (name, code) => {
    expect(look(name).problem?.code).toBe(code);
  });
});

it.each(['a message of the browser', 'a control before the corner'])('%s is no trouble at the end', (name) => {
  const { verdict, notes } = look(name);
  expect([verdict, notes]).toEqual(['new', []]);
});

it('is told of a button with the label of the field that was asked for', () => {
  expect(look('a field that is a button').problem?.found?.[0]).toBe("button “Any Crew”: the.button('Any Crew')");
});

it('is told what has the name that was asked for in another role', () => {
  expect(look('nothing of that role').problem).toMatchObject({
    code: 'target-missing',
    found: ["combobox “Size”: the.field('Size')"],
  });
});
