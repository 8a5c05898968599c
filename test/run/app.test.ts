/** A whole app as a component: with its router, its providers, lazy pages and requests. */
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { project } from '../support/project.ts';
import { serve } from '../support/service.ts';

const app = `import { lazy, Suspense, useEffect, useState } from 'react';
import { BrowserRouter, Link, NavLink, Route, Routes, useNavigate, useParams, useSearchParams } from 'react-router';
const Fees = lazy(() => import('./Fees'));
function Berths() {
  const [berths, setBerths] = useState<{ name: string }[] | null>(null);
  useEffect(() => {
    void fetch('/api/berths')
      .then((r) => r.json())
      .then(setBerths);
  }, []);
  return (
    <ul>
      {(berths ?? []).map(({ name }) => (
        <li key={name}>
          <Link to={'/berths/' + name + '?tide=low'}>{name}</Link>
        </li>
      ))}
    </ul>
  );
}
function Berth() {
  const { name } = useParams();
  const [search, setSearch] = useSearchParams();
  const go = useNavigate();
  return (
    <section aria-label={'Berth ' + name}>
      <p>tide {search.get('tide') ?? 'unknown'}</p>
      <button type="button" onClick={() => setSearch({ tide: 'high' })}>
        High water
      </button>
      <button type="button" onClick={() => go(-1)}>
        Back
      </button>
    </section>
  );
}
export function Office() {
  return (
    <BrowserRouter>
      <nav>
        <NavLink to="/berths">Berths</NavLink> <NavLink to="/fees">Fees</NavLink>
      </nav>
      <Suspense fallback={<p>loading</p>}>
        <Routes>
          <Route path="/" element={<h1>Harbour office</h1>} />
          <Route path="/berths" element={<Berths />} />
          <Route path="/berths/:name" element={<Berth />} />
          <Route path="/fees" element={<Fees />} />
          <Route path="*" element={<h1>No such page</h1>} />
        </Routes>
      </Suspense>
    </BrowserRouter>
  );
}
`;
const looks = `import { capture, click, ensure, looks, the } from 'sguardo/react';
import { Office } from './Office';
export default looks(Office, {
  answers: { 'GET /api/berths': { json: [{ name: 'C-14' }, { name: 'C-15' }] } },
  states: {
    home: { async script() { await ensure(the.heading('Harbour office')).isVisible(); } },
    'no such page': { location: '/cranes', async script() { await ensure(the.heading('No such page')).isVisible(); } },
    'starts at a berth': { location: '/berths/C-15?tide=low', async script() {
      await ensure(the.region('Berth C-15')).isVisible();
      await ensure(the.text('tide low')).isVisible();
    } },
    'goes there and back': { async script() {
      await click(the.link('Berths'));
      await ensure(the.listitem()).counts(2);
      await capture('berths');
      await click(the.link('C-14'));
      await ensure(the.region('Berth C-14')).isVisible();
      await click(the.button('High water'));
      await ensure(the.text('tide high')).isVisible();
      await click(the.button('Back'));
      await ensure(the.text('tide low')).isVisible();
      await click(the.button('Back'));
      await ensure(the.link('C-15')).isVisible();
      await ensure(the.link('Berths')).hasAttribute('aria-current', 'page');
    } },
    'a page that is fetched': { after: 'home', async script() {
      await click(the.link('Fees'));
      await ensure(the.heading('Fees')).isVisible();
    } },
    'home again': { async script() { await ensure(the.heading('Harbour office')).isVisible(); } },
  },
});
`;

describe('a whole app', () => {
  let results: ResultSummary[];

  beforeAll(async () => {
    const served = await serve(
      project({
        'src/Office.tsx': app,
        'src/Fees.tsx': `export default function Fees() { return <h1>Fees</h1>; }`,
        'src/Office.look.tsx': looks,
      }),
    );
    ({ results } = await served.run());
  });

  it.each(['home', 'no such page', 'starts at a berth', 'goes there and back', 'a page that is fetched', 'home again'])(
    'with its router is a component like any other: %s',
    (name) => {
      expect(results.find(({ look }) => look === name)).toMatchObject({ verdict: 'new', problem: null, notes: [] });
    },
  );
});
