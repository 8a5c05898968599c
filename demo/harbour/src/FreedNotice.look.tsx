import { capture, click, clock, ensure, hover, looks, spy, the, unhover } from 'sguardo';
import { FreedNotice } from './FreedNotice';

const notice = the.text('C-14 is free');

export default looks(FreedNotice, {
  props: { berth: 'C-14', onUndo: spy() },
  states: {
    free: {},
    'long name': { props: { berth: 'Pontoon of the old customs house, place 14' } },

    'goes by itself': {
      async script({ props }) {
        await clock.advance(4000);
        await ensure(the.text('2 s')).isVisible();
        await capture('two seconds left');
        await clock.advance(2000);
        await ensure(notice).isAbsent();
        await ensure(props.onUndo).calls(0);
      },
    },

    'stays under the pointer': {
      async script() {
        await hover(notice);
        await clock.advance(10_000);
        await ensure(notice).isVisible();
        await capture('held');
        await unhover();
        await clock.advance(6000);
        await ensure(notice).isAbsent();
      },
    },

    'undone at the last moment': {
      async script({ props }) {
        await clock.advance(5000);
        await click(the.button('Undo'));
        await ensure(props.onUndo).wasCalledWith('C-14');
        await ensure(notice).isAbsent();
      },
    },
  },
});
