/** The published site that this page belongs to; null where a service has sent it. */
import type { SitePage } from '../core/site/site.ts';

// Functions of the console are tested where there is no document.
const said = globalThis.document?.getElementById('site')?.textContent;

export const site = said ? (JSON.parse(said) as SitePage) : null;
