/** The console's frame: where one is, what goes on, and the pages. */
import { Tooltip } from 'radix-ui';
import { lazy, Suspense, useState } from 'react';
import { Link, NavLink, Route, Routes, useNavigate } from 'react-router';
import { progressText } from '../core/run/progress.ts';
import type { SitePage } from '../core/site/site.ts';
import { Board } from './board/Board.tsx';
import { service, useProject, useRunNews, useStart } from './data.ts';
import { type LiveState, useLive } from './live.ts';
import { useKeys } from './keys.ts';
import { site } from './site.ts';
import { Palette } from './palette/Palette.tsx';
import { Blank, Trouble, Waiting } from './parts/Blank.tsx';
import { Button } from './parts/Button.tsx';
import { Key } from './parts/Key.tsx';
import { KeysDialog } from './parts/KeysDialog.tsx';
import { day } from './parts/day.ts';
import { ProblemCard } from './parts/ProblemCard.tsx';
import type { Theme } from './theme.ts';

/** The board comes first and has nothing to wait for; the other pages are loaded when they are gone to. */
const Bench = lazy(async () => ({ default: (await import('./bench/Bench.tsx')).Bench }));
const Accessibility = lazy(async () => ({
  default: (await import('./accessibility/Accessibility.tsx')).Accessibility,
}));
const Coverage = lazy(async () => ({ default: (await import('./coverage/Coverage.tsx')).Coverage }));
const Handbook = lazy(async () => ({ default: (await import('./handbook/Handbook.tsx')).Handbook }));
const Live = lazy(async () => ({ default: (await import('./sitting/Live.tsx')).Live }));
const Stage = lazy(async () => ({ default: (await import('./stage/Stage.tsx')).Stage }));
const History = lazy(async () => ({ default: (await import('./history/History.tsx')).History }));
const Review = lazy(async () => ({ default: (await import('./review/Review.tsx')).Review }));

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
  const text = progressText(project.progress, { ...run, done });
  return (
    <span
      className="flex min-w-0 items-center gap-2 whitespace-nowrap"
      role="status"
      aria-label={`Run ${run.id} in progress`}
    >
      <span className="truncate text-soft tabular-nums" title={text}>
        {text}
      </span>
      <span className="h-1.5 w-16 shrink-0 overflow-hidden rounded-full bg-well">
        <span
          className="block h-full bg-accent transition-[width]"
          style={{ width: `${run.planned === 0 ? 4 : (100 * done) / run.planned}%` }}
        />
      </span>
      <Button onClick={() => void service.stopRun(run.id)}>Stop</Button>
      {waiting > 0 && <span className="text-soft tabular-nums">{waiting} waiting</span>}
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

/** Under the header until the next run goes better. */
function RunNews() {
  const { problems, notes } = useRunNews();
  if (problems.length + notes.length === 0) return null;
  return (
    <div className="flex max-h-60 shrink-0 flex-col gap-2 overflow-y-auto border-b border-rule px-4 py-2">
      {problems.map((problem) => (
        <ProblemCard key={problem.message} problem={problem} about="The last run" />
      ))}
      {notes.map((note) => (
        <p key={note} className="text-soft">
          Note: {note}
        </p>
      ))}
    </div>
  );
}

const PageMissing = () => (
  <Blank title="Page not found">
    There is nothing at this address.{' '}
    <Link to="/" className="text-accent underline">
      Go to the board
    </Link>
  </Blank>
);

export function App({ theme }: { theme: Theme }) {
  const live = useLive();
  const project = useProject();
  const navigate = useNavigate();
  const running = project.data?.run != null;
  const start = useStart();
  const [isAsking, setAsking] = useState(false);
  const run = (): void => start({});
  useKeys({
    '1': () => void navigate('/'),
    '2': () => void navigate('/review'),
    '3': () => void navigate('/accessibility'),
    '4': () => void navigate('/coverage'),
    '5': () => void navigate('/handbook'),
    t: theme.toggle,
    R: () => !running && run(),
    '?': () => setAsking(true),
  });
  if (project.isPending) return <Waiting what="Opening the project…" />;
  if (project.isError) return <Trouble error={project.error} />;
  const open = project.data.undecided;
  return (
    <Tooltip.Provider delayDuration={300}>
      <div className="flex h-full flex-col">
        <header className="flex h-11 shrink-0 items-center gap-5 border-b border-rule bg-sheet px-4">
          <span className="flex items-center gap-2 text-[14px] font-semibold tracking-tight">
            <Mark />
            Sguardo
          </span>
          <span className="truncate text-soft max-lg:hidden" title={project.data.root}>
            {project.data.name}
          </span>
          <nav className="flex h-full gap-4" aria-label="Pages">
            <NavLink to="/" end className={tab} aria-keyshortcuts="1">
              Board <Key className="max-lg:hidden">1</Key>
            </NavLink>
            <NavLink to="/review" className={tab} aria-keyshortcuts="2">
              Review
              {open > 0 && (
                <span className="rounded-full bg-wash px-1.5 text-[11px] font-semibold text-accent tabular-nums">
                  {open}
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
          <span className="flex-1" />
          {site ? <Entry site={site} /> : <RunState live={live} />}
          {/* It stays there while a run goes on: otherwise Stop would come under a hand that is about to press. */}
          {!site && (
            <Button tone="strong" onClick={run} disabled={!live.connected || running}>
              Run all looks
            </Button>
          )}
          <Button
            onClick={theme.toggle}
            aria-label={theme.dark ? 'Light colours' : 'Dark colours'}
            title={`${theme.dark ? 'Light' : 'Dark'} colours (t)`}
          >
            {theme.dark ? '☀' : '☾'}
          </Button>
          <Button onClick={() => setAsking(true)} aria-label="Keys" title="Keys (?)">
            ?
          </Button>
        </header>
        {!running && <RunNews />}
        <Palette project={project.data} theme={theme} showKeys={() => setAsking(true)} />
        <KeysDialog open={isAsking} onClose={() => setAsking(false)} />
        <main className="min-h-0 flex-1">
          <Suspense fallback={<Waiting what="Opening the page…" />}>
            <Routes>
              <Route path="/" element={<Board />} />
              <Route path="/bench/:id" element={<Bench project={project.data} dark={theme.dark} />} />
              <Route path="/live/:id" element={<Live />} />
              <Route path="/stage" element={<Stage project={project.data} />} />
              <Route path="/review" element={<Review />} />
              <Route path="/coverage" element={<Coverage />} />
              <Route path="/accessibility" element={<Accessibility project={project.data} />} />
              <Route path="/handbook" element={<Handbook project={project.data} />} />
              <Route path="/history" element={<History />} />
              <Route path="*" element={<PageMissing />} />
            </Routes>
          </Suspense>
        </main>
      </div>
    </Tooltip.Provider>
  );
}
