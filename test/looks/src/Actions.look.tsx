import {
  blur,
  clear,
  click,
  drag,
  ensure,
  focus,
  hold,
  hover,
  looks,
  paste,
  pinch,
  press,
  resize,
  scroll,
  select,
  spy,
  the,
  touch,
  type,
  unhover,
  upload,
} from 'sguardo';
import { type DragEvent, type SyntheticEvent, useEffect, useRef, useState } from 'react';

type Props = { onEvent: (text: string) => void };

const mouseEvents = ['click', 'dblclick', 'contextmenu', 'auxclick', 'mouseenter', 'mouseleave'];
const keyEvents = ['keydown', 'keyup', 'focus', 'blur'];
const touchEvents = ['touchstart', 'touchend'];

const modifiersOf = (event: MouseEvent | KeyboardEvent): string =>
  [event.ctrlKey && 'Control', event.shiftKey && 'Shift', event.altKey && 'Alt'].filter(Boolean).join('+');

/** What an event is to these looks, in words. */
function words(event: Event): string {
  if (event instanceof KeyboardEvent) return `${event.type} ${event.key}${event.repeat ? ' again' : ''}`;
  if (event instanceof MouseEvent)
    return [event.type, modifiersOf(event), event.button, `${event.offsetX},${event.offsetY}`].join(' ').trim();
  return event.type;
}

/** Tells its owner everything that happens to an element, and whether the browser itself has sent it. */
function Ear({ types, onEvent, label }: Props & { types: string[]; label: string }) {
  const own = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    const hear = (event: Event): void => onEvent(`${words(event)}${event.isTrusted ? '' : ' (made up)'}`);
    for (const name of types) own.current?.addEventListener(name, hear);
    return () => {
      for (const name of types) own.current?.removeEventListener(name, hear);
    };
  });
  return (
    <button type="button" ref={own} style={{ width: 120, height: 40, margin: 4, border: 0, touchAction: 'none' }}>
      {label}
    </button>
  );
}

function Slider({ onEvent }: Props) {
  const [left, setLeft] = useState(0);
  const grip = useRef<number | null>(null);
  return (
    <div style={{ position: 'relative', height: 40, width: 400, background: '#dde' }}>
      <button
        type="button"
        aria-label="Grip"
        style={{ position: 'absolute', left, width: 40, height: 40, touchAction: 'none' }}
        onPointerDown={(event) => {
          grip.current = event.clientX - left;
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerMove={(event) => grip.current !== null && setLeft(event.clientX - grip.current)}
        onPointerUp={() => {
          grip.current = null;
          onEvent(`at ${left}`);
        }}
      />
    </div>
  );
}

function Board({ onEvent }: Props) {
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    const { files } = event.dataTransfer;
    const said = event.dataTransfer.getData('text/plain');
    const names = [...files].map((file) => `${file.name} (${file.type}, ${file.size})`);
    onEvent([`drop`, said, ...names].filter(Boolean).join(' '));
  };
  const [dragged, setDragged] = useState(false);
  return (
    <div style={{ display: 'flex', gap: 20 }}>
      <article
        draggable
        aria-label="Alba"
        style={{ width: 80, height: 40, background: '#cde' }}
        onDragStart={(event) => {
          event.dataTransfer.setData('text/plain', 'Alba');
          setDragged(true);
        }}
        onDragEnd={() => onEvent('end')}
        onMouseUp={() => onEvent('mouse up')}
      />
      <section
        aria-label="Berth 4"
        style={{ width: 120, height: 80, background: '#eee' }}
        onDragOver={(event) => event.preventDefault()}
        onDrop={drop}
      >
        {dragged ? <p>Here</p> : null}
      </section>
    </div>
  );
}

const vessels = ['Alba', 'Brezza', 'Corrente'];

/** A list to be put in order: where the dragged item will be, something holds its place that nobody sees. */
function Queue({ onEvent }: Props) {
  const [order, setOrder] = useState(vessels);
  const [carried, setCarried] = useState<{ name: string; y: number } | null>(null);
  const move = ({ clientY: y }: { clientY: number }): void => {
    if (!carried) return;
    setCarried({ ...carried, y });
    const others = order.filter((name) => name !== carried.name);
    others.splice(Math.min(vessels.length - 1, Math.floor(y / 40)), 0, carried.name);
    setOrder(others);
  };
  const item = { height: 40, width: 200, boxSizing: 'border-box', border: '1px solid teal', margin: 0 } as const;
  return (
    <ul
      style={{ margin: 0, padding: 0, listStyle: 'none', width: 200, touchAction: 'none' }}
      onPointerMove={move}
      onPointerUp={() => {
        setCarried(null);
        onEvent(order.join(' '));
      }}
    >
      {carried && (
        <li style={{ ...item, position: 'fixed', top: carried.y - 20, left: 0, zIndex: 1 }}>{carried.name}</li>
      )}
      {order.map((name) => (
        <li
          key={name}
          style={{ ...item, opacity: carried?.name === name ? 0 : 1 }}
          onPointerDown={({ clientY }) => setCarried({ name, y: clientY })}
        >
          {name}
        </li>
      ))}
    </ul>
  );
}

function Files({ onEvent }: Props) {
  const tell = (event: SyntheticEvent<HTMLInputElement>): void => {
    const files = [...(event.currentTarget.files ?? [])];
    void Promise.all(files.map(async (file) => `${file.name} “${await file.text()}” ${file.lastModified}`)).then(
      (all) => onEvent(all.join(', ')),
    );
  };
  const hidden = useRef<HTMLInputElement>(null);
  return (
    <div>
      <label>
        Manifest <input type="file" onChange={tell} />
      </label>
      <input type="file" multiple hidden ref={hidden} onChange={tell} />
      <button type="button" onClick={() => hidden.current?.click()}>
        Add files
      </button>
      <button type="button">Nothing</button>
    </div>
  );
}

function Long({ onEvent }: Props) {
  const [rows, setRows] = useState(20);
  return (
    <div>
      <ul
        aria-label="Arrivals"
        style={{ height: 120, overflow: 'auto' }}
        onScroll={({ currentTarget: list }) => {
          if (rows < 60 && list.scrollTop + list.clientHeight > list.scrollHeight - 5) setRows(rows + 20);
          onEvent(String(list.scrollTop));
        }}
      >
        {Array.from({ length: rows }, (_, i) => (
          <li key={i} style={{ height: 20 }}>{`Ship ${i + 1}`}</li>
        ))}
      </ul>
      <div aria-label="Chart" role="img" style={{ width: 100, height: 40, background: '#bcd' }} ref={zooms(onEvent)} />
      <p>Nothing to scroll</p>
    </div>
  );
}

const zooms = (onEvent: (text: string) => void) => (element: HTMLElement | null) => {
  if (!element) return;
  const zoom = (event: WheelEvent): void => {
    event.preventDefault();
    onEvent(`zoom ${event.deltaY > 0 ? 'out' : 'in'}`);
  };
  element.addEventListener('wheel', zoom, { passive: false });
  return () => element.removeEventListener('wheel', zoom);
};

const toggled = (all: string[], name: string): string[] =>
  all.includes(name) ? all.filter((one) => one !== name) : [...all, name];

type OptionsProps = { names: string[]; chosen: string[]; onChoose: (name: string) => void };

const Options = ({ names, chosen, onChoose }: OptionsProps) =>
  names.map((name) => (
    // biome-ignore lint/a11y/useKeyWithClickEvents: these looks use the mouse
    <div key={name} role="option" tabIndex={-1} aria-selected={chosen.includes(name)} onClick={() => onChoose(name)}>
      {name}
    </div>
  ));

function Lists({ onEvent }: Props) {
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<string[]>(['North']);
  const options = ['North', 'South', 'East'];
  const choose = (name: string): void => {
    setChosen(toggled(chosen, name));
    onEvent(name);
  };
  return (
    <div>
      <button
        type="button"
        role="combobox"
        aria-label="Pier"
        aria-expanded={open}
        aria-controls="piers"
        onClick={() => setTimeout(() => setOpen(!open), 100)}
      />
      {open ? (
        <div role="listbox" id="piers" aria-label="Piers">
          {options.map((name) => (
            // biome-ignore lint/a11y/useKeyWithClickEvents: these looks use the mouse
            <div
              key={name}
              role="option"
              tabIndex={-1}
              aria-selected={false}
              aria-disabled={name === 'East'}
              onClick={() => {
                setOpen(false);
                onEvent(name);
              }}
            >
              {name}
            </div>
          ))}
        </div>
      ) : null}
      <div role="listbox" aria-label="Sides" aria-multiselectable>
        <Options names={options} chosen={chosen} onChoose={choose} />
      </div>
      <select
        multiple
        aria-label="Flags"
        onChange={(event) => onEvent([...event.target.selectedOptions].map((o) => o.value).join())}
      >
        <option value="a">Alfa</option>
        <option value="b">Bravo</option>
        <option value="c">Charlie</option>
      </select>
    </div>
  );
}

/** Takes several. What is chosen makes room above it; one that closes behind each choice is elsewhere then. */
function Fleet({ onEvent, stays = false }: Props & { stays?: boolean }) {
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<string[]>(['Bora']);
  const choose = (name: string): void => {
    setChosen(toggled(chosen, name));
    setOpen(stays);
    onEvent(name);
  };
  return (
    <>
      {chosen.map((name) => (
        <p key={name}>{name}</p>
      ))}
      <button
        type="button"
        role="combobox"
        aria-label="Fleet"
        aria-expanded={open}
        aria-controls="fleet"
        onClick={() => setOpen(!open)}
      />
      {open ? (
        <div role="listbox" id="fleet" aria-label="Ships" aria-multiselectable={stays ? undefined : true}>
          <Options names={['Aliseo', 'Bora', 'Libeccio']} chosen={chosen} onChoose={choose} />
        </div>
      ) : null}
    </>
  );
}

/** Takes several, which leave the list; it marks the one that the keyboard has come to as lists mark what is chosen. */
function Crew({ onEvent }: Props) {
  const [chosen, setChosen] = useState<string[]>([]);
  const left = ['Aliseo', 'Bora', 'Libeccio'].filter((name) => !chosen.includes(name));
  const active = left[Math.min(1, left.length - 1)];
  return (
    <>
      <button type="button" role="combobox" aria-label="Crew" aria-expanded aria-activedescendant={active} />
      <div role="listbox" aria-label="Ships">
        {left.map((name) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the keyboard is at the button
          <div
            key={name}
            id={name}
            role="option"
            tabIndex={-1}
            aria-selected={name === active}
            onClick={() => {
              setChosen([...chosen, name]);
              onEvent(name);
            }}
          >
            {name}
          </div>
        ))}
      </div>
    </>
  );
}

/** Opens some milliseconds late, and hears nothing for some more. */
function Lid({ onEvent }: Props) {
  const [state, setState] = useState<'closed' | 'opening' | 'open'>('closed');
  const later = (next: 'opening' | 'open'): void => void setTimeout(() => setState(next), 5);
  useEffect(() => {
    if (state === 'opening') later('open');
  }, [state]);
  return (
    <>
      <button type="button" onClick={() => later('opening')}>
        Lift
      </button>
      {state !== 'closed' && (
        <button type="button" onClick={() => onEvent(state)}>
          Shut
        </button>
      )}
    </>
  );
}

/** Puts what is dragged behind each item that it comes over, and does not listen for some milliseconds after that. */
function Roster({ onEvent }: Props) {
  const [order, setOrder] = useState(['Aliseo', 'Bora', 'Libeccio', 'Ostro']);
  const busyUntil = useRef(0);
  const over = (name: string): void => {
    if (name === 'Aliseo' || performance.now() < busyUntil.current) return;
    busyUntil.current = performance.now() + 30;
    const others = order.filter((one) => one !== 'Aliseo');
    setOrder(others.toSpliced(others.indexOf(name) + 1, 0, 'Aliseo'));
  };
  return (
    <ul style={{ width: 200 }}>
      {order.map((name) => (
        <li
          key={name}
          draggable
          style={{ height: 30 }}
          onDragOver={(event) => {
            event.preventDefault();
            over(name);
          }}
          onDrop={() => onEvent(order.join(' '))}
        >
          {name}
        </li>
      ))}
    </ul>
  );
}

const plain: Record<string, (props: Props) => React.ReactNode> = {
  slider: Slider,
  board: Board,
  queue: Queue,
  files: Files,
  long: Long,
  lists: Lists,
  crew: Crew,
  roster: Roster,
  lid: Lid,
};

/** Everything that hands can be used on. */
function Hands({ kind, onEvent }: Props & { kind: string }) {
  const Plain = plain[kind];
  if (Plain) return <Plain onEvent={onEvent} />;
  switch (kind) {
    case 'mouse':
      return (
        <>
          <Ear types={mouseEvents} onEvent={onEvent} label="Ear" />
          <a href="https://harbour.example/">Far away</a>
        </>
      );
    case 'keys':
      return <Ear types={keyEvents} onEvent={onEvent} label="Ear" />;
    case 'touch':
      return <Ear types={[...touchEvents, 'click', 'contextmenu']} onEvent={onEvent} label="Ear" />;
    case 'fleet':
    case 'fleet, open':
      return <Fleet onEvent={onEvent} stays={kind !== 'fleet'} />;
    default:
      return (
        <div>
          <input aria-label="Notes" onPaste={(event) => onEvent(event.clipboardData.getData('text/html') || 'text')} />
          {/* biome-ignore lint/a11y/useSemanticElements: no input takes pictures */}
          <div
            contentEditable
            suppressContentEditableWarning
            aria-label="Log"
            role="textbox"
            tabIndex={0}
            onPaste={(event) => onEvent(`${event.clipboardData.files.length} files`)}
          >
            -
          </div>
          <Width />
        </div>
      );
  }
}

function Width() {
  const [width, setWidth] = useState(innerWidth);
  useEffect(() => {
    const tell = (): void => setWidth(innerWidth);
    addEventListener('resize', tell);
    return () => removeEventListener('resize', tell);
  }, []);
  return <output aria-label="Width">{width}</output>;
}

const ear = the.button('Ear');
const mouse = { props: { kind: 'mouse' } };
const keys = { props: { kind: 'keys' } };
const csv = (name: string): File => new File(['berth,ship'], name, { type: 'text/csv' });

export default looks(Hands, {
  props: { kind: 'mouse', onEvent: spy() },
  states: {
    'click: the right button': {
      ...mouse,
      async script({ props }) {
        await click(ear, { button: 'right' });
        await ensure(props.onEvent).wasCalledWith('contextmenu  2 60,20');
      },
    },
    'click: twice, with keys, at a place': {
      ...mouse,
      async script({ props }) {
        await click(ear, { times: 2, holding: 'Control+Shift', at: [7, 9] });
        await ensure(props.onEvent).wasCalledWith('dblclick Control+Shift 0 7,9');
        await click(ear);
        await ensure(props.onEvent).wasCalledWith('click  0 60,20');
      },
    },
    'click: a link with Control stays here': {
      ...mouse,
      async script() {
        await click(the.link('Far away'), { holding: 'Control' });
        await click(the.link('Far away'), { button: 'middle' });
      },
    },
    'click: outside': { ...mouse, script: () => click(ear, { at: [200, 9] }) },
    'click: no such option': { ...mouse, script: () => click(ear, { time: 2 } as object) },
    'click: a wrong option': { ...mouse, script: () => click(ear, { holding: 'Ctrl' }) },
    'click: no options': { ...mouse, script: () => click(ear, 'right' as never) },
    'pointer: on and away': {
      ...mouse,
      async script({ props }) {
        await hover(ear, { at: [1, 1] });
        await ensure(props.onEvent).wasCalledWith('mouseenter  0 1,1');
        await unhover();
        await ensure(props.onEvent).wasCalledWith(/^mouseleave/);
      },
    },
    'focus: given and taken': {
      ...keys,
      async script({ props }) {
        await focus(ear);
        await ensure(ear).isFocused();
        await blur(ear);
        await ensure(props.onEvent).wasCalledWith('blur');
        await focus(ear);
        await blur();
        await ensure(props.onEvent).calls(4);
      },
    },
    'focus: elsewhere': { ...keys, patience: 50, script: () => blur(ear) },
    'keys: chords and repeats': {
      ...keys,
      async script({ props }) {
        await press(ear, 'Shift+A', { times: 2 });
        await ensure(props.onEvent).wasCalledWith('keydown Shift');
        await ensure(props.onEvent).wasCalledWith('keyup A');
        await ensure(props.onEvent).calls(9);
        await press('ArrowDown', { held: 620 });
        await ensure(props.onEvent).wasCalledWith('keydown ArrowDown again');
        await ensure(props.onEvent).calls(14);
      },
    },
    'keys: held meanwhile': {
      ...mouse,
      async script({ props }) {
        await hold('Shift', async () => {
          await click(ear);
        });
        await ensure(props.onEvent).wasCalledWith('click Shift 0 60,20');
        await click(ear);
        await ensure(props.onEvent).wasCalledWith('click  0 60,20');
      },
    },
    'keys: held and forgotten': {
      ...mouse,
      script: () => hold('Alt', () => click(the.button('Nobody'))),
      patience: 50,
    },
    'drag: by so much': {
      props: { kind: 'slider' },
      async script({ props }) {
        await drag(the.button('Grip'), { by: [90, 0] });
        await ensure(props.onEvent).wasCalledWith('at 90');
      },
    },
    'drag: what HTML lets be dragged': {
      props: { kind: 'board' },
      async script({ props }) {
        await drag(the.article('Alba'), the.region('Berth 4'));
        await ensure(props.onEvent).wasCalledWith('drop Alba');
        await ensure(props.onEvent).wasCalledWith('end');
        await ensure(props.onEvent).calls(2);
      },
    },
    'drag: onto what is there only meanwhile': {
      props: { kind: 'board' },
      async script({ props }) {
        await drag(the.article('Alba'), the.text('Here'));
        await ensure(props.onEvent).wasCalledWith('drop Alba');
      },
    },
    'drag: to an item that makes room for it': {
      props: { kind: 'queue' },
      async script({ props }) {
        await drag(the.listitem().first(), the.listitem().last());
        await ensure(props.onEvent).wasCalledWith('Brezza Corrente Alba');
        await drag(the.listitem().last(), the.listitem().nth(1));
        await ensure(props.onEvent).wasCalledWith('Brezza Alba Corrente');
      },
    },
    'drag: files and text from outside': {
      props: { kind: 'board' },
      async script({ props }) {
        await drag({ files: [csv('a.csv'), 'src/buoy.svg'] }, the.region('Berth 4'));
        await ensure(props.onEvent).wasCalledWith(/^drop a\.csv \(text\/csv, 10\) buoy\.svg \(image\/svg\+xml, \d+\)$/);
        await drag({ text: 'Maestro' }, the.region('Berth 4'));
        await ensure(props.onEvent).wasCalledWith('drop Maestro');
      },
    },
    'drag: no such file': {
      props: { kind: 'board' },
      script: () => drag({ files: ['src/nobody.csv'] }, the.region('Berth 4')),
    },
    'drag: nothing': { props: { kind: 'board' }, script: () => drag({}, the.region('Berth 4')) },
    'drag: nowhere': { props: { kind: 'board' }, script: () => drag({ text: 'a' }, { by: [1, 1] }) },
    'upload: one, by the label': {
      props: { kind: 'files' },
      async script({ props }) {
        await upload(the.css('input:not([hidden])'), csv('a.csv'));
        await ensure(props.onEvent).wasCalledWith('a.csv “berth,ship” 1772443800000');
      },
    },
    'upload: several, by a button': {
      props: { kind: 'files' },
      async script({ props }) {
        await upload(the.button('Add files'), [csv('a.csv'), csv('a.csv')]);
        await ensure(props.onEvent).wasCalledWith(/^a\.csv .*, a\.csv/);
      },
    },
    'upload: too many': {
      props: { kind: 'files' },
      script: () => upload(the.css('input:not([hidden])'), [csv('a.csv'), csv('b.csv')]),
    },
    'upload: nothing opens': {
      props: { kind: 'files' },
      script: () => upload(the.button('Nothing'), csv('a.csv')),
    },
    'upload: no such file': {
      props: { kind: 'files' },
      script: () => upload(the.button('Add files'), 'src/nobody.csv'),
    },
    'upload: outside the project': {
      props: { kind: 'files' },
      script: () => upload(the.button('Add files'), '../../package.json'),
    },
    'upload: no file': { props: { kind: 'files' }, script: () => upload(the.button('Add files'), 7 as never) },
    'upload: a click alone': { props: { kind: 'files' }, script: () => click(the.button('Add files')) },
    'paste: text': {
      props: { kind: 'text' },
      async script({ props }) {
        await type(the.textbox('Notes'), 'At ');
        await paste(the.textbox('Notes'), 'berth 4');
        await ensure(the.textbox('Notes')).hasValue('At berth 4');
        await clear(the.textbox('Notes'));
        await paste({ text: 'Alba', html: '<b>Alba</b>' });
        await ensure(the.textbox('Notes')).hasValue('Alba');
        await ensure(props.onEvent).wasCalledWith(/<b>Alba<\/b>/);
      },
    },
    'paste: a picture': {
      props: { kind: 'text' },
      async script({ props }) {
        const canvas = document.createElement('canvas');
        const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve));
        await paste(the.textbox('Log'), { files: [new File([blob!], 'crane.png')] });
        await ensure(props.onEvent).wasCalledWith('1 files');
      },
    },
    'paste: no picture': { props: { kind: 'text' }, script: () => paste({ files: [csv('a.csv')] }) },
    'paste: nothing': { props: { kind: 'text' }, script: () => paste({}) },
    'scroll: by so much': {
      props: { kind: 'long' },
      async script({ props }) {
        await scroll(the.list('Arrivals'), { by: [0, 130] });
        await ensure(props.onEvent).wasCalledWith('130');
        await scroll(the.text('Ship 12'), { by: [0, -30] });
        await ensure(props.onEvent).wasCalledWith('100');
      },
    },
    'scroll: to the end of what grows': {
      props: { kind: 'long' },
      async script() {
        await scroll(the.list('Arrivals'), { to: 'bottom' });
        await ensure(the.text('Ship 60')).isVisible();
        await scroll(the.list('Arrivals'), { to: 'top' });
        await ensure(the.css('ul')).isVisible();
      },
    },
    'scroll: into view': {
      props: { kind: 'long' },
      async script({ props }) {
        await scroll(the.text('Ship 20'));
        await ensure(props.onEvent).wasCalled();
      },
    },
    'scroll: what takes the wheel for itself': {
      props: { kind: 'long' },
      async script({ props }) {
        await scroll(the.img('Chart'), { by: [0, 100] });
        await ensure(props.onEvent).wasCalledWith('zoom out');
      },
    },
    'scroll: nothing scrolls': {
      props: { kind: 'long' },
      script: () => scroll(the.text('Nothing to scroll'), { by: [0, 100] }),
    },
    'touch: a tap': {
      props: { kind: 'touch' },
      async script({ props }) {
        await touch(ear);
        await ensure(props.onEvent).wasCalledWith('touchstart');
        await ensure(props.onEvent).wasCalledWith('touchend');
        await ensure(props.onEvent).wasCalledWith('click  0 60,20');
      },
    },
    'touch: held': {
      props: { kind: 'touch' },
      async script({ props }) {
        await touch(ear, { held: 700 });
        await ensure(props.onEvent).calls(2);
      },
    },
    'touch: a swipe': {
      props: { kind: 'slider' },
      async script({ props }) {
        await touch(the.button('Grip'), { by: [60, 0] });
        await ensure(props.onEvent).wasCalledWith('at 60');
      },
    },
    'touch: where there is no screen for it': {
      props: { kind: 'touch' },
      async script({ props }) {
        await touch(the.button('Ear'), { by: [60, 0] });
        await ensure(props.onEvent).wasCalledWith('swiped');
      },
    },
    'touch: two fingers': {
      props: { kind: 'touch' },
      async script({ props }) {
        await pinch(ear, { scale: 2 });
        await ensure(props.onEvent).wasCalledWith('touchstart');
        await ensure(() => visualViewport?.scale).equals(1);
      },
    },
    'touch: no scale': { props: { kind: 'touch' }, script: () => pinch(ear, {} as never) },
    'select: in a combo box': {
      props: { kind: 'lists' },
      async script({ props }) {
        await select(the.combobox('Pier'), 'South');
        await ensure(props.onEvent).wasCalledWith('South');
      },
    },
    'select: several in a list that closes behind each': {
      props: { kind: 'fleet' },
      async script({ props }) {
        await click(the.combobox('Fleet'));
        await select(the.combobox('Fleet'), ['Aliseo', 'Libeccio']);
        await ensure(props.onEvent).callsWere([['Aliseo'], ['Libeccio'], ['Bora']]);
        await ensure(the.listbox()).isAbsent();
      },
    },
    'select: several in a list that only stays open for them': {
      props: { kind: 'fleet, open' },
      async script({ props }) {
        await select(the.combobox('Fleet'), ['Aliseo', 'Libeccio']);
        await ensure(props.onEvent).callsWere([['Aliseo'], ['Libeccio'], ['Bora']]);
      },
    },
    'select: several in a list that marks where the keyboard is': {
      props: { kind: 'crew' },
      async script({ props }) {
        await select(the.combobox('Crew'), ['Aliseo', 'Libeccio']);
        await ensure(props.onEvent).callsWere([['Aliseo'], ['Libeccio']]);
      },
    },
    'drag: over what listens now and then': {
      props: { kind: 'roster' },
      async script({ props }) {
        await drag(the.text('Aliseo'), the.text('Libeccio'));
        await ensure(props.onEvent).callsWere([['Bora Libeccio Aliseo Ostro']]);
      },
    },
    'click: what hears nothing at first': {
      props: { kind: 'lid' },
      async script({ props }) {
        await click(the.button('Lift'));
        await click(the.button('Shut'));
        await ensure(props.onEvent).callsWere([['open']]);
      },
    },
    'select: several in a list box': {
      props: { kind: 'lists' },
      async script({ props }) {
        await select(the.listbox('Sides'), ['South', 'East']);
        await ensure(the.option('North', { selected: false })).isVisible();
        await ensure(props.onEvent).calls(3);
      },
    },
    'select: several of a select element': {
      props: { kind: 'lists' },
      async script({ props }) {
        await select(the.listbox('Flags'), ['Alfa', 'c']);
        await ensure(props.onEvent).wasCalledWith('a,c');
        await select(the.listbox('Flags'), 'Bravo');
        await ensure(props.onEvent).wasCalledWith('b');
      },
    },
    'select: disabled': { props: { kind: 'lists' }, patience: 300, script: () => select(the.combobox('Pier'), 'East') },
    'select: too many': { props: { kind: 'lists' }, script: () => select(the.combobox('Pier'), ['North', 'South']) },
    'select: no list': { props: { kind: 'mouse' }, script: () => select(ear, 'North') },
    'viewport: another size': {
      props: { kind: 'text' },
      async script() {
        await resize([360, 500]);
        await ensure(the.status('Width')).reads('360');
      },
    },
    'viewport: as it was': {
      props: { kind: 'text' },
      async script() {
        await ensure(the.status('Width')).reads('640');
      },
    },
    'viewport: no size': { props: { kind: 'text' }, script: () => resize([0, 500]) },
  },
});
