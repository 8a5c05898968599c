import { ensure, looks, the } from 'sguardo/react';
import { problem } from '../../core/problem/problem.ts';
import { results } from '../samples/results.ts';
import { ProblemCard } from './ProblemCard.tsx';

const failed = results.find(({ verdict }) => verdict === 'failed')!.problem!;

export default looks(ProblemCard, {
  environments: ['day', 'night'],
  props: { problem: failed },
  states: {
    'a check that failed': {
      async script() {
        await ensure(the.alert()).isVisible();
      },
    },
    'beside its source': { props: { shownFile: 'src/BerthCard.look.tsx' } },
    'about a run': { props: { about: 'The last run', problem: problem('disk-full', { file: '/home/ada/.sguardo' }) } },
    'with a line to paste': {
      props: {
        problem: problem('request-unanswered', {
          request: 'GET /api/weather',
          came: 'it got 404',
          near: '',
          line: "answers: { 'GET /api/weather': { json: … } }",
          origin: '',
        }),
      },
    },
    'of one very long word': { props: { problem: { ...failed, message: 'Lungomare'.repeat(60) } } },
  },
});
