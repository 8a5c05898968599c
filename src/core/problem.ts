/**
 * The catalogue of everything that can go wrong and be told to a person: each has a code, a message in plain
 * words and a way out. Errors that cross a boundary (page → host, service → client) travel as `Problem` values.
 */

/** Which exit code of the command line a problem leads to (see DESIGN, "Exit codes"). */
type Exit = 1 | 2 | 3;

type Entry = { status: number; exit: Exit; message: (d: Details) => string; remedy: string | ((d: Details) => string) };
type Details = Record<string, string | number | undefined>;

const entry = (status: number, exit: Exit, message: Entry['message'], remedy: Entry['remedy']): Entry => ({ status, exit, message, remedy });

export const catalogue = {
  // Steps of a look
  'target-missing': entry(
    422,
    1,
    (d) => `Nothing matched ${d.target} within ${d.patience} ms.`,
    'Compare the name and the role with what was there instead. If it appears later than that, give the step more patience or wait for it with a check.',
  ),
  'target-ambiguous': entry(
    422,
    1,
    (d) => `${d.count} elements match ${d.target}, and this needs exactly one.`,
    'Narrow the target with a name, with .in(…) or with .nth(…).',
  ),
  'target-hidden': entry(
    422,
    1,
    (d) => `${d.target} is there but cannot be seen: ${d.why}.`,
    'Do first what shows it, or check that its styles are what you expect.',
  ),
  'target-moving': entry(
    422,
    1,
    (d) => `${d.target} did not come to rest within ${d.patience} ms.`,
    'Something moves it all the time. Stop that movement when prefers-reduced-motion is set; environments ask for that by default.',
  ),
  'target-disabled': entry(422, 1, (d) => `${d.target} is disabled.`, 'Do first what enables it, or check with isDisabled() that this is meant.'),
  'target-covered': entry(
    422,
    1,
    (d) => `${d.target} is covered by ${d.cover}, so the ${d.action} would not reach it.`,
    'Close what covers it first, or mend the stacking order: a person could not do this either.',
  ),
  'target-not-editable': entry(
    422,
    1,
    (d) => `${d.target} takes no text.`,
    'Name the input, the textarea or the editable element itself, for example with the.field(label).',
  ),
  'option-missing': entry(422, 1, (d) => `${d.target} has no option “${d.option}”.`, 'Use one of the options that were there instead.'),
  'check-failed': entry(
    422,
    1,
    (d) => `This did not hold within ${d.patience} ms: ${d.check}.`,
    'Look at the moments before and after this step on the bench. If the component is right, change the check.',
  ),
  'not-a-spy': entry(422, 1, () => 'This check needs a spy, and was given something else.', 'Give the prop a spy(): props: { onRelease: spy() }.'),
  'bad-step': entry(
    422,
    1,
    (d) => `${d.what}`,
    (d) => String(d.remedy),
  ),
  'capture-failed': entry(
    422,
    1,
    (d) => `The browser made no picture “${d.name}” of ${d.width} × ${d.height} pixels: ${d.error}.`,
    'Show less in this look: a hundred rows look like a hundred thousand.',
  ),
  'script-threw': entry(422, 1, (d) => `The script threw: ${d.error}`, 'Mend the script at the line shown.'),
  'page-error': entry(
    422,
    1,
    (d) => `An error was not caught: ${d.error}`,
    'Mend the component at the place shown, or catch the error where it can be handled.',
  ),
  'step-unfinished': entry(422, 1, (d) => `The script ended while “${d.step}” was still going on.`, 'Put await in front of it.'),
  'render-threw': entry(
    422,
    1,
    (d) => `${d.component} threw while it was rendered: ${d.error}`,
    'Mend the component, or give this look the props that it needs.',
  ),
  'look-endless': entry(
    422,
    1,
    (d) => `${d.doing} did not end within ${d.limit} ms, so it was stopped.`,
    'Look for a loop without an end, or for a promise that nothing settles. A look that needs longer can be given a higher timeLimit in sguardo.config.ts.',
  ),
  'navigated-away': entry(
    422,
    1,
    (d) => `The page was about to leave for ${d.url}, which would have ended the look. It was kept.`,
    'Prevent the navigation in the component (event.preventDefault()), or hand the component a spy instead of a real link.',
  ),
  'page-left': entry(
    422,
    1,
    (d) => `The page went away in the middle of the look (${d.url}).`,
    'Something reloaded or replaced the page. Hand the component a spy instead of the function that does that.',
  ),
  'closed-itself': entry(
    422,
    1,
    () => 'The component called window.close(), which would have ended the look. The window was kept open.',
    'Give the component a function of its own to call, and a spy() for it.',
  ),
  'window-closed': entry(
    422,
    1,
    () => 'The window was closed in the middle of the look.',
    'Run it again; windows of the browser that Sguardo has started are not for other use.',
  ),
  'page-crashed': entry(422, 1, () => 'The page crashed.', 'Most often it ran out of memory: look for something that grows without an end.'),
  'browser-gone': entry(
    503,
    3,
    (d) => `The browser went away (${d.why}), and did so again when the look was given a second try.`,
    'Run again. If it stays so, start the browser by hand to see why it ends; SGUARDO_CHROMIUM names another one.',
  ),
  'file-empty': entry(422, 2, (d) => `${d.file} does not export looks.`, 'End it with: export default looks(YourComponent, { states: { … } });'),
  'file-threw': entry(422, 2, (d) => `${d.file} could not be loaded: ${d.error}`, 'Mend the file at the place shown; nothing in it was run.'),
  'bundle-failed': entry(422, 2, (d) => `${d.file} could not be understood: ${d.error}`, 'Mend the place shown. The other look files were run without it.'),
  'frame-failed': entry(
    422,
    2,
    (d) => `The frame ${d.file} could not be understood: ${d.error}`,
    'Mend the place shown. Every look is mounted in the frame, so none was run.',
  ),
  'after-circular': entry(422, 2, (d) => `“${d.look}” starts after itself: ${d.chain}.`, 'Let one of these looks start from its own props, without after.'),
  'after-unknown': entry(422, 2, (d) => `“${d.look}” starts after “${d.after}”, and there is no such look in this file.`, 'Name a look of the same file.'),
  'run-ended': entry(503, 1, () => 'The service was ended before all looks of this run had a verdict.', 'Run it again; every verdict that there was is kept.'),
  'run-stopped': entry(
    409,
    1,
    () => 'The run was stopped before all of its looks had a verdict.',
    'Run it again when you want theirs; every verdict that there was is kept.',
  ),

  // Configuration and files
  'config-missing': entry(
    400,
    2,
    (d) => `There is no sguardo.config.ts in ${d.folder} or in a folder above it.`,
    "Create one in your project's root; the shortest is: export default {};",
  ),
  'config-threw': entry(400, 2, (d) => `${d.file} could not be read: ${d.error}`, 'Mend the file and run again.'),
  'config-wrong': entry(
    400,
    2,
    (d) => `${d.file}: ${d.error}`,
    (d) => String(d.remedy ?? 'Correct that entry. docs/configuration.md lists every one.'),
  ),
  'frame-missing': entry(
    400,
    2,
    (d) => `The frame ${d.file} named in ${d.config} does not exist.`,
    'Create it, correct the path, or leave the entry out to run without a frame.',
  ),
  'frame-wrong': entry(
    422,
    2,
    (d) => `${d.file} does not export a component as its default.`,
    'export default function Frame({ children }) { return children; }',
  ),
  'looks-missing': entry(
    404,
    2,
    (d) => `No look file was found in ${d.folder} with ${d.pattern}.`,
    'Put a look file beside a component, for example src/BerthCard.look.tsx.',
  ),
  'environment-unknown': entry(
    404,
    2,
    (d) => `There is no environment “${d.name}”.`,
    (d) => `Name one of those in the configuration: ${d.known}.`,
  ),
  'nothing-selected': entry(
    404,
    2,
    (d) => `No look matches ${d.patterns}.`,
    "A pattern is a part of a component's name, a look's name or a file's path; * stands for anything.",
  ),
  'baseline-corrupt': entry(
    422,
    1,
    (d) => `The baseline ${d.file} cannot be read as a picture: ${d.error}`,
    'Restore it from version control, or look at the capture and approve it again.',
  ),
  'baseline-unreadable': entry(
    422,
    1,
    (d) => `${d.file} is not a baseline description: ${d.error}`,
    'Restore it from version control, or delete it and approve the capture again.',
  ),

  // Service and client
  'browser-missing': entry(
    503,
    3,
    () => 'Chromium was not found.',
    "Install Debian's package chromium, or name the binary in the environment variable SGUARDO_CHROMIUM.",
  ),
  'browser-start': entry(
    503,
    3,
    (d) => `Chromium could not be started: ${d.error}`,
    'Try the binary by hand; as root it needs no sandbox, which Sguardo sets by itself.',
  ),
  'port-taken': entry(
    409,
    3,
    (d) => `Port ${d.port} is taken by something else.`,
    'End that, choose another one with --port, or leave --port out to get a free one.',
  ),
  'service-missing': entry(503, 3, (d) => `The service could not be reached: ${d.error}`, 'Start it with: sguardo serve'),
  'service-start': entry(503, 3, (d) => `The service did not start: ${d.error}`, 'Start it in the foreground to see why: sguardo serve'),
  'service-there': entry(
    409,
    3,
    (d) => `Another service of the project ${d.folder} is running or about to.`,
    'Use that one: commands find it by themselves, and sguardo serve tells its address.',
  ),
  'host-refused': entry(421, 3, (d) => `Requests for the host ${d.host} are not answered.`, 'Use the address that sguardo serve printed.'),
  'origin-refused': entry(403, 3, (d) => `Requests from pages of ${d.origin} are not answered.`, 'Open the console at the address that sguardo serve printed.'),
  'request-wrong': entry(400, 2, (d) => `${d.error}`, 'Correct the request; /api/openapi.json describes every call.'),
  'not-found': entry(404, 2, (d) => `There is no ${d.what}.`, 'Check the address, or look at the list that leads to it.'),
  'nothing-to-decide': entry(
    409,
    2,
    (d) => `${d.what}`,
    (d) => String(d.remedy),
  ),
  'reason-missing': entry(400, 2, () => 'A rejection needs a reason.', 'Say what is wrong with the change: sguardo reject PATTERN --why "…"'),
  internal: entry(
    500,
    3,
    (d) => `Something went wrong inside Sguardo: ${d.error}`,
    "Please report this, with what you did just before. The service's log has the details.",
  ),
} satisfies Record<string, Entry>;

export type ProblemCode = keyof typeof catalogue;

/** Something that went wrong, ready to be shown. */
export type Problem = {
  code: ProblemCode;
  message: string;
  /** What to do about it. */
  remedy: string;
  /** What was there instead, one thing a line. */
  found?: string[];
  /** The lines of source around the place, with a pointer to it. */
  frame?: string;
  /** `file:line:column` of the place. */
  place?: string;
};

/** Fills in a catalogue entry. */
export function problem(code: ProblemCode, details: Details = {}, more: Pick<Problem, 'found' | 'frame' | 'place'> = {}): Problem {
  const { message, remedy } = catalogue[code];
  // Targets are described in lower case, and often come first; what others say of an error seldom ends like a sentence.
  const sentence = message(details)
    .replace(/^(the|what|it) /, (word) => word[0]!.toUpperCase() + word.slice(1))
    .replace(/[\p{L}\p{N}”"'`)\]]$/u, '$&.');
  return { code, message: sentence, remedy: typeof remedy === 'string' ? remedy : (remedy as (d: Details) => string)(details), ...more };
}

/** A problem on its way to whoever can tell a person about it. */
export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(value: Problem) {
    super(value.message);
    this.name = 'ProblemError';
    this.problem = value;
  }
}

/** Throws a catalogue entry. */
export function fail(code: ProblemCode, details: Details = {}, more: Pick<Problem, 'found' | 'frame' | 'place'> = {}): never {
  throw new ProblemError(problem(code, details, more));
}

/** Any thrown thing as a problem: ours as it is, everything else as `internal`. */
export function toProblem(error: unknown, code: ProblemCode = 'internal', details: Details = {}): Problem {
  if (error instanceof ProblemError) return error.problem;
  return problem(code, { error: error instanceof Error ? error.message : String(error), ...details });
}

/** The exit code of the command line for a problem. */
export const exitOf = (value: Problem): Exit => catalogue[value.code]?.exit ?? 3;
