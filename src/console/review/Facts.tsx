/** What differs, in numbers and lines. */
import { plainDistance } from '../../core/picture/colour.ts';
import type { CaptureSummary } from '../../core/run/run.ts';

export function Facts({ capture }: { capture: CaptureSummary }) {
  const { state } = capture;
  return (
    <div className="max-h-[30%] shrink-0 overflow-y-auto border-t border-rule bg-sheet px-4 py-2">
      {state.kind === 'new' && (
        <p className="text-soft">
          Nothing has been approved for this capture yet. It is {capture.width} × {capture.height} pixels.
        </p>
      )}
      {state.kind === 'unreadable' && (
        <p className="text-failed">
          ✗ {state.why.message} {state.why.remedy}
        </p>
      )}
      {state.kind === 'changed' && (
        <div className="flex flex-wrap items-start gap-x-8 gap-y-2">
          {state.picture && (
            <dl className="grid grid-cols-[auto_auto] gap-x-3 tabular-nums">
              <dt className="text-soft">Visibly different</dt>
              <dd>{state.picture.visible.toLocaleString()}</dd>
              <dt className="text-soft">Pixels that differ</dt>
              <dd>{state.picture.differing.toLocaleString()}</dd>
              <dt className="text-soft">Regions</dt>
              <dd>{state.picture.regions.length}</dd>
              <dt className="text-soft">Strongest</dt>
              <dd>
                {state.picture.strongest.toFixed(3)}
                {state.picture.strongest < plainDistance ? ', faint' : ''}
              </dd>
              <dt className="text-soft">Size</dt>
              <dd>
                {state.picture.from.join(' × ')}
                {state.picture.from.join() === state.picture.to.join() ? '' : ` → ${state.picture.to.join(' × ')}`}
              </dd>
            </dl>
          )}
          {state.otherFingerprint && (
            <p className="max-w-[44ch] rounded-md border border-changed/60 bg-changed/8 px-3 py-1.5">
              The baseline was taken with another browser version, other fonts or another environment; this need not be
              a regression.
            </p>
          )}
          <div className="min-w-0 flex-1">
            <h3 className="text-[11px] font-semibold text-soft">
              {state.markup.length === 0 ? 'The markup is the same' : 'Markup'}
            </h3>
            <ul className="font-mono text-[11.5px]">
              {state.markup.slice(0, 60).map((change, i) => (
                <li key={i} className={`whitespace-pre-wrap ${change.side === 'now' ? 'text-passed' : 'text-failed'}`}>
                  {change.side === 'now' ? '+' : '−'} {change.text.trim()}
                </li>
              ))}
              {state.markup.length > 60 && <li className="text-soft">and {state.markup.length - 60} more lines</li>}
            </ul>
          </div>
        </div>
      )}
    </div>
  );
}
