/** Rules of what keyboard and pointer reach; every step of Tab is looked at. */
import { type Rule, rule } from './rule.ts';

/** Rules of keyboard and pointer, by their ids. */
export const reachRules = {
  'tab-order-is-natural': rule(
    'moderate',
    '2.4.3',
    'No tabindex above 0',
    'The focus jumps about.',
    'Use 0 or -1, and the order of the page.',
  ),
  'widget-can-have-focus': rule(
    'severe',
    '2.1.1',
    'Widgets can have focus',
    'Nobody can use it with the keyboard.',
    'Use <button>, or add tabindex="0" and keys.',
  ),
  'click-is-not-all': rule(
    'severe',
    '2.1.1',
    'What can be clicked can be reached with Tab',
    'Nobody can use it with the keyboard, and it is not read out as something to press.',
    'Use <button> or <a href>.',
  ),
  'link-has-address': rule(
    'moderate',
    '2.1.1',
    'Links have an address',
    'Without href it is no link, and the keyboard does not reach it.',
    'Add href, or use <button>.',
  ),
  'target-is-large': rule(
    'moderate',
    '2.5.8',
    'Targets are 24 by 24 pixels, or far enough apart',
    'People with unsteady hands hit the neighbour.',
    'Make it larger, or add space around it.',
  ),
  'focus-is-not-lost': rule(
    'moderate',
    '2.4.3',
    'The focus is not lost',
    'Whoever uses the keyboard starts again at the top of the page.',
    'Move the focus to what comes next.',
  ),

  // By Tab presses.
  'focus-is-visible': rule(
    'severe',
    '2.4.7',
    'The focus can be seen',
    'Whoever uses the keyboard does not know where they are.',
    'Leave the outline as it is, or give :focus-visible another one.',
  ),
  'tab-leads-on': rule(
    'severe',
    '2.1.2',
    'Tab leads on',
    'Whoever uses the keyboard is stuck.',
    'Let Tab and Shift+Tab go to what comes next, or say how to get out.',
  ),
  'tab-reaches-all': rule(
    'severe',
    '2.1.1',
    'Tab reaches everything',
    'Nobody can use it with the keyboard.',
    'See what takes the focus away before Tab comes to it.',
  ),
  'tab-follows-page': rule(
    'moderate',
    '2.4.3',
    'Tab follows the page',
    'The focus jumps about.',
    'Put things in the document in the order in which they are shown.',
  ),
} as const satisfies Record<string, Rule>;
