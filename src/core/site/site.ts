/** A published site: what its pages know, and how its files are told apart. docs/formats/site.md */
import { type Verdict, verdicts } from '../run/verdict.ts';

/** What `site.json` says it is. */
export const siteFormat = 'sguardo-site/1';

/** A state of the project that was published: a commit, or a run of something that is none. */
export type SiteEntry = {
  /** Its folder in the site. */
  name: string;
  commit: string | null;
  branch: string | null;
  /** When it was published, as ISO 8601. */
  at: string;
  looks: number;
  verdicts: Record<Verdict, number>;
  /** The names of its files in `objects`, so that others know which are needed. */
  answers: string;
  /** Files of its folder `reports`, for other programs. */
  reports: string[];
};

export type SiteList = { format: typeof siteFormat; project: string; entries: SiteEntry[] };

/** What a page of a site knows of its surroundings; addresses are relative to it. */
export type SitePage = {
  project: string;
  entry: Pick<SiteEntry, 'name' | 'commit' | 'branch' | 'at'>;
  /** The folder of files by what they hold. */
  objects: string;
  /** The file there that says what answers which call. */
  answers: string;
  /** The page that moments are drawn in. */
  draw: string;
  /** By look file: its live page; none for those that could not be built. */
  stages: Record<string, string>;
};

/** By the path of a call: the name of the file in `objects` that answers it. */
export type Answers = Record<string, string>;

/** Look files as pages: files by their path in a folder of their own, in base64, and the page of each look file. */
export type StageFiles = { files: Record<string, string>; pages: Record<string, string>; unusable: string[] };

/** The beginning of a commit, or `run-12` for what is none: what an entry’s folder is called. */
export const entryName = (commit: string | null, run: number): string => commit?.slice(0, 12) ?? `run-${run}`;

/**
 * Where the pages of an entry are that will be published below an address: what stands before `/bench/12` in links, as
 * the console's own address does before those of a service.
 */
export const siteLinks = (address: string, name: string): string =>
  `${address.replace(/\/?(index\.html)?$/, '')}/${encodeURIComponent(name)}/index.html#`;

export const noVerdicts = (): Record<Verdict, number> =>
  Object.fromEntries(verdicts.map((verdict) => [verdict, 0])) as Record<Verdict, number>;

/** The newest entries first, one for each name. */
export const withEntry = (entries: readonly SiteEntry[], entry: SiteEntry): SiteEntry[] => [
  entry,
  ...entries.filter(({ name }) => name !== entry.name),
];
