/** The props of what is on the stage, to be turned by hand, and what its callbacks were called with. */
import type { Prop, PropTypes } from '../../core/props/type.ts';
import { Button } from '../parts/Button.tsx';
import { CopyButton } from '../parts/CopyButton.tsx';
import { PropInput } from './PropInput.tsx';
import { Element } from '../parts/Element.tsx';
import { Keep } from './Keep.tsx';
import type { Called, Shown } from './useSaid.ts';
import type { Stage } from './useStage.ts';

const anything: Prop = { type: { is: 'anything' }, isOptional: true, isOwn: true };

/** All props that are known, by their types or because the look gives them. */
function propsOf(types: PropTypes | null, given: Shown['props']): [string, Prop][] {
  const shapes = types?.is === 'one' ? types.of : types ? [types] : [];
  const known: Record<string, Prop> = {};
  for (const shape of shapes) if (shape.is === 'object') Object.assign(known, shape.entries);
  for (const name of Object.keys(given)) known[name] ??= anything;
  return Object.entries(known);
}

const isCallback = ({ type }: Prop, given: Shown['props'][string] | undefined): boolean =>
  type.is === 'function' || (given !== undefined && 'words' in given && given.words.startsWith('function'));

/** Props as they are written in a look file. */
const asSource = (props: Record<string, unknown>): string =>
  JSON.stringify(props).replace(/\{"\$date":("[^"]*")\}/g, 'new Date($1)');

function Calls({ names, calls }: { names: string[]; calls: Called[] }) {
  return (
    <section aria-label="Calls" className="border-t border-rule px-3 py-2">
      <h2 className="mb-1 font-semibold">Calls</h2>
      {calls.length === 0 && (
        <p className="text-soft">{names.length === 0 ? 'It has no callbacks.' : `None yet of ${names.join(', ')}.`}</p>
      )}
      <ol className="flex flex-col-reverse" aria-live="polite">
        {calls.map(({ prop, args, at }, index) => (
          <li key={`${at} ${String(index)}`} className="truncate font-mono text-[11.5px]" title={`${prop}(${args})`}>
            {prop}({args})
          </li>
        ))}
      </ol>
    </section>
  );
}

export function Inputs({ stage, shown }: { stage: Stage; shown: Shown }) {
  const all = propsOf(shown.types, shown.props);
  const callbacks = all.filter(([name, prop]) => isCallback(prop, shown.props[name]));
  const inputs = all.filter((one) => !callbacks.includes(one));
  const changed = Object.keys(stage.over);
  return (
    <div className="flex h-full min-h-0 flex-col overflow-y-auto border-l border-rule bg-sheet">
      {stage.pointed && <Element pointed={stage.pointed} onClose={stage.forgetPointed} />}
      <section aria-label="Inputs" className="px-3 py-2">
        <div className="mb-1 flex h-7 items-center gap-2">
          <h2 className="flex-1 font-semibold">Inputs</h2>
          {changed.length > 0 && (
            <>
              <CopyButton text={`props: ${asSource(stage.over)}`} what="props" />
              <Button onClick={stage.restoreAll}>Restore all</Button>
            </>
          )}
        </div>
        <Keep stage={stage} look={shown.look} />
        {inputs.length === 0 && <p className="text-soft">It takes no props that can be given by hand.</p>}
        {inputs.map(([name, { type, isOptional }]) => (
          <PropInput
            key={`${shown.look} ${name}`}
            name={name}
            type={type}
            isOptional={isOptional}
            given={shown.props[name]}
            over={stage.over[name]}
            put={(value) => stage.put(name, value)}
          />
        ))}
      </section>
      <Calls names={callbacks.map(([name]) => name)} calls={stage.calls} />
    </div>
  );
}
