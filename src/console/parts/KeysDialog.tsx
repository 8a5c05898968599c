/** Which keys do what, on every page. */
import { Dialog } from 'radix-ui';

type Keys = { page: string; keys: [keys: string, does: string][] };

const all: Keys[] = [
  {
    page: 'Everywhere',
    keys: [
      ['1 2 3 4 5', 'Board, review, accessibility, coverage, handbook'],
      ['k', 'What to do, by its name (Ctrl+K everywhere)'],
      ['R', 'Run all looks'],
      ['t', 'Light or dark colours'],
      ['?', 'This list'],
    ],
  },
  {
    page: 'Board',
    keys: [
      ['← → ↑ ↓', 'Choose a look or a group'],
      ['Home End', 'The first look, the last one'],
      ['Enter', 'Open the look; fold or unfold the group'],
      ['e', 'Show the look in its next environment'],
      ['f', 'Fold or unfold the group'],
      ['F', 'Fold or unfold all groups'],
      ['r', 'Run the look'],
      ['d', 'Components without looks'],
      ['/', 'Search'],
    ],
  },
  {
    page: 'Bench',
    keys: [
      ['← →', 'Previous step, next step'],
      ['Shift ← →', 'Previous moment, next moment'],
      ['Home End', 'The first step, the last one'],
      ['b', 'Before or after the step'],
      ['f', 'The step that failed'],
      ['l', 'Go live from here: the page as it was, to be used'],
      ['e', 'Point at an element of the page as it was'],
      ['x', 'Stop before this step when it is live'],
      ['s', 'The look as a live page'],
      ['p n', 'Previous look, next look'],
      ['r', 'Run the look'],
      ['Esc', 'Back to the board'],
    ],
  },
  {
    page: 'Live look',
    keys: [
      ['g', 'Go on'],
      ['o i', 'Over the next step, into it'],
      ['m', 'Let time run, or stand still'],
      ['e', 'Point at an element'],
      ['w', 'Write down what you do'],
      ['l', 'Write a line'],
      ['p', 'To the page (Shift+Esc leaves it)'],
      ['Esc', 'Back to the board'],
    ],
  },
  {
    page: 'Stage',
    keys: [
      ['e', 'Point at an element'],
      ['w', 'Use it, and have that written down'],
      ['r', 'Mount the component anew'],
      ['Esc', 'Back to the board'],
    ],
  },
  {
    page: 'Accessibility',
    keys: [['↑ ↓', 'Previous finding, next finding']],
  },
  {
    page: 'Coverage',
    keys: [
      ['↑ ↓', 'Previous source, next source'],
      ['n p', 'Next gap, previous gap'],
    ],
  },
  {
    page: 'Review',
    keys: [
      ['↑ ↓', 'Previous cause, next cause'],
      ['← →', 'Previous capture of it, next capture'],
      ['a', 'Approve the cause in all its captures'],
      ['e', 'Leave this capture out, or take it in again'],
      ['x', 'Reject, with a reason'],
      ['u', 'Undo your last decision'],
      ['c', 'Comment'],
      ['s o d f', 'Side by side, over, difference, flicker'],
      ['i m', 'Only this cause, markup'],
      ['b l r', 'Merge conflicts: take base, ours, theirs'],
    ],
  },
];

const place =
  'fixed top-1/2 left-1/2 max-h-[94vh] w-[46rem] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-y-auto';

const Page = ({ page, keys }: Keys) => (
  <section>
    <h3 className="mb-1.5 font-semibold">{page}</h3>
    <dl className="grid grid-cols-[5.5rem_1fr] items-baseline gap-x-3 gap-y-1">
      {keys.map(([names, does]) => (
        <div key={names} className="contents">
          <dt className="flex gap-1">
            {names.split(' ').map((name) => (
              <kbd key={name}>{name}</kbd>
            ))}
          </dt>
          <dd className="text-soft">{does}</dd>
        </div>
      ))}
    </dl>
  </section>
);

export const KeysDialog = ({ open, onClose }: { open: boolean; onClose: () => void }) => (
  <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 bg-ink/30 dark:bg-black/50" />
      <Dialog.Content
        aria-describedby={undefined}
        className={`${place} rounded-lg border border-rule bg-sheet p-5 shadow-xl outline-none`}
      >
        <Dialog.Title className="mb-3 text-[14px] font-semibold">Keys</Dialog.Title>
        <div className="grid grid-cols-2 gap-x-8 gap-y-5">
          {all.map((one) => (
            <Page key={one.page} {...one} />
          ))}
        </div>
      </Dialog.Content>
    </Dialog.Portal>
  </Dialog.Root>
);
