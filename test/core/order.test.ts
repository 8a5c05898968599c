import { expect, test } from 'vitest';
import { idsInOrder } from '../../src/core/moment/order.ts';
import { emptyMoment, type Moment } from '../../src/core/moment/moment.ts';

const moment = (nodes: Moment['nodes']): Moment => ({ ...emptyMoment(100, 100), nodes });

test('nodes come in the order of the document, shadow roots and frames before children', () => {
  const nodes: Moment['nodes'] = {
    1: { tag: 'html', kids: [9, 4] },
    9: { tag: 'x-a', kids: [3], shadow: { kids: [7] } },
    3: { text: 'light' },
    7: { text: 'shadow' },
    4: { tag: 'iframe', frame: { kid: 8, width: 10, height: 10 } },
    8: { tag: 'html' },
  };
  expect(idsInOrder(moment(nodes))).toEqual([1, 9, 7, 3, 4, 8]);
});

test('what goes in circles, or is missing, ends', () => {
  expect(idsInOrder(moment({ 1: { tag: 'html', kids: [1, 2, 5] }, 2: { tag: 'p', kids: [1] } }))).toEqual([1, 2]);
});
