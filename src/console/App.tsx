/** The console's frame: its header, and the pages under it. */
import { Tooltip } from 'radix-ui';
import { lazy, Suspense, useState } from 'react';
import { Link, Route, Routes, useNavigate } from 'react-router';
import { Board } from './board/Board.tsx';
import { useProject, useRunNews, useStart } from './data.ts';
import { Header } from './Header.tsx';
import { useLive } from './live.ts';
import { useKeys } from './keys.ts';
import { Palette } from './palette/Palette.tsx';
import { Blank, Trouble, Waiting } from './parts/Blank.tsx';
import { KeysDialog } from './parts/KeysDialog.tsx';
import { ProblemCard } from './parts/ProblemCard.tsx';
import { site } from './site.ts';
import type { Theme } from './theme.ts';
import { useTitle } from './title.ts';

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

/** Under the header until the next run goes better. */
function RunNews() {
  const { about, problems, notes } = useRunNews();
  if (problems.length + notes.length === 0) return null;
  return (
    <div className="flex max-h-60 shrink-0 flex-col gap-2 overflow-y-auto border-b border-rule px-4 py-2">
      {problems.map((problem) => (
        <ProblemCard key={problem.message} problem={problem} about={about} />
      ))}
      {notes.map((note) => (
        <p key={note} className="text-soft">
          Note: {note}
        </p>
      ))}
    </div>
  );
}

function PageMissing() {
  useTitle('Page not found');
  return (
    <Blank title="Page not found">
      There is nothing at this address.{' '}
      <Link to="/" className="text-accent underline">
        Go to the board
      </Link>
    </Blank>
  );
}

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
  return (
    <Tooltip.Provider delayDuration={300}>
      <div className="flex h-full flex-col">
        <Header project={project.data} live={live} theme={theme} onRun={run} onAsk={() => setAsking(true)} />
        {!running && <RunNews />}
        <Palette project={project.data} theme={theme} showKeys={() => setAsking(true)} />
        <KeysDialog open={isAsking} onClose={() => setAsking(false)} />
        <main className="min-h-0 flex-1">
          <Suspense fallback={<Waiting what="Opening the page…" />}>
            <Routes>
              <Route path="/" element={<Board />} />
              <Route path="/bench/:id" element={<Bench project={project.data} dark={theme.dark} />} />
              {!site && <Route path="/live/:id" element={<Live />} />}
              {!site && <Route path="/stage" element={<Stage project={project.data} />} />}
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
