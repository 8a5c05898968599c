/** Numbers as the command line takes them. */
import { InvalidArgumentError } from 'commander';

type ReadNumber = (text: string) => number;

function numberIn(text: string, least: number, most: number, isFine: (n: number) => boolean, what: string): number {
  const n = text.trim() === '' ? Number.NaN : Number(text);
  if (!(n >= least && n <= most) || !isFine(n))
    throw new InvalidArgumentError(`Expected a ${what} from ${least} to ${most}, got “${text}”.`);
  return n;
}

/** Reads whole numbers within limits. @throws InvalidArgumentError for any other text */
const wholeNumber =
  (least: number, most: number): ReadNumber =>
  (text) =>
    numberIn(text, least, most, Number.isInteger, 'whole number');

/** Reads numbers within limits. @throws InvalidArgumentError for any other text */
const numberWithin =
  (least: number, most: number): ReadNumber =>
  (text) =>
    numberIn(text, least, most, Number.isFinite, 'number');

/** How often something is done. */
export const count = wholeNumber(1, 1000);

export const portNumber = wholeNumber(1, 65_535);

/** A share in percent. */
export const percent = numberWithin(0, 100);

/** A time in milliseconds, of somebody who looks on. */
export const milliseconds = numberWithin(0, 60_000);

/** Reads what something is called by its number. @throws InvalidArgumentError for any other text */
export const numberOf =
  (what: string): ReadNumber =>
  (text) => {
    if (/^[1-9]\d{0,8}$/.test(text)) return Number(text);
    throw new InvalidArgumentError(`Expected the number of a ${what}, got “${text}”.`);
  };
