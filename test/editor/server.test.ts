/** The language server, spoken to by a real client over standard input and output. */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, expect, test } from 'vitest';
import type {
  CodeAction,
  CodeLens,
  CompletionItem,
  Diagnostic,
  Hover,
  WorkspaceEdit,
} from 'vscode-languageserver/node';
import { connect } from '../../src/client/client.ts';
import { looksIn, targetAt, writingAt } from '../../src/editor/lookFile.ts';
import { edited, editor, editsOf, placeOf } from '../support/editor.ts';
import { configuration, plainFile, project } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

const file = 'src/Buoy.look.tsx';
const source = `import { looks, the, click, ensure } from 'sguardo';
import { useState } from 'react';
function Buoy({ name = 'Alba' }: { name?: string }) {
  const [isLit, setLit] = useState(false);
  return <div>
    <button onClick={() => setLit(!isLit)}>Light it</button>
    <button onClick={() => fetch('/api/ping', { method: 'POST' })}>Ping</button>
    <p data-testid="state">{isLit ? 'lit' : 'dark'}</p>
    <label>Name <input defaultValue={name} /></label>
  </div>;
}
export default looks(Buoy, {
  states: {
    plain: {},
    'lights up': {
      script: async () => {
        await click(the.button('Light it'));
        await ensure(the.marked('state')).reads('lit');
      },
    },
    mistaken: {
      script: async () => {
        await click(the.button('Lihgt it'));
      },
    },
    asks: {
      script: async () => {
        await click(the.button('Ping'));
      },
    },
    forgets: {
      script: async () => {
        click(the.button('Light it'));
      },
    },
    'goes on': { after: 'lights up' },
  },
});
`;

let root: string;
let served: Served;
let vim: Awaited<ReturnType<typeof editor>>;

beforeAll(async () => {
  root = project({ [file]: source });
  served = await serve(root);
  await served.run();
  vim = await editor(root);
  await vim.open(file);
});

const isOf = (look: string, { message }: Diagnostic): boolean => String(message).startsWith(`${look},`);

const reaches =
  (look: string) =>
  (found: Diagnostic[]): boolean =>
    found.some((one) => isOf(look, one));

const actionsFor = async (look: string): Promise<CodeAction[]> => {
  const found = await vim.diagnosed(file, reaches(look));
  const diagnostics = found.filter((one) => isOf(look, one));
  return vim.ask('textDocument/codeAction', file, { range: diagnostics[0]!.range, context: { diagnostics } });
};

test('looks and targets are found in a file, also in one that is being written', () => {
  expect(looksIn(source).map(({ name }) => name)).toEqual([
    'plain',
    'lights up',
    'mistaken',
    'asks',
    'forgets',
    'goes on',
  ]);
  expect(targetAt(source, source.indexOf("Ping')") + 1)).toMatchObject({ kind: 'button', name: 'Ping' });
  expect(writingAt("  await click(the.button('Li", 28)).toEqual({
    of: 'name',
    kind: 'button',
    typed: 'Li',
    quote: "'",
  });
  expect(writingAt('  await click(the.bu', 20)).toEqual({ of: 'kind', typed: 'bu' });
  expect(looksIn('export default looks(Buoy, { states: {')).toEqual([]);
});

test('what went wrong stands at its line, with what was there instead', async () => {
  const found = await vim.diagnosed(file, reaches('mistaken'));
  const mistaken = found.find((one) => isOf('mistaken', one))!;
  expect(mistaken.range.start).toEqual(placeOf(source, "await click(the.button('Lihgt"));
  expect(mistaken).toMatchObject({ severity: 1, source: 'sguardo', code: 'target-missing' });
  expect(mistaken.message).toContain('Light it');
  expect(mistaken.codeDescription!.href).toMatch(/\/bench\/\d+\?step=\d+$/);
  expect(found.some((one) => isOf('plain', one))).toBe(false);
});

test('the nearest target is offered, an await, and the answer that is wanted', async () => {
  const [nearest] = await actionsFor('mistaken');
  expect(nearest).toMatchObject({ title: "Use the.button('Light it')", isPreferred: true });
  expect(edited(source, editsOf(nearest!.edit))).toBe(source.replace('Lihgt it', 'Light it'));
  const [awaited] = await actionsFor('forgets');
  expect(edited(source, editsOf(awaited!.edit))).toBe(
    source.replace("        click(the.button('Light", "        await click(the.button('Light"),
  );
  const [answer] = await actionsFor('asks');
  const answered = edited(source, editsOf(answer!.edit));
  expect(answered).toContain("    asks: {\n      answers: { 'POST /api/ping': { json: {} } },\n      script");
});

test('over each look stands whether it passed, when, and how to run it and see it', async () => {
  await vim.diagnosed(file, reaches('mistaken'));
  const lenses = await vim.ask<CodeLens[]>('textDocument/codeLens', file, {});
  const titles = (look: string): string[] => {
    const { line } = placeOf(source, look);
    return lenses.filter(({ range }) => range.start.line === line).map(({ command }) => command!.title);
  };
  expect(titles("'lights up':")).toEqual(['run', 'open on the bench', '+ new, just now']);
  expect(titles('mistaken:')[2]).toMatch(/^✗ failed/);
  const [, open] = lenses;
  await vim.connection.sendRequest('workspace/executeCommand', open!.command!);
  expect(vim.shown.at(-1)).toMatch(/\/bench\/\d+/);
});

test('hovering a target tells how many elements it matched, with role and name', async () => {
  const at = (part: string) =>
    vim.ask<Hover | null>('textDocument/hover', file, { position: placeOf(source, part, 3) });
  const value = async (part: string): Promise<string> => ((await at(part))!.contents as { value: string }).value;
  expect(await value("the.button('Light it')")).toBe('**1 element at the end of the last run**\n- button “Light it”');
  expect(await value("the.marked('state')")).toContain('marked state');
  expect(await value("the.button('Lihgt it')")).toBe('**No element in the last run**');
  expect(await at('useState(false)')).toBeNull();
});

test('hovering takes patterns, says what it leaves out, and nothing of what is known only later', async () => {
  const value = async (target: string): Promise<string | null> => {
    const written = source.replace("the.button('Light it')", target);
    await vim.type(file, written);
    const position = placeOf(written, target, 3);
    const found = await vim.ask<Hover | null>('textDocument/hover', file, { position });
    return found && (found.contents as { value: string }).value.split('\n')[0]!;
  };
  expect(await value('the.button(/^light/i)')).toBe('**1 element at the end of the last run**');
  expect(await value('the.button(/dark/)')).toBe('**No element in the last run**');
  expect(await value("the.button('Light it').nth(0)")).toBe(
    '**1 element at the end of the last run, before what narrows it**',
  );
  expect(await value("the.button('Light it', { pressed: true })")).toContain('before what narrows it');
  expect(await value("the.button('light', { exact: false })")).toBeNull();
  expect(await value('the.button(someName)')).toBeNull();
  expect(await value("the.titled('Light it')")).toBeNull();
});

test('names, roles and marks are completed from what the component showed', async () => {
  const written = source.replace("the.button('Ping')", "the.button('");
  await vim.type(file, written);
  const position = placeOf(written, "the.button(')", "the.button('".length);
  const names = await vim.ask<CompletionItem[]>('textDocument/completion', file, { position });
  expect(names.map(({ label }) => label)).toEqual(['Light it', 'Ping']);
  const kinds = source.replace("the.button('Ping')", 'the.');
  await vim.type(file, kinds);
  const roles = await vim.ask<CompletionItem[]>('textDocument/completion', file, {
    position: placeOf(kinds, 'the.)', 4),
  });
  expect(roles.map(({ label }) => label)).toEqual(expect.arrayContaining(['button', 'textbox', 'marked']));
  const marks = source.replace("the.button('Ping')", "the.marked('");
  await vim.type(file, marks);
  const found = await vim.ask<CompletionItem[]>('textDocument/completion', file, {
    position: placeOf(marks, "the.marked(')", 12),
  });
  expect(found.map(({ label }) => label)).toEqual(['state']);
  await vim.type(file, source);
});

test('when a file is saved its looks are run, and what is mended is told no more', async () => {
  const mended = source.replace('Lihgt it', 'Light it');
  writeFileSync(join(root, file), mended);
  await vim.type(file, mended);
  await vim.diagnosed(file, (found) => found.length > 0 && !reaches('mistaken')(found));
});

test('a look is renamed with its baselines and its history', async () => {
  await served.client.decide({ kind: 'approve', patterns: ['Buoy/lights up'], who: 'Ada' });
  expect(
    existsSync(join(root, 'baselines/day/src/Buoy/lights up.png')) ||
      existsSync(join(root, 'baselines/day/src/Buoy/lights-up.png')),
  ).toBe(true);
  const text = readFileSync(join(root, file), 'utf8');
  const position = placeOf(text, "'lights up':", 2);
  expect(await vim.ask('textDocument/prepareRename', file, { position })).toMatchObject({ placeholder: 'lights up' });
  await expect(vim.ask('textDocument/rename', file, { position, newName: 'plain' })).rejects.toThrow(
    'has a look “plain” already',
  );
  const edit = await vim.ask<WorkspaceEdit>('textDocument/rename', file, { position, newName: 'is lit' });
  const renamed = edited(text, editsOf(edit));
  expect(renamed).toContain("'is lit': {");
  expect(renamed).toContain("'goes on': { after: 'is lit' }");
  writeFileSync(join(root, file), renamed);
  await vim.type(file, renamed);
  const { look, run } = await served.run({ fresh: true });
  // It has the picture that was approved under its old name.
  expect(look('is lit').verdict).toBe('passed');
  expect(run.notes.join()).not.toContain('gone');
  const { decisions } = await served.client.history({ component: 'src/Buoy', look: 'is lit', environment: 'day' });
  expect(decisions.map(({ who, kind, isBaseline }) => [who, kind, isBaseline])).toEqual([['Ada', 'approve', true]]);
});

test('what it is asked about other files, or places without anything, it leaves alone', async () => {
  const position = { line: 0, character: 0 };
  expect(await vim.ask('textDocument/hover', 'src/none.ts', { position })).toBeNull();
  for (const uri of ['untitled:Buoy.look.tsx', 'file://elsewhere/Buoy.look.tsx', 'file:///%00.look.tsx']) {
    const textDocument = { uri, languageId: 'typescriptreact', version: 1, text: source };
    await vim.connection.sendNotification('textDocument/didOpen', { textDocument });
    expect(await vim.connection.sendRequest('textDocument/codeLens', { textDocument: { uri } })).toEqual([]);
  }
  expect(await vim.ask('textDocument/completion', file, { position })).toEqual([]);
  expect(await vim.ask('textDocument/rename', file, { position, newName: 'x' })).toBeNull();
  expect(vim.messages).toEqual([]);
});

test('a lens runs its look, and a quick fix approves what has changed', async () => {
  await served.run();
  await served.client.decide({ kind: 'approve', all: true });
  const changed = readFileSync(join(root, file), 'utf8').replace('<label>Name', '<label>Full name');
  writeFileSync(join(root, file), changed);
  await vim.type(file, changed);
  const lenses = await vim.ask<CodeLens[]>('textDocument/codeLens', file, {});
  const { line } = placeOf(changed, 'plain:');
  const run = lenses.find(({ range, command }) => range.start.line === line && command!.title === 'run')!;
  await vim.connection.sendRequest('workspace/executeCommand', run.command!);
  const approve = (await actionsFor('plain')).find(({ command }) => command?.command === 'sguardo.approve')!;
  expect(approve.title).toBe('Approve “plain” as it is now');
  await vim.connection.sendRequest('workspace/executeCommand', approve.command!);
  const plain = (await served.client.looks()).find(({ look }) => look === 'plain')!;
  expect(plain.captures[0]!.decision).toMatchObject({ kind: 'approve', stands: true });
  await vim.diagnosed(file, (found) => !reaches('plain')(found));
});

test('when the service is gone another one is found for whoever asks next', async () => {
  await served.service.close();
  const note = join(root, '.sguardo/service.json');
  const run = { command: 'sguardo.run', arguments: [{ component: 'src/Buoy', look: 'plain', file }] };
  // What is asked before the editor has noticed is answered, too: with what was known last, or that nothing answers.
  do {
    vim.messages.length = 0;
    await vim.ask('textDocument/codeLens', file, {});
    await vim.connection.sendRequest('workspace/executeCommand', run);
  } while (vim.messages.length > 0 || !existsSync(note));
  const { url, pid } = JSON.parse(readFileSync(note, 'utf8')) as { url: string; pid: number };
  const [last] = await connect(url).runs(1);
  expect(pid).not.toBe(process.pid);
  expect(last!.request.looks).toEqual([{ component: 'src/Buoy', look: 'plain' }]);
});

test('look files may be called otherwise, and a component is enough to begin', async () => {
  const other = project({
    'sguardo.config.ts': configuration({ looks: ['src/*.states.tsx'], markAttribute: 'data-mark' }),
    'src/words.ts': "export const word = 'Buoy';",
    'src/Buoy.states.tsx': plainFile(
      'return <p data-mark="word">{word}</p>;',
      "plain: { async script() { await ensure(the.marked('word')).reads('Beacon'); } }",
      "import { word } from './words.ts';\n",
    ),
  });
  await (await serve(other)).run();
  const emacs = await editor(other);
  await emacs.open('src/words.ts');
  await emacs.diagnosed('src/Buoy.states.tsx', reaches('plain'));
  await emacs.open('src/Buoy.states.tsx');
  const text = readFileSync(join(other, 'src/Buoy.states.tsx'), 'utf8');
  const position = placeOf(text, "the.marked('word')", 3);
  const hover = await emacs.ask<Hover | null>('textDocument/hover', 'src/Buoy.states.tsx', { position });
  expect((hover!.contents as { value: string }).value).toContain('**1 element');
  expect(await emacs.ask('textDocument/codeLens', 'src/words.ts', {})).toEqual([]);
});
