/** Where templates stand in the sources of components. */
import { expect, it } from 'vitest';
import { templatesIn } from '../../src/bundle/templates.ts';
import { freshFolder, write } from '../support/project.ts';

it('templates are found with where they begin, and those of files of their own with what these hold', () => {
  const folder = freshFolder();
  write(folder, { 'gale.html': '<p>Gale</p>' });
  const source = `@Component({ selector: 'a', template: '<p>It\\'s calm</p>' })
class Calm {}
@Component({
  template: \`<p>
    {{ wind }}</p>\`, })
class Wind {}
@Component({ templateUrl: './gale.html' }) class Gale {}
@Component({ templateUrl: './none.html' }) class None {}
@Component({ template: \`<p>\${made}</p>\` }) class Made {}`;
  const file = `${folder}/a.ts`;
  expect(templatesIn(file, source)).toEqual([
    { file, text: "<p>It\\'s calm</p>", line: 0, column: 39 },
    { file, text: '<p>\n    {{ wind }}</p>', line: 3, column: 13 },
    { file: `${folder}/gale.html`, text: '<p>Gale</p>', line: 0, column: 0 },
  ]);
});
