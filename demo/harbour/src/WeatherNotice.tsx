import { useEffect, useState } from 'react';

type Weather = { force: number; from: string; until?: string };
type State = { kind: 'loading' } | { kind: 'unreachable' } | { kind: 'known'; weather: Weather };

/** The weather at a station: calm or gale, or the lack of news. */
export function WeatherNotice({ station }: { station: string }) {
  const [state, setState] = useState<State>({ kind: 'loading' });
  const [asked, setAsked] = useState(0);
  useEffect(() => {
    let current = true;
    setState({ kind: 'loading' });
    fetch(`/api/weather?station=${encodeURIComponent(station)}`)
      .then((reply) => (reply.ok ? reply.json() : Promise.reject(new Error(String(reply.status)))))
      .then((weather: Weather) => current && setState({ kind: 'known', weather }))
      .catch(() => current && setState({ kind: 'unreachable' }));
    return () => {
      current = false;
    };
  }, [station, asked]);

  if (state.kind === 'loading') {
    return (
      <div className="notice unknown" role="status" aria-busy="true" aria-label={`Weather at ${station} is loading`}>
        <h3>{station}</h3>
        <div className="skeleton" style={{ width: '80%' }} />
        <div className="skeleton" style={{ width: '55%' }} />
      </div>
    );
  }
  if (state.kind === 'unreachable') {
    return (
      <div className="notice unknown" role="status">
        <h3>No news from {station}</h3>
        <p style={{ margin: '0 0 8px' }}>The station does not answer. Look at the sky.</p>
        <button type="button" className="button quiet" onClick={() => setAsked(asked + 1)}>
          Ask again
        </button>
      </div>
    );
  }
  const { force, from, until } = state.weather;
  const gale = force >= 8;
  return (
    <div className={gale ? 'notice gale' : 'notice'} role={gale ? 'alert' : 'status'}>
      <h3>{gale ? `Gale warning for ${station}` : `Calm at ${station}`}</h3>
      <p style={{ margin: 0 }}>
        Force {force} from {from}
        {until ? `, until ${until}` : ''}
      </p>
    </div>
  );
}
