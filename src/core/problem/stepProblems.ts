/** What can go wrong while looks run. */
import { entry, given } from './entry.ts';

/** How libraries say that a component was rendered without what provides it with its context. */
const wantsProvider = new RegExp(
  'provider\\b|(used|rendered|called) (only )?(with)?in(side)? (of )?(a|an|the|its|<)|' +
    'outside (of )?(a|an|the|its|<)|no .*context|useContext\\(',
  'i',
);

/** How Svelte says that it was given something else where it renders a snippet. */
const wantsSnippet = /snippet is not a function|invalid_snippet/i;

function remedyFor(error: string, frame: string): string {
  if (wantsProvider.test(error))
    return (
      'It wants a provider around it, as it has in the app. ' +
      `Put that into the frame, ${frame}: every look is mounted in it.`
    );
  if (wantsSnippet.test(error))
    return 'Give what it renders as a snippet in slots, not in props: its children are slots: { default: … }.';
  return 'Fix the component, or give this look the props it needs.';
}

/** What can go wrong with a step, or with the running of one look. */
export const steps = {
  'budget-spent': entry(
    () => 'It costs more than its budget.',
    'See which functions run in its steps on the bench, or give it a larger budget in its look file.',
  ),
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
    (d) =>
      'Close what covers it first, or fix the stacking order: a person could not do this either.' +
      (d.control ? ` If what lies over it is meant, write ${d.control}.` : ''),
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
  'option-disabled': entry(
    (d) => `The option “${d.option}” in ${d.target} is disabled.`,
    'First do what enables it, or use another of the options listed.',
  ),
  'option-not-chosen': entry(
    (d) => `“${d.option}” could not be chosen in ${d.target}: it shows “${d.shown}” afterwards.`,
    'Something on the page takes the keys for itself. Look at the moments before and after this step on the bench.',
  ),
  'accessibility-new': entry(
    (d) => `${d.n === 1 ? 'One new finding' : `${d.n} new findings`} of accessibility.`,
    (d) =>
      `${d.fix}\nOr say why it stays, with accept: [{ rule: '${d.rule}', why: '…' }] in the look file or, for the ` +
      'whole project, under accessibility in sguardo.config.ts.',
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
  'chooser-hidden': entry(
    (d) => `${d.target} is a file field that nobody can see: ${d.why}.`,
    'Give upload(…) what a person clicks to choose files: its label, or the button or area that opens it.',
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
    (d) => `${d.call || 'This check'} needs a spy, but was given ${d.given}.`,
    (d) =>
      d.given === 'undefined'
        ? 'Look at the name of the prop, and give it a spy(): props: { onRelease: spy() }.'
        : 'Give the prop a spy(): props: { onRelease: spy() }.',
  ),
  'world-refused': entry(
    (d) => `The browser does not take this: ${d.what} (${d.error}).`,
    'Use an address of this origin, a permission that the browser knows, and no more than storage holds.',
  ),
  'check-unknown': entry(
    (d) => `There is no check ${d.check}().`,
    (d) => (d.near ? `Did you mean ${d.near}()?` : `Use one of: ${d.known}.`),
  ),
  'method-unknown': entry(
    (d) => `${d.what} has no ${d.name}().`,
    (d) => (d.instead ? `Write ${d.instead}.` : d.near ? `Did you mean .${d.near}(…)?` : `Use one of: ${d.known}.`),
  ),
  'check-of-other': entry(
    (d) => `${d.check}() is a check of ${d.of}, but ensure(…) was given ${d.given}.`,
    (d) =>
      d.instead
        ? `Write ensure(…).${d.instead}.`
        : d.of === 'a target'
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
  'step-unfinished': entry((d) => `The script did not wait for “${d.step}”.`, 'Put await in front of it.'),
  'render-threw': entry(
    (d) => `${d.component} threw while rendering: ${d.error}`,
    (d) => remedyFor(String(d.error), String(d.frame)),
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
