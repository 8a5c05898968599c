/** What is said of something that could not be built. */
import { describe, expect, it } from 'vitest';
import { causesOf } from '../../src/bundle/failure.ts';

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
