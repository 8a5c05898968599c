import { describe, expect, it } from 'vitest';
import { problem } from '../../src/core/problem/problem.ts';
import { failingStep, type Step } from '../../src/core/timeline/timeline.ts';
import { breakOff, doing, emptyTrace, gather } from '../../src/core/timeline/trace.ts';

const step = (index: number, change: Partial<Step> = {}): Step => ({
  index,
  kind: 'action',
  title: `click ${index}`,
  parent: null,
  at: index * 10,
  took: 5,
  outcome: 'passed',
  before: 0,
  after: 0,
  ...change,
});

describe('gather', () => {
  it('keeps the latest word on each step and mark, and moments in order', () => {
    const trace = emptyTrace();
    gather(trace, { kind: 'step', step: step(0, { outcome: 'running', took: null }), stack: 'at berth.tsx' });
    gather(trace, { kind: 'step', step: step(0) });
    gather(trace, {
      kind: 'mark',
      id: 0,
      mark: { lane: 'network', at: 1, took: null, title: 'GET /api/weather', level: 'info' },
    });
    gather(trace, {
      kind: 'mark',
      id: 0,
      mark: { lane: 'network', at: 1, took: 4, title: 'GET /api/weather → 200', level: 'info' },
    });
    gather(trace, { kind: 'patch', at: 3, patch: { nodes: { 4: { text: 'b' } } } });
    gather(trace, { kind: 'asset', url: 'http://looks.localhost/a.css' });
    expect(trace.steps).toEqual([step(0)]);
    expect(trace.stacks).toEqual(['at berth.tsx']);
    expect(trace.marks).toHaveLength(1);
    expect(trace.marks[0]).toMatchObject({ took: 4 });
    expect(trace.taken).toEqual([0, 3]);
    expect([...trace.assets.keys()]).toEqual(['http://looks.localhost/a.css']);
  });

  it('does not believe a page that numbers its steps as it likes', () => {
    const trace = emptyTrace();
    for (const index of [-1, 0.5, 7, 1e9]) gather(trace, { kind: 'step', step: step(index) });
    gather(trace, { kind: 'mark', id: 5, mark: { lane: 'console', at: 0, took: null, title: '', level: 'info' } });
    expect(trace.steps).toEqual([]);
    expect(trace.marks).toEqual([]);
  });
});

describe('breakOff', () => {
  const crashed = problem('page-crashed');

  it('breaks every step that was going on, and tells the problem at the innermost', () => {
    const trace = emptyTrace();
    trace.steps = [step(0), step(1, { kind: 'part', outcome: 'running' }), step(2, { parent: 1, outcome: 'running' })];
    expect(doing(trace)).toBe('“click 2”');
    breakOff(trace, crashed, 50);
    expect(trace.steps.map(({ outcome }) => outcome)).toEqual(['passed', 'broken', 'broken']);
    expect(trace.steps.map((one) => one.problem?.code)).toEqual([undefined, undefined, 'page-crashed']);
  });

  it('adds an error step when nothing was going on', () => {
    const trace = emptyTrace();
    expect(doing(trace)).toBe('The look');
    breakOff(trace, crashed, 50);
    expect(trace.steps).toMatchObject([{ index: 0, kind: 'error', at: 50, outcome: 'broken', problem: crashed }]);
  });
});

describe('failingStep', () => {
  it('is the first step that went wrong, and a part only when nothing in it did', () => {
    const part = step(0, { kind: 'part', outcome: 'failed' });
    expect(failingStep([part, step(1), step(2, { outcome: 'failed' }), step(3, { outcome: 'failed' })])?.index).toBe(2);
    expect(failingStep([part, step(1)])?.index).toBe(0);
    expect(failingStep([step(0)])).toBeNull();
  });
});
