import { capture, click, ensure, looks, part, press, spy, the } from 'sguardo/vue';
import BerthCard from './BerthCard.vue';

export default looks(BerthCard, {
  props: { berth: 'C-14', vessel: 'Aliseo', draught: 2.1, length: 11.4, onRelease: spy() },
  states: {
    moored: {},
    empty: { props: { vessel: null } },
    shallow: { props: { draught: 2.9 } },
    aground: { props: { draught: 3.6 } },
    'long name': { props: { vessel: 'Nostra Signora della Buona Traversata e del Ritorno' } },

    'asks before releasing': {
      async script({ props }) {
        await click(the.button('Release berth'));
        await ensure(the.dialog('Release C-14?')).isVisible();
        await capture('question');
        await click(the.button('Release').in(the.dialog()));
        await ensure(props.onRelease).wasCalledWith('C-14');
        await ensure(the.dialog()).isAbsent();
      },
    },

    'keeps the berth': {
      async script({ props }) {
        await part('changes its mind', async () => {
          await click(the.button('Release berth'));
          await click(the.button('Keep it'));
        });
        await ensure(the.dialog()).isAbsent();
        await ensure(props.onRelease).wasNotCalled();
        await ensure(the.button('Release berth')).isFocused();
      },
    },

    'escape closes the question': {
      async script({ props }) {
        await click(the.button('Release berth'));
        await ensure(the.dialog()).isVisible();
        await press('Escape');
        await ensure(the.dialog()).isAbsent();
        await ensure(props.onRelease).wasNotCalled();
      },
    },
  },
});
