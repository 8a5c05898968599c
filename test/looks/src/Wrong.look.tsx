import { useEffect, useRef } from 'react';
import { answer, capture, click, ensure, hover, looks, press, select, spy, the, type } from 'sguardo';

/** Moves at every frame. */
function Drifting() {
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    let left = 0;
    const drift = (): void => {
      left = (left + 7) % 200;
      if (button.current) button.current.style.marginLeft = `${left}px`;
      frame = requestAnimationFrame(drift);
    };
    let frame = requestAnimationFrame(drift);
    return () => cancelAnimationFrame(frame);
  }, []);
  return (
    <button type="button" ref={button}>
      Drifting
    </button>
  );
}

/** What somebody may call who knows other names. */
type Typo = { visible(): Promise<void>; click(): Promise<void> };

/** Everything that can stand in the way of a step. */
function Obstacles({ drifting = false, onPress }: { drifting?: boolean; onPress?(): void }) {
  return (
    <div>
      <button type="button">Save</button>
      <button type="button">Save</button>
      <button type="button" disabled>
        Locked
      </button>
      <fieldset aria-disabled="true">
        <button type="button">Inside</button>
      </fieldset>
      <button type="button" style={{ visibility: 'hidden' }} data-testid="unseen">
        Unseen
      </button>
      <div style={{ position: 'relative', width: 200 }}>
        <button type="button">Buried</button>
        <div aria-hidden="true">
          <button type="button">Veiled</button>
        </div>
        <div className="cover" role="status" aria-label="Fog" />
      </div>
      <table>
        <tbody>
          <tr>
            <td>C-14</td>
            <td>Aliseo</td>
          </tr>
        </tbody>
      </table>
      <div role="progressbar" tabIndex={-1} />
      <div role="treeitem" tabIndex={-1} id="kit_1_list_0" />
      <div role="treeitem" tabIndex={-1} id="kit_1_list_1" />
      <label>
        Tide{' '}
        <select>
          <option>Low</option>
          <option disabled>High</option>
        </select>
      </label>
      <button type="button" onClick={onPress}>
        Fine
      </button>
      <button
        type="button"
        onClick={() => {
          throw new RangeError('the line parted');
        }}
      >
        Snap
      </button>
      <button type="button" onClick={() => void Promise.reject(new Error('nobody caught this'))}>
        Reject
      </button>
      {drifting && <Drifting />}
    </div>
  );
}

export default looks(Obstacles, {
  states: {
    'no such target': { script: () => click(the.button('Sale')) },
    'hidden from people who hear the page': { script: () => click(the.button('Veiled')) },
    'no such role': { script: () => click(the.slider('Volume')) },
    'a part of a name': { script: () => click(the.row('C-14')) },
    'a cell in its row': { script: () => click(the.button(/C-\d+/)) },
    'no name at all': { script: () => click(the.progressbar('Loading')) },
    'no name, and ids that were counted up': { script: () => click(the.treeitem('Sprat')) },
    'no such scope': { script: () => click(the.button('Save').in(the.dialog())) },
    'several targets': { script: () => click(the.button('Save')) },
    'past the last': { script: () => click(the.button('Save').nth(4)) },
    'a hidden target': { script: () => click(the.marked('unseen')) },
    'a disabled target': { script: () => click(the.button('Locked')) },
    'a target disabled by what holds it': { script: () => click(the.button('Inside')) },
    'a target under a scrim': {
      async script() {
        document
          .querySelector('#look')!
          .insertAdjacentHTML(
            'beforeend',
            '<div role="dialog" aria-label="Question"><div class="scrim" ' +
              'style="position:fixed;inset:0;z-index:40"></div></div>',
          );
        await click(the.button('Fine'));
      },
    },
    'a covered target': { script: () => click(the.button('Buried')) },
    'a text under a button': {
      async script() {
        document
          .querySelector('#look')!
          .insertAdjacentHTML(
            'beforeend',
            '<div style="position:relative"><span>Ports</span><div role="button" aria-label="Port" tabindex="0" ' +
              'style="position:absolute;inset:0;background:#fff"><div style="height:100%"></div></div></div>',
          );
        await click(the.text('Ports'));
      },
    },
    'a text under a field': {
      async script() {
        document
          .querySelector('#look')!
          .insertAdjacentHTML(
            'beforeend',
            '<div style="position:relative"><span>Piers</span><div ' +
              'style="position:absolute;inset:0;background:#fff">' +
              '<input aria-label="Pier" style="width:40%;height:4px;margin-left:60%"></div></div>',
          );
        await click(the.text('Piers'));
      },
    },
    'a moving target': { props: { drifting: true }, script: () => click(the.button('Drifting')) },
    'no text field': { script: () => type(the.button('Fine'), 'x') },
    'no such option': { script: () => select(the.field('Tide'), 'Ebb') },
    'a disabled option': { script: () => select(the.field('Tide'), 'High') },
    'not a select': { script: () => select(the.button('Fine'), 'x') },
    'not a key': { script: () => press('Entre') },
    'not a modifier': { script: () => press('Hyper+a') },
    'not a target': { script: () => hover('Save' as never) },
    'no such check': { script: () => (ensure(the.button('Fine')) as never as Typo).visible() },
    'no such method': { script: () => (the.button('Fine') as never as Typo).click() },
    'not a selector': { script: () => click(the.css('li:[')) },
    'not a route': {
      async script() {
        await answer('POST  a  b', {});
      },
    },
    'a check that does not hold': { script: () => ensure(the.button('Fine')).isDisabled() },
    'a text that differs': { script: () => ensure(the.button('Fine')).reads('Rough') },
    'a value that differs': { script: () => ensure({ a: 1 }).equals({ a: 2 }) },
    'no spy': { props: { onPress: () => {} }, script: ({ props }) => ensure(props.onPress).calls(1) },
    'a spy that was not called': {
      props: { onPress: spy() },
      script: ({ props }) => ensure(props.onPress).wasCalledWith('C-14', 3),
    },
    'a picture too large': {
      async script() {
        (document.getElementById('look')!.firstElementChild as HTMLElement).style.minHeight = '3000000px';
        await capture('tall');
      },
    },
    'a capture twice': {
      async script() {
        await capture('same');
        await capture('same');
      },
    },
    'a forgotten await': {
      async script() {
        void ensure(the.button('Never there')).isVisible();
      },
    },
    'a script that throws': {
      async script() {
        await click(the.button('Fine'));
        throw new TypeError('no such knot');
      },
    },
    'an error in a handler': { script: () => click(the.button('Snap')) },
    'a rejection that nobody handles': { script: () => click(the.button('Reject')) },
    'goes on after all that': { script: () => click(the.button('Fine')) },
    'starts after one that fails': { after: 'a hidden target' },
  },
});
