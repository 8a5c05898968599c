import { type FormEvent, useState } from 'react';
import { DepthField } from './DepthField';

type Props = {
  berth: string;
  /** Metres of water at the berth. */
  depth: number;
  onArrived(arrival: { vessel: string; number: string }): void;
};

type State = { kind: 'editing'; wrong?: string } | { kind: 'sending' } | { kind: 'done'; number: string };

/** Books a vessel in. */
export function ArrivalForm({ berth, depth, onArrived }: Props) {
  const [state, setState] = useState<State>({ kind: 'editing' });
  const [vessel, setVessel] = useState('');
  const [draught, setDraught] = useState<number | null>(null);
  const [purpose, setPurpose] = useState('visit');
  const [goods, setGoods] = useState(false);

  async function send(event: FormEvent) {
    event.preventDefault();
    setState({ kind: 'sending' });
    try {
      const reply = await fetch(`/api/berths/${berth}/arrivals`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ vessel, draught, purpose, goods }),
      });
      const body = await reply.json();
      if (reply.status === 409) return setState({ kind: 'editing', wrong: body.message });
      if (!reply.ok) throw new Error(String(reply.status));
      setState({ kind: 'done', number: body.number });
      onArrived({ vessel, number: body.number });
    } catch {
      setState({ kind: 'editing', wrong: 'The office cannot be reached. Nothing was booked.' });
    }
  }

  if (state.kind === 'done') {
    return (
      <section className="card" role="status">
        <h2>Welcome, {vessel}</h2>
        <p style={{ margin: 0 }}>
          Berth {berth}, arrival <strong>{state.number}</strong>
        </p>
      </section>
    );
  }
  const sending = state.kind === 'sending';
  return (
    <form className="card" aria-label={`Arrival at ${berth}`} onSubmit={send}>
      <h2>Arrival at {berth}</h2>
      <div className="field">
        <label htmlFor="vessel">Vessel</label>
        <div className="box">
          <input id="vessel" value={vessel} disabled={sending} onChange={(event) => setVessel(event.target.value)} />
        </div>
      </div>
      <DepthField label="Draught" most={depth} disabled={sending} onDepth={setDraught} />
      <div className="field">
        <label htmlFor="purpose">Purpose</label>
        <div className="box">
          <select id="purpose" value={purpose} disabled={sending} onChange={(event) => setPurpose(event.target.value)}>
            <option value="visit">Visit</option>
            <option value="repair">Repair</option>
            <option value="shelter">Shelter from weather</option>
            <option value="trade">Loading or unloading</option>
          </select>
        </div>
      </div>
      <label>
        <input
          type="checkbox"
          checked={goods}
          disabled={sending}
          onChange={(event) => setGoods(event.target.checked)}
        />{' '}
        Dangerous goods on board
      </label>
      {state.kind === 'editing' && state.wrong && (
        <div className="notice gale" role="alert" style={{ width: 'auto' }}>
          {state.wrong}
        </div>
      )}
      <div className="row">
        <button className="button" type="submit" disabled={sending || vessel === '' || draught === null}>
          {sending ? 'Booking…' : 'Book arrival'}
        </button>
      </div>
    </form>
  );
}
