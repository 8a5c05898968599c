import { describe, expect, it } from 'vitest';
import { addressOf, dataUrlOf, decodePath } from '../../src/core/address/address.ts';

describe('addresses', () => {
  it.each(['https://', 'http://[::1/x', 'http://[', '', '//', 'http://%zz', 'http://a:99999', '\u0000', 'x'])(
    '%j is none',
    (text) => expect(addressOf(text)).toBeNull(),
  );

  it('are relative to what can be a base, and to nothing else', () => {
    expect(addressOf('x.png', 'http://a/b/c.css')?.href).toBe('http://a/b/x.png');
    expect(addressOf('x.png', 'blob:http://a/5105-7')).toBeNull();
    expect(addressOf('x.png', 'data:text/css,')).toBeNull();
    expect(addressOf('http://a/x.png', 'blob:http://a/1')?.pathname).toBe('/x.png');
  });

  it('have paths that are decoded or are none', () => {
    expect(decodePath('/caf%C3%A9.png')).toBe('/café.png');
    for (const path of ['/100%.png', '/%', '/%E0%A4%A', '/%ff']) expect(decodePath(path)).toBeNull();
  });

  it('may hold what they stand for', () => {
    expect(dataUrlOf('data:text/css;charset=utf-8;base64,QQ==')).toEqual({
      type: 'text/css;charset=utf-8',
      base64: true,
      body: 'QQ==',
    });
    expect(dataUrlOf('DATA:,a')).toEqual({ type: 'text/plain;charset=US-ASCII', base64: false, body: 'a' });
    for (const text of ['data:', 'http://a/,', '']) expect(dataUrlOf(text)).toBeNull();
  });
});
