import { click, ensure, looks, press, spy, the } from 'sguardo/react';
import { Choice } from './Choice.tsx';

const options = [
  { value: 'all', label: 'all' },
  { value: 'day', label: 'day' },
  { value: 'night', label: 'night', disabled: true },
];

export default looks(Choice, {
  environments: ['day', 'night'],
  props: { label: 'Environment', value: 'all', options, onChoose: spy() },
  states: {
    'the first': {},
    'another one by the pointer': {
      async script({ props }) {
        await click(the.radio('day'));
        await ensure(props.onChoose).callsWere([['day']]);
      },
    },
    'with the keyboard alone': {
      async script({ props }) {
        await press('Tab');
        await press('ArrowRight');
        await press('Enter');
        await ensure(props.onChoose).wasCalledWith('day');
      },
    },
  },
});
