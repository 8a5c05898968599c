import { ensure, looks, the } from 'sguardo';
import { SignalFlag } from './SignalFlag';

export default looks(SignalFlag, {
  props: { letter: 'A' },
  states: {
    'A, diver down': {},
    'B, dangerous goods': { props: { letter: 'B' } },
    'D, difficulty': { props: { letter: 'D' } },
    'G, pilot wanted': { props: { letter: 'G' } },
    'H, pilot on board': { props: { letter: 'H' } },
    'L, stop': { props: { letter: 'L' } },
    'O, man overboard': { props: { letter: 'O' } },
    'Q, healthy': { props: { letter: 'Q' } },
    'U, danger': { props: { letter: 'U' } },
    large: { props: { letter: 'U', size: 3 } },
    'no such flag': { props: { letter: '7' } },
    'says what it means': {
      props: { letter: 'O' },
      async script() {
        await ensure(the.img('Flag O: Man overboard')).isVisible();
      },
    },
  },
});
