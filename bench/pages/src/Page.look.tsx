import { looks } from 'sguardo';
import { pages } from './pages.ts';

function Page({ html }: { html: string }) {
  return <div dangerouslySetInnerHTML={{ __html: html }} />;
}

export default looks(Page, {
  props: { html: '' },
  states: Object.fromEntries(pages.map(({ name, html }) => [name, { props: { html } }])),
});
