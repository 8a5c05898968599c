/** What is said of something that could not be built. */
import { describe, expect, it } from 'vitest';
import { causesOf, explainBuild } from '../../src/bundle/failure.ts';
import { freshFolder, write } from '../support/project.ts';

describe('the causes of an error', () => {
  it('are told down to the last', () => {
    const error = new Error('[PLUGIN_ERROR] charts were not drawn', {
      cause: new Error('no ink', { cause: new TypeError('pen is undefined') }),
    });
    expect(causesOf(error)).toEqual(['charts were not drawn', 'no ink', 'pen is undefined']);
  });

  it('are told once, without colours and drawings', () => {
    const inner = new Error('\u001b[31mUnexpected token\u001b[0m\n  1 | {;');
    const outer = Object.assign(new Error('Build failed with 1 error:\n\nUnexpected token'), { errors: [inner] });
    expect(causesOf(outer)).toEqual(['Unexpected token']);
    expect(causesOf(new Error('[UNRESOLVED] : no such pier'))).toEqual(['no such pier']);
    expect(causesOf(new Error('could not read: no ink', { cause: new Error('no ink') }))).toEqual([
      'could not read: no ink',
    ]);
  });

  it('are told of plugins by what they threw, however long the message is', () => {
    const text =
      '[rolldown:vite-resolve] plugin `x` threw an error\n\nCaused by:\n    no such pier\n\nStack backtrace:\n  0: a';
    expect(causesOf(new Error(text))).toEqual(['no such pier']);
    expect(causesOf(new Error(`${'\n'.repeat(50_000)}no ink`))).toEqual(['no ink']);
  });

  it('may be no errors, and go round in a circle', () => {
    const error = new Error('one');
    error.cause = Object.assign(new Error('two'), { cause: error });
    expect(causesOf(error)).toEqual(['one', 'two']);
    expect(causesOf('aground')).toEqual(['aground']);
    expect(causesOf(null)).toEqual([]);
  });
});

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
  it('is told with what is asked of it', () => {
    const wrong = 'Rolldown failed to resolve import "./wave.svg?raw" from "src/Quay.look.tsx".';
    expect(said(wrong)).toContain('import "./wave.svg?raw" from "src/Quay.look.tsx"');
  });

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
