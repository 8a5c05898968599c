/** Live looks: scripts that stop, lines that are tried where they stand, and pages in a person's hands. */
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../../src/client/client.ts';
import type { SittingState } from '../../src/core/sitting/sitting.ts';
import { decodePng } from '../../src/work/png.ts';
import { configuration, project, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';
import { begun, gone, standing, titles } from '../support/sitting.ts';

const component = `import { useEffect, useState } from 'react';
export function Lock(props: { name: string; onOpen(name: string, gates: number): void }) {
  const [gates, setGates] = useState(0);
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setSeconds((now) => now + 1), 1000);
    return () => clearInterval(timer);
  }, []);
  const open = () => {
    setGates(gates + 1);
    props.onOpen(props.name, gates + 1);
  };
  return (
    <main style={{ margin: 0 }}>
      <style>
        {
          ':root { --deep: rgb(1, 2, 3); } h1 { color: red; padding: 3px } ' +
          'h1.name { color: var(--deep); border: 1px solid var(--deep) }'
        }
      </style>
      <h1 className="name" style={{ position: 'fixed', left: 0, top: 0, margin: 0, height: 50, width: 300 }}>
        {props.name}
      </h1>
      <button type="button" style={{ position: 'fixed', left: 0, top: 100, width: 200, height: 60 }} onClick={open}>
        Open
      </button>
      <p>{gates} open</p>
      <p>
        {seconds} s, {new Date().toISOString()}
      </p>
      <input aria-label="Note" style={{ position: 'fixed', left: 210, top: 200, width: 150, height: 60 }} />
      <label>
        Level{' '}
        <select style={{ position: 'fixed', left: 0, top: 200, width: 200, height: 60 }}>
          <option>low</option>
          <option disabled>none</option>
          <option>high</option>
        </select>
      </label>
    </main>
  );
}
`;
const looks = `import { capture, click, ensure, looks, part, pause, the } from 'sguardo';
import { Lock } from './Lock';
export default looks(Lock, { props: { name: 'East lock' }, states: {
  shut: {},
  opened: { async script({ props }) {
    await click(the.button('Open'));
    await part('twice more', async () => {
      await click(the.button('Open'));
      await click(the.button('Open'));
    });
    await ensure(the.text('3 open')).isVisible();
    await ensure(props.onOpen).calls(3);
  } },
  pauses: { async script() {
    await click(the.button('Open'));
    await pause();
    await click(the.button('Open'));
  } },
  fails: { async script() {
    await click(the.button('Shut'));
    await click(the.button('Open'));
  } },
  throws: { async script() {
    await click(the.button('Open'));
    throw new Error('the sluice is stuck');
  } },
  leaves: { async script() {
    await click(the.button('Open'));
    location.href = 'http://elsewhere.test/';
    await click(the.button('Open'));
  } },
} });
`;
const file = 'src/Lock.look.tsx';

let root: string;
let served: Served;
let client: Client;

beforeAll(async () => {
  root = project({
    'sguardo.config.ts': configuration({ environments: { day: { viewport: [400, 300] } }, timeLimit: 1500 }),
    'vite.config.ts': `import react from '@vitejs/plugin-react';\nexport default { plugins: [react()] };`,
    'src/Lock.tsx': component,
    [file]: looks,
  });
  served = await serve(root);
  ({ client } = served);
});

afterEach(async () => {
  for (const { id } of await client.sittings()) await client.endSitting(id);
});

const to = (look: string, orders: object = {}): Promise<SittingState> => begun(client, { file, look, orders });

/** Tries an expression on the page, and gives its value in words. */
const shown = async (id: number, text: string): Promise<string | null> => (await client.tryLine(id, text)).value;

describe('a script that stops', () => {
  it('stops before the step that was wanted, goes over a part or into it, and comes to its end', async () => {
    const first = await to('opened', { to: 1 });
    expect(first.stop).toMatchObject({ why: 'reached', number: 1, problem: null });
    expect(titles(first)).toEqual(['mount Lock', 'click the button “Open”']);
    expect(first.steps[1]!.source).toMatchObject({ file, line: 6 });
    const { id } = first;
    const second = await gone(client, id, { go: 'over' });
    expect(second.steps[second.stop!.step!]!.title).toBe('twice more');
    const third = await gone(client, id, { go: 'over' });
    expect(third.steps[third.stop!.step!]!.title).toBe('ensure the text “3 open” is visible');
    const last = await gone(client, id);
    expect(last.stop).toMatchObject({ why: 'end', number: 8, step: null, problem: null });
    // Its page is still there.
    expect(await shown(id, 'document.querySelector("p").textContent')).toBe('"3 open"');
    expect((await gone(client, id)).phase).toBe('over');
  });

  it('goes into a part, and stops at breakpoints in it', async () => {
    const { id } = await to('opened', { to: 2 });
    const inside = await gone(client, id, { go: 'into' });
    expect([inside.stop!.why, inside.stop!.number, inside.steps[3]!.parent]).toEqual(['next', 3, 2]);
    expect((await gone(client, id, { breaks: [4, 6] })).stop).toMatchObject({ why: 'breakpoint', number: 4 });
    expect((await gone(client, id, { breaks: [4, 6] })).stop).toMatchObject({ why: 'breakpoint', number: 6 });
  });

  it('stops at pause(), which fails where nobody is there', async () => {
    const paused = await to('pauses');
    expect(paused.stop).toMatchObject({ why: 'pause', number: 2 });
    // Whoever wants to go straight to a step is not held up on the way.
    const straight = await to('pauses', { to: 3, straight: true });
    expect(straight.stop).toMatchObject({ why: 'reached', number: 3 });
    const { look } = await served.run({ patterns: ['Lock/pauses'] });
    expect(look('pauses')).toMatchObject({ verdict: 'failed', problem: { code: 'pause-alone' } });
  });

  it('stops where a step fails, and goes on behind it; the look has failed all the same', async () => {
    const { id, stop, steps } = await to('fails', { failure: true });
    expect(stop).toMatchObject({ why: 'failure', number: 1, problem: { code: 'target-missing' } });
    expect(steps[1]!.outcome).toBe('failed');
    const end = await gone(client, id);
    expect(titles(end)).toEqual(['mount Lock', 'click the button “Shut”', 'click the button “Open”', 'capture “end”']);
    expect(end.stop).toMatchObject({ why: 'end', problem: { code: 'target-missing' } });
    expect(await shown(id, 'document.querySelector("p").textContent')).toBe('"1 open"');
  });

  it('keeps the page of one that throws, and of one that fails, at its end', async () => {
    for (const [look, code] of [
      ['throws', 'script-threw'],
      ['fails', 'target-missing'],
    ] as const) {
      const { id, stop } = await to(look);
      expect(stop).toMatchObject({ why: 'end', problem: { code } });
      expect(await shown(id, '1 + 1')).toBe('2');
      await client.endSitting(id);
    }
  });

  it('has all the time of the world, and the clock of its page stands still', async () => {
    const { id } = await to('opened', { to: 1 });
    const clock = (): Promise<string | null> => shown(id, 'Date.now()');
    const before = await clock();
    // Longer than the time limit of looks.
    await new Promise((resolve) => setTimeout(resolve, 2000));
    expect(await clock()).toBe(before);
    expect((await gone(client, id)).stop).toMatchObject({ why: 'end', problem: null });
  });
});

describe('lines', () => {
  it('are steps of a side branch, which a script does not notice', async () => {
    const { id } = await to('opened', { to: 1 });
    expect(await client.tryLine(id, "click(the.button('Open'));")).toEqual({
      text: "click(the.button('Open'));",
      value: null,
      problem: null,
      steps: 1,
    });
    expect(await client.tryLine(id, 'ensure(props.onOpen).wasCalledWith("East lock", 1)')).toMatchObject({
      problem: null,
    });
    const several = "const name = 'Open';\nawait click(the.button(name));\nreturn props.name;";
    expect(await client.tryLine(id, several)).toMatchObject({ value: '"East lock"', problem: null, steps: 1 });
    const state = await client.sitting(id);
    expect(state.lines).toHaveLength(3);
    expect(titles(state)).toEqual([
      'mount Lock',
      'click the button “Open”',
      '(click the button “Open”)',
      '(ensure onOpen was called with ("East lock", 1))',
      '(click the button “Open”)',
    ]);
    // The next step keeps its number.
    expect((await gone(client, id, { to: 3 })).stop).toMatchObject({ why: 'reached', number: 3 });
  });

  it('tell what is wrong with them, and do no harm', async () => {
    const { id } = await to('opened', { to: 1 });
    const wrongWith = async (text: string): Promise<unknown> => {
      const tried = await client.tryLine(id, text).catch((error: { problem: object }) => error);
      return (tried as { problem: { code: string; message: string } }).problem;
    };
    expect(await wrongWith('click(')).toMatchObject({
      code: 'line-wrong',
      message: /a bracket or a quote .* not closed/,
    });
    expect(await wrongWith('')).toMatchObject({ code: 'line-wrong', message: /it is empty/ });
    expect(await wrongWith('click(the.button("Shut"))')).toMatchObject({ code: 'target-missing' });
    expect(await wrongWith("ensure(the.button('Open'))")).toMatchObject({ code: 'check-missing' });
    expect(await wrongWith('berths.length')).toMatchObject({ message: /berths is not known here/ });
    expect(await wrongWith("click(the.button('Open')); hover(the.button('Open'))")).toMatchObject({
      code: 'step-unfinished',
    });
    expect(await wrongWith('while (true) {}')).toMatchObject({ code: 'look-endless' });
    expect(await wrongWith('new Promise(() => {})')).toMatchObject({ code: 'look-endless' });
    expect(await wrongWith("}); throw new Error('out'); (async () => {")).toBeTruthy();
    expect((await gone(client, id, { to: 2 })).stop).toMatchObject({ why: 'reached', number: 2 });
  });

  it('are completed from the language and from the page', async () => {
    const { id } = await to('opened', { to: 1 });
    const words = async (text: string): Promise<string[]> => {
      const { from, words: found } = await client.complete(id, text);
      return found.map((word) => text.slice(0, from) + word);
    };
    expect(await words('cli')).toEqual(['click(']);
    expect(await words('click(the.bu')).toEqual(["click(the.button('"]);
    expect(await words("click(the.button('")).toEqual(["click(the.button('Open')"]);
    expect(await words("ensure(the.text('0")).toEqual(
      ["ensure(the.text('0 open')", "ensure(the.text('0 s, 2026".concat('')]
        .slice(0, 1)
        .concat((await words("ensure(the.text('0")).slice(1)),
    );
    expect(await words("select(the.field('L")).toEqual(["select(the.field('Level')"]);
    expect(await words("ensure(the.button('Open')).isE")).toEqual(["ensure(the.button('Open')).isEnabled("]);
    expect(await words("ensure(the.button('Open')).not.isV")).toEqual(["ensure(the.button('Open')).not.isVisible("]);
    expect(await words('ensure(props.onO')).toEqual(['ensure(props.onOpen']);
    expect(await words('ensure(props.onOpen).wasCalledW')).toEqual(['ensure(props.onOpen).wasCalledWith(']);
    expect(await words('%%%')).toEqual([]);
  });

  it('are gone when the script is run again up to where it stands', async () => {
    const { id } = await to('opened', { to: 3 });
    await client.tryLine(id, "click(the.button('Open'))");
    await client.restart(id, { to: 3, straight: true });
    const again = await standing(client, id);
    expect([again.stop!.number, again.lines, again.steps.filter(({ tried }) => tried)]).toEqual([3, [], []]);
    expect(await shown(id, 'document.querySelector("p").textContent')).toBe('"1 open"');
  });
});

describe('a page in the hands of a person', () => {
  const clickAt = (x: number, y: number) =>
    [
      { kind: 'move', x, y, button: 'none', modifiers: 0 },
      { kind: 'down', x, y, button: 'left', clicks: 1, modifiers: 0 },
      { kind: 'up', x, y, button: 'left', clicks: 1, modifiers: 0 },
    ] as const;

  it('takes input, shows what comes of it, and lets its time run or stand', async () => {
    const { id } = await to('shut');
    const size = async (after: number): Promise<{ number: number; size: string }> => {
      const { number, png } = (await client.sittingPicture(id, after))!;
      const { width, height } = await decodePng(Buffer.from(await png.arrayBuffer()));
      return { number, size: `${width} × ${height}` };
    };
    let first = await size(0);
    while (first.size !== '400 × 300') first = await size(first.number);
    await client.input(id, clickAt(50, 120));
    expect((await size(first.number)).number).toBeGreaterThan(first.number);
    expect(await shown(id, 'document.querySelector("p").textContent')).toBe('"1 open"');
    const seconds = (): Promise<string | null> => shown(id, 'document.querySelectorAll("p")[1].textContent[0]');
    expect(await seconds()).toBe('"0"');
    expect((await client.letTime(id, true)).isTimeRunning).toBe(true);
    for (let tries = 0; tries < 200 && (await seconds()) === '"0"'; tries++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect(await seconds()).not.toBe('"0"');
    await client.letTime(id, false);
    const stands = await shown(id, 'Date.now()');
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(await shown(id, 'Date.now()')).toBe(stands);
  });

  it('has what is done to it written down, however much is typed', async () => {
    const { id } = await to('shut');
    await client.record(id, true);
    const text = "it's deep, ".repeat(30);
    await client.input(id, clickAt(250, 220));
    // A line at a time: each has the look's limit of real time.
    for (const piece of text.match(/.{1,22}/g)!)
      await client.input(
        id,
        [...piece].map((key) => ({ kind: 'key', key, modifiers: 0 })),
      );
    await client.record(id, false);
    const { lines } = await client.sitting(id);
    expect(lines.map((line) => line.text)).toEqual([`type(the.field('Note'), '${text.replaceAll("'", "\\'")}')`]);
    expect((await client.point(id, 250, 220))!.targets[0]!.code).toBe("the.field('Note')");
  });

  it('shows what comes of what is written down a while later, and stands still again', async () => {
    const { id } = await to('shut');
    const late = "setTimeout(() => document.querySelector('h1').append(' is open'), 600)";
    await client.tryLine(id, `document.querySelector('button').addEventListener('click', () => ${late})`);
    const began = Number(await shown(id, 'Date.now()'));
    await client.record(id, true);
    await client.input(id, clickAt(50, 120));
    const offers = async (): Promise<readonly string[]> => (await client.sitting(id)).lines.at(-1)!.offers ?? [];
    const wanted = "ensure(the.text('East lock is open')).isVisible()";
    for (let tries = 0; tries < 400 && !(await offers()).includes(wanted); tries++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect(await offers()).toContain(wanted);
    await client.record(id, false);
    // It is a second of the look's time at most, and the rest of a frame.
    expect(Number(await shown(id, 'Date.now()')) - began).toBeLessThan(1020);
  });

  it('is stopped in what it does for ever, and goes on', async () => {
    const { id } = await to('shut');
    await client.tryLine(id, "document.querySelector('h1').addEventListener('click', () => { for (;;); })");
    await expect(client.input(id, clickAt(50, 20))).rejects.toThrow(
      /What was done to the page did not end within 1500 ms/,
    );
    await client.input(id, clickAt(50, 120));
    expect(await shown(id, 'document.querySelector("p").textContent')).toBe('"1 open"');
  });

  it('asks what to choose where the browser would open a list beside the page', async () => {
    const { id } = await to('shut');
    await client.input(id, clickAt(50, 220));
    const { choice } = await client.sitting(id);
    expect(choice).toEqual({
      chosen: 0,
      options: [
        { label: 'low', isDisabled: false },
        { label: 'none', isDisabled: true },
        { label: 'high', isDisabled: false },
      ],
    });
    expect((await client.choose(id, 2)).choice).toBeNull();
    expect(await shown(id, 'document.querySelector("select").value')).toBe('"high"');
    await client.input(id, clickAt(50, 220));
    expect((await client.endSitting(id)).choice).toBeNull();
  });
});

describe('an element that somebody points at', () => {
  it('is told with its targets, what it is, and the styles of its own with their tokens', async () => {
    const { id } = await to('shut');
    const pointed = await client.point(id, 10, 10);
    expect(pointed).toMatchObject({
      element: '<h1>',
      role: 'heading',
      name: 'East lock',
      box: [0, 0, 308, 58],
      component: { name: 'Lock', props: expect.stringContaining('name: "East lock"') },
    });
    expect(pointed!.targets[0]).toEqual({ code: "the.heading('East lock')", matches: 1 });
    const styles = Object.fromEntries(pointed!.styles.map(({ property, ...rest }) => [property, rest]));
    expect(styles.color).toEqual({
      value: 'rgb(1, 2, 3)',
      tokens: [{ name: '--deep', value: 'rgb(1, 2, 3)' }],
      rule: 'h1.name',
    });
    expect(styles.padding).toEqual({ value: '3px', tokens: [], rule: 'h1' });
    expect(styles['border-color']).toMatchObject({ value: 'rgb(1, 2, 3)', tokens: [{ name: '--deep' }] });
    expect(styles.position).toMatchObject({ value: 'fixed', rule: 'style' });
    // Neither what it inherits, nor what follows from its colour, nor what every heading has.
    for (const none of ['font-family', 'caret-color', 'display', 'font-weight']) expect(styles[none]).toBeUndefined();
    expect(await client.point(id, -50, -50)).toBeNull();
  });

  it('has a target also where it has no name, in a shadow root', async () => {
    const { id } = await to('shut');
    const hatch =
      '<div class="hatch" style="position: fixed; inset: 0 auto auto 320px; width: 50px; height: 50px"></div>';
    const host = "document.body.appendChild(document.createElement('div'))";
    await client.tryLine(id, `${host}.attachShadow({ mode: 'open' }).innerHTML = '${hatch}'`);
    const pointed = await client.point(id, 330, 10);
    expect(pointed).toMatchObject({ element: '<div>', targets: [{ code: "the.css('div.hatch')", matches: 1 }] });
  });
});

describe('going live from a recorded step', () => {
  it('finds the page as it was recorded, before every step and at the end', async () => {
    const { look } = await served.run({ patterns: ['Lock/opened'], fresh: true });
    const { id: result } = look('opened');
    const { steps } = await client.timeline(result);
    for (const number of [...steps.keys(), steps.length]) {
      const state = await begun(client, { file, look: 'opened', result, orders: { to: number, straight: true } });
      expect([number, state.stop?.number, state.parted]).toEqual([number, number, null]);
      await client.endSitting(state.id);
    }
  });

  it('says where it is not', async () => {
    const { look } = await served.run({ patterns: ['Lock/opened'], fresh: true });
    const { id: result } = look('opened');
    const live = (): Promise<SittingState> =>
      begun(client, { file, look: 'opened', result, orders: { to: 3, straight: true } });
    write(root, { 'src/Lock.tsx': component.replace('{gates} open', '{gates} gates open') });
    const otherPage = await live();
    expect(otherPage.parted).toEqual({
      what: 'The page shows something else than was recorded.',
      lines: expect.arrayContaining([expect.stringMatching(/^\+ .*gates open/)]),
    });
    write(root, { 'src/Lock.tsx': component, [file]: looks.replace("await part('twice more'", "await part('again'") });
    const otherScript = await begun(client, { file, look: 'opened', result, orders: { to: 2, straight: true } });
    expect(otherScript.parted?.what).toContain('“again” instead of “twice more”');
    write(root, { [file]: looks.replace("click(the.button('Open'))", "click(the.button('Shut'))") });
    const shorter = await live();
    expect(shorter.parted).toEqual({
      what: expect.stringContaining('The script did not come as far as this step.'),
      lines: [expect.stringContaining('button “Shut”')],
    });
    write(root, { [file]: looks });
  });
});

describe('what cannot be', () => {
  const refused = (work: Promise<unknown>): Promise<string> =>
    work.then(
      () => 'nothing was refused',
      (error: { problem: { code: string } }) => error.problem.code,
    );

  it('is refused with what to do', async () => {
    expect(await refused(client.beginSitting({ file: 'src/No.look.tsx', look: 'shut' }))).toBe('not-found');
    expect(await refused(client.beginSitting({ file, look: 'shut', environment: 'dusk' }))).toBe('environment-unknown');
    expect(await refused(client.sitting(999))).toBe('not-found');
    expect((await to('nowhere')).problem).toMatchObject({ code: 'not-found' });
    const running = await client.beginSitting({ file, look: 'shut' });
    expect(await refused(client.go(running.id, {}))).toBe('sitting-running');
    await standing(client, running.id);
    await client.endSitting(running.id);
    expect(await refused(client.tryLine(running.id, '1'))).toBe('sitting-gone');
    const more: SittingState[] = [];
    for (let n = 0; n < 4; n++) more.push(await to('shut'));
    expect(await refused(client.beginSitting({ file, look: 'shut' }))).toBe('sittings-full');
    expect((await client.sittings()).map(({ id }) => id)).toEqual(more.map(({ id }) => id));
    for (const { id } of more) await client.endSitting(id);
    expect(await client.sittings()).toEqual([]);
  });

  it('is told when the page goes away, and harms no run', async () => {
    const left = await to('leaves');
    // Leaving is prevented in looks, and told.
    expect([left.phase, (left.problem ?? left.stop?.problem)?.code]).toEqual(['stopped', 'navigated-away']);
    const crashed = await to('shut');
    await client.tryLine(crashed.id, 'location.reload()').catch(() => {});
    const { look } = await served.run({ patterns: ['Lock/shut'], fresh: true });
    expect(look('shut').problem).toBeNull();
  });

  it('is a look file that is broken: why is said at once', async () => {
    write(root, { 'src/Torn.look.tsx': 'export default looks(' });
    expect(await refused(client.beginSitting({ file: 'src/Torn.look.tsx', look: 'any' }))).toBe('bundle-failed');
    rmSync(join(root, 'src/Torn.look.tsx'));
  });
});
