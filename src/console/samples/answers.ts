/** The service's answers, by route: what a look of the console lays its own over. */
import { problem } from '../../core/problem/problem.ts';
import { packBoard } from '../../core/run/board.ts';
import type { ResultSummary } from '../../core/run/run.ts';
import * as pages from './pages.ts';
import { photographed, pictureOf } from './picture.ts';
import { boardLooks, finishedRun, project, results } from './results.ts';
import * as sitting from './sitting.ts';
import { shortTimeline, timeline } from './timeline.ts';

/** What these answers need to know of a request. */
type Asked = Record<'params' | 'query', Record<string, string | undefined>>;

const picture = ({ params }: Asked) => ({
  headers: { 'content-type': 'image/svg+xml' },
  body: pictureOf(params.hash ?? ''),
});

/** What the page of a live look shows; after it nothing changes. */
const livePicture = async ({ query }: Asked) =>
  query.after === '0'
    ? { headers: { 'content-type': 'image/png', 'x-picture-number': '1' }, body: await photographed() }
    : { hold: true };

const boardOf = (shown: readonly ResultSummary[]) => ({ json: packBoard(boardLooks(shown)) });

/** A harbour office with something on every page. */
export const full = {
  '/api/events': { events: [] },
  '/api/project': { json: project },
  '/api/board': boardOf(results),
  '/api/runs': { json: [finishedRun] },
  '/api/components': { json: [] },
  '/api/sittings': { json: [] },
  '/api/causes': { json: pages.causes },
  '/api/accessibility': { json: pages.findings },
  '/api/coverage': { json: pages.coverage },
  '/api/coverage/file': ({ query }: Asked) => ({ json: { ...pages.coveredFile, path: query.path } }),
  '/api/handbook': { json: pages.handbook },
  '/api/handbook/component': ({ query }: Asked) => ({ json: pages.handbookPageOf(query.component ?? '') }),
  '/api/handbook/tokens': { json: pages.tokens },
  '/api/looks/history': { json: pages.history },
  '/api/results/:id': ({ params }: Asked) => ({
    json: results.find(({ id }) => String(id) === params.id),
  }),
  'POST /api/seen': { json: {} },
  '/api/results/:id/markup': { json: [] },
  '/api/results/:id/timeline': { json: timeline },
  '/api/results/:id/since': { status: 404, json: problem('not-found', { what: 'passing run before it' }) },
  '/api/sittings/:id': { json: sitting.stopped },
  '/api/sittings/:id/picture': livePicture,
  '/api/comparisons': { json: { picture: pages.comparison, difference: null } },
  '/api/blobs/:hash': picture,
  '/api/thumbnails/:hash': picture,
};

/** A project in which nothing was run yet. */
export const empty = {
  '/api/project': { json: { ...project, undecided: 0, engine: null } },
  '/api/board': boardOf([]),
  '/api/runs': { json: [] },
  '/api/causes': { json: pages.noCauses },
  '/api/accessibility': { json: pages.noFindings },
  '/api/coverage': { status: 404, json: problem('coverage-none') },
  '/api/handbook': { json: [] },
  '/api/looks/history': { json: { results: [], decisions: [] } },
  '/api/results/:id/timeline': { status: 404, json: problem('not-found', { what: 'result 164' }) },
  '/api/sittings/:id': { status: 404, json: problem('not-found', { what: 'live look 7' }) },
};

/** One of each thing. */
export const one = {
  '/api/project': { json: { ...project, undecided: 1 } },
  '/api/board': boardOf(results.slice(4, 5)),
  '/api/causes': {
    json: { ...pages.causes, causes: pages.causes.causes.slice(0, 1), changes: 2, withoutBaseline: [] },
  },
  '/api/accessibility': { json: { ...pages.findings, findings: pages.findings.findings.slice(0, 1) } },
  '/api/coverage': { json: { ...pages.coverage, files: pages.coverage.files.slice(0, 1), shortfalls: [] } },
  '/api/handbook': { json: pages.handbook.slice(0, 1) },
  '/api/results/:id/timeline': { json: shortTimeline },
  '/api/sittings/:id': { json: sitting.starting },
};
