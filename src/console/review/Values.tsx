/** Values before and now: swatches for colours, and what declarations win. */
import type { Cluster, PlacedEffect, PlacedWinner } from '../../core/cause/cluster.ts';
import { winnerText } from '../../core/cause/effect.ts';

/** True for a value that a swatch can show. */
const isColour = (value: string): boolean => CSS.supports('color', value) && !/^(inherit|initial|unset)$/.test(value);

const Swatch = ({ value }: { value: string }) => (
  <span className="checks inline-block size-3.5 rounded-sm border border-rule align-[-2px]" aria-hidden="true">
    <span className="block size-full rounded-sm" style={{ background: value }} />
  </span>
);

const Value = ({ value }: { value: string }) => (
  <span className="break-words">
    {isColour(value) && <Swatch value={value} />} {value}
  </span>
);

/** Values of a token or a declaration, one change a line. */
export function Values({ before, now, kind }: Pick<Cluster, 'before' | 'now' | 'kind'>) {
  if (before === null || now === null || (kind !== 'token' && kind !== 'style' && kind !== 'text')) return null;
  const parts = (value: string): string[] => (kind === 'text' ? [value] : value.split(/, (?=[^)]*(?:\(|$))/));
  const [from, to] = [parts(before), parts(now)];
  if (from.length !== to.length) return null;
  return (
    <ul className="flex flex-col gap-0.5 font-mono text-[11.5px]">
      {from.map((value, i) => (
        <li key={i} className="grid grid-cols-[3.2rem_1fr] gap-x-1">
          <span className="font-sans text-soft">before</span>
          <Value value={value} />
          <span className="font-sans text-soft">now</span>
          <Value value={to[i]!} />
        </li>
      ))}
    </ul>
  );
}

const Winner = ({ winner }: { winner: PlacedWinner }) => (
  <span className="break-words">
    {winnerText(winner)}
    {winner.place && (
      <span className="text-soft">
        {' '}
        {winner.place.file}:{winner.place.line}
      </span>
    )}
  </span>
);

/** What a cause does to computed styles, and by which declarations. */
export function Effects({ effects }: { effects: readonly PlacedEffect[] }) {
  if (effects.length === 0) return null;
  return (
    <section>
      <h3 className="mb-0.5 text-[11px] font-semibold text-soft">What it does</h3>
      <ul className="flex flex-col gap-1.5 font-mono text-[11px] leading-4">
        {effects.map((effect) => (
          <li key={effect.properties.join()}>
            <span className="block">
              {effect.properties.join(', ')}: <Value value={effect.before} /> → <Value value={effect.now} />
            </span>
            {effect.by && (
              <span className="block pl-2">
                <span className="font-sans text-soft">by </span>
                <Winner winner={effect.by} />
              </span>
            )}
            {effect.wasBy && JSON.stringify(effect.wasBy) !== JSON.stringify(effect.by) && (
              <span className="block pl-2">
                <span className="font-sans text-soft">before by </span>
                <Winner winner={effect.wasBy} />
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
