import { useEffect, useState } from 'react';
import { answer, click, ensure, looks, the } from 'sguardo';

/** Asks for what its buttons say, and shows the reply. */
function Telephone({
  url = '/api/tides/3?day=monday',
  method = 'GET',
  body,
}: {
  url?: string;
  method?: string;
  body?: unknown;
}) {
  const [said, setSaid] = useState('silence');
  const call = (): void => {
    setSaid('ringing');
    fetch(url, {
      method,
      ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    }).then(
      async (reply) => setSaid(`${reply.status} ${reply.headers.get('x-harbour') ?? ''} ${await reply.text()}`),
      () => setSaid('no line'),
    );
  };
  const callOldStyle = (): void => {
    const request = new XMLHttpRequest();
    request.open('GET', url);
    request.onload = () => setSaid(`old ${request.status} ${request.responseText}`);
    request.send();
  };
  return (
    <div>
      <button type="button" onClick={call}>
        Call
      </button>
      <button type="button" onClick={callOldStyle}>
        Call the old way
      </button>
      <output>{said}</output>
    </div>
  );
}

/** Asks for one thing after the other, and shows how far it is. */
function Chain() {
  const [heard, setHeard] = useState(0);
  useEffect(() => {
    if (heard < 25) void fetch(`/api/tides/${heard}`).then((reply) => reply.json().then(() => setHeard(heard + 1)));
  }, [heard]);
  return <output>{heard}</output>;
}

/** As long as a busy machine takes: it has to be computed, for time itself is the look's own. */
const slowly = (): { json: number } => {
  let sum = 0;
  for (let i = 1; i < 30_000_000; i++) sum += i % 7;
  return { json: sum };
};

const tides = 'GET /api/tides/:id';

const callsInVain = async (): Promise<void> => {
  await click(the.button('Call'));
  await ensure(the.status()).reads(/^404/);
};

export default looks(Telephone, {
  answers: { [tides]: { json: { metres: 2.4 }, headers: { 'x-harbour': 'Molo' } } },
  states: {
    'json with headers': {
      async script({ answers }) {
        await click(the.button('Call'));
        await ensure(the.status()).reads('200 Molo {"metres":2.4}');
        await ensure(answers[tides]!).calls(1);
        await ensure(answers[tides]!.calls[0]!.url).matches(/\/api\/tides\/3\?day=monday$/);
      },
    },
    'one after the other, slowly': { render: Chain, answers: { [tides]: slowly }, timeLimit: 120_000 },
    'the old way': {
      async script() {
        await click(the.button('Call the old way'));
        await ensure(the.status()).reads('old 200 {"metres":2.4}');
      },
    },
    'a status and a text of its own': {
      answers: { [tides]: { status: 503, body: 'closed at night' } },
      async script() {
        await click(the.button('Call'));
        await ensure(the.status()).reads('503 closed at night');
      },
    },
    'held until let go': {
      answers: { [tides]: { json: 1, hold: true } },
      async script({ answers }) {
        await click(the.button('Call'));
        await ensure(the.status()).reads('ringing');
        await answers[tides]!.letGo();
        await ensure(the.status()).reads('200 1');
      },
    },
    unreachable: {
      answers: { [tides]: { unreachable: true } },
      async script() {
        await click(the.button('Call'));
        await ensure(the.status()).reads('no line');
      },
    },
    'answered anew in the script': {
      async script() {
        const second = await answer('/api/*', { json: 'new' });
        await click(the.button('Call'));
        await ensure(the.status()).reads('200 "new"');
        await ensure(second).calls(1);
      },
    },
    'a body is seen': {
      props: { method: 'PUT', body: { metres: 3 } },
      answers: { 'PUT /api/tides/:id': { status: 204 } },
      async script({ answers }) {
        await click(the.button('Call'));
        await ensure(answers['PUT /api/tides/:id']!).wasAskedWith({ body: { metres: 3 }, params: { id: '3' } });
        await ensure(the.status()).reads('204');
      },
    },
    'nobody answers': {
      props: { url: '/api/forgotten' },
      answers: { 'GET /api/forgoten': {} },
      script: callsInVain,
    },
    'nobody answers with what is asked': {
      props: { url: '/api/berths?harbour=Genova&length=14' },
      answers: { 'GET /api/berth?harbour=Genova&length=14': {} },
      script: callsInVain,
    },
    'another host': {
      props: { url: 'https://weather.test/now' },
      answers: { 'GET https://weather.test/now': { body: 'sunny' } },
      async script() {
        await click(the.button('Call'));
        await ensure(the.status()).reads('200 sunny');
      },
    },
  },
});
