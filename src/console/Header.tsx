/** Over every page: where one is, what goes on, and what can be done from anywhere. */
import { Fragment } from 'react';
import { NavLink } from 'react-router';
import type { ProjectInfo } from '../core/api/api.ts';
import { progressParts } from '../core/run/progress.ts';
import type { SitePage } from '../core/site/site.ts';
import { service, useProject } from './data.ts';
import type { LiveState } from './live.ts';
import { Button } from './parts/Button.tsx';
import { day } from './parts/day.ts';
import { Key } from './parts/Key.tsx';
import { site } from './site.ts';
import type { Theme } from './theme.ts';

const tab = ({ isActive }: { isActive: boolean }): string =>
  'inline-flex h-full items-center gap-1.5 border-b-2 px-1 ' +
  `${isActive ? 'border-accent font-semibold text-ink' : 'border-transparent text-soft hover:text-ink'}`;

function Mark() {
  return (
    <svg
      width="22"
      height="22"
      viewBox="0 0 32 32"
      fill="none"
      strokeWidth="3.2"
      strokeLinecap="round"
      aria-hidden="true"
    >
      <path d="M3 20C8 9 24 9 29 20" className="stroke-accent" />
      <circle r="5" transform="translate(16 20.5)" className="fill-accent" />
      <path d="M8 27.5h16" className="stroke-changed" />
    </svg>
  );
}

function RunState({ live }: { live: LiveState }) {
  const { data: project } = useProject();
  if (!live.connected)
    return (
      <span className="text-failed" role="status">
        ✗ The service is not answering. Start it again: <code className="font-mono">sguardo serve</code>
      </span>
    );
  const run = project?.run;
  if (!run) return null;
  const done = Math.min(run.planned, Math.max(live.run === run.id ? run.reused + live.done : 0, run.done));
  const waiting = project.queued.length;
  const parts = progressParts(project.progress, { ...run, done });
  if (waiting > 0) parts.push(`${waiting} waiting`);
  return (
    <span
      className="flex min-w-0 items-center gap-2 whitespace-nowrap"
      role="status"
      aria-label={`Run ${run.id} in progress`}
    >
      <span
        className="line-clamp-2 min-w-0 text-right text-[11px] leading-[14px] whitespace-normal text-soft tabular-nums"
        title={parts.join(' · ')}
      >
        {/* Where there is little room, they come in two lines. */}
        {parts.map((part, i) => (
          <Fragment key={part}>
            <span className="inline-block">{i < parts.length - 1 ? `${part} ·` : part}</span>{' '}
          </Fragment>
        ))}
      </span>
      <span className="h-1.5 w-16 shrink-0 overflow-hidden rounded-full bg-well max-lg:hidden">
        <span
          className="block h-full bg-accent transition-[width]"
          style={{ width: `${run.planned === 0 ? 4 : (100 * done) / run.planned}%` }}
        />
      </span>
      <Button onClick={() => void service.stopRun(run.id)}>Stop</Button>
    </span>
  );
}

/** What a published page shows, and when it was published. */
function Entry({ site: { entry } }: { site: SitePage }) {
  return (
    <span className="flex items-center gap-2 whitespace-nowrap text-soft">
      <a href="../index.html" className="text-accent underline" title="All that was published">
        {entry.commit ? `Commit ${entry.name}` : entry.name}
      </a>
      {entry.branch && <span className="max-lg:hidden">on {entry.branch}</span>}
      <span className="max-lg:hidden">published {day(entry.at)}</span>
    </span>
  );
}

/** The pages, each with its key. */
function Pages({ undecided }: { undecided: number }) {
  return (
    <nav className="flex h-full gap-4 max-lg:gap-3" aria-label="Pages">
      <NavLink to="/" end className={tab} aria-keyshortcuts="1">
        Board <Key className="max-lg:hidden">1</Key>
      </NavLink>
      <NavLink to="/review" className={tab} aria-keyshortcuts="2">
        Review
        {undecided > 0 && (
          <span className="rounded-full bg-wash px-1.5 text-[11px] font-semibold text-accent tabular-nums">
            {undecided}
            <span className="sr-only"> captures to review</span>
          </span>
        )}
        <Key className="max-lg:hidden">2</Key>
      </NavLink>
      <NavLink to="/accessibility" className={tab} aria-keyshortcuts="3">
        Accessibility <Key className="max-lg:hidden">3</Key>
      </NavLink>
      <NavLink to="/coverage" className={tab} aria-keyshortcuts="4">
        Coverage <Key className="max-lg:hidden">4</Key>
      </NavLink>
      <NavLink to="/handbook" className={tab} aria-keyshortcuts="5">
        Handbook <Key className="max-lg:hidden">5</Key>
      </NavLink>
    </nav>
  );
}

type Props = { project: ProjectInfo; live: LiveState; theme: Theme; onRun: () => void; onAsk: () => void };

export function Header({ project, live, theme, onRun, onAsk }: Props) {
  return (
    <header className="flex h-11 shrink-0 items-center gap-5 border-b border-rule bg-sheet px-4 max-lg:gap-3">
      <span className="flex items-center gap-2 text-[14px] font-semibold tracking-tight">
        <Mark />
        <span className="max-lg:hidden">Sguardo</span>
      </span>
      <span className="max-w-40 shrink-0 truncate text-soft max-lg:hidden" title={project.root}>
        {project.name}
      </span>
      <Pages undecided={project.undecided} />
      <span className="flex-1" />
      {site ? <Entry site={site} /> : <RunState live={live} />}
      {/* It stays there while a run goes on: otherwise Stop would come under a hand that is about to press. */}
      {!site && (
        <Button tone="strong" onClick={onRun} disabled={!live.connected || project.run !== null}>
          <span>
            Run all<span className="max-lg:sr-only"> looks</span>
          </span>
        </Button>
      )}
      <Button
        onClick={theme.toggle}
        aria-label={theme.dark ? 'Light colours' : 'Dark colours'}
        title={`${theme.dark ? 'Light' : 'Dark'} colours (t)`}
      >
        {theme.dark ? '☀' : '☾'}
      </Button>
      <Button onClick={onAsk} aria-label="Keys" title="Keys (?)">
        ?
      </Button>
    </header>
  );
}
