/** What git has kept of files, read in one go. */
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { fileIn, objectsAt } from '../../src/baselines/git.ts';
import { freshFolder } from '../support/project.ts';

it('objects are read byte for byte, by hash and by commit, and those that are not there are missing', () => {
  const folder = freshFolder();
  const git = (...args: string[]): string =>
    execFileSync('git', ['-C', folder, '-c', 'user.name=Ada', '-c', 'user.email=ada@harbour.example', ...args], {
      encoding: 'utf8',
    }).trim();
  const bytes = Buffer.from([10, 0, 255, 10, 10, 32, 49, 50]);
  git('init', '-q');
  writeFileSync(join(folder, 'quay 12'), bytes);
  writeFileSync(join(folder, 'empty'), '');
  git('add', '-A');
  git('commit', '-qm', 'first');
  const hash = git('rev-parse', 'HEAD:quay 12');
  const names = ['no such thing', hash, fileIn('HEAD', 'gone 12'), fileIn('HEAD', 'quay 12'), fileIn('HEAD', 'empty')];
  const found = objectsAt(folder, [...names, hash, 'two\nlines']);
  expect([...found.keys()]).toEqual([hash, fileIn('HEAD', 'quay 12'), fileIn('HEAD', 'empty')]);
  expect([...found.values()]).toEqual([bytes, bytes, Buffer.alloc(0)]);
  expect(objectsAt(join(folder, 'nowhere'), [hash])).toEqual(new Map());
});
