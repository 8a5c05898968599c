import { ensure, looks, select, spy, the } from 'sguardo/react';
import { EnvironmentChoice } from './EnvironmentChoice.tsx';

const few = ['day', 'night', 'phone'];
const many = ['phone', 'tablet', 'desk', 'wall'].flatMap((size) => [`${size} by day`, `${size} by night`]);

export default looks(EnvironmentChoice, {
  environments: ['day', 'night'],
  props: { names: few, value: 'night', onChoose: spy() },
  states: {
    few: {},
    many: {
      props: { names: many, value: 'desk by day' },
      async script({ props }) {
        await select(the.combobox('Environment'), 'wall by night');
        await ensure(props.onChoose).callsWere([['wall by night']]);
      },
    },
  },
});
