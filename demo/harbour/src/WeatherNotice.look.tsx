import { answer, click, ensure, looks, the } from 'sguardo';
import { WeatherNotice } from './WeatherNotice';

const route = 'GET /api/weather';

export default looks(WeatherNotice, {
  props: { station: 'Molo Est' },
  states: {
    calm: { answers: { [route]: { json: { force: 2, from: 'south-west' } } } },
    gale: {
      answers: { [route]: { json: { force: 9, from: 'north-east', until: 'midnight' } } },
      reference: './WeatherNotice.design.svg',
    },
    loading: { answers: { [route]: { hold: true } } },
    unreachable: { answers: { [route]: { unreachable: true } } },

    'asks again': {
      after: 'unreachable',
      async script() {
        await ensure(the.status()).reads(/No news from Molo Est/);
        await answer(route, { json: { force: 4, from: 'west' } });
        await click(the.button('Ask again'));
        await ensure(the.heading('Calm at Molo Est')).isVisible();
      },
    },

    'a gale interrupts': {
      answers: { [route]: { json: { force: 10, from: 'north' } } },
      async script() {
        await ensure(the.alert()).reads(/Gale warning for Molo Est/);
      },
    },
  },
});
