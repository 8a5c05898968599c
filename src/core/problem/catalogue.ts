/**
 * Everything that can go wrong and be told to a person: each entry has a code, a message in plain words and a way
 * out.
 */

/** How libraries say that a component was rendered without what provides it with its context. */
const wantsProvider = new RegExp(
  'provider\\b|(used|rendered|called) (only )?(with)?in(side)? (of )?(a|an|the|its|<)|' +
    'outside (of )?(a|an|the|its|<)|no .*context',
  'i',
);

/** What a message speaks of. */
export type Details = Record<string, string | number | undefined>;

type Entry = { message: (d: Details) => string; remedy: string | ((d: Details) => string) };

const entry = (message: Entry['message'], remedy: Entry['remedy']): Entry => ({ message, remedy });

const given = (d: Details): string => String(d.remedy);

const steps = {
  'target-missing': entry(
    (d) => `Nothing matched ${d.target} within ${d.patience} ms.`,
    'Compare the name and the role with what was there instead. If it appears later, wait for it with a check, ' +
      'or raise patience.',
  ),
  'pause-alone': entry(
    () => 'The script stops at pause(), and nobody is there to let it go on.',
    'Run it with sguardo run --stop, or go live from the bench. Take pause() out before you commit.',
  ),
  'target-ambiguous': entry(
    (d) => `${d.count} elements match ${d.target}, but this step needs exactly one.`,
    'Write one of the targets listed, or narrow it otherwise: .in(…), .having(…), .nth(…).',
  ),
  'target-hidden': entry(
    (d) => `${d.target} is there but cannot be seen: ${d.why}.`,
    'First do what shows it, or check that its styles are what you expect.',
  ),
  'target-moving': entry(
    (d) => `${d.target} kept moving for ${d.patience} ms.`,
    'Stop that movement when prefers-reduced-motion is set; environments ask for reduced motion by default.',
  ),
  'target-disabled': entry(
    (d) => `${d.target} is disabled.`,
    'First do what enables it, or check with isDisabled() if it is meant to be.',
  ),
  'target-covered': entry(
    (d) => `${d.target} is covered by ${d.cover}, so the ${d.action} would not reach it.`,
    'Close what covers it first, or fix the stacking order: a person could not do this either.',
  ),
  'target-not-editable': entry(
    (d) => `${d.target} does not take text.`,
    'Name the input, the textarea or the editable element itself, for example with the.field(label).',
  ),
  'target-not-focusable': entry(
    (d) => `${d.target} cannot have the focus, so no key reaches it.`,
    'Press keys at what a person can reach with Tab, or leave the target out to press them where the focus is.',
  ),
  'value-not-taken': entry(
    (d) => `${d.target} did not take “${d.text}”: its value is “${d.shown}” afterwards.`,
    'Write a date as 2026-03-02, a time as 09:30, a month as 2026-03, a week as 2026-W10, a colour as #1f6feb.',
  ),
  'option-missing': entry((d) => `${d.target} has no option “${d.option}”.`, 'Use one of the options listed.'),
  'option-not-chosen': entry(
    (d) => `“${d.option}” could not be chosen in ${d.target}: it shows “${d.shown}” afterwards.`,
    'Something on the page sets it back. Look at the moments before and after this step on the bench.',
  ),
  'request-unanswered': entry(
    (d) => {
      const near = d.near ? ` The nearest one that is declared is “${d.near}”.` : '';
      return `${d.request} has no answer: ${d.came}.${near}`;
    },
    (d) =>
      `Add to the look: ${d.line}${
        d.origin ? `\nOr let it through with network: ['${d.origin}'] in sguardo.config.ts.` : ''
      }`,
  ),
  'answer-impossible': entry(
    (d) => `The answer to ${d.request} is one that the API could not give: it ${d.what}.`,
    (d) => `Give the look an answer as ${d.file} describes it, or correct that file.`,
  ),
  'answer-threw': entry(
    (d) => `The answer to ${d.request} could not be made: ${d.error}`,
    'Fix the function that makes the reply; it is given the request, and returns { status, json, … }.',
  ),
  'list-closed': entry(
    (d) => `${d.target} was clicked, but no list of options opened.`,
    'Let it name its list with aria-controls, or click it yourself and then the option: click(the.option(…)).',
  ),
  'list-single': entry(
    (d) => `${d.target} takes one option, but was given ${d.count}.`,
    'Name one, or let the list take several: multiple for a select element, aria-multiselectable for a list box.',
  ),
  'chooser-missing': entry(
    (d) => `A click on ${d.target} opened no file chooser.`,
    'Name what a person clicks to choose files: the input, its label, or the button that opens it. ' +
      'Where files are dropped, write drag({ files: [file] }, target).',
  ),
  'chooser-single': entry(
    (d) => `${d.target} takes one file, but was given several.`,
    'Give it one file, or let the input take several with the attribute multiple.',
  ),
  'drag-lost': entry(
    (d) => `${d.target} began to be dragged, but the browser carried nothing.`,
    'Look at its dragstart handler: it has to set data, as in event.dataTransfer.setData(…).',
  ),
  'file-missing': entry(
    (d) => `There is no file ${d.file} in the project.`,
    "Paths count from the project's root and stay inside it. A file can also be made in place: " +
      "new File(['…'], 'manifest.csv')",
  ),
  'nothing-scrolls': entry(
    (d) => `Nothing scrolls at ${d.target}: all of it fits, or it hides what does not.`,
    'Name what scrolls, or something in it. Check that its styles give it a height and overflow: auto.',
  ),
  'scroll-stuck': entry(
    (d) => `The wheel was turned over ${d.target}, but it did not scroll.`,
    'Something on the page sets it back or takes the wheel for itself. Look at the moments of this step on the bench.',
  ),
  'focus-elsewhere': entry(
    (d) => `${d.target} does not have the focus: ${d.where}.`,
    'First give it the focus: focus(target), or a click into it.',
  ),
  'check-failed': entry(
    (d) => `This did not hold within ${d.patience} ms: ${d.check}.`,
    'Look at the moments before and after this step on the bench. If the component is right, change the check.',
  ),
  'not-a-spy': entry(
    () => 'This check needs a spy, but was given something else.',
    'Give the prop a spy(): props: { onRelease: spy() }.',
  ),
  'world-refused': entry(
    (d) => `The browser does not take this: ${d.what} (${d.error}).`,
    'Use an address of this origin, a permission that the browser knows, and no more than storage holds.',
  ),
  'check-of-other': entry(
    (d) => `${d.check}() is a check of ${d.of}, but ensure(…) was given ${d.given}.`,
    (d) =>
      d.of === 'a target'
        ? `Give it a target, such as the.button('Save') or the.text('Moored').`
        : d.of === 'a spy'
          ? 'Give it a prop that holds a spy(): ensure(props.onRelease).wasCalled()'
          : "Give it an answer: ensure(answers['GET /api/berths']).wasAsked()",
  ),
  'check-missing': entry(
    (d) => `ensure(${d.subject}) says nothing of it, so nothing is checked.`,
    'Say what has to hold: ensure(target).isVisible()',
  ),
  'answer-unknown': entry(
    (d) => `This look declares no answer to ${d.route}.`,
    (d) => (d.near ? `Did you mean “${d.near}”?` : `Add it to the look: answers: { '${d.route}': { json: … } }`),
  ),
  'bad-step': entry((d) => `${d.what}`, given),
  'capture-failed': entry(
    (d) => `The browser could not take the picture “${d.name}” of ${d.width} × ${d.height} pixels: ${d.error}.`,
    'Show less in this look: a hundred rows look like a hundred thousand.',
  ),
  'script-threw': entry((d) => `The script threw: ${d.error}`, 'Fix the script at the line shown.'),
  'page-error': entry(
    (d) => `An error was not caught: ${d.error}`,
    'Fix the code shown, or catch the error where it can be handled.',
  ),
  'console-said': entry(
    (d) => `The console got ${d.level === 'error' ? 'an error' : 'a warning'} that fails looks here: ${d.text}`,
    'Fix what it speaks of. failsOn in sguardo.config.ts says which messages fail a look.',
  ),
  'step-unfinished': entry((d) => `The script ended while “${d.step}” was still running.`, 'Put await in front of it.'),
  'render-threw': entry(
    (d) => `${d.component} threw while rendering: ${d.error}`,
    (d) =>
      wantsProvider.test(String(d.error))
        ? 'It wants a provider around it, as it has in the app. ' +
          'Put that into the frame, sguardo.frame.tsx: every look is mounted in it.'
        : 'Fix the component, or give this look the props it needs.',
  ),
  'look-endless': entry(
    (d) => `${d.doing} did not end within ${d.limit} ms and was stopped.`,
    'Look for an endless loop, or for a promise that never settles. To allow more time, raise timeLimit in ' +
      'sguardo.config.ts.',
  ),
  'look-waits': entry(
    (d) => `${d.doing} waited ${d.limit} ms for ${d.what}, and was stopped.`,
    'Look for a promise that never settles, or a request that nobody answers. To allow more time, raise timeLimit in ' +
      'the look or in sguardo.config.ts.',
  ),
  'navigated-away': entry(
    (d) => `The page tried to leave for ${d.url}, which would have ended the look. It was kept.`,
    'Prevent the navigation in the component (event.preventDefault()), or give it a spy instead of a real link.',
  ),
  'page-left': entry(
    (d) => `The page went away in the middle of the look${d.url ? ` (${d.url})` : ''}.`,
    'Something reloaded or replaced the page. Give the component a spy instead of the function that does that.',
  ),
  'closed-itself': entry(
    () => 'The component called window.close(), which would have ended the look. The window was kept open.',
    'Give the component a function of its own to call, and a spy() for it.',
  ),
  'window-closed': entry(
    () => 'The window was closed in the middle of the look.',
    'Run it again. The browser that Sguardo starts is not meant for other use.',
  ),
  'page-crashed': entry(
    () => 'The page crashed.',
    'Most often it ran out of memory: look for something that grows without end.',
  ),
  'page-silent': entry(
    (d) => `The page did not answer within ${d.limit} ms.`,
    'Run it again. If it keeps happening, look for code that blocks the page.',
  ),
  'page-forged': entry(
    () => 'The page reported a result that cannot be right.',
    'Something in the look replaces functions of the platform. Remove that, or set isolate to “look”.',
  ),
  'platform-replaced': entry(
    (d) => `The look replaces ${d.what}, which breaks the page: ${d.error}`,
    'Put the original back within the look, or give the component a stand-in through its props.',
  ),
  'finish-failed': entry(
    (d) => `The result of this look could not be processed: ${d.error}`,
    'Please report this, with the look file. The other looks are not affected.',
  ),
  'bundler-gone': entry(
    (d) => `The process that bundles look files ended (${d.why}), and again when it was tried a second time.`,
    'Run again. If it keeps happening, look for a Vite plugin that ends its process, or that needs more memory ' +
      'than there is.',
  ),
  'browser-gone': entry(
    (d) => `The browser ended (${d.why}), and again when the look was tried a second time.`,
    'Run again. If it keeps happening, start the browser by hand to see why it ends; SGUARDO_CHROMIUM names ' +
      'another one.',
  ),
};

const lookFiles = {
  'file-empty': entry(
    (d) => `${d.file} does not export looks.`,
    'End it with: export default looks(YourComponent, { states: { … } });',
  ),
  'only-left': entry(
    (d) => `The look “${d.look}” is marked “only”, so the others of its file would not be run.`,
    'Take only out: it is for while you write, and refused where CI=true.',
  ),
  'each-many': entry(
    (d) => `${d.where} makes ${d.count} looks, more than ${d.most}.`,
    (d) => `Leave values out of each, or say that so many are meant: most: ${d.count}`,
  ),
  'each-wrong': entry(
    (d) => `${d.where} has ${d.what} in each.`,
    "Give every prop a list of the values that it takes: each: { size: ['s', 'm', 'l'] }",
  ),
  'component-missing': entry(
    (d) => `looks(…) was given ${d.given} for a component.`,
    'Check the import: is it a default export, and is its name spelled the same in both files?',
  ),
  'prop-unknown': entry(
    (d) => `${d.component} has no input or output “${d.prop}”.`,
    (d) => (d.near ? `Did you mean “${d.near}”?` : `It has: ${d.known || 'none'}.`),
  ),
  'file-threw': entry(
    (d) => `${d.file} could not be loaded: ${d.error}`,
    'Fix the code shown; nothing in the file was run.',
  ),
  'bundle-failed': entry(
    (d) =>
      d.in
        ? `${d.in}, which ${d.file} imports, could not be bundled: ${d.error}`
        : `${d.file} could not be bundled: ${d.error}`,
    'Fix the code shown. The other look files were run without it.',
  ),
  'frame-failed': entry(
    (d) =>
      d.in
        ? `${d.in}, which the frame ${d.file} imports, could not be bundled: ${d.error}`
        : `The frame ${d.file} could not be bundled: ${d.error}`,
    'Fix the code shown. Every look is mounted in the frame, so none was run.',
  ),
  'after-circular': entry(
    (d) => `“${d.look}” starts after itself: ${d.chain}.`,
    'Let one of these looks start from its own props, without after.',
  ),
  'after-unknown': entry(
    (d) => `“${d.look}” starts after “${d.after}”, but this file has no such look.`,
    (d) => (d.near ? `Did you mean “${d.near}”?` : 'Name a look of the same file.'),
  ),
  'look-entry': entry(
    (d) => `${d.where} has no entry “${d.entry}”.`,
    (d) => (d.near ? `Did you mean “${d.near}”?` : `Use one of: ${d.known}.`),
  ),
  'look-setting': entry(
    (d) => `${d.where} has the ${d.name} ${d.value}.`,
    (d) => `Use ${d.wanted}.`,
  ),
  'looks-none': entry(
    (d) => `${d.file} describes no looks.`,
    'Add one to its states: even an empty one, { plain: {} }, is rendered and compared.',
  ),
  'role-unknown': entry(
    (d) => `There is no role “${d.role}”.`,
    (d) =>
      d.near ? `Did you mean the.${d.near}(…)?` : 'Use a role of WAI-ARIA, such as the.button(…), or the.css(…).',
  ),
  'look-name': entry(
    (d) => `${d.file} has a look whose name cannot be stored: ${d.look}.`,
    'Rename it: the name holds half of a surrogate pair, which is not valid Unicode.',
  ),
  'looks-twice': entry(
    (d) => `${d.file} and ${d.other} describe the same component, so their looks cannot be told apart.`,
    'Rename one of the two files.',
  ),
  'run-ended': entry(
    () => 'The service ended before every look of this run had a verdict.',
    'Run again. Verdicts reached so far are kept.',
  ),
  'run-stopped': entry(
    () => 'The run was stopped before every look had a verdict.',
    'Run again for the rest. Verdicts reached so far are kept.',
  ),
};

const project = {
  'config-missing': entry(
    (d) => `There is no sguardo.config.ts in ${d.folder} or in any folder above it.`,
    "Create one in your project's root; the shortest is: export default {};",
  ),
  'config-threw': entry((d) => `${d.file} could not be read: ${d.error}`, 'Fix the file and run again.'),
  'config-wrong': entry(
    (d) => `${d.file}: ${d.error}`,
    (d) => String(d.remedy ?? 'Correct that entry. docs/configuration.md lists every one.'),
  ),
  'openapi-wrong': entry(
    (d) => `${d.file}, which openapi names, cannot be read as an OpenAPI description: ${d.error}`,
    'Correct the file, or the path in sguardo.config.ts; it may be JSON or YAML.',
  ),
  'frame-missing': entry(
    (d) => `The frame ${d.file} named in ${d.config} does not exist.`,
    'Create it, correct the path, or remove the entry to run without a frame.',
  ),
  'frame-wrong': entry(
    (d) => `${d.file} does not export a component as its default.`,
    'For example: export default function Frame({ children }) { return children; }',
  ),
  'looks-missing': entry(
    (d) => `No look files found in ${d.folder} with ${d.pattern}.`,
    'Put a look file beside a component, for example src/BerthCard.look.tsx.',
  ),
  'environment-unknown': entry(
    (d) => `There is no environment “${d.name}”.`,
    (d) => `Use one from the configuration: ${d.known}.`,
  ),
  'commit-unknown': entry(
    (d) => `git knows nothing called “${d.commit}”.`,
    'Name a commit, branch or tag of this repository, as in: sguardo run --changed main',
  ),
  'nothing-selected': entry(
    (d) => `No looks match ${d.patterns}.`,
    "Use part of a component's name, a look's name or a file's path; * stands for anything.",
  ),
};

const kept = {
  'baseline-corrupt': entry(
    (d) => `The baseline ${d.file} cannot be read as a picture: ${d.error}`,
    'Restore it from version control, or check the capture and approve it again.',
  ),
  'baseline-unreadable': entry(
    (d) => `${d.file} is not a valid baseline description: ${d.error}`,
    'Restore it from version control, or delete it and approve the capture again.',
  ),
  'baseline-torn': entry(
    (d) => `${d.file} and its description do not belong together: the description names another picture.`,
    'Restore both files from the same commit, or check the capture and approve it again.',
  ),
  'baseline-twice': entry(
    (d) => `${d.file} and ${d.other} both claim to be the baseline of the same capture.`,
    'Delete the one that is wrong, with its picture.',
  ),
  'baselines-not-folder': entry(
    (d) => `${d.folder} should be the folder of baselines, but it is a file.`,
    'Move that file away, or name another folder as baselines in sguardo.config.ts.',
  ),
  'database-corrupt': entry(
    (d) => `${d.file} is damaged and cannot be used: ${d.error}`,
    'Move the .sguardo folder away and run again. Approved baselines in the project are not affected; runs and ' +
      'decisions in that file are lost.',
  ),
  'database-newer': entry(
    (d) => `${d.file} was written by a newer Sguardo.`,
    'Update Sguardo, or move the .sguardo folder away to start with an empty one.',
  ),
  'disk-full': entry(
    (d) => `There is no space left on the disk for ${d.file}.`,
    'Free some space (a run of 100 looks needs about 5 MB) and run again. What was kept so far is intact.',
  ),
  'disk-read-only': entry(
    (d) => `${d.file} cannot be written: ${d.error}`,
    'Check who owns it, its permissions, and whether the disk is read-only.',
  ),
  'disk-failed': entry(
    (d) => `${d.file} could not be read or written: ${d.error}`,
    'Check the disk and the path, and run again.',
  ),
};

const serviceAndClient = {
  'browser-missing': entry(
    () => 'Chromium was not found.',
    "Install Debian's package chromium, or name the binary in the environment variable SGUARDO_CHROMIUM.",
  ),
  'browser-start': entry((d) => `Chromium could not be started: ${d.error}`, 'Start the binary by hand to see why.'),
  'screen-missing': entry(
    () => 'There is no screen to show windows on.',
    'Leave --headed out, or start it where there is a desktop. On a server: xvfb-run sguardo run --headed',
  ),
  'sitting-gone': entry(
    (d) => `The page has been closed: ${d.why}`,
    'Go live again, from the bench or with: sguardo run --stop',
  ),
  'sittings-full': entry(
    (d) => `${d.most} looks are live already.`,
    'Close one of them first: press k in the console, and look for “live”.',
  ),
  'sitting-running': entry(
    () => 'The script is running at the moment.',
    'Wait until it stops, or put a breakpoint on a step.',
  ),
  'line-wrong': entry(
    (d) => `This line cannot be understood: ${d.error}`,
    "Write it as in a script, for example: click(the.button('Save'))",
  ),
  'port-taken': entry(
    (d) => `Port ${d.port} is already in use.`,
    'Choose another one with --port, or leave --port out to get a free one.',
  ),
  'service-missing': entry((d) => `The service could not be reached: ${d.error}`, 'Start it with: sguardo serve'),
  'service-start': entry(
    (d) => `The service did not start: ${d.error}`,
    'Start it in the foreground to see why: sguardo serve',
  ),
  'service-there': entry(
    (d) => `Another service of the project ${d.folder} is running or starting.`,
    'Use that one: commands find it by themselves, and sguardo serve prints its address.',
  ),
  'host-refused': entry(
    (d) => `Requests for the host ${d.host} are not answered.`,
    'Use the address that sguardo serve printed.',
  ),
  'origin-refused': entry(
    (d) => `Requests from pages of ${d.origin} are not answered.`,
    'Open the console at the address that sguardo serve printed.',
  ),
  'request-wrong': entry((d) => `${d.error}`, 'Correct the request; /api/openapi.json describes every call.'),
  'queue-full': entry(
    (d) => `${d.most} runs are already waiting.`,
    'Wait for them to finish, or stop some: POST /api/runs/<id>/stop',
  ),
  'not-found': entry((d) => `There is no ${d.what}.`, 'Check the address, or look at the list that leads to it.'),
  'setup-where': entry(
    (d) => `${d.folder} is in no package: there is no package.json in it, nor in a folder above it.`,
    'Run this in the folder of a project, or make one first: npm create vite@latest',
  ),
  'setup-which': entry(
    (d) => `${d.folder} has several packages with components.`,
    (d) => `Say which one is meant, with --package and one of these: ${d.packages}`,
  ),
  'setup-there': entry(
    (d) => `${d.file} is there already: this project is set up.`,
    'To write looks for more components: sguardo draft. To see them: sguardo serve',
  ),
  'setup-unasked': entry(
    () => 'Nothing was written: there is no terminal to ask in.',
    'Run it again with --yes to write these files, or with --dry-run to only see them.',
  ),
  'keep-unclear': entry(
    (d) => `This cannot be kept in ${d.file}. ${d.why}`,
    'Copy the props, and put them into the file by hand.',
  ),
  'keep-conflict': entry(
    (d) => `${d.file} has been changed meanwhile, and was left as it is.`,
    'Look at what changes once more.',
  ),
  'draft-where': entry(
    (d) => `${d.file} ${d.why}.`,
    'Name the file of a component, by its path from here: sguardo draft src/BerthCard.tsx',
  ),
  'draft-nothing': entry(
    (d) => (d.wanted === '' ? `${d.file} exports no component.` : `${d.file} exports no component called ${d.wanted}.`),
    (d) => (d.names === '' ? 'Export the component, or name another file.' : `Use one of these: ${d.names}.`),
  ),
  'draft-there': entry(
    (d) => `${d.file} is there already, and was left as it is.`,
    'Add looks to it by hand, or move it away first.',
  ),
  'nothing-to-decide': entry((d) => `${d.what}`, given),
  'capture-unsteady': entry(
    (d) => `${d.what} unsteady: ${d.names}.`,
    'Find out why with sguardo steady, and fix it. To approve it as it is: sguardo approve … --unsteady',
  ),
  'reason-missing': entry(
    () => 'A rejection needs a reason.',
    'Say what is wrong with the change: sguardo reject PATTERN --why "…"',
  ),
  internal: entry(
    (d) => `Something went wrong inside Sguardo: ${d.error}`,
    "Please report this, with what you did just before. The service's log has the details.",
  ),
};

export const catalogue = {
  ...steps,
  ...lookFiles,
  ...project,
  ...kept,
  ...serviceAndClient,
} satisfies Record<string, Entry>;

export type ProblemCode = keyof typeof catalogue;

/** Codes of problems that concern a step or the running of one look. */
export const stepCodes: readonly string[] = Object.keys(steps);
/** Codes of problems with a look file. */
export const lookFileCodes: readonly string[] = Object.keys(lookFiles);
