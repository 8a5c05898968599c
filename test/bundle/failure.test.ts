/** What bundlers say of files that they could not build, in our words. */
import { describe, expect, it } from 'vitest';
import { explainBuild } from '../../src/bundle/failure.ts';

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
