/** What can be wrong with the files of looks. */
import { entry } from './entry.ts';

/** What can be wrong with a look file. */
export const lookFiles = {
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
    (d) =>
      d.isMade
        ? 'Give it the component itself, and its props beside it: looks(BerthCard, { props: { … }, states: { … } })'
        : 'Check the import: is it a default export, and is its name spelled the same in both files?',
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
    (d) =>
      d.instead
        ? `To reply with this, write ${d.instead}.`
        : d.near
          ? `Did you mean “${d.near}”?`
          : `Use one of: ${d.known}.`,
  ),
  'look-setting': entry(
    (d) => `${d.where} has the ${d.name} ${d.value}.`,
    (d) => `Use ${d.wanted}.`,
  ),
  'look-shape': entry(
    (d) => `${d.where} is ${d.value}.`,
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
    (d) =>
      d.look === ''
        ? `${d.file} has a look without a name.`
        : `${d.file} has a look whose name cannot be stored: ${d.look}.`,
    (d) =>
      d.look === ''
        ? 'Give it one that says what it shows.'
        : 'Rename it: the name holds half of a surrogate pair, which is not valid Unicode.',
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
