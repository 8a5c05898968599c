/** What bundlers say of files that they could not build, in our words. */
import { describe, expect, it } from 'vitest';
import { explainBuild } from '../../src/bundle/failure.ts';
import { freshFolder, write } from '../support/project.ts';

const said = (message: string): string => explainBuild('/harbour', 'src/Quay.look.tsx', new Error(message)).message;

describe('a name that is not exported', () => {
  it.each([
    '"clik" is not exported by "../node_modules/sguardo/dist/language/kinds/react.js".',
    'src/Quay.look.tsx (1:29): "clik" is not exported by "node_modules/sguardo/dist/language/kinds/react.js", ' +
      'imported by "src/Quay.look.tsx".',
  ])('is one of what look files import: %s', (message) => {
    expect(said(message)).toBe('src/Quay.look.tsx could not be bundled: “sguardo/react” exports no “clik”.');
  });

  it('is one of the project', () => {
    expect(said('src/Quay.look.tsx (2:9): "Quays" is not exported by "src/Quay.tsx".')).toBe(
      'src/Quay.look.tsx could not be bundled: "Quays" is not exported by "src/Quay.tsx".',
    );
  });
});

describe('an import that is not there', () => {
  it('of the script of a component has the line of its file', () => {
    const folder = freshFolder();
    write(folder, { 'src/Quay.vue': `<script setup lang="ts">\nimport Menu from 'harbour/menuu';\n</script>\n` });
    const part = 'src/Quay.vue?vue&type=script&setup=true&lang.ts';
    const wrong = new Error(`Rolldown failed to resolve import "harbour/menuu" from "${part}".`);
    expect(explainBuild(folder, 'src/Quay.look.ts', wrong)).toMatchObject({
      message:
        'src/Quay.vue, which src/Quay.look.ts imports, could not be bundled: ' +
        'Rolldown failed to resolve import "harbour/menuu" from "src/Quay.vue".',
      place: 'src/Quay.vue:2:18',
    });
  });
});
