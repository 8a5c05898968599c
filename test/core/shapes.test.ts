/** What is believed of what a page says: everything that our own side says, and nothing that is a little off. */
import { describe, expect, it } from 'vitest';
import { emptyMoment } from '../../src/core/moment/moment.ts';
import { readFileReport, readLookReport, readMessage } from '../../src/core/wire/shapes.ts';

const step = {
  index: 0,
  kind: 'mount',
  title: 'mount',
  parent: null,
  at: 0,
  took: null,
  outcome: 'running',
  before: 0,
  after: null,
};
const moment = {
  ...emptyMoment(10, 10),
  nodes: { 1: { tag: 'html', kids: [2] }, 2: { text: 'x' } },
  sheets: { 1: { css: '', base: '' } },
};
const capture = {
  do: 'capture',
  name: 'end',
  clip: [0, 0, 1, 1],
  beyond: false,
  step: 0,
  moment: 0,
  unseen: [],
  allowed: [{ kind: 'left-out', why: 'shows the time', upTo: null, boxes: [[1, 2, 3, 4]], nodes: [7] }],
  opaque: false,
};

const said: Record<string, object> = {
  base: { kind: 'events', look: 1, events: [{ kind: 'base', at: 0, moment }] },
  patch: {
    kind: 'events',
    look: 1,
    events: [{ kind: 'patch', at: 1, patch: { nodes: { 2: null }, view: { scroll: [0, 1] } } }],
  },
  step: { kind: 'events', look: 1, events: [{ kind: 'step', step, stack: 'at x' }] },
  mark: {
    kind: 'events',
    look: 1,
    events: [{ kind: 'mark', id: 0, mark: { lane: 'dom', at: 0, took: null, title: '', level: 'info' } }],
  },
  capture: { kind: 'ask', look: 1, id: 1, ask: capture },
  input: { kind: 'ask', look: 1, id: 1, ask: { do: 'input', events: [{ kind: 'key', key: 'a', modifiers: 0 }] } },
  answer: { kind: 'answer', request: '1', reply: { status: 200, headers: { a: 'b' }, body: '' } },
};

/** The value with each of its members, however deep, changed in turn. */
function* spoilt(value: unknown): Generator<unknown> {
  if (typeof value !== 'object' || value === null) {
    yield typeof value === 'string' ? 1 : 'x';
    return;
  }
  if (Array.isArray(value)) {
    for (const [i, one] of value.entries()) for (const other of spoilt(one)) yield value.with(i, other);
    return;
  }
  yield { ...value, unknown: 1 };
  for (const [key, one] of Object.entries(value)) for (const other of spoilt(one)) yield { ...value, [key]: other };
}

describe('messages of a page', () => {
  it.each(Object.keys(said))('%s is read as it was said', (name) => {
    const message = { token: 't', ...said[name] };
    expect(readMessage(JSON.stringify(message))).toEqual(message);
  });

  it.each(Object.keys(said))('%s with anything of another type is not read', (name) => {
    let tried = 0;
    for (const message of spoilt({ token: 't', ...said[name] })) {
      // Attributes and the like may have any name.
      if (/"(headers|nodes|sheets|attrs|patch)":\{[^{}]*"unknown":1/.test(JSON.stringify(message))) continue;
      expect([JSON.stringify(message), readMessage(JSON.stringify(message))]).toEqual([JSON.stringify(message), null]);
      tried++;
    }
    expect(tried).toBeGreaterThan(4);
  });

  it.each([
    '',
    'null',
    '[]',
    '1',
    '{',
    '"x"',
    '{"kind":"events"}',
    '{"kind":"answer","request":"1","reply":{"status":1}}',
    '{"kind":"events","look":1,"token":"t","events":[null]}',
  ])('%s says nothing', (text) => expect(readMessage(text)).toBeNull());

  it('reports are believed in their shape only', () => {
    const report = {
      outcome: 'passed',
      problem: null,
      stack: null,
      notes: [],
      left: [],
      audit: { findings: [], atEnd: null, keyboard: [], stylesFocus: null, lines: [], accepted: [] },
    };
    expect(readLookReport(report)).toEqual(report);
    for (const other of [
      null,
      undefined,
      [],
      'passed',
      { ...report, outcome: 'new' },
      { ...report, notes: [1] },
      { ...report, problem: { code: 'toString', message: '', remedy: '' } },
    ])
      expect(readLookReport(other)).toBeNull();
    const declared = {
      look: 'a',
      hasScript: true,
      after: null,
      isolate: null,
      timeLimit: null,
      dependsOn: [],
      reuse: true,
      tags: ['slow'],
      skip: null,
      only: false,
      environments: null,
      compares: null,
      given: [{ path: 'sea.state', values: ['calm', 3, true] }],
      reference: './Buoy.svg',
      budget: { script: 20, shift: 0.1 },
    };
    const said = { isPlain: true, styles: ['/assets/a.css'] };
    expect(readFileReport({ looks: [declared], ...said })).not.toBeNull();
    for (const other of [
      null,
      { looks: [{}] },
      { looks: [{ ...declared, timeLimit: 1 }] },
      { looks: {} },
      { problem: {} },
    ])
      expect(readFileReport(other)).toBeNull();
  });
});
