/** Rules of how text is shown. */
import { type Rule, rule } from './rule.ts';

/** Rules of text, by their ids. */
export const textRules = {
  'text-has-contrast': rule(
    'severe',
    '1.4.3',
    'Text has enough contrast',
    'Many cannot read it.',
    'Make the text darker or lighter, or what is behind it.',
  ),
  'text-can-be-spaced': rule(
    'moderate',
    '1.4.12',
    'Text stays whole with more spacing',
    'People who set their own spacing lose the part that is cut off.',
    'Let the box grow: no fixed heights, no overflow: hidden.',
  ),
  'text-can-be-larger': rule(
    'moderate',
    '1.4.4',
    'Text stays whole at twice its size',
    'People who enlarge text lose the part that is cut off.',
    'Let the box grow, and use rem or em for its sizes.',
  ),
  'links-are-more-than-colour': rule(
    'moderate',
    '1.4.1',
    'Links in text differ by more than colour',
    'Not everybody sees that colour.',
    'Underline them.',
  ),
} as const satisfies Record<string, Rule>;
