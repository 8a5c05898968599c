/** Where a look is a live page. */
import type { ProjectInfo } from '../../core/api/api.ts';
import { stageAddress } from '../../core/wire/live.ts';
import { site } from '../site.ts';

/** The address of a look as a live page; null on a site whose stages could not be built for it. */
export function liveAddress({ live }: Pick<ProjectInfo, 'live'>, file: string, look: string): string | null {
  if (!site) return live + stageAddress(file, look, {});
  const page = site.stages[file];
  return page ? `${page}?${new URLSearchParams({ look })}` : null;
}
