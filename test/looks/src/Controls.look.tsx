import { capture, clear, click, ensure, hover, looks, part, press, select, spy, the, type } from 'sguardo';
import { Controls } from './Controls';

export default looks(Controls, {
  props: { onKey: spy(), onClick: spy(), onSend: spy() },
  states: {
    plain: {},

    'typing goes through real keys': {
      async script({ props }) {
        await type(the.field('Name'), 'Éole 2');
        await ensure(the.text('Hello Éole 2')).isVisible();
        await ensure(props.onKey).wasCalledWith('o', '');
        await ensure(the.field('Name')).isFocused();
        await type(the.field('Name'), '!');
        await ensure(the.field('Name')).hasValue('Éole 2!');
        await clear(the.field('Name'));
        await ensure(the.field('Name')).hasValue('');
        await ensure(the.paragraph()).reads('Hello nobody');
      },
    },

    'typing goes behind what is there': {
      async script() {
        await type(the.field('Notes'), ' second\nthird');
        await ensure(the.field('Notes')).hasValue('first second\nthird');
        await type(the.textbox('Log'), ' book');
        await ensure(the.textbox('Log')).reads(/log book/);
      },
    },

    'clicks are trusted': {
      async script({ props }) {
        await click(the.button('Knock'));
        await ensure(props.onClick).wasCalledWith(true, 1);
        await ensure(props.onClick).calls(1);
      },
    },

    'boxes and radios': {
      async script() {
        await ensure(the.checkbox('Anchored')).isUnchecked();
        await click(the.checkbox('Anchored'));
        await ensure(the.checkbox('Anchored')).isChecked();
        await click(the.radio('Starboard'));
        await ensure(the.radio('Starboard')).isChecked();
        await ensure(the.radio('Port')).isUnchecked();
      },
    },

    'a select is used by label or value, past disabled options': {
      async script() {
        await select(the.field('Tide'), 'High water');
        await ensure(the.combobox('Tide')).hasValue('high');
        await select(the.field('Tide'), 'low');
        await ensure(the.combobox('Tide')).hasValue('low');
      },
    },

    'keys go where the focus is, or to a target': {
      async script({ props }) {
        await press(the.field('Name'), 'a');
        await press('Control+b');
        await ensure(props.onKey).wasCalledWith('b', 'Control');
        await press('Enter');
        await ensure(props.onSend).wasCalledWith('a');
        await press('Tab');
        await ensure(the.field('Notes')).isFocused();
        await press('Shift+Tab');
        await ensure(the.field('Name')).isFocused();
      },
    },

    'the pointer enters and leaves': {
      async script() {
        await hover(the.button('Point here'));
        await ensure(the.button('Pointed at')).isVisible();
        await hover(the.button('Knock'));
        await ensure(the.button('Point here')).isVisible();
      },
    },

    'what is out of sight is scrolled to': {
      async script({ props }) {
        await click(the.button('Send'));
        await ensure(props.onSend).wasCalledWith('');
      },
    },

    'checks wait for what comes later': {
      async script() {
        await ensure(the.status()).isAbsent();
        await click(the.button('Later'));
        await ensure(the.status()).reads('It came');
      },
    },

    'targets are narrowed and counted': {
      async script() {
        await ensure(the.listitem()).counts(3);
        await ensure(the.listitem().nth(1)).reads('two');
        await ensure(the.listitem().in(the.list()).nth(0)).reads('one');
        await ensure(the.marked('third')).reads(/^th/);
        await ensure(the.css('li:last-child').in(the.form('Controls'))).hasAttribute('data-testid', 'third');
        await ensure(the.button(/^Kno/)).isEnabled();
        await ensure(the.field(/month/i)).hasValue('2026-03-02');
      },
    },

    'values are checked': {
      async script() {
        let tide = 0;
        setTimeout(() => {
          tide = 4;
        }, 100);
        await ensure(() => tide).equals(4);
        await ensure({ berth: 'C-14', lines: [1, 2] }).equals({ berth: 'C-14', lines: [1, 2] });
        await ensure('Tramontana').matches(/^Tram/);
      },
    },

    'parts hold steps, and captures have names': {
      async script() {
        await part('outer', async () => {
          await part('inner', async () => {
            await click(the.button('Knock'));
          });
          await capture('between');
        });
      },
    },

    'first half': {
      async script() {
        await type(the.field('Name'), 'Ali');
        await capture('half');
      },
    },

    'second half': {
      after: 'first half',
      async script({ props }) {
        await type(the.field('Name'), 'seo');
        await ensure(the.field('Name')).hasValue('Aliseo');
        await capture('half');
        await ensure(props.onKey).calls(6);
      },
    },

    'other props after a script': {
      after: 'first half',
      props: { onSend: spy() },
      async script({ props }) {
        await press('Enter');
        await ensure(props.onSend).wasCalledWith('Ali');
      },
    },
  },
});
