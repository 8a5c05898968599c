/**
 * The folder of baselines: what is written, what can be read, and what a kill, a full disk or a careless hand leaves
 * behind.
 */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  chmodSync,
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join, relative } from 'node:path';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { readFolder } from '../../src/baselines/folder.ts';
import { markTaken, takenHash } from '../../src/baselines/taken.ts';
import { type Approved, writeBaselines } from '../../src/baselines/write.ts';
import type { CaptureKey } from '../../src/core/baseline/baseline.ts';
import { encodePng } from '../../src/work/png.ts';
import { freshFolder, repository } from '../support/project.ts';

const sha = (content: Uint8Array | string): string => createHash('sha256').update(content).digest('hex');
const moment = JSON.stringify({
  view: { width: 1, height: 1, scroll: [0, 0] },
  sheets: [],
  assets: {},
  root: { tag: 'html' },
});
const sheet = Buffer.from('p { color: navy }');
const pictures: Buffer[] = [];

beforeAll(async () => {
  for (const shade of [10, 200]) {
    const data = new Uint8Array(4 * 40 * 30).fill(shade);
    pictures.push(await encodePng({ width: 40, height: 30, channels: 4, data }));
  }
});

const keyOf = (look: string, more: Partial<CaptureKey> = {}): CaptureKey => ({
  component: 'src/Buoy',
  look,
  environment: 'day',
  capture: 'end',
  ...more,
});

function approved(key: CaptureKey, picture: Buffer = pictures[0]!): Approved {
  return {
    key,
    family: null,
    parts: {
      picture: sha(picture),
      moment: sha(moment),
      sheets: [sha(sheet)],
      assets: {},
      fingerprint: 'f',
      width: 40,
      height: 30,
    },
    png: picture,
    moment: () => moment,
    shared: [{ hash: sha(sheet), ending: '.css', bytes: () => sheet }],
    approved: { by: 'Ada', at: '2026-03-02T09:30:00Z', why: null, run: 1 },
  };
}

const write = (root: string, ...list: Approved[]): void => writeBaselines(root, 'baselines', list, () => {});
const read = (root: string) => readFolder(root, 'baselines').contents;
const files = (root: string): string[] =>
  readdirSync(join(root, 'baselines'), { recursive: true, withFileTypes: true })
    .filter((entry) => !entry.isDirectory())
    .map((entry) => relative(join(root, 'baselines'), join(entry.parentPath, entry.name)))
    .sort();

/** A folder with three baselines. */
function three(): string {
  const root = freshFolder();
  write(root, ...['plain', 'lit', 'aground'].map((look) => approved(keyOf(look))));
  return root;
}

describe('the folder', () => {
  it('keeps picture, description and moment of each capture, and sheets by their content', () => {
    const root = three();
    expect(files(root)).toEqual([
      ...['aground', 'lit', 'plain'].flatMap((look) =>
        ['json', 'moment', 'png'].map((end) => `day/src/Buoy/${look}.${end}`),
      ),
      `shared/${sha(sheet)}.css`,
    ]);
    const { baselines, unreadable } = read(root);
    expect(unreadable).toEqual([]);
    expect(baselines.map(({ key, hash, shows }) => [key.look, hash, shows?.moment])).toEqual(
      ['aground', 'lit', 'plain'].map((look) => [look, sha(pictures[0]!), sha(moment)]),
    );
  });

  it('knows a picture by the screenshot that its file says it shows, and by nothing else in it', () => {
    const root = freshFolder();
    const [picture, other] = [pictures[0]!, pictures[1]!];
    write(root, approved(keyOf('marked'), markTaken(picture, sha('a screenshot'))));
    write(root, approved(keyOf('plain'), picture));
    write(root, approved(keyOf('wrong'), markTaken(picture, 'Z'.repeat(64))));
    const hashes = read(root).baselines.map(({ key, hash }) => [key.look, hash]);
    const wrong = sha(markTaken(picture, 'Z'.repeat(64)));
    expect(hashes).toEqual([
      ['marked', sha('a screenshot')],
      ['plain', sha(picture)],
      ['wrong', wrong],
    ]);
    // The mark of one file in another one: the manifest tells.
    writeFileSync(join(root, 'baselines/day/src/Buoy/marked.png'), markTaken(other, sha('a screenshot')));
    expect(read(root).unreadable).toMatchObject([{ key: { look: 'marked' }, problem: { code: 'baseline-torn' } }]);
  });

  it('marks files so that others can read them', async () => {
    const marked = markTaken(pictures[0]!, sha('a screenshot'));
    const { data } = await sharp(marked, { failOn: 'warning' }).raw().toBuffer({ resolveWithObject: true });
    expect(data.equals(await sharp(pictures[0]).raw().toBuffer())).toBe(true);
    expect([takenHash(marked), takenHash(pictures[0]!), takenHash(Buffer.alloc(3))]).toEqual([
      sha('a screenshot'),
      null,
      null,
    ]);
  });

  it('tells apart what 32 bits of a name cannot, and what file systems take for one', () => {
    const names = [
      'Save!!!??!?!?!?!??!!????',
      'Save!?!?!????!?!!!!?!???',
      'save',
      'Save',
      'sàve',
      'save.',
      '..',
      '../save',
      'a/b',
    ];
    const root = freshFolder();
    write(root, ...names.map((look) => approved(keyOf(look))));
    const { baselines, unreadable } = read(root);
    expect(unreadable).toEqual([]);
    expect(baselines.map(({ key }) => key.look).sort()).toEqual([...names].sort());
    for (const file of files(root)) expect(join(root, 'baselines', file)).toMatch(/^[\w./-]+$/);
  });

  it('leaves files of others alone when one is approved', () => {
    const root = three();
    const before = new Map(files(root).map((file) => [file, readFileSync(join(root, 'baselines', file))]));
    write(root, approved(keyOf('lit'), pictures[1]!));
    const changed = files(root).filter(
      (file) => !before.get(file)?.equals(readFileSync(join(root, 'baselines', file))),
    );
    expect(changed).toEqual(['day/src/Buoy/lit.json', 'day/src/Buoy/lit.png']);
  });

  it('is followed through links, also in circles', () => {
    const root = three();
    const home = join(root, 'baselines/day/src');
    renameSync(join(home, 'Buoy'), join(root, 'elsewhere'));
    symlinkSync(join(root, 'elsewhere'), join(home, 'Buoy'));
    symlinkSync(home, join(root, 'elsewhere/circle'));
    expect(read(root).baselines).toHaveLength(3);
    write(root, approved(keyOf('lit'), pictures[1]!));
    expect(existsSync(join(root, 'elsewhere/lit.png'))).toBe(true);
    expect(read(root).baselines.find(({ key }) => key.look === 'lit')!.hash).toBe(sha(pictures[1]!));
  });

  it('of format 1 is read, and upgraded by the next approval', () => {
    const root = freshFolder();
    const key = keyOf('Lit!');
    const former = join(root, 'baselines/day/src/Buoy/lit-2e3c1f0a');
    mkdirSync(join(root, 'baselines/day/src/Buoy'), { recursive: true });
    const about = {
      format: 1,
      ...key,
      width: 40,
      height: 30,
      sha256: sha(pictures[0]!),
      fingerprint: 'f',
      markup: ['<p>'],
    };
    writeFileSync(`${former}.json`, JSON.stringify(about));
    writeFileSync(`${former}.png`, pictures[0]!);
    expect(read(root).baselines).toMatchObject([{ key, markup: sha('["<p>"]'), shows: null }]);
  });
});

/** What a hand, a merge or a broken disk may do to the files, and what is told of it. */
const spoilt: [name: string, spoil: (home: string) => void, code: string, told: RegExp][] = [
  [
    'a picture of another commit',
    (home) => writeFileSync(`${home}/lit.png`, pictures[1]!),
    'baseline-torn',
    /lit\.png/,
  ],
  [
    'half a picture',
    (home) => writeFileSync(`${home}/lit.png`, pictures[0]!.subarray(0, 60)),
    'baseline-corrupt',
    /lit\.png.*in the middle/,
  ],
  ['no picture', (home) => rmSync(`${home}/lit.png`), 'baseline-corrupt', /lit\.png.*no such file/],
  [
    'a folder for a picture',
    (home) => {
      rmSync(`${home}/lit.png`);
      mkdirSync(`${home}/lit.png`);
    },
    'baseline-corrupt',
    /lit\.png.*EISDIR/,
  ],
  [
    'null for a description',
    (home) => writeFileSync(`${home}/lit.json`, 'null'),
    'baseline-unreadable',
    /lit\.json.*not an object/,
  ],
  [
    'a merge conflict',
    (home) => writeFileSync(`${home}/lit.json`, '<<<<<<< HEAD\n{}\n'),
    'baseline-unreadable',
    /lit\.json/,
  ],
  [
    'a description without a name',
    (home) => writeFileSync(`${home}/lit.json`, '{"format":2}'),
    'baseline-unreadable',
    /lit\.json/,
  ],
  [
    'another moment',
    (home) => writeFileSync(`${home}/lit.moment`, moment.replace('html', 'body')),
    'baseline-torn',
    /lit\.moment/,
  ],
  ['no moment', (home) => rmSync(`${home}/lit.moment`), 'baseline-unreadable', /lit\.moment/],
  [
    'a moment of numbers',
    (home) => writeFileSync(`${home}/lit.moment`, '{"root":{"tag":1}}'),
    'baseline-unreadable',
    /lit\.moment/,
  ],
  [
    'two of one name',
    (home) => {
      for (const end of ['json', 'png', 'moment']) cpSync(`${home}/lit.${end}`, `${home}/copy.${end}`);
    },
    'baseline-twice',
    /copy\.png and .*lit\.png/,
  ],
];

describe('a spoilt file', () => {
  it.each(spoilt)('%s is told, and keeps no other from being read', (_name, spoil, code, told) => {
    const root = three();
    spoil(join(root, 'baselines/day/src/Buoy'));
    const { baselines, unreadable } = read(root);
    expect(baselines.map(({ key }) => key.look)).toEqual(['aground', 'plain']);
    expect(unreadable.map(({ problem }) => problem.code)).toEqual([code]);
    expect(unreadable[0]!.problem.message).toMatch(told);
    expect(unreadable[0]!.problem.remedy).not.toBe('');
  });

  it('is one of several that are all told', () => {
    const root = three();
    for (const look of ['plain', 'lit', 'aground'])
      writeFileSync(join(root, `baselines/day/src/Buoy/${look}.json`), 'null');
    expect(read(root).unreadable).toHaveLength(3);
  });

  it('for the folder itself has a message of its own', () => {
    const root = freshFolder();
    writeFileSync(join(root, 'baselines'), '');
    expect(() => read(root)).toThrow('baselines should be the folder of baselines, but it is a file.');
    expect(() => write(root, approved(keyOf('lit')))).toThrow('it is a file');
  });
});

describe('several approvals', () => {
  it('are written all or none: nothing is recorded when one cannot be', () => {
    const root = three();
    rmSync(join(root, 'baselines/day/src/Buoy/lit.png'));
    mkdirSync(join(root, 'baselines/day/src/Buoy/lit.png'));
    const before = files(root);
    let decided = false;
    const list = ['plain', 'lit', 'aground'].map((look) => approved(keyOf(look), pictures[1]!));
    expect(() => writeBaselines(root, 'baselines', list, () => (decided = true))).toThrow(
      /could not be read or written/,
    );
    expect(decided).toBe(false);
    expect(files(root)).toEqual(before);
    expect(readFileSync(join(root, 'baselines/day/src/Buoy/plain.png')).equals(pictures[0]!)).toBe(true);
  });

  it.each(['{', '[]', '{"writes":["../../stranger"],"removals":[]}', '{"writes":1}'])(
    'are not gone on with when what was being written says %s, and that is told',
    (text) => {
      const root = freshFolder();
      write(root, approved(keyOf('plain')));
      const journal = join(root, 'baselines/.approval.json');
      writeFileSync(journal, text);
      expect(() => readFolder(root, 'baselines')).toThrow(/\.approval\.json says which baselines/);
      rmSync(journal);
      expect(readFolder(root, 'baselines').contents.baselines).toHaveLength(1);
    },
  );

  it('are not written when they cannot be recorded', () => {
    const root = three();
    const before = files(root);
    const list = ['plain', 'lit'].map((look) => approved(keyOf(look), pictures[1]!));
    const fails = (): void => {
      throw new Error('no records');
    };
    expect(() => writeBaselines(root, 'baselines', list, fails)).toThrow('no records');
    expect(files(root)).toEqual(before);
    expect(read(root).baselines.every(({ hash }) => hash === sha(pictures[0]!))).toBe(true);
  });

  it.skipIf(process.getuid?.() === 0)('name a folder that cannot be written', () => {
    const root = three();
    chmodSync(join(root, 'baselines/day/src/Buoy'), 0o500);
    expect(() => write(root, approved(keyOf('lit'), pictures[1]!))).toThrow(/cannot be written/);
    chmodSync(join(root, 'baselines/day/src/Buoy'), 0o700);
  });

  it('leave the old baselines or the new ones, whenever the process is killed', () => {
    const script = join(repository, 'dist/baselines/write.js');
    const outcomes = new Set<string>();
    for (let instant = 1; ; instant++) {
      const root = three();
      const list = ['plain', 'lit', 'new'].map((look) => approved(keyOf(look), pictures[1]!));
      writeFileSync(
        join(root, 'list.json'),
        JSON.stringify(list.map((one) => ({ ...one, png: [...one.png], moment, shared: [] }))),
      );
      const { signal, status, stderr } = spawnSync(
        process.execPath,
        ['--input-type=module', '-e', killedAt(instant, script, root)],
        {
          encoding: 'utf8',
        },
      );
      if (signal !== 'SIGKILL' && status !== 0) throw new Error(stderr);
      const { baselines, unreadable } = read(root);
      expect(unreadable).toEqual([]);
      const isNew = baselines
        .map(({ key, hash }) => `${key.look} ${hash === sha(pictures[1]!) ? 'new' : 'old'}`)
        .join();
      outcomes.add(isNew);
      expect(['aground old,lit old,plain old', 'aground old,lit new,new new,plain new']).toContain(isNew);
      expect(files(root).filter((file) => /next|approval|tmp/.test(file))).toEqual([]);
      if (signal !== 'SIGKILL') break;
    }
    expect(outcomes.size).toBe(2);
  }, 240_000);
});

/** A program that writes a list of approvals, and is killed when it has called the file system so many times. */
const killedAt = (instant: number, script: string, root: string): string => `
import fs from 'node:fs';
import { syncBuiltinESMExports } from 'node:module';
let calls = 0;
for (const name of ['openSync', 'writeSync', 'renameSync', 'rmSync', 'unlinkSync']) {
  const real = fs[name];
  fs[name] = (...args) => {
    const result = real(...args);
    if (globalThis.counting && ++calls === ${instant}) process.kill(process.pid, 'SIGKILL');
    return result;
  };
}
syncBuiltinESMExports();
const { writeBaselines } = await import(${JSON.stringify(script)});
const list = JSON.parse(fs.readFileSync(${JSON.stringify(join(root, 'list.json'))}, 'utf8'));
for (const one of list) {
  const { moment } = one;
  Object.assign(one, { png: Uint8Array.from(one.png), moment: () => moment });
}
globalThis.counting = true;
writeBaselines(${JSON.stringify(root)}, 'baselines', list, () => {});
`;
