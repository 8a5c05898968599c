import type { Fee } from './FeeTable';
import type { Reading } from './TideCurve';

const tide = (range: number, mean: number): Reading[] =>
  Array.from({ length: 25 }, (_, hour) => ({
    hour,
    metres: Math.round((mean + (range / 2) * Math.cos(((hour - 4) / 12.4) * 2 * Math.PI)) * 100) / 100,
  }));

export const springTide = tide(3.6, 2.4);
export const neapTide = tide(1.2, 2.3);

export const fees: Fee[] = [
  { what: 'Berth, 9 to 12 m', nights: 4, each: 38 },
  { what: 'Shore power', nights: 4, each: 6.5 },
  { what: 'Water', nights: 1, each: 12 },
  { what: 'Waste disposal', nights: 1, each: 9.2 },
];
