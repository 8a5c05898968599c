/** Actions: what mouse, keyboard and fingers do to a page, and what is told when they cannot. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { actionInWords } from '../../src/language/words.ts';
import { the } from '../../src/language/target.ts';
import { copyOf, write } from '../support/project.ts';
import { problemIn, type Served, serve } from '../support/service.ts';

let folder: string;
let served: Served;
let look: (name: string) => ResultSummary;

beforeAll(async () => {
  folder = copyOf('test/looks');
  const settings =
    "baselines: false, isolate: 'file', patience: 300, environments: { plain: { viewport: [640, 480] } }";
  write(folder, { 'sguardo.config.ts': `export default { ${settings} };` });
  served = await serve(folder);
  ({ look } = await served.run({ patterns: ['Actions'] }));
});

describe('an action', () => {
  it('comes after the frames that were asked for, one after the other, when something appeared', async () => {
    expect(
      await problemIn(
        served,
        'Frames',
        'folds',
        `import { useEffect, useState } from 'react';
import { click, ensure, looks, press, the } from 'sguardo';
/** Takes nothing before the second frame after it was mounted, as what moves in and out does. */
function Frames() {
  const [open, setOpen] = useState(0);
  const [ready, setReady] = useState(-1);
  useEffect(() => { requestAnimationFrame(() => requestAnimationFrame(() => setReady(open))); }, [open]);
  const fold = () => { if (ready === open) setOpen(open + 1); };
  return <main><button onClick={fold} onKeyDown={fold}>Fold</button><p>{open} folded</p></main>;
}
export default looks(Frames, { states: { folds: { async script() {
  await click(the.button('Fold')); await press('a'); await press(the.button('Fold'), 'b');
  await ensure(the.text('3 folded')).isVisible();
} } } });`,
      ),
    ).toBeNull();
  });

  it.each(['hears', 'frozen'])(
    'takes a millisecond, by which a listener knows that it was there before: %s',
    async (look) => {
      expect(
        await problemIn(
          served,
          'Guarded',
          look,
          `import { useEffect, useRef, useState } from 'react';
import { click, clock, ensure, looks, the, type } from 'sguardo';
/** Listens to nothing of the millisecond in which it was attached, as libraries do that attach while events rise. */
function useGuarded(kind, hear, again) {
  const ref = useRef(null);
  useEffect(() => {
    const attached = Date.now();
    const listen = () => {
      if (Date.now() > attached) hear();
    };
    ref.current.addEventListener(kind, listen);
    return () => ref.current?.removeEventListener(kind, listen);
  }, [again]);
  return ref;
}
function Guarded() {
  const [open, setOpen] = useState(0);
  const [keys, setKeys] = useState(0);
  const button = useGuarded('click', () => setOpen(open + 1), open);
  const down = useGuarded('pointerdown', () => {}, 0);
  const field = useGuarded('keydown', () => setKeys(keys + 1), keys);
  return (
    <main ref={down}>
      <button ref={button}>Open</button>
      <input ref={field} aria-label="Name" />
      <p>
        {open} and {keys}
      </p>
    </main>
  );
}
export default looks(Guarded, {
  states: {
    hears: {
      async script() {
        await click(the.button('Open'));
        await click(the.button('Open'), { times: 2 });
        await type(the.field('Name'), 'Ariel');
        await ensure(the.text('3 and 5')).isVisible();
      },
    },
    frozen: {
      async script() {
        await clock.freeze();
        await click(the.button('Open'));
        await ensure(the.text('1 and 0')).isVisible();
      },
    },
  },
});`,
        ),
      ).toBeNull();
    },
  );

  it('moves the pointer away over the page, where libraries follow it, and then out of it', async () => {
    expect(
      await problemIn(
        served,
        'Away',
        'closes',
        `import { useState } from 'react';
import { ensure, hover, looks, the, unhover } from 'sguardo';
/** A card that closes when the pointer is moved outside of the area between it and what it came from. */
function Away() {
  const [open, setOpen] = useState(false);
  const leave = () => document.addEventListener('pointermove', () => setOpen(false), { once: true });
  return (
    <main style={{ minHeight: '100vh' }}>
      <button onPointerEnter={() => setOpen(true)} onPointerLeave={() => setTimeout(leave)}>
        C-14
      </button>
      {open && <p>4 m</p>}
    </main>
  );
}
export default looks(Away, {
  states: {
    closes: {
      async script() {
        await hover(the.button('C-14'));
        await ensure(the.text('4 m')).isVisible();
        await unhover();
        await ensure(the.text('4 m')).isAbsent();
      },
    },
  },
});`,
      ),
    ).toBeNull();
  });

  it.each([
    'click: the right button',
    'click: twice, with keys, at a place',
    'pointer: on and away',
    'focus: given and taken',
    'keys: chords and repeats',
    'keys: held meanwhile',
    'drag: by so much',
    'drag: what HTML lets be dragged',
    'drag: onto what is there only meanwhile',
    'drag: to an item that makes room for it',
    'drag: files and text from outside',
    'upload: one, by the label',
    'upload: several, by a button',
    'paste: text',
    'paste: a picture',
    'scroll: by so much',
    'scroll: to the end of what grows',
    'scroll: into view',
    'scroll: what takes the wheel for itself',
    'touch: a tap',
    'touch: held',
    'touch: a swipe',
    'touch: two fingers',
    'select: in a combo box',
    'select: several in a list box',
    'select: several in a list that closes behind each',
    'select: several in a list that only stays open for them',
    'select: several in a list that marks where the keyboard is',
    'click: what hears nothing at first',
    'drag: over what listens now and then',
    'select: several of a select element',
    'viewport: another size',
    'viewport: as it was',
  ])('reaches the page (%s)', (name) => {
    expect(look(name).problem).toBeNull();
    expect(look(name).verdict).toBe('new');
  });

  it('comes over an element with a mouse that has been moved before, also after a key', async () => {
    expect(
      await problemIn(
        served,
        'Last',
        'hovered',
        `import { useEffect, useRef, useState } from 'react';
import { ensure, hover, looks, press, the } from 'sguardo';
function Last() {
  const last = useRef('nothing');
  const [said, setSaid] = useState('');
  useEffect(() => {
    addEventListener('pointermove', () => { last.current = 'mouse'; });
    addEventListener('keydown', () => { last.current = 'key'; });
  }, []);
  const say = (at) => () => setSaid(at + ' by ' + last.current);
  return <main><button type="button" onPointerEnter={say('bow')}>Bow</button>
    <button type="button" onPointerEnter={say('stern')}>Stern</button><p>{said}</p></main>;
}
export default looks(Last, { states: { hovered: { async script() {
  await hover(the.button('Bow'));
  await ensure(the.text('bow by mouse')).isVisible();
  await press('a');
  await hover(the.button('Stern'));
  await ensure(the.text('stern by mouse')).isVisible();
} } } });`,
      ),
    ).toBeNull();
  });

  it('drags with a mouse that takes its time: every move is heard, with frames between them, and a speed', async () => {
    expect(
      await problemIn(
        served,
        'Speed',
        'dragged',
        `import { useRef, useState } from 'react';
import { drag, ensure, looks, the } from 'sguardo';
function Speed() {
  const last = useRef(null);
  const frames = useRef(0);
  const moves = useRef(0);
  const [said, setSaid] = useState('');
  const move = ({ clientX, buttons }) => {
    if (buttons === 0) return;
    moves.current++;
    const now = performance.now();
    const speed = last.current ? (clientX - last.current.x) / (now - last.current.at) : 0;
    last.current = { x: clientX, at: now, speed };
    requestAnimationFrame(() => frames.current++);
  };
  const isFast = () => Number.isFinite(last.current.speed) && last.current.speed > 0 && frames.current > 3;
  const up = () => setSaid((isFast() ? 'fast in ' : 'none in ') + moves.current);
  return <main><p onPointerMove={move} onPointerUp={up} style={{ height: 60 }}>Rope</p><output>{said}</output></main>;
}
export default looks(Speed, { states: { dragged: { async script() {
  await drag(the.text('Rope'), { by: [200, 0] });
  await ensure(the.status()).reads('fast in 7');
} } } });`,
      ),
    ).toBeNull();
  });

  it('sets out for where a drag goes: what follows a hand one way only decides by the first moves', async () => {
    expect(
      await problemIn(
        served,
        'Way',
        'dragged',
        `import { useRef, useState } from 'react';
import { drag, ensure, looks, the } from 'sguardo';
function Way() {
  const from = useRef(null);
  const [way, setWay] = useState('');
  const down = ({ clientX, clientY }) => {
    from.current = [clientX, clientY];
    setWay('');
  };
  const move = ({ clientX, clientY, buttons }) => {
    if (buttons === 0) return;
    const [right, below] = [clientX - from.current[0], clientY - from.current[1]];
    setWay(
      (known) =>
        known || (Math.abs(right) > Math.abs(below) ? (right > 0 ? 'right' : 'left') : below > 0 ? 'down' : 'up'),
    );
  };
  return (
    <main onPointerDown={down} onPointerMove={move} style={{ height: 400 }}>
      <b style={{ position: 'absolute', left: 200, top: 200 }}>Rope</b>
      <i style={{ position: 'absolute', left: 200, top: 20 }}>Mast</i>
      <output>{way}</output>
    </main>
  );
}
export default looks(Way, {
  states: {
    dragged: {
      async script() {
        for (const [by, way] of [
          [[0, 90], 'down'],
          [[0, -90], 'up'],
          [[-90, 9], 'left'],
          [[90, 9], 'right'],
          [[-4, 0], 'left'],
        ]) {
          await drag(the.text('Rope'), { by });
          await ensure(the.status()).reads(way);
        }
        await drag(the.text('Rope'), the.text('Mast'));
        await ensure(the.status()).reads('up');
      },
    },
  },
});`,
      ),
    ).toBeNull();
  });

  it('types into what has the focus, wherever it lies, and into what an editor draws by itself', async () => {
    expect(
      await problemIn(
        served,
        'Log',
        'written',
        `import { useEffect, useRef, useState } from 'react';
import { click, ensure, looks, the, type } from 'sguardo';
/** An editor that draws its lines over the element that takes the keys. */
function Log() {
  const ref = useRef(null);
  const [text, setText] = useState('Calm');
  useEffect(() => {
    const context = new EditContext({ text, selectionStart: text.length, selectionEnd: text.length });
    context.addEventListener('textupdate', () => setText(context.text));
    ref.current.editContext = context;
  }, []);
  return (
    <main style={{ position: 'relative', width: 200, height: 40 }}>
      <div
        ref={ref}
        role="textbox"
        aria-label="Log"
        tabIndex={0}
        style={{ position: 'absolute', left: 0, top: 0, width: 0, height: 20 }}
      />
      <div
        style={{ position: 'absolute', inset: 0, background: 'white' }}
        onMouseDown={(event) => {
          event.preventDefault();
          ref.current.focus();
        }}
      >
        {text}
      </div>
    </main>
  );
}
export default looks(Log, {
  states: {
    written: {
      async script() {
        await click(the.text('Calm'));
        await type(the.field('Log'), ' until noon');
        await ensure(the.text('Calm until noon')).isVisible();
        await ensure(the.field('Log')).hasValue('Calm until noon');
      },
    },
  },
});`,
      ),
    ).toBeNull();
  });

  it('rests before it lets go, where a list looks only now and then what is over it', async () => {
    const source = (options: string): string => `import { useState } from 'react';
import { drag, ensure, looks, spy, the } from 'sguardo';
/** Looks every 200 ms where what is dragged is, as lists do that measure themselves meanwhile. */
function Berths({ onOrder }) {
  const take = () => {
    let at = 0; let seen = 0;
    const timer = setInterval(() => { seen = at; }, 200);
    const move = (event) => { at = Math.floor(event.clientY / 40); };
    addEventListener('pointermove', move);
    const letGo = () => { clearInterval(timer); removeEventListener('pointermove', move); onOrder(seen); };
    addEventListener('pointerup', letGo, { once: true });
  };
  const berth = (name) => <div key={name} style={{ height: 40 }} onPointerDown={take}>{name}</div>;
  return <main style={{ position: 'absolute', inset: 0 }}>{['Alba', 'Bora', 'Ciao'].map(berth)}</main>;
}
export default looks(Berths, { props: { onOrder: spy() }, states: { dragged: { async script({ props }) {
  await drag(the.text('Alba'), { by: [0, 85] }${options});
  await ensure(props.onOrder).wasCalledWith(2);
} } } });`;
    expect(await problemIn(served, 'Hasty', 'dragged', source(''))).toMatchObject({ code: 'check-failed' });
    expect(await problemIn(served, 'Rests', 'dragged', source(', { held: 300 }'))).toBeNull();
  });

  it('rests only with what lies on the page', async () => {
    const problem = await problemIn(
      served,
      'Outside',
      'dropped',
      `import { drag, looks, the } from 'sguardo';
export default looks(() => <main>Papers here</main>, { states: { dropped: {
  script: () => drag({ text: 'Alba' }, the.text('Papers here'), { held: 300 }),
} } });`,
    );
    expect(problem?.message).toBe('drag(…) was given held for something from outside the page.');
  });

  it('names what a person clicks in place of a file field that is out of sight', async () => {
    const problem = await problemIn(
      served,
      'Papers',
      'given',
      `import { looks, the, upload } from 'sguardo';
const Papers = () => (
  <main>
    <div style={{ padding: 40 }}>
      Papers here
      <input
        type="file"
        aria-label="Papers"
        style={{ position: 'absolute', width: 0, height: 0, padding: 0, border: 0, opacity: 0 }}
      />
    </div>
  </main>
);
export default looks(Papers, {
  states: { given: { script: () => upload(the.field('Papers'), new File(['x'], 'papers.txt')) } },
});`,
    );
    expect(problem).toMatchObject({
      code: 'chooser-hidden',
      message: 'The field “Papers” is a file field that nobody can see: it is 0 by 0 pixels.',
      found: ["<div> “Papers here”: the.text('Papers here')"],
    });
  });

  it('takes a button that stays pressed for one that is on', async () => {
    expect(
      await problemIn(
        served,
        'Toggle',
        'on',
        `import { useState } from 'react';
import { click, ensure, looks, the } from 'sguardo';
const Toggle = () => {
  const [on, set] = useState(false);
  return (
    <button aria-pressed={on} onClick={() => set(!on)}>
      Lights
    </button>
  );
};
export default looks(Toggle, {
  states: {
    on: {
      async script() {
        await ensure(the.button('Lights')).isUnchecked();
        await click(the.button('Lights'));
        await ensure(the.button('Lights')).isChecked();
      },
    },
  },
});`,
      ),
    ).toBeNull();
  });

  it('says when what was clicked had gone from under the pointer before it was let go, and only then', async () => {
    write(folder, {
      'src/Slips.look.jsx': `import { useState } from 'react';
import { click, ensure, looks, spy, the, type } from 'sguardo';
/** Its message comes when the field is left, above the button that is being pressed. */
function Slips({ onSend, roomy }) {
  const [left, leave] = useState(false);
  const [more, show] = useState(false);
  return (
    <main>
      <label>
        Ship <input onBlur={() => leave(true)} />
      </label>
      <p style={{ minHeight: roomy ? 60 : 0, margin: 0 }}>
        {left && <span style={{ display: 'block', height: 60 }}>A ship has a name.</span>}
      </p>
      <button onClick={onSend}>Send</button>
      {more && <p style={{ height: 80 }}>More</p>}
      <button onClick={() => show(true)}>More</button>
    </main>
  );
}
const sends = async () => {
  await click(the.field('Ship'));
  await click(the.button('Send'));
};
export default looks(Slips, {
  props: { onSend: spy() },
  states: {
    slips: {
      async script({ props }) {
        await sends();
        await ensure(props.onSend).calls(0);
      },
    },
    'has room': {
      props: { roomy: true },
      async script({ props }) {
        await sends();
        await ensure(props.onSend).calls(1);
      },
    },
    'moves when it is clicked': {
      async script() {
        await click(the.button('More'));
        await ensure(the.text('More').first()).isVisible();
      },
    },
  },
});`,
    });
    const { look } = await served.run({ patterns: ['Slips'] });
    const slipped = (name: string): string[] => look(name).notes.filter((note) => /came to nothing/.test(note));
    expect(slipped('slips')).toEqual([
      'The click came to nothing: the button “Send” moved away while it was pressed, and was let go over ' +
        '<span> “A ship ' +
        "has a name.”. A person's click would be lost as well. Keep room for what appears, " +
        'or show it only after the click.',
    ]);
    expect([slipped('has room'), slipped('moves when it is clicked')]).toEqual([[], []]);
    expect(look('has room').problem).toBeNull();
    const { steps } = await served.client.timeline(look('slips').id);
    expect(steps.filter(({ doubt }) => doubt).map(({ title }) => title)).toEqual(['click the button “Send”']);
  });

  it('presses a key a frame after a click, when the focus has been moved', async () => {
    expect(
      await problemIn(
        served,
        'Moved',
        'pressed',
        `import { useRef } from 'react';
import { click, ensure, looks, press, the } from 'sguardo';
function Moved() {
  const field = useRef(null);
  return <main><button type="button" onClick={() => requestAnimationFrame(() => field.current.focus())}>Edit</button>
    <input aria-label="Quay" ref={field} /></main>;
}
export default looks(Moved, { states: { pressed: { async script() {
  await click(the.button('Edit'));
  await press('A');
  await ensure(the.field('Quay')).hasValue('A');
} } } });`,
      ),
    ).toBeNull();
  });

  it('opens neither a new window nor a file chooser that nobody sees', () => {
    expect(look('click: a link with Control stays here').notes).toEqual([
      'A link to https://harbour.example/ would have opened a new window; it was not followed.',
    ]);
    expect(look('upload: a click alone').notes).toEqual([
      'A file chooser opened, and nothing was chosen. ' +
        'To choose files, write upload(target, file) instead of the click.',
    ]);
  });
});

describe('an action that cannot be carried out', () => {
  it.each([
    ['click: outside', '200, 9 lies outside the button “Ear”, which is 120 by 40 pixels.', /Count from its top left/],
    ['click: no such option', 'What click(…) was given has no entry “time”.', /Did you mean “times”\?/],
    ['click: a wrong option', 'click(…) was given the holding "Ctrl".', /Use Control, Shift, Alt or Meta/],
    ['click: no options', 'click(…) was given "right" for its options.', /at, button, holding, times/],
    ['focus: elsewhere', 'The button “Ear” does not have the focus: nothing has it.', /focus\(target\)/],
    ['keys: held and forgotten', 'Nothing matched the button “Nobody” within 50 ms.', /./],
    ['drag: no such file', 'There is no file src/nobody.csv in the project.', /new File/],
    ['drag: nothing', 'drag(…) was given {}.', /Give it a target, or any of/],
    ['drag: nowhere', 'drag(…) was given {by: [1, 1]} to drop something from outside on.', /Give it a target/],
    ['upload: too many', /takes one file, but was given several\.$/, /multiple/],
    ['upload: nothing opens', 'A click on the button “Nothing” opened no file chooser.', /drag\(\{ files/],
    ['upload: no such file', 'There is no file src/nobody.csv in the project.', /new File/],
    ['upload: outside the project', 'There is no file ../../package.json in the project.', /stay inside it/],
    ['upload: no file', 'upload(…) was given 7 for a file.', /new File/],
    ['paste: no picture', 'paste(…) was given files that no clipboard holds in this browser.', /one PNG at a time/],
    ['paste: nothing', 'paste(…) was given {}.', /Give it a text/],
    ['scroll: nothing scrolls', /^Nothing scrolls at the text “Nothing to scroll”/, /overflow: auto/],
    ['touch: no scale', 'pinch(…) was given the scale undefined.', /scale: 0\.5/],
    ['select: disabled', 'The option “East” in the combobox “Pier” is disabled.', /what enables it/],
    ['select: too many', 'The combobox “Pier” takes one option, but was given 2.', /aria-multiselectable/],
    ['select: no list', /is neither a select element, a list box nor a combo box/, /aria-haspopup="listbox"/],
    ['viewport: no size', 'resize(…) was given [0, 500].', /resize\(\[360, 640\]\)/],
  ])('is told (%s)', (name, message, remedy) => {
    const { verdict, problem } = look(name);
    expect(verdict).toBe('failed');
    expect(problem?.message).toEqual(typeof message === 'string' ? message : expect.stringMatching(message));
    expect(problem?.remedy).toMatch(remedy);
    expect(problem?.place).toMatch(/^src\/Actions\.look\.tsx:\d+/);
  });

  it('says that the page was told of no touch screen, where fingers came to nothing', () => {
    expect(look('touch: where there is no screen for it').notes).toEqual([expect.stringContaining("pointer: 'touch'")]);
    expect(look('touch: a swipe').notes).toEqual([]);
  });

  it('lists the options that there are', () => {
    expect(look('select: disabled').problem?.found).toEqual(['“North”', '“South”', '“East” (disabled)']);
  });
});

describe('an action in words', () => {
  const ear = the.button('Ear');
  it.each([
    ['right-click the button “Ear”', { do: 'click', target: ear, options: { button: 'right' } }],
    [
      'Shift-double-click the button “Ear” at 1, 2 px',
      { do: 'click', target: ear, options: { holding: 'Shift', times: 2, at: [1, 2] } },
    ],
    ['press ArrowDown 3 times', { do: 'press', target: null, keys: 'ArrowDown', options: { times: 3 } }],
    ['press Enter for 600 ms on the button “Ear”', { do: 'press', target: ear, keys: 'Enter', options: { held: 600 } }],
    ['drag the button “Ear” by 90, 0 px', { do: 'drag', what: ear, to: { by: [90, 0] }, options: {} }],
    ['drag “Alba” to the button “Ear”', { do: 'drag', what: { text: 'Alba' }, to: ear, options: {} }],
    ['scroll the button “Ear” to the bottom', { do: 'scroll', target: ear, way: { to: 'bottom' } }],
    ['scroll the button “Ear” into view', { do: 'scroll', target: ear, way: {} }],
    ['upload a.csv and b.csv with the button “Ear”', { do: 'upload', target: ear, files: ['a.csv', 'b.csv'] }],
    ['swipe by 60, 0 px on the button “Ear”', { do: 'touch', target: ear, options: { by: [60, 0] } }],
    ['select “North”, “South” in the button “Ear”', { do: 'select', target: ear, options: ['North', 'South'] }],
    ['resize the viewport to 360 × 500', { do: 'resize', size: [360, 500] }],
    ['move the pointer away', { do: 'unhover' }],
  ] as const)('reads “%s”', (words, action) => {
    expect(actionInWords(action)).toBe(words);
  });
});
