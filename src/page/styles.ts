/** The style sheets of the bundle that the document has: each look file has its own. */
import { native } from './host/natives.ts';
import { isOfBundle } from './pins/document.ts';

/** Those that the document has had so far, by their address paths. */
const known: Record<string, HTMLLinkElement> = {};

const pathOf = (link: HTMLLinkElement): string => new URL(link.href).pathname;

function linksNow(): HTMLLinkElement[] {
  const links = [...document.head.childNodes].filter(isOfBundle);
  for (const link of links) known[pathOf(link)] = link;
  return links;
}

/** Address paths of the sheets that the document has, in their order. */
export const stylesNow = (): string[] => linksNow().map(pathOf);

const loaded = (link: HTMLLinkElement): Promise<unknown> =>
  new Promise((resolve) => {
    for (const type of ['load', 'error']) native.addEventListener.call(link, type, resolve, { once: true });
  });

/**
 * Leaves the document with those of these sheets that it has had so far, in this order; resolves when they are there.
 * One that is put in anew is loaded anew.
 */
export async function placeStyles(wanted: readonly string[]): Promise<void> {
  const now = linksNow();
  const links = wanted.flatMap((path) => known[path] ?? []);
  for (const link of now) if (!links.includes(link)) link.remove();
  const kept = now.filter((link) => links.includes(link));
  let same = 0;
  while (same < kept.length && kept[same] === links[same]) same++;
  const moved = links.slice(same);
  for (const link of moved) link.remove();
  const loading = moved.map(loaded);
  document.head.append(...moved);
  await Promise.all(loading);
}
