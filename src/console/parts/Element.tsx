/** The element that somebody has pointed at: how a look names it, and what it is. */
import type { Pointed, PointedStyle } from '../../core/wire/live.ts';
import { counted } from '../../core/text/counted.ts';
import { Button } from './Button.tsx';
import { CopyButton } from './CopyButton.tsx';

const Fact = ({ what, is }: { what: string; is: string }) =>
  is === '' ? null : (
    <>
      <dt className="text-soft">{what}</dt>
      <dd className="min-w-0 break-words">{is}</dd>
    </>
  );

/** Where a value comes from: the tokens it was written with, with what they stand for. */
const Style = ({ style: { property, value, tokens, rule } }: { style: PointedStyle }) => (
  <li className="py-0.5">
    <span className="text-soft">{property}</span> {value}
    {tokens.map((token) => (
      <span
        key={token.name}
        className="ml-1 inline-block max-w-full rounded bg-well px-1 break-words"
        title={`${token.name}: ${token.value}`}
      >
        {token.name}
      </span>
    ))}
    {rule && <span className="ml-1 text-soft">{rule}</span>}
  </li>
);

export function Element({ pointed, onClose }: { pointed: Pointed; onClose(): void }) {
  const { element, targets, role, name, description, states, box, styles, component } = pointed;
  const [left, top, width, height] = box;
  return (
    <section aria-label="Element" className="border-b border-rule px-3 py-2">
      <div className="mb-1 flex h-7 items-center gap-2">
        <h2 className="flex-1 font-semibold">
          Element <span className="font-mono font-normal text-soft">{element}</span>
        </h2>
        <Button onClick={onClose}>Close</Button>
      </div>
      <ul className="mb-2">
        {targets.map(({ code, matches }) => (
          <li key={code} className="flex items-center gap-2 py-0.5">
            <code className="min-w-0 flex-1 font-mono text-[11.5px] break-words">{code}</code>
            <span className="shrink-0 text-[11px] text-soft">
              {matches === 1 ? 'only it' : counted(matches, 'match', 'matches')}
            </span>
            <CopyButton text={code} what="" />
          </li>
        ))}
      </ul>
      <dl className="grid grid-cols-[5.5rem_1fr] gap-x-2 text-[11.5px]">
        <Fact what="Role" is={role ?? 'none'} />
        <Fact what="Name" is={name === '' ? 'none' : `“${name}”`} />
        <Fact what="Description" is={description} />
        <Fact what="States" is={states.join(', ')} />
        <Fact what="Box" is={`${width} × ${height} at ${left}, ${top}`} />
        <Fact what="Component" is={component?.name ?? ''} />
        <Fact what="Its props" is={component?.props ?? ''} />
        <Fact what="Source" is={component?.place ?? ''} />
      </dl>
      {styles.length > 0 && (
        <details className="mt-1 text-[11.5px]" open>
          <summary className="cursor-pointer text-soft">Styles of its own</summary>
          <ul aria-label="Styles" className="max-h-56 overflow-y-auto font-mono text-[11px] break-words">
            {styles.map((style) => (
              <Style key={style.property} style={style} />
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
