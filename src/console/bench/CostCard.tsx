/** What a step cost the browser, and which functions ran in it. */
import { useState } from 'react';
import { costKinds, type Costs, costText, costWords, type Flame } from '../../core/timing/costs.ts';
import { costParts } from './CostRow.tsx';

export function CostCard({ costs, flame }: { costs: Costs; flame: Flame | undefined }) {
  return (
    <section>
      <h4 className="mb-1 text-[11px] font-semibold text-soft">What it cost</h4>
      <dl className="flex flex-wrap gap-x-4 gap-y-0.5 text-[11.5px]">
        {costKinds.map((kind) => {
          const value = costs[kind];
          if (value === null || (value === 0 && (kind === 'longTasks' || kind === 'shift'))) return null;
          const swatch = costParts.find((part) => part.kind === kind)?.swatch;
          return (
            <div key={kind} className="flex items-center gap-1.5">
              {swatch && <span className={`block size-2 rounded-xs ${swatch}`} aria-hidden="true" />}
              <dt className="text-soft">{costWords[kind].title}</dt>
              <dd className="tabular-nums">{costText(kind, value)}</dd>
            </div>
          );
        })}
      </dl>
      {flame && <Flames root={flame} />}
    </section>
  );
}

const rowHeight = 18;
const deepest = 24;

/** How deep a flame is, up to what is drawn. */
const depthOf = ({ kids }: Flame): number => 1 + Math.max(0, ...kids.map(depthOf));

type Box = { flame: Flame; left: number; width: number; row: number };

/** Where each function is drawn: as wide as its time, below what called it. */
function boxesOf(flame: Flame, left: number, width: number, row: number): Box[] {
  const boxes: Box[] = [{ flame, left, width, row }];
  let at = left;
  for (const kid of flame.kids) {
    const wide = flame.total === 0 ? 0 : (width * kid.total) / flame.total;
    if (wide > 0.4 && row < deepest) boxes.push(...boxesOf(kid, at, wide, row + 1));
    at += wide;
  }
  return boxes;
}

/** True for a function of the project itself. */
const isOwn = ({ place }: Flame): boolean => place !== null && !place.startsWith('node_modules/');

const label = ({ name, place, total }: Flame): string => `${name}, ${total.toFixed(1)} ms${place ? `, ${place}` : ''}`;

/** Functions by their time, the callers above; one that is pressed takes the whole width. */
function Flames({ root }: { root: Flame }) {
  const [chosen, setChosen] = useState<Flame>(root);
  const boxes = boxesOf(chosen, 0, 100, 0);
  return (
    <div className="mt-2">
      <fieldset
        className="relative overflow-hidden"
        aria-label="Functions by their time"
        style={{ height: Math.min(deepest + 1, depthOf(chosen)) * rowHeight }}
      >
        {boxes.map(({ flame, left, width, row }, i) => (
          <button
            key={i}
            type="button"
            title={label(flame)}
            aria-label={label(flame)}
            onClick={() => setChosen(flame === chosen ? root : flame)}
            className={`absolute truncate rounded-xs border border-sheet px-1 text-left font-mono text-[10.5px] ${
              isOwn(flame) ? 'bg-accent text-paper' : 'bg-wash text-ink'
            }`}
            style={{ left: `${left}%`, width: `${width}%`, top: row * rowHeight, height: rowHeight }}
          >
            {flame.name}
          </button>
        ))}
      </fieldset>
      <p className="mt-1 truncate text-[11px] text-soft">
        {chosen === root ? 'Press a function to see it alone.' : label(chosen)}
      </p>
    </div>
  );
}
