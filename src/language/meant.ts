/** Checks by other names than their own, as people remember them. */
import { nearest } from '../core/text/nearest.ts';

/** What a check that there is not asks for, by a word in its name, and the checks that look at it. */
const askedFor: readonly (readonly [RegExp, readonly string[]])[] = [
  [/text|content|says/i, ['reads']],
  [/count|length|size|times/i, ['counts', 'calls']],
  [/hid|gone|absent|missing|vanish/i, ['isAbsent']],
  [/exist|present|document|attached|shown|appear|display/i, ['isVisible']],
  [/inside|within|viewport|screen/i, ['isWithin']],
  [/before|after|order/i, ['comesBefore']],
  [/focus/i, ['isFocused']],
  [/class|attr|href/i, ['hasAttribute']],
  [/css|style/i, ['hasStyle']],
];

/** The check that somebody may have meant, among those that there are: what it asks for tells more than its letters. */
export const meantBy = (name: string, names: readonly string[]): string | undefined =>
  names.find((one) => one.toLowerCase() === name.toLowerCase()) ??
  askedFor.flatMap(([word, checks]) => (word.test(name) ? checks : [])).find((check) => names.includes(check)) ??
  nearest(name, names);
