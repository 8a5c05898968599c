/** What is made wrong in the pages of looks: which of it a strict script notices, and which a lax one does not. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Challenge, ChallengedLook } from '../../src/core/challenge/challenge.ts';
import { sguardo } from '../support/cli.ts';
import { project } from '../support/project.ts';
import { serve } from '../support/service.ts';

const component = `
import { useState } from 'react';
export function Locker({ onOpen = () => {} }: { onOpen?: () => void }) {
  const [said, setSaid] = useState('');
  const open = async () => {
    onOpen();
    const reply = await fetch('/api/locker', { method: 'POST' });
    setSaid(reply.ok ? (await reply.json()).said : 'No luck');
  };
  return (
    <div style={{ position: 'relative', width: 300, height: 200 }}>
      <style>{'button { color: teal }'}</style>
      <button onClick={open}>Open</button>
      <div style={{ position: 'absolute', top: 40, left: 40, width: 1, height: 1, overflow: 'hidden', opacity: 0.001 }}>
        <output aria-live={said ? 'polite' : undefined}>{said}</output>
        {said && <ul aria-label="Contents"><li>Rope</li><li>Lamp</li></ul>}
      </div>
    </div>
  );
}
`;

const looksOf = (script: string): string => `
import { answer, click, ensure, looks, part, spy, the } from 'sguardo';
import { Locker } from './Locker.tsx';
export default looks(Locker, {
  props: { onOpen: spy() },
  answers: { 'POST /api/locker': { json: { said: 'It holds 2 things' } } },
  states: {
    shut: {},
    open: { async script({ props }) { await click(the.button('Open')); ${script} } },
  },
});
`;

const strict = `
  await ensure(props.onOpen).wasCalled();
  await ensure(the.css('output')).reads('It holds 2 things');
  await ensure(the.css('output')).hasAttribute('aria-live', 'polite');
  await ensure(the.list('Contents')).hasAttribute('aria-label', 'Contents');
  await ensure(the.css('output')).hasStyle('display', 'inline');
  await ensure(the.css('ul')).not.hasStyle('display', 'none');
  await ensure(the.css('li').first()).reads('Rope');
  await ensure(the.css('li').nth(1)).reads('Lamp');
  await ensure(the.css('li').nth(1)).not.hasStyle('display', 'none');
  await ensure(the.css('li').first()).not.hasStyle('display', 'none');
`;

type Told = { format: string; score: number; looks: ChallengedLook[]; withoutScript: number };

describe('challenging looks', () => {
  let root = '';
  let told: Told;
  const of = (look: string, named: string): ChallengedLook =>
    told.looks.find((one) => one.look === look && one.component.endsWith(named))!;
  const missedIn = (look: ChallengedLook): Challenge[] => look.challenges.filter(({ noticed }) => noticed === null);

  beforeAll(async () => {
    root = project({
      // Otherwise whatever people hear is compared as well.
      'sguardo.config.ts': "export default { compare: { what: 'picture' } };",
      'src/Locker.tsx': component,
      'src/Lax.look.tsx': looksOf(''),
      'src/Strict.look.tsx': looksOf(strict),
      'src/Wrong.look.tsx': looksOf("await ensure(the.text('Never')).isVisible();"),
    });
    await serve(root);
    const { code, out, err } = await sguardo(root, 'challenge', '--most', '40', '--json');
    expect([code, err]).toEqual([0, '']);
    told = JSON.parse(out) as Told;
  });

  it('tells what a script without checks does not notice, and the check that would', () => {
    const lax = of('open', 'Lax');
    const missed = missedIn(lax);
    expect(new Set(missed.map(({ kind }) => kind))).toEqual(
      new Set(['handlers', 'answer', 'text', 'attribute', 'hidden', 'order']),
    );
    const check = (kind: string): string | null => missed.find((one) => one.kind === kind)!.check;
    expect(check('handlers')).toBe('await ensure(props.onOpen).wasCalled();');
    expect(check('text')).toBe("await ensure(the.text('It holds 2 things')).isVisible();");
    expect(missed.map((one) => one.check)).toContain(
      "await ensure(the.list('Contents')).hasAttribute('aria-label', 'Contents');",
    );
    expect(missed.map((one) => one.check)).toContain("await ensure(the.text('Rope')).comesBefore(the.text('Lamp'));");
  });

  it('finds that a script with checks notices all of it but what nobody could see', () => {
    expect(missedIn(of('open', 'Strict')).map(({ kind, title }) => `${kind}: ${title}`)).toEqual([]);
    const steps = of('open', 'Strict').challenges.map(({ noticed }) => noticed!.by);
    expect(steps.filter((by) => by === 'step').length).toBeGreaterThan(8);
  });

  it('notices by the picture what can be seen', () => {
    const styles = of('open', 'Strict').challenges.find(({ kind }) => kind === 'styles')!;
    const button = of('open', 'Lax').challenges.find(
      ({ title }) => title.includes('“Open”') && title.includes('hidden'),
    );
    expect(styles.noticed).not.toBeNull();
    expect(button?.noticed?.by).toBe('step');
  });

  it('counts what a capture notices of what people hear, where that is compared', async () => {
    const both = project({ 'src/Locker.tsx': component, 'src/Lax.look.tsx': looksOf('') });
    await serve(both);
    const { out } = await sguardo(both, 'challenge', '--most', '40', '--all');
    expect(out).toMatch(/Lax {2}\d+ % .* by a capture alone/);
    expect(out).toContain('the text “Rope” is another one, noticed by the capture “end” alone');
    const { code } = await sguardo(both, 'challenge', '--most', '40', '--least', '90');
    expect(code).toBe(0);
  });

  it('says of a look that fails by itself why it was not challenged, and leaves out those without a script', () => {
    expect(of('open', 'Wrong').note).toMatch(/^It does not pass as it is: .*Never/);
    expect(of('open', 'Wrong').challenges).toEqual([]);
    expect(told.withoutScript).toBe(3);
  });

  it('touches no file', () => {
    expect(readFileSync(join(root, 'src/Locker.tsx'), 'utf8')).toBe(component);
  });

  it('tells people, and fails below a score', async () => {
    const { code, out } = await sguardo(root, 'challenge', 'Lax', '--most', '40', '--least', '90');
    expect(code).toBe(1);
    expect(out).toContain('click the button “Open” does nothing, and nothing noticed');
    expect(out).toContain('→ await ensure(props.onOpen).wasCalled();');
  });

  it('says what was wrong with what it was asked', async () => {
    const wrong = await sguardo(root, 'challenge', 'Nobody');
    expect([wrong.code, wrong.err]).toEqual([2, expect.stringContaining('“Nobody”')]);
    const least = await sguardo(root, 'challenge', '--least', 'most');
    expect([least.code, least.err]).toEqual([
      2,
      expect.stringContaining('Expected a number from 0 to 100, got “most”'),
    ]);
  });
});

describe('a look whose module keeps something', () => {
  it('is challenged in documents of its own', async () => {
    const folder = project({
      'src/Tally.look.tsx': `import { click, ensure, looks, the } from 'sguardo';
import { useState } from 'react';
let count = 0;
const Tally = () => {
  const [now, setNow] = useState(count);
  return <button type="button" onClick={() => setNow(++count)}>{now} in all</button>;
};
export default looks(Tally, { states: { once: { async script() {
  await click(the.button());
  await ensure(the.button()).reads(/in all/);
} } } });
`,
    });
    const { code, out } = await sguardo(folder, 'challenge', '--json');
    const [look] = (JSON.parse(out) as Told).looks;
    expect(code).toBe(0);
    expect(look!.note).toBeNull();
    // In a document of its own it counts to one, and a picture says whether it did.
    expect(look!.challenges.find(({ kind }) => kind === 'handlers')!.noticed).toEqual({ by: 'capture', title: 'end' });
  });
});
