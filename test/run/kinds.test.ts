/** The same components in every framework: what each of them has to do with its looks. */
import { cpSync, existsSync, mkdirSync, symlinkSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { freshFolder, repository, write } from '../support/project.ts';
import { serve } from '../support/service.ts';

/** Where frameworks are installed only when somebody asks for them; `node scripts/kits.mjs kits` does. */
const kits = ['vue', 'svelte', 'angular', 'elements'] as const;
const isThere = (kit: string): boolean => existsSync(join(repository, 'demo', kit, 'node_modules'));

/** A copy of a kit with the packages and the styles of the original. */
function copyOfKit(kit: string): string {
  const around = freshFolder();
  const folder = join(around, kit);
  mkdirSync(folder);
  const isOwn = (path: string): boolean => !/node_modules|\.sguardo/.test(path.slice(repository.length));
  cpSync(join(repository, 'demo', kit), folder, { recursive: true, filter: isOwn });
  cpSync(join(repository, 'demo/harbour/src'), join(around, 'harbour/src'), { recursive: true });
  symlinkSync(join(repository, 'demo', kit, 'node_modules'), join(folder, 'node_modules'));
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

describe.each(kits.map((kit) => ({ kit })))('the kit in $kit', ({ kit }) => {
  it.skipIf(!isThere(kit))('has every look as it is meant to be, and the same in the next run', async () => {
    const served = await serve(copyOfKit(kit));
    const { results } = await served.run();
    const wrong = results.filter(({ verdict, notes }) => verdict !== 'new' || notes.length > 0);
    expect(wrong.map(({ component, look, problem, notes }) => [component, look, problem?.message, notes])).toEqual([]);
    expect(results).toHaveLength(24);
    // Props that change while a component is there reach the one that is there.
    const more = await served.client.timeline(results.find(({ look }) => look === 'more water')!.id);
    expect(more.steps.map(({ title }) => title)).toContain('give it the props of “more water”');
    await served.client.decide({ kind: 'approve', all: true });
    const { run } = await served.run({ fresh: true });
    expect(run.tally).toMatchObject({ passed: 24, changed: 0, failed: 0, broken: 0, new: 0 });
  });

  it.skipIf(!isThere(kit))('tells of a component that throws while it renders', async () => {
    const folder = copyOfKit(kit);
    write(folder, broken[kit]);
    const { look } = await (await serve(folder)).run({ patterns: ['Gale'] });
    expect(look('blows')).toMatchObject({ verdict: 'broken', problem: { code: 'render-threw' } });
    expect(look('blows').problem?.message).toContain('threw while rendering: Error: no such knot');
  });
});

it.skipIf(!isThere('angular'))('an input that an Angular component does not have is told', async () => {
  const folder = copyOfKit('angular');
  write(folder, {
    'src/Slip.look.ts': `import { looks } from 'sguardo/angular'; import { BerthCard } from './BerthCard';
export default looks(BerthCard, { props: { berth: 'C', vessel: null, drauht: 2 } as never, states: { a: {} } });`,
  });
  const { look } = await (await serve(folder)).run({ patterns: ['Slip'] });
  expect(look('a').problem).toMatchObject({
    code: 'prop-unknown',
    message: 'BerthCard has no input or output “drauht”.',
    remedy: 'Did you mean “draught”?',
  });
});
