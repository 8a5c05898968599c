/** Above the stage: which look is on it, where it is shown, and what can be done with it. */
import type { ProjectInfo } from '../../core/api/api.ts';
import { componentOf } from '../../core/look/look.ts';
import { Button } from '../parts/Button.tsx';
import { Crumbs } from '../parts/Crumbs.tsx';
import type { Stage } from './useStage.ts';

type Props = { stage: Stage };

const field = 'h-7 rounded-md border border-rule bg-sheet px-2';
const pressed = 'aria-pressed:border-accent aria-pressed:bg-wash';

const zooms = [0.5, 0.75, 1, 1.5, 2];

const Look = ({ stage: { shown, setLook } }: Props) =>
  shown && (
    <select
      aria-label="Look"
      value={shown.look}
      onChange={({ target }) => setLook(target.value)}
      className={`${field} max-w-64`}
    >
      {shown.looks.map(({ look }) => (
        <option key={look}>{look}</option>
      ))}
    </select>
  );

function Environments({ stage, all }: Props & { all: ProjectInfo['environments'] }) {
  const { environments } = stage;
  const toggle = (name: string): void => {
    const isOn = environments.includes(name);
    const next = isOn ? environments.filter((one) => one !== name) : [...environments, name];
    if (next.length > 0) stage.setEnvironments(next);
  };
  return (
    <fieldset aria-label="Environments" className="flex flex-wrap gap-1">
      {all.map(({ name }) => (
        <Button key={name} onClick={() => toggle(name)} aria-pressed={environments.includes(name)} className={pressed}>
          {name}
        </Button>
      ))}
    </fieldset>
  );
}

const Zoom = ({ stage: { zoom, setZoom } }: Props) => (
  <select
    aria-label="Zoom"
    value={zoom ?? ''}
    onChange={({ target }) => setZoom(Number(target.value) || null)}
    className={field}
  >
    <option value="">Fit</option>
    {zooms.map((one) => (
      <option key={one} value={one}>
        {one * 100} %
      </option>
    ))}
  </select>
);

const OwnPage = ({ address }: { address: string }) => (
  <a
    href={address}
    target="_blank"
    rel="noreferrer"
    className={`${field} inline-flex items-center font-medium whitespace-nowrap hover:border-accent`}
    title="Open it as a page of its own, for the browser's developer tools"
  >
    Own page ↗
  </a>
);

type BarProps = Props & { project: ProjectInfo; address: string; onWrite(): void };

export const Bar = ({ stage, project, address, onWrite }: BarProps) => (
  <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-rule px-4 py-1.5">
    <Crumbs component={componentOf(stage.file)} />
    <h1 className="text-[14px] font-semibold">Stage</h1>
    <Look stage={stage} />
    <span className="flex-1" />
    <Environments stage={stage} all={project.environments} />
    <Button
      onClick={() => stage.setPointing(!stage.isPointing)}
      aria-pressed={stage.isPointing}
      title="Choose an element: which target names it, what it is (e)"
      shortcut="e"
      className={pressed}
    >
      Point
    </Button>
    <Button
      onClick={onWrite}
      title="Use the look in the browser of the runs, and have what you do written down (w)"
      shortcut="w"
    >
      Write down
    </Button>
    {stage.environments.length > 1 && (
      <Button
        onClick={() => stage.setTogether(!stage.isTogether)}
        aria-pressed={stage.isTogether}
        title="What you do in one environment is done in the others"
        className={pressed}
      >
        Together
      </Button>
    )}
    <Zoom stage={stage} />
    <Button onClick={stage.reset} title="Mount it anew (r)" shortcut="r">
      Reset
    </Button>
    <OwnPage address={address} />
  </div>
);
