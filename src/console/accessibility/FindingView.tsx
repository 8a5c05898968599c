/** One finding: what is wrong and what to do, the element outlined in the picture, and the looks that show it. */
import { useState } from 'react';
import { Link } from 'react-router';
import type { ProjectInfo } from '../../core/api/api.ts';
import { severityOf } from '../../core/accessibility/finding.ts';
import type { ListedFinding, Sighting } from '../../core/accessibility/listing.ts';
import { criterionUrl, ruleOf } from '../../core/accessibility/rules.ts';
import { shortName } from '../../core/look/look.ts';
import { counted } from '../../core/text/counted.ts';
import { service } from '../data.ts';
import { CopyButton } from '../parts/CopyButton.tsx';
import { usePortion } from '../parts/usePortion.tsx';
import { useRoom } from '../review/useRoom.ts';
import { SeverityMark } from './FindingRows.tsx';

const code =
  'rounded border border-rule bg-well p-2 font-mono text-[11px] leading-[16px] text-ink ' +
  'whitespace-pre-wrap break-words';
const sightingButton = 'min-w-0 flex-1 truncate text-left hover:text-accent';

export function FindingView({ finding, project }: { finding: ListedFinding; project: ProjectInfo }) {
  const { rule, element, what, component, sightings, standing, certain } = finding;
  const { title, why, fix, criterion } = ruleOf(rule);
  const [at, setAt] = useState(0);
  const { shown, more } = usePortion(sightings);
  const sighting = sightings[at]!;
  const accept = `accept: [{ rule: '${rule}', element: ${JSON.stringify(element)}, why: '…' }],`;
  return (
    <div className="flex min-h-0 min-w-0 flex-col overflow-y-auto">
      <div className="grid shrink-0 grid-cols-[1fr_minmax(220px,24vw)] gap-6 border-b border-rule px-5 py-4">
        <div>
          <h2 className="mb-1 flex items-baseline gap-3 text-[15px] font-semibold">
            {title}
            <span className="text-[12.5px] font-normal">
              <SeverityMark severity={severityOf(finding)} />
            </span>
          </h2>
          <p>
            {shortName(component)}: <span className="font-medium">{element}</span>
          </p>
          <p className="mt-1">{what}</p>
          <p className="mt-2 text-soft">{why}</p>
          <p className="mt-1">→ {fix}</p>
        </div>
        <div className="text-soft">
          <p>
            {rule}
            {criterion && (
              <>
                {' · '}
                <a className="text-accent underline" href={criterionUrl(criterion)} target="_blank" rel="noreferrer">
                  WCAG 2.2, {criterion}
                </a>
              </>
            )}
          </p>
          {!certain && <p className="mt-1">A machine cannot tell: please look.</p>}
          {standing.is === 'known' && <p className="mt-1">Known since {standing.since}.</p>}
          {standing.is === 'accepted' && <p className="mt-1">Accepted: {standing.why}</p>}
          {standing.is !== 'accepted' && (
            <div className="mt-2">
              <p className="mb-1">To accept it, in the look file:</p>
              <pre className={code}>{accept}</pre>
              <span className="mt-1.5 flex">
                <CopyButton text={accept} what="line" />
              </span>
            </div>
          )}
        </div>
      </div>
      <div className="grid min-h-[340px] flex-1 grid-cols-[minmax(0,1fr)_minmax(200px,20vw)]">
        <Outlined sighting={sighting} project={project} />
        <div className="min-h-0 overflow-y-auto border-l border-rule p-4">
          {finding.causes.length > 0 && <Causes causes={finding.causes} />}
          <h3 className="mb-1 font-semibold">{counted(sightings.length, 'look shows', 'looks show')} it</h3>
          <ul>
            {shown.map((one, index) => (
              <li key={`${one.result} ${one.step} ${one.node}`} className="flex items-baseline gap-2">
                <button
                  type="button"
                  className={`${sightingButton} ${index === at ? 'font-semibold' : ''}`}
                  onClick={() => setAt(index)}
                >
                  {one.look} <span className="text-soft">{one.environment}</span>
                </button>
                <Link to={`/bench/${one.result}?step=${one.step}`} className="text-accent hover:underline">
                  bench
                </Link>
              </li>
            ))}
          </ul>
          {more}
        </div>
      </div>
    </div>
  );
}

/** Why it has come, as the pictures say. */
const Causes = ({ causes }: Pick<ListedFinding, 'causes'>) => (
  <section className="mb-4">
    <h3 className="mb-1 font-semibold">It has come with</h3>
    <ul>
      {causes.map(({ id, title, place }) => (
        <li key={id}>
          <Link to={`/review?cause=${id}`} className="text-accent hover:underline">
            {title}
          </Link>
          {place && <span className="block font-mono text-[11px] text-soft">{`${place.file}:${place.line}`}</span>}
        </li>
      ))}
    </ul>
  </section>
);

/** The picture at a look's end with the element outlined. */
function Outlined({
  sighting: { box, picture, look, environment },
  project,
}: {
  sighting: Sighting;
  project: ProjectInfo;
}) {
  const { area, size } = useRoom();
  const [natural, setNatural] = useState<[number, number] | null>(null);
  const ratio = project.environments.find(({ name }) => name === environment)?.ratio ?? 1;
  if (picture === null) return <p className="p-5 text-soft">This look has no picture.</p>;
  const scale = natural ? Math.min(1, size[0] / natural[0], size[1] / natural[1]) : 1;
  const [left, top, width, height] = (box ?? [0, 0, 0, 0]).map((value) => value * ratio * scale) as [
    number,
    number,
    number,
    number,
  ];
  return (
    <div className="min-h-0 p-5">
      <div ref={area} className="h-full w-full overflow-hidden">
        <div className="checks relative w-fit border border-rule">
          <img
            src={service.pictureUrl(picture)}
            alt={`${look}, ${environment}`}
            onLoad={({ currentTarget: { naturalWidth, naturalHeight } }) => setNatural([naturalWidth, naturalHeight])}
            style={{ width: natural ? natural[0] * scale : undefined, visibility: natural ? 'visible' : 'hidden' }}
            className="block max-w-none"
          />
          {natural && width > 0 && (
            <span
              className="pointer-events-none absolute rounded-sm outline-2 outline-offset-2 outline-failed"
              style={{ left, top, width, height }}
            />
          )}
        </div>
      </div>
    </div>
  );
}
