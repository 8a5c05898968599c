import { looks } from 'sguardo/react';
import { Verdict } from './Verdict.tsx';

export default looks(Verdict, {
  environments: ['day', 'night'],
  props: { verdict: 'passed' },
  states: { of: { each: { verdict: ['passed', 'failed', 'broken', 'changed', 'new'] } } },
});
