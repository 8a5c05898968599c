/** The published site that this page belongs to; null where a service has sent it. */
import type { SitePage } from '../core/site/site.ts';

const said = document.getElementById('site')?.textContent;

export const site = said ? (JSON.parse(said) as SitePage) : null;
