import { click, ensure, looks, press, spy, the } from 'sguardo';
import { ReleaseDialog } from './ReleaseDialog';

export default looks(ReleaseDialog, {
  props: { berth: 'C-14', vessel: 'Aliseo', open: true, onClose: spy(), onConfirm: spy() },
  states: {
    question: {},
    closed: { props: { open: false } },
    'long name': { props: { vessel: 'Nostra Signora della Buona Traversata e del Ritorno' } },

    'tab stays inside': {
      async script() {
        await ensure(the.button('Keep it')).isFocused();
        await press('Tab');
        await ensure(the.button('Release')).isFocused();
        await press('Tab');
        await ensure(the.button('Keep it')).isFocused();
      },
    },

    'enter confirms': {
      async script({ props }) {
        await press(the.button('Release'), 'Enter');
        await ensure(props.onConfirm).calls(1);
      },
    },

    'a click outside closes it': {
      async script({ props }) {
        await click(the.css('.scrim'));
        await ensure(props.onClose).calls(1);
        await ensure(props.onConfirm).calls(0);
      },
    },
  },
});
