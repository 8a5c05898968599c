import { click, ensure, hover, looks, press, spy, the } from 'sguardo/react';
import { Button } from './Button.tsx';

export default looks(Button, {
  environments: ['day', 'night'],
  props: { children: 'Approve 2 captures', onClick: spy() },
  states: {
    of: { each: { tone: ['plain', 'strong', 'danger'], disabled: [false, true] } },
    'under the pointer': {
      async script() {
        await hover(the.button('Approve 2 captures'));
      },
    },
    pressed: {
      async script({ props }) {
        await click(the.button('Approve 2 captures'));
        await press('Enter');
        await press(' ');
        await ensure(props.onClick).calls(3);
      },
    },
    'cannot be pressed': {
      props: { disabled: true },
      async script({ props }) {
        await ensure(the.button('Approve 2 captures')).isDisabled();
        await ensure(props.onClick).wasNotCalled();
      },
    },
  },
});
