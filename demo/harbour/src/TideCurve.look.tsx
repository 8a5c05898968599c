import { looks } from 'sguardo';
import { neapTide, springTide } from './samples';
import { TideCurve } from './TideCurve';

export default looks(TideCurve, {
  props: { readings: springTide },
  states: {
    'spring tide': {},
    'neap tide': { props: { readings: neapTide } },
    'with the keel': { props: { draught: 1.4 } },
    'with the hour': { props: { now: 9 } },
    'keel and hour': { props: { draught: 2.6, now: 16 } },
    'half a day': { props: { readings: springTide.slice(0, 13) } },
    'no readings': { props: { readings: [] } },
  },
});
