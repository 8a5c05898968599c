import { useState } from 'react';
import { ReleaseDialog } from './ReleaseDialog';

type Props = {
  berth: string;
  vessel: string | null;
  /** Metres. */
  draught?: number;
  length?: number;
  /** Depth of water at the berth at low tide, in metres. */
  depth?: number;
  onRelease(berth: string): void;
};

/** One berth: who lies there, how much water is under the keel, and the way to release it. */
export function BerthCard({ berth, vessel, draught, length, depth = 3.2, onRelease }: Props) {
  const [asking, setAsking] = useState(false);
  if (vessel === null) {
    return (
      <section className="card" aria-label={`Berth ${berth}`}>
        <div className="row">
          <h2>{berth}</h2>
          <span className="tag free">Free</span>
        </div>
        <p className="soft" style={{ margin: 0 }}>
          No vessel here, {depth} m at low tide
        </p>
      </section>
    );
  }
  const under = draught === undefined ? null : Math.round((depth - draught) * 10) / 10;
  return (
    <section className="card" aria-label={`Berth ${berth}`}>
      <div className="row">
        <h2>{berth}</h2>
        <span className="tag taken">Moored</span>
      </div>
      <div>
        <strong>{vessel}</strong>
        {length !== undefined && <span className="soft"> · {length} m</span>}
      </div>
      {under !== null && (
        <div>
          <div className={under < 0.5 ? 'meter shallow' : 'meter'} data-testid="under-keel">
            <i style={{ width: `${Math.max(4, Math.min(100, (under / depth) * 100))}%` }} />
          </div>
          <span className="soft">{under < 0 ? 'Aground at low tide' : `${under} m under the keel at low tide`}</span>
        </div>
      )}
      <div className="row">
        <button type="button" className="button" onClick={() => setAsking(true)}>
          Release berth
        </button>
      </div>
      <ReleaseDialog
        berth={berth}
        vessel={vessel}
        open={asking}
        onClose={() => setAsking(false)}
        onConfirm={() => {
          setAsking(false);
          onRelease(berth);
        }}
      />
    </section>
  );
}
