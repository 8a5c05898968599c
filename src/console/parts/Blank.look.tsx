import { clock, ensure, looks, the } from 'sguardo/react';
import { problem, ProblemError } from '../../core/problem/problem.ts';
import { Blank, Trouble, Waiting } from './Blank.tsx';

export default looks(Blank, {
  environments: ['day', 'night'],
  viewport: [640, 360],
  props: { title: 'Nothing was decided yet' },
  states: {
    'only a title': {},
    'what to do about it': { props: { children: 'Run all looks, and come back.' } },
    waiting: { render: () => <Waiting what="Opening the project…" /> },
    'waiting for long': {
      render: () => <Waiting what="Opening the project…" />,
      async script() {
        await clock.advance(12_000);
        await ensure(the.status()).reads('Opening the project…12 s');
      },
    },
    'a problem': {
      render: () => <Trouble error={new ProblemError(problem('disk-full', { file: '/home/ada/.sguardo' }))} />,
    },
    'an error that nobody expected': { render: () => <Trouble error={new Error('It fell into the water.')} /> },
  },
});
