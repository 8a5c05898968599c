/** Everything that the console can do, by name: what the palette lists. */
import type { ComponentInfo, ProjectInfo } from '../../core/api/api.ts';
import { lookTitle, shortName } from '../../core/look/look.ts';
import type { BoardLook } from '../../core/run/board.ts';
import type { RunRequest } from '../../core/run/run.ts';
import type { SittingState } from '../../core/sitting/sitting.ts';
import { benchPath } from '../bench/useDesk.ts';
import { livePath } from '../sitting/path.ts';
import { stagePath } from '../stage/path.ts';

export type Command = {
  title: string;
  /** What it is about, in a word: which page, or what is done. */
  kind: string;
  /** The key that does the same. */
  key?: string;
  does(): void;
};

/** What commands are carried out with. */
export type Hands = {
  go(path: string): void;
  start(request: Partial<RunRequest>): void;
  stop: (() => void) | null;
  toggleTheme(): void;
  showKeys(): void;
  draft(file: string): void;
};

function pages({ go, start, stop, toggleTheme, showKeys }: Hands): Command[] {
  return [
    { title: 'Board: all looks', kind: 'go', key: '1', does: () => go('/') },
    { title: 'Review: captures to decide about', kind: 'go', key: '2', does: () => go('/review') },
    { title: 'Accessibility: what the looks lack', kind: 'go', key: '3', does: () => go('/accessibility') },
    { title: 'Coverage: what looks run of the sources', kind: 'go', key: '4', does: () => go('/coverage') },
    { title: 'Handbook: components and tokens', kind: 'go', key: '5', does: () => go('/handbook') },
    { title: 'Run all looks', kind: 'run', key: 'R', does: () => start({}) },
    { title: 'Run all looks with coverage', kind: 'run', does: () => start({ coverage: true }) },
    { title: 'Run all looks, also what has not changed', kind: 'run', does: () => start({ fresh: true }) },
    ...(stop ? [{ title: 'Stop the run', kind: 'run', does: stop }] : []),
    { title: 'Light or dark colours', kind: 'console', key: 't', does: toggleTheme },
    { title: 'List of keys', kind: 'console', key: '?', does: showKeys },
  ];
}

const wrong = new Set(['failed', 'broken']);

function ofLooks(looks: readonly BoardLook[], { environments }: ProjectInfo, { go, start }: Hands): Command[] {
  const bad = looks
    .filter(({ variants }) => variants.some(({ verdict }) => wrong.has(verdict)))
    .map(({ component, look }) => ({ component, look }));
  const components = [...new Set(looks.map(({ component }) => component))];
  const usual = environments[0]?.name ?? '';
  return [
    ...(bad.length > 0
      ? [{ title: 'Run what failed or broke', kind: 'run', does: () => start({ looks: bad, fresh: true }) }]
      : []),
    ...components.map((component) => ({
      title: `Run ${shortName(component)}`,
      kind: 'run',
      does: () => start({ patterns: [component], fresh: true }),
    })),
    ...looks.flatMap(({ component, look, file, variants }): Command[] => {
      const title = lookTitle(component, look);
      const [first] = variants;
      return [
        ...variants.map((variant) => ({
          title: variants.length > 1 ? `${title}, ${variant.environment}` : title,
          kind: 'bench',
          does: () => go(benchPath(variant)),
        })),
        { title, kind: 'stage', does: () => go(stagePath(file, look, first?.environment ?? usual)) },
      ];
    }),
  ];
}

const ofComponents = (components: readonly ComponentInfo[], { draft }: Hands): Command[] =>
  components
    .filter(({ hasLooks }) => !hasLooks)
    .map(({ component, file }) => ({ title: `Draft looks for ${component}`, kind: 'draft', does: () => draft(file) }));

const ofSittings = (sittings: readonly SittingState[], { go }: Hands): Command[] =>
  sittings.map(({ id, component, look, environment }) => ({
    title: `${lookTitle(component, look)}, ${environment}`,
    kind: 'live',
    does: () => go(livePath(id)),
  }));

/** What there is to do now. */
export function commandsFor(
  project: ProjectInfo,
  sittings: readonly SittingState[],
  looks: readonly BoardLook[],
  components: readonly ComponentInfo[],
  hands: Hands,
): Command[] {
  return [
    ...pages(hands),
    ...ofSittings(sittings, hands),
    ...ofLooks(looks, project, hands),
    ...ofComponents(components, hands),
  ];
}

/** Commands whose titles and kinds have every word; those that begin with what is asked for come first. */
export function matching(commands: readonly Command[], text: string): Command[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = commands.filter(({ title, kind }) => {
    const all = `${kind} ${title}`.toLowerCase();
    return words.every((word) => all.includes(word));
  });
  const starts = ({ title }: Command): boolean => words[0] !== undefined && title.toLowerCase().startsWith(words[0]);
  return [...found.filter(starts), ...found.filter((one) => !starts(one))];
}
