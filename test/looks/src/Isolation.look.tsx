import { useEffect } from 'react';
import { ensure, looks } from 'sguardo';

let mounted = 0;

/** Leaves traces everywhere. */
function Messy({ messy = false }: { messy?: boolean }) {
  mounted++;
  useEffect(() => {
    if (!messy) return;
    localStorage.setItem('berth', 'C-14');
    sessionStorage.setItem('berth', 'C-14');
    // biome-ignore lint/suspicious/noDocumentCookie: it is what this is about
    document.cookie = 'berth=C-14';
    document.title = 'Messy';
    document.body.className = 'messy';
    document.documentElement.style.fontSize = '40px';
    document.head.append(Object.assign(document.createElement('style'), { textContent: 'p { color: red; }' }));
    document.body.append(document.createElement('hr'));
    history.pushState(null, '', '/messy?page=2');
    setInterval(() => document.body.setAttribute('data-ticks', String(performance.now())), 5);
    window.addEventListener('keydown', () => document.body.setAttribute('data-key', 'heard'));
    indexedDB.open('harbour');
  }, [messy]);
  return <p>{messy ? 'messy' : 'tidy'}</p>;
}

const traces = () => ({
  storage: localStorage.length + sessionStorage.length,
  cookie: document.cookie,
  title: document.title,
  body: [...document.body.attributes].map(({ name }) => name).join(),
  size: getComputedStyle(document.documentElement).fontSize,
  colour: getComputedStyle(document.querySelector('p')!).color,
  rules: document.querySelectorAll('hr').length,
  path: location.pathname + location.search,
});

const clean = {
  storage: 0,
  cookie: '',
  title: '',
  body: '',
  size: '16px',
  colour: 'rgb(0, 0, 0)',
  rules: 0,
  path: '/',
};

export default looks(Messy, {
  states: {
    messy: { props: { messy: true } },
    'finds nothing of it': {
      async script() {
        await ensure(traces).equals(clean);
        await new Promise((resolve) => setTimeout(resolve, 60));
        await ensure(traces).equals(clean);
      },
    },
    'the clock starts where it always does': {
      async script() {
        await ensure(() => new Date().toISOString().slice(0, 16)).equals('2026-03-02T09:30');
        await ensure(Date.now() - Date.UTC(2026, 2, 2, 9, 30) < 60_000).equals(true);
        await ensure(new Date(0).getTime()).equals(0);
        await ensure(new Date() instanceof Date).equals(true);
      },
    },
    'chance is the same every time': {
      async script() {
        await ensure([Math.random(), Math.random()].map((n) => n.toFixed(4))).equals(['0.8079', '0.7030']);
      },
    },
    'time zone, language and preferences are those of the environment': {
      async script() {
        await ensure([
          Intl.DateTimeFormat().resolvedOptions().timeZone,
          navigator.language,
          (0.5).toLocaleString(),
        ]).equals(['UTC', 'en-GB', '0.5']);
        await ensure([
          innerWidth,
          innerHeight,
          matchMedia('(prefers-reduced-motion: reduce)').matches,
          matchMedia('(prefers-color-scheme: dark)').matches,
        ]).equals([640, 480, true, false]);
      },
    },
    'depends on what ran before it': {
      async script() {
        // Alone in a fresh document it is mounted for the first time.
        await ensure(mounted).equals(1);
      },
    },
  },
});
