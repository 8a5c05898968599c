import { capture, click, ensure, looks, part, select, spy, the, type } from 'sguardo/vue';
import ArrivalForm from './ArrivalForm.vue';

const route = 'POST /api/berths/:id/arrivals';

async function fillIn(): Promise<void> {
  await part('fills in the form', async () => {
    await type(the.field('Vessel'), 'Tramontana');
    await type(the.field('Draught'), '1.8');
    await select(the.field('Purpose'), 'Shelter from weather');
    await click(the.field('Dangerous goods on board'));
  });
}

export default looks(ArrivalForm, {
  props: { berth: 'C-14', depth: 3.2, onArrived: spy() },
  states: {
    empty: {},
    'another berth': { props: { berth: 'A-2' } },

    filled: {
      async script() {
        await ensure(the.button('Book arrival')).isDisabled();
        await fillIn();
        await ensure(the.field('Purpose')).hasValue('shelter');
        await ensure(the.checkbox('Dangerous goods on board')).isChecked();
        await ensure(the.button('Book arrival')).isEnabled();
      },
    },

    'books an arrival': {
      after: 'filled',
      answers: { [route]: { status: 201, json: { number: 'A-2041' }, hold: true } },
      async script({ props, answers }) {
        await click(the.button('Book arrival'));
        await ensure(the.button('Booking…')).isDisabled();
        await capture('sending');
        await answers[route]!.letGo();
        await ensure(the.status()).reads(/Welcome, Tramontana/);
        await ensure(answers[route]!).wasAskedWith({
          body: { vessel: 'Tramontana', draught: 1.8, purpose: 'shelter', goods: true },
          params: { id: 'C-14' },
        });
        await ensure(props.onArrived).wasCalledWith({ vessel: 'Tramontana', number: 'A-2041' });
      },
    },

    'takes a while': {
      after: 'filled',
      answers: { [route]: { status: 201, json: { number: 'A-2041' }, delay: 1500 } },
      async script() {
        await click(the.button('Book arrival'));
        await capture('under way', { settle: 0 });
        await ensure(the.status()).reads(/A-2041/);
      },
    },

    'says so when the office cannot be reached': {
      after: 'filled',
      answers: { [route]: { unreachable: true } },
      async script({ props }) {
        await click(the.button('Book arrival'));
        await ensure(the.alert()).reads('The office cannot be reached. Nothing was booked.');
        await ensure(the.field('Vessel')).hasValue('Tramontana');
        await ensure(props.onArrived).wasNotCalled();
      },
    },

    'the berth was taken meanwhile': {
      after: 'filled',
      answers: { [route]: { status: 409, json: { message: 'Somebody else has just booked C-14.' } } },
      async script() {
        await click(the.button('Book arrival'));
        await ensure(the.alert()).reads('Somebody else has just booked C-14.');
      },
    },

    'not deep enough': {
      props: { depth: 1.5 },
      async script() {
        await fillIn();
        await ensure(the.alert()).reads('Only 1.5 m of water at this berth.');
        await ensure(the.button('Book arrival')).isDisabled();
      },
    },
  },
});
