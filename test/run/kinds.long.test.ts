/** The same components in every framework: what each of them has to do with its looks. */
import { cpSync, existsSync, mkdirSync, symlinkSync } from 'node:fs';
import { basename, join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { freshFolder, repository, write } from '../support/project.ts';
import { type Served, serve } from '../support/service.ts';

/** Frameworks are installed only when somebody asks for them, and their kits are run then: by `npm run test:all`. */
const kits = ['vue', 'svelte', 'angular', 'elements'] as const;
const isWanted = process.env.SGUARDO_TESTS === 'all';
const isThere = (kit: string, around = 'demo'): boolean =>
  isWanted && existsSync(join(repository, around, kit, 'node_modules'));

/** A copy of a kit with the packages and the styles of the original. */
function copyOfKit(path: string): string {
  const around = freshFolder();
  const folder = join(around, basename(path));
  mkdirSync(folder);
  const isOwn = (file: string): boolean => !/node_modules|\.sguardo/.test(file.slice(repository.length));
  cpSync(join(repository, path), folder, { recursive: true, filter: isOwn });
  cpSync(join(repository, 'demo/harbour/src'), join(around, 'harbour/src'), { recursive: true });
  symlinkSync(join(repository, path, 'node_modules'), join(folder, 'node_modules'));
  return folder;
}

/** A component that throws while it renders, in each framework. */
const broken: Record<(typeof kits)[number], Record<string, string>> = {
  vue: {
    'src/Gale.vue': `<script setup lang="ts">throw new Error('no such knot');</script><template><p /></template>`,
    'src/Gale.look.ts': `import { looks } from 'sguardo/vue'; import Gale from './Gale.vue';
export default looks(Gale, { states: { blows: {} } });`,
  },
  svelte: {
    'src/Gale.svelte': `<script>throw new Error('no such knot');</script><p></p>`,
    'src/Gale.look.ts': `import { looks } from 'sguardo/svelte'; import Gale from './Gale.svelte';
export default looks(Gale, { states: { blows: {} } });`,
  },
  angular: {
    'src/Gale.ts': `import { Component } from '@angular/core';
@Component({ selector: 'harbour-gale', template: '{{ knot() }}' })
export class Gale { knot(): string { throw new Error('no such knot'); } }`,
    'src/Gale.look.ts': `import { looks } from 'sguardo/angular'; import { Gale } from './Gale';
export default looks(Gale, { states: { blows: {} } });`,
  },
  elements: {
    'src/Gale.look.ts': `import { looks } from 'sguardo/dom';
export default looks(() => { throw new Error('no such knot'); }, { states: { blows: {} } });`,
  },
};

/** BerthCard, where its source says by what it calls back. */
const unheard: Partial<Record<(typeof kits)[number], string>> = {
  vue: "import BerthCard from './BerthCard.vue'",
  svelte: "import BerthCard from './BerthCard.svelte'",
  angular: "import { BerthCard } from './BerthCard'",
};

const unheardLook = (kit: string, imported: string): string =>
  `import { click, ensure, looks, the } from 'sguardo/${kit}';
${imported};
export default looks(BerthCard, {
  props: { berth: 'C-14', vessel: 'Aliseo' },
  states: {
    unheard: {
      async script({ props }) {
        await click(the.button('Release berth'));
        await click(the.button('Release').in(the.dialog()));
        await ensure(props.onRelease).wasCalledWith('C-14');
      },
    },
  },
});`;

const slip = `import { looks } from 'sguardo/angular'; import { BerthCard } from './BerthCard';
export default looks(BerthCard, { props: { berth: 'C', vessel: null, drauht: 2 } as never, states: { slip: {} } });`;

/** Its template and its styles are files of their own, and those are made of others. */
const apart = {
  'src/apart.ts': `import { Component } from '@angular/core';
@Component({ selector: 'harbour-apart', templateUrl: './apart.html', styleUrl: './apart.css' })
export class Apart {}`,
  'src/apart.html': '<p>Moored</p>',
  'src/apart.css': `@import './inks.css'; p { font-size: 20px }`,
  'src/inks.css': 'p { color: rgb(0, 60, 90) }',
  'src/apart.look.ts': `import { looks } from 'sguardo/angular'; import { Apart } from './apart';
export default looks(Apart, { states: { apart: {} } });`,
};

const torn = `import { Component } from '@angular/core';
@Component({ selector: 'harbour-torn', template: \`
  <p>@if (open {<b>Open</b>}</p>\` })
export class Torn { open = true; }`;
const tornLook = `import { looks } from 'sguardo/angular'; import { Torn } from './Torn';
export default looks(Torn, { states: { torn: {} } });`;

describe.each(kits.map((kit) => ({ kit })))('the kit in $kit', ({ kit }) => {
  let results: ResultSummary[] = [];
  let served: Served;
  const look = (name: string): ResultSummary => results.find((one) => one.look === name)!;

  beforeAll(async () => {
    if (!isThere(kit)) return;
    const folder = copyOfKit(`demo/${kit}`);
    write(folder, broken[kit]);
    const imported = unheard[kit];
    if (imported) write(folder, { 'src/Unheard.look.ts': unheardLook(kit, imported) });
    if (kit === 'angular')
      write(folder, { 'src/Slip.look.ts': slip, 'src/Torn.ts': torn, 'src/Torn.look.ts': tornLook });
    served = await serve(folder);
    const ran = await served.run();
    expect(ran.run.problems).toEqual([]);
    ({ results } = ran);
  });

  it.skipIf(!isThere(kit))('has every look as it is meant to be', () => {
    const own = results.filter(({ component }) => /BerthCard|DepthField|ArrivalForm/.test(component));
    const wrong = own.filter(({ verdict, notes }) => verdict !== 'new' || notes.length > 0);
    expect(
      wrong.map(({ component, look: name, problem, notes }) => [component, name, problem?.message, notes]),
    ).toEqual([]);
    expect(own).toHaveLength(24);
  });

  it.skipIf(!isThere(kit))('gives the component that is there its other props', async () => {
    const { steps } = await served.client.timeline(look('more water').id);
    expect(steps.map(({ title }) => title)).toContain('give it the props of “more water”');
  });

  it.skipIf(!isThere(kit))('tells of a component that throws while it renders', () => {
    expect(look('blows')).toMatchObject({ verdict: 'broken', problem: { code: 'render-threw' } });
    expect(look('blows').problem?.message).toContain('threw while rendering: Error: no such knot');
  });

  it.skipIf(!isThere(kit) || !unheard[kit])('has a spy for every event that its look does not hear', () => {
    expect(look('unheard')).toMatchObject({ verdict: 'new', problem: null });
  });

  it.skipIf(!isThere(kit) || kit !== 'angular')('tells of an input that a component does not have', () => {
    expect(look('slip').problem).toMatchObject({
      code: 'prop-unknown',
      message: 'BerthCard has no input or output “drauht”.',
      remedy: 'Did you mean “draught”?',
    });
  });

  it.skipIf(!isThere(kit) || kit !== 'angular')('tells of a template that the compiler cannot read, and where', () => {
    const { verdict, problem } = results.find(({ component }) => component === 'src/Torn')!;
    expect([verdict, problem?.place]).toEqual(['broken', 'src/Torn.ts:3:6']);
    expect(problem?.message).toContain('The template cannot be read: Incomplete block "if"');
  });
});

describe('an Angular component with files of its own', () => {
  it.skipIf(!isThere('angular'))('is run again when one of them has changed', async () => {
    const folder = copyOfKit('demo/angular');
    write(folder, { ...apart, 'sguardo.config.ts': "export default { looks: ['src/apart.look.ts'] };" });
    const { client, run } = await serve(folder);
    await run();
    await client.decide({ kind: 'approve', all: true });
    await run();
    expect((await run()).run.reused).toBe(1);
    const changes = {
      'src/apart.html': '<p>Adrift</p>',
      'src/apart.css': `@import './inks.css'; p { font-size: 30px }`,
      'src/inks.css': 'p { color: rgb(200, 0, 0) }',
    };
    for (const [name, text] of Object.entries(changes)) {
      write(folder, { [name]: text });
      const { run: summary, results } = await run();
      expect([name, summary.reused, results[0]!.verdict]).toEqual([name, 0, 'changed']);
      write(folder, { [name]: apart[name as keyof typeof apart] });
      expect((await run()).run.tally.passed).toBe(1);
    }
  });
});

describe.each(['preact', 'solid'])('a project of %s', (kit) => {
  it.skipIf(!isThere(kit, 'test/kits'))('comes through what is there for others', async () => {
    const served = await serve(copyOfKit(`test/kits/${kit}`));
    const { results, look } = await served.run();
    expect(results.map(({ look: name, verdict, problem }) => [name, verdict, problem?.message])).toEqual(
      ['calm', 'gale', 'impossible', 'later', 'released'].map((name) => [name, 'new', undefined]),
    );
    expect(look('impossible').notes).toEqual([expect.stringMatching(/tone: expected .*, got "storm"/)]);
  });
});
