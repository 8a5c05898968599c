import { expect, it } from 'vitest';
import { contrasted } from '../../src/core/text/contrast.ts';

const line = (value: string): string =>
  `<button class="${'quiet wide '.repeat(12)}" aria-label="${value}" data-mark="${'x'.repeat(90)}">`;

it('leaves short lines as they are', () => {
  expect(contrasted('<p class="a">', ['<p class="b">'])).toBe('<p class="a">');
});

it('cuts long lines to what differs from the most similar one of the other side', () => {
  const shown = contrasted(line('Save'), ['<p>', line('Send'), line('Save')[0]!]);
  expect(shown).toMatch(/^….*aria-label="Save".*…$/);
  expect(shown.length).toBeLessThanOrEqual(112);
  expect(contrasted(line('Send'), [line('Save')])).toMatch(/aria-label="Send"/);
});

it('shows the beginning of a line that nothing on the other side is like, and the end where only that differs', () => {
  expect(contrasted(line('Save'), [])).toMatch(/^<button class="quiet.*…$/);
  const end = contrasted(`${line('Save')}a`, [`${line('Save')}b`]);
  expect(end).toMatch(/^….*>a$/);
});
