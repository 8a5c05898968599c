import { looks } from 'sguardo';
import { pages } from './pages.ts';

function Page({ html }: { html: string }) {
  // The markup is this bench's own.
  // biome-ignore lint/security/noDangerouslySetInnerHtml: see above
  return <div dangerouslySetInnerHTML={{ __html: html }} />;
}

export default looks(Page, {
  props: { html: '' },
  states: Object.fromEntries(pages.map(({ name, html }) => [name, { props: { html } }])),
});
