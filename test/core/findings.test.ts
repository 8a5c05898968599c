/** Findings of accessibility: what stands, how they are listed, and what they came with. */
import { describe, expect, it } from 'vitest';
import { causesAt } from '../../src/core/accessibility/causes.ts';
import { byWeight, type Finding, isAtLeast, standingOf } from '../../src/core/accessibility/finding.ts';
import { listFindings, type LookFindings, type Sighting } from '../../src/core/accessibility/listing.ts';
import type { CauseList } from '../../src/core/cause/cluster.ts';
import type { Box } from '../../src/core/timeline/timeline.ts';

const finding = (about: Partial<Finding> = {}): Finding => ({
  rule: 'button-has-name',
  certain: true,
  element: 'button “Release”',
  what: 'It has neither text nor a name.',
  node: 4,
  box: [10, 10, 20, 20],
  step: 0,
  ...about,
});

describe('a finding', () => {
  const accepts = { rule: 'button-has-name', element: 'Release', why: 'drawn by the port' } as const;
  const known = {
    component: 'src/Berth',
    rule: 'button-has-name',
    element: 'button “Release”',
    since: '2026-03-01',
  } as const;

  it('is accepted by rule and a part of its element, or by rule alone', () => {
    expect(standingOf(finding(), 'src/Berth', [accepts], [])).toEqual({ is: 'accepted', why: 'drawn by the port' });
    expect(standingOf(finding(), 'src/Berth', [{ ...accepts, element: null }], []).is).toBe('accepted');
    expect(standingOf(finding({ element: 'button “Book”' }), 'src/Berth', [accepts], []).is).toBe('new');
    expect(standingOf(finding({ rule: 'link-has-name' }), 'src/Berth', [accepts], []).is).toBe('new');
  });

  it('is known for its component, rule and element only', () => {
    expect(standingOf(finding(), 'src/Berth', [], [known])).toEqual({ is: 'known', since: '2026-03-01' });
    expect(standingOf(finding(), 'src/Quay', [], [known]).is).toBe('new');
    expect(standingOf(finding({ rule: 'link-has-name' }), 'src/Berth', [], [known]).is).toBe('new');
    expect(standingOf(finding({ element: 'button “Release all”' }), 'src/Berth', [], [known]).is).toBe('new');
  });

  it('comes first when it is worse, then when it is certain', () => {
    const minor = finding({ rule: 'group-has-name' });
    const unsure = finding({ certain: false });
    expect([minor, unsure, finding()].sort(byWeight)).toEqual([finding(), unsure, minor]);
    expect([isAtLeast('severe', 'moderate'), isAtLeast('minor', 'moderate')]).toEqual([true, false]);
  });
});

describe('a list of findings', () => {
  const of = (component: string, look: string, ...findings: Finding[]): LookFindings => ({
    result: 1,
    component,
    look,
    environment: 'day',
    file: `${component}.look.tsx`,
    picture: null,
    findings: findings.map((one) => ({ ...one, standing: { is: 'new' } })),
  });

  it('has each of a component once, with all looks that show it, and is sure where one of them is', () => {
    const [one, ...others] = listFindings([
      of('src/Berth', 'free', finding({ certain: false })),
      of('src/Berth', 'taken', finding()),
    ]);
    expect(others).toEqual([]);
    expect(one).toMatchObject({ certain: true, sightings: [{ look: 'free' }, { look: 'taken' }] });
  });

  it('has equal ones of several components in the order of their names', () => {
    const listed = listFindings([of('src/Quay', 'a', finding()), of('src/Berth', 'a', finding())]);
    expect(listed.map(({ component }) => component)).toEqual(['src/Berth', 'src/Quay']);
    const worst = listFindings([
      of('src/Berth', 'a', finding({ rule: 'group-has-name' })),
      of('src/Quay', 'a', finding()),
    ]);
    expect(worst.map(({ component }) => component)).toEqual(['src/Quay', 'src/Berth']);
  });
});

describe('what a finding came with', () => {
  const sighting = (about: Partial<Sighting> = {}): Sighting => ({
    result: 7,
    look: 'free',
    environment: 'phone',
    step: 0,
    node: 4,
    box: [10, 10, 20, 20],
    picture: null,
    ...about,
  });
  const cause = (id: string, outlines: Box[], about: object = {}) => ({
    id,
    title: id,
    place: null,
    kind: 'style',
    captures: [{ result: 7, capture: 'end', outlines, regions: [], ...about }],
  });
  const causesOf = (...causes: object[]): string[] =>
    causesAt([sighting()], { causes } as unknown as CauseList, () => 2).map(({ id }) => id);

  it('touches its element in the picture, whose pixels are finer than the page’s', () => {
    // The element is from 20 to 60 in device pixels.
    expect(causesOf(cause('here', [[50, 50, 20, 20]]))).toEqual(['here']);
    expect(causesOf(cause('beside', [[60, 20, 20, 20]]))).toEqual([]);
    expect(causesOf(cause('in pixels', [], { regions: [[0, 0, 21, 21]] }))).toEqual(['in pixels']);
  });

  it('is of the same look’s end, and no failure', () => {
    expect(causesOf(cause('another', [[50, 50, 20, 20]], { result: 8 }))).toEqual([]);
    expect(causesOf(cause('earlier', [[50, 50, 20, 20]], { capture: 'opened' }))).toEqual([]);
    expect(causesOf({ ...cause('failed', [[50, 50, 20, 20]]), kind: 'failed' })).toEqual([]);
  });
});
