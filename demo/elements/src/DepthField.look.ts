import { clear, ensure, looks, spy, the, type } from 'sguardo/dom';
import { DepthField } from './DepthField';

export default looks(DepthField, {
  props: { label: 'Draught', most: 3.2, onDepth: spy() },
  states: {
    empty: {},
    filled: { props: { initial: '2.4' } },
    'too deep': { props: { initial: '4.1' } },
    'too little': { props: { initial: '0.1' } },
    disabled: { props: { initial: '2.4', disabled: true } },

    'tells the depth': {
      async script({ props }) {
        await type(the.field('Draught'), '2.4');
        await ensure(the.field('Draught')).hasValue(2.4);
        await ensure(props.onDepth).wasCalledWith(2.4);
      },
    },

    'warns of shallow water': {
      async script({ props }) {
        await type(the.field('Draught'), '3.9');
        await ensure(the.alert()).reads('Only 3.2 m of water at this berth.');
        await ensure(the.field('Draught')).hasAttribute('aria-invalid', 'true');
        await ensure(props.onDepth).call(-1).equals([null]);
      },
    },

    'more water': {
      after: 'warns of shallow water',
      props: { most: 4 },
      async script() {
        await ensure(the.field('Draught')).hasValue(3.9);
        await ensure(the.alert()).isAbsent();
        await clear(the.field('Draught'));
        await type(the.field('Draught'), '3.1');
        await ensure(the.field('Draught')).hasValue(3.1);
        await ensure(the.field('Draught')).hasAttribute('aria-invalid', 'false');
      },
    },
  },
});
