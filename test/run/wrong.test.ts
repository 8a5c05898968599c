/**
 * What stands in the way of a step: each is told with what was looked for, what was there instead, the place, and a
 * way out.
 */
import { beforeAll, describe, expect, it } from 'vitest';
import { momentAt } from '../../src/core/moment/patch.ts';
import type { ProblemCode } from '../../src/core/problem/problem.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { copyOf, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

let served: Served;
let look: (name: string) => ResultSummary;

beforeAll(async () => {
  const folder = copyOf('test/looks');
  // Most of these looks wait until their patience ends.
  write(folder, { 'sguardo.config.ts': "export default { baselines: false, isolate: 'file', patience: 300 };" });
  served = await serve(folder);
  ({ look } = await served.run({ patterns: ['Wrong'] }));
});

const expected: [name: string, code: ProblemCode, message: RegExp, found?: RegExp][] = [
  ['no such target', 'target-missing', /^Nothing matched the button “Sale” within 300 ms\.$/, /^button “Save”$/m],
  [
    'hidden from people who hear the page',
    'target-missing',
    /the button “Veiled”/,
    /^hidden from assistive technology: button “Veiled”$/,
  ],
  ['no such role', 'target-missing', /the slider “Volume”/, /^no slider at all; there is: .*button/],
  [
    'a part of a name',
    'target-missing',
    /the row “C-14”/,
    /^\/C-14\/ would match row “C-14 Aliseo”\ncell “C-14”: the\.cell\('C-14'\)/,
  ],
  ['a cell in its row', 'target-missing', /C-/, /^cell “C-14”: the\.cell\('C-14'\)$/],
  [
    'no name at all',
    'target-missing',
    /“Loading”/,
    /^nothing gives the progressbar a name: use the\.progressbar\(\)$/m,
  ],
  [
    'no name, and ids that were counted up',
    'target-missing',
    /“Sprat”/,
    /^nothing gives the treeitem a name: use the\.treeitem\(\)\.first\(\)$/m,
  ],
  ['no such scope', 'target-missing', /the button “Save” in the dialog/, /^the dialog is not there either/],
  [
    'several targets',
    'target-ambiguous',
    /^2 elements match the button “Save”/,
    /^button “Save”: the\.button\('Save'\)\.first\(\)\nbutton “Save”: the\.button\('Save'\)\.nth\(1\)$/,
  ],
  [
    'past the last',
    'target-missing',
    /^Nothing matched the 5th button “Save” within/,
    /^only 2 of them: button “Save”, button “Save”$/,
  ],
  ['a hidden target', 'target-hidden', /visibility: hidden/],
  ['a disabled target', 'target-disabled', /^The button “Locked” is disabled/],
  ['a target disabled by what holds it', 'target-disabled', /^The button “Inside” is disabled/],
  [
    'a covered target',
    'target-covered',
    /^The button “Buried” is covered by status “Fog”, so the click would not reach it/,
  ],
  [
    'a target under a scrim',
    'target-covered',
    /is covered by <div class="scrim"> in dialog “Question” \(z-index: 40\), so the click/,
  ],
  ['a text under a button', 'target-covered', /^The text “Ports” is covered by <div> in button “Port”/],
  ['a text under a field', 'target-covered', /^The text “Piers” is covered by <div>/],
  ['a moving target', 'target-moving', /^The button “Drifting” kept moving for/],
  ['no text field', 'target-not-editable', /^The button “Fine” does not take text/],
  ['no such option', 'option-missing', /has no option “Ebb”/, /“Low”\n“High” \(disabled\)/],
  ['a disabled option', 'option-disabled', /^The option “High” in .+ is disabled/, /“Low”\n“High” \(disabled\)/],
  ['not a select', 'bad-step', /is neither a select element, a list box nor a combo box/],
  ['not a key', 'bad-step', /“Entre” is not a key/],
  ['not a modifier', 'bad-step', /“Hyper” is not a modifier key/],
  ['not a target', 'bad-step', /hover\(…\) needs a target/],
  ['no such check', 'check-unknown', /^There is no check visible\(\)\.$/],
  ['no such method', 'method-unknown', /^A target has no click\(\)\.$/],
  ['not a selector', 'bad-step', /“li:\[” is not a CSS selector/],
  ['not a route', 'bad-step', /is not a route/],
  ['a check that does not hold', 'check-failed', /the button “Fine” is disabled/, /^it is enabled$/],
  ['a text that differs', 'check-failed', /reads “Rough”/, /^it reads “Fine”$/],
  ['a value that differs', 'check-failed', /the value equals {a: 2}/, /^\.a: expected 2, received 1$/],
  ['no spy', 'not-a-spy', /needs a spy/],
  ['a spy that was not called', 'check-failed', /onPress was called with \("C-14", 3\)/, /^it was not called$/],
  ['a picture too large', 'capture-failed', /^The browser could not take the picture “tall” of \d+ × 3\d+ pixels: /],
  ['a capture twice', 'bad-step', /“same” was already taken/],
  ['a forgotten await', 'step-unfinished', /did not wait for/],
  ['a script that throws', 'script-threw', /TypeError: no such knot/],
  ['an error in a handler', 'page-error', /RangeError: the line parted/],
  ['a rejection that nobody handles', 'page-error', /nobody caught this/],
  ['starts after one that fails', 'target-hidden', /visibility: hidden/],
];

describe('a look that does not hold', () => {
  it.each(expected)('%s', (name, code, message, found) => {
    const { verdict, problem, failedStep, orderDependent } = look(name);
    expect(problem).toMatchObject({ code, message: expect.stringMatching(message) });
    expect(verdict).toBe('failed');
    expect(failedStep).not.toBeNull();
    expect(problem!.remedy.length).toBeGreaterThan(10);
    expect(problem!.place).toMatch(/^src\/Wrong\.look\.tsx:\d+:\d+$/);
    expect(problem!.frame).toMatch(/▸ +\d+ │ .+\n.*▲/);
    if (found) expect(problem!.found!.join('\n')).toMatch(found);
    expect(orderDependent).toBe(false);
  });

  it('points at its line', () => {
    const line = (name: string): string => /▸ +\d+ │ (.*)/.exec(look(name).problem!.frame!)![1]!.trim();
    expect(line('no such target')).toContain("click(the.button('Sale'))");
    expect(line('a script that throws')).toBe("throw new TypeError('no such knot');");
    expect(line('an error in a handler')).toContain("throw new RangeError('the line parted')");
    expect(line('a capture twice')).toBe("await capture('same');");
  });

  it('says in its step what lay over the target', async () => {
    const { steps, base, patches } = await served.client.timeline(look('a target under a scrim').id);
    const { cover, after } = steps.at(-1)!;
    const node = momentAt(base, patches, after!).nodes[cover!]!;
    expect(node).toMatchObject({ attrs: expect.objectContaining({ class: 'scrim' }) });
  });

  it('names the control that lies over the target, should that be what was meant', () => {
    expect(look('a text under a button').problem!.remedy).toMatch(/ If .+, write the\.button\('Port'\)\.$/);
    expect(look('a text under a field').problem!.remedy).toMatch(/ If .+, write the\.field\('Pier'\)\.$/);
    expect(look('a target under a scrim').problem!.remedy).not.toMatch(/write/);
  });

  it('spoils none of the others', () => {
    expect(look('goes on after all that').verdict).toBe('new');
  });

  it('keeps what was captured before it went wrong, and the step at which it did', async () => {
    const result = look('a capture twice');
    expect(result.captures.map(({ name }) => name)).toEqual(['same']);
    const { steps } = await served.client.timeline(result.id);
    expect(steps[result.failedStep!]).toMatchObject({
      kind: 'capture',
      outcome: 'failed',
      problem: { code: 'bad-step' },
    });
  });
});
