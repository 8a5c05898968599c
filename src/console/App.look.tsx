/** Every page of the console as a whole: with everything, with nothing, while it waits, and when it is refused. */
import { click, clock, ensure, looks, press, scroll, the, type } from 'sguardo/react';
import { problem } from '../core/problem/problem.ts';
import { packBoard } from '../core/run/board.ts';
import { App } from './App.tsx';
import { empty, full, one } from './samples/answers.ts';
import * as many from './samples/many.ts';
import { areFramesThere, shown, stageIsSilent, stageTells, troubled } from './samples/stage.ts';
import { boardLooks, finishedRun, manyResults, project, results } from './samples/results.ts';
import * as sitting from './samples/sitting.ts';
import { failedId, longTimeline, passedId } from './samples/timeline.ts';
import { useTheme } from './theme.ts';

const refused = { status: 503, json: problem('disk-full', { file: '/home/ada/harbour/.sguardo' }) };

const environments = ['day', 'night'];

const ownKeys = {
  rule: 'tab-leads-on',
  why: 'Keys go to the page of the live look. Shift+Escape leaves it, as its name says.',
} as const;

/** The first look of each component waits for something. */
const someLeftOut = boardLooks(results).map((look, at, all) =>
  look.component === all[at - 1]?.component ? look : { ...look, skip: 'waits for the new gauge' },
);

const berth = 'component=src%2FBerthCard&look=taken&environment=day';

const onStage = 'file=src%2FBerthCard.look.tsx&look=released&env=day,night';

/** Where each page is, and what it has to ask for before it can show anything. */
const pages = {
  board: { location: '/', route: '/api/board' },
  review: { location: '/review', route: '/api/causes' },
  accessibility: { location: '/accessibility', route: '/api/accessibility' },
  coverage: { location: '/coverage', route: '/api/coverage' },
  handbook: { location: '/handbook', route: '/api/handbook' },
  history: { location: `/history?${berth}`, route: '/api/looks/history' },
  bench: { location: `/bench/${failedId}`, route: '/api/results/:id/timeline' },
  live: { location: '/live/7', route: '/api/sittings/:id' },
} as const;

const everyPage = Object.entries(pages).flatMap(([name, { location, route }]) => [
  [name, { location, environments: ['day', 'night', 'narrow', 'wide'] }],
  [`${name}, nothing there`, { location, answers: empty, environments }],
  [`${name}, one of each`, { location, answers: one, environments }],
  [`${name}, waiting`, { location, answers: { [route]: { hold: true } }, environments }],
  [`${name}, refused`, { location, answers: { [route]: refused }, environments }],
]);

const running = { ...finishedRun, id: 13, status: 'running' as const, finished: null, done: 12, planned: 34 };
const longRun = { ...running, done: 8388, planned: 8406 };
const progress = { ...project.progress, phase: 'running' as const, unopened: 16, running: 2, left: 240_000 };

export default looks(App, {
  props: { theme: { dark: false, toggle: () => {} } },
  render: function Themed() {
    return (
      <div className="h-screen">
        <App theme={useTheme()} />
      </div>
    );
  },
  answers: full,
  accept: [ownKeys],
  states: {
    ...(Object.fromEntries(everyPage) as Record<string, { location: string }>),
    stage: {
      location: `/stage?${onStage}`,
      environments: ['day', 'night', 'narrow', 'wide'],
      async script() {
        await ensure(areFramesThere).equals(true);
        stageTells(shown);
      },
    },
    'stage, nothing there': { location: '/stage', environments },
    'stage, waiting': {
      location: `/stage?${onStage}`,
      environments,
      async script() {
        await ensure(areFramesThere).equals(true);
        stageIsSilent();
      },
    },
    'stage, in trouble': {
      location: `/stage?${onStage}`,
      environments,
      async script() {
        await ensure(areFramesThere).equals(true);
        stageTells(troubled);
      },
    },
    'live, not as recorded': {
      location: '/live/7',
      environments,
      answers: { '/api/sittings/:id': { json: sitting.parted } },
    },
    'live, over': { location: '/live/7', environments, answers: { '/api/sittings/:id': { json: sitting.over } } },
    'bench, a thousand steps': {
      location: `/bench/${passedId}`,
      environments,
      answers: { '/api/results/:id/timeline': { json: longTimeline(1000) } },
      async script() {
        const line = (number: number) => the.button(new RegExp(`'Berth ${number}'`)).in(the.list(/^Source of/));
        await ensure(line(999)).isVisible();
        await ensure(line(1)).isAbsent();
        await press('Home');
        await press('ArrowRight');
        await ensure(line(1)).isVisible();
        await ensure(line(999)).isAbsent();
      },
    },
    'board, some looks left out': {
      location: '/',
      environments,
      answers: { '/api/board': { json: packBoard(someLeftOut) } },
      async script() {
        await ensure(the.link('free, skipped: waits for the new gauge')).isVisible();
        await type(the.field('Search looks'), 'skipped');
        await ensure(the.button(/passed/).in(the.toolbar('Show only these verdicts'))).isDisabled();
        await ensure(the.link(/: passed/)).isAbsent();
      },
    },
    'board, ten thousand looks': {
      location: '/',
      environments,
      answers: { '/api/board': { json: packBoard(boardLooks(manyResults(10_000))) } },
    },
    'board, dragged through': {
      location: '/',
      environments,
      answers: { '/api/board': { json: packBoard(boardLooks(manyResults(10_000))) } },
      async script() {
        const tiles = the.link(/, day: |, night: /);
        const list = the.css('main .overflow-y-auto');
        for (let leaps = 0; leaps < 3; leaps++) await scroll(list, { by: [0, 3000] });
        await ensure(tiles).counts(0);
        await clock.advance(200);
        await ensure(tiles.first()).isVisible();
        await scroll(list, { by: [0, 300] });
        await ensure(tiles.first()).isVisible();
      },
    },
    'review, a thousand causes': {
      location: '/review',
      environments,
      answers: { '/api/causes': { json: many.causes(1000) } },
    },
    'accessibility, ten thousand findings': {
      location: '/accessibility',
      environments,
      answers: { '/api/accessibility': { json: many.findings(10_000) } },
      async script() {
        await click(the.button('Show 200 of 9800 more'));
        await ensure(the.button('Show 200 of 9600 more')).isVisible();
        await ensure(the.button('ships 399 day')).isVisible();
      },
    },
    'coverage, twenty thousand lines': {
      location: '/coverage?file=src%2FFeeTable.tsx&line=16003',
      environments,
      answers: { '/api/coverage/file': { json: many.source(20_000, 300) } },
    },
    'handbook, a look left out': {
      location: '/handbook?page=src%2FBerthCard',
      environments,
      async script() {
        await ensure(the.text('skipped: waits for the new gauge')).isVisible();
      },
    },
    'handbook, a thousand looks': {
      location: '/handbook?page=src%2FBerthCard',
      environments,
      answers: { '/api/handbook/component': { json: many.page('src/BerthCard', 1000) } },
    },
    'handbook, tokens': { location: '/handbook?page=%3Atokens', environments },
    'handbook, very many tokens': {
      location: '/handbook?page=%3Atokens',
      environments,
      answers: { '/api/handbook/tokens': { json: many.tokens(100) } },
    },
    'a run goes on': {
      location: '/',
      environments,
      answers: { '/api/project': { json: { ...project, run: running } } },
    },
    'a long run goes on': {
      location: '/',
      environments: ['day', 'narrow'],
      answers: { '/api/project': { json: { ...project, run: longRun, progress } } },
    },
    'the service does not answer': {
      location: '/',
      environments: ['day', 'night', 'narrow'],
      answers: { '/api/events': { unreachable: true } },
    },
    'no page at this address': { location: '/quay', environments },
    'light and dark by key': {
      location: '/',
      environments,
      async script() {
        const theme = () => document.documentElement.dataset.theme;
        await ensure(the.heading(/^BerthCard/)).isVisible();
        const before = theme();
        await press('t');
        await ensure(theme).equals(before === 'dark' ? 'light' : 'dark');
      },
    },
    'pages by their keys': {
      location: '/',
      environments,
      async script() {
        await press('2');
        await ensure(the.link(/^Review/)).hasAttribute('aria-current', 'page');
        await press('5');
        await ensure(the.link(/^Handbook/)).hasAttribute('aria-current', 'page');
        await press('?');
        await ensure(the.dialog()).isVisible();
        await press('Escape');
        await ensure(the.dialog()).isAbsent();
      },
    },
    'all that can be done, by name': {
      location: '/',
      environments,
      async script() {
        await ensure(the.button('Run all looks')).isVisible();
        await press('Control+k');
        await type(the.combobox(), 'cover');
        await ensure(the.option(/Coverage/).first()).isVisible();
      },
    },
    'looks that could not be drafted': {
      location: '/',
      environments: ['day', 'narrow'],
      answers: {
        '/api/components': { json: [{ file: 'src/Pilot.tsx', component: 'Pilot', imports: 2, hasLooks: false }] },
        'POST /api/drafts': { status: 400, json: problem('draft-there', { file: 'src/Pilot.look.tsx' }) },
      },
      async script() {
        await ensure(the.button('Run all looks')).isVisible();
        await press('Control+k');
        await type(the.combobox(), 'draft');
        await press('Enter');
        await ensure(the.alert()).reads(/The draft:/);
      },
    },
    'looks found by a word': {
      location: '/',
      environments,
      async script() {
        await press('/');
        await type(the.textbox(/^Search looks/), 'gale');
        await ensure(the.text('neap tide')).isAbsent();
      },
    },
  },
});
