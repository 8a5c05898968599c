import { click, ensure, hover, looks, the } from 'sguardo';
import { FeeTable } from './FeeTable';
import { fees } from './samples';

export default looks(FeeTable, {
  props: { fees },
  states: {
    'four nights': {},
    'one line': { props: { fees: fees.slice(0, 1) } },
    reduced: { props: { reduced: true } },
    'nothing to pay': { props: { fees: [] } },
    'a long bill': {
      props: {
        fees: Array.from({ length: 24 }, (_, i) => ({
          what: `Mooring line ${i + 1}`,
          nights: (i % 5) + 1,
          each: 3.5 + i,
        })),
      },
    },

    'sorts by price': {
      async script() {
        await click(the.button('Each'));
        await ensure(the.row().nth(1)).reads(/Shore power/);
        await click(the.button(/^Each/));
        await ensure(the.row().nth(1)).reads(/Berth, 9 to 12 m/);
      },
    },

    'a heading shows that it can be used': {
      async script() {
        await hover(the.button('Service'));
      },
    },
  },
});
