import { click, ensure, looks, the } from 'sguardo';
import { Berth } from './Berth';

export default looks(Berth, {
  props: { name: 'C-14' },
  states: {
    calm: {},
    gale: { props: { tone: 'gale' } },
    released: {
      async script({ props }) {
        await click(the.button('Release'));
        await ensure(the.text('asked 1')).isVisible();
        await ensure(props.onRelease).wasCalledWith('C-14');
      },
    },
    // The component that is there is given other props: it still knows that it was asked.
    later: {
      after: 'released',
      props: { tone: 'gale' },
      async script() {
        await ensure(the.heading('C-14 gale')).isVisible();
        await ensure(the.text('asked 1')).isVisible();
      },
    },
    impossible: { props: { tone: 'storm' as never } },
  },
});
