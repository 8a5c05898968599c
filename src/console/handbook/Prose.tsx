/** Words in Markdown, as the project has written them. HTML in them is text; pictures are the project's own. */
import Markdown, { type Components } from 'react-markdown';
import remarkGfm from 'remark-gfm';
import { service } from '../data.ts';

const isElsewhere = (address: string): boolean => /^([a-z][a-z0-9+.-]*:|\/\/)/i.test(address);

/** A path in a file, from the project's root. */
function pathFrom(file: string, path: string): string {
  const parts = path.startsWith('/') ? [] : file.split('/').slice(0, -1);
  for (const part of path.split('/')) {
    if (part === '..') parts.pop();
    else if (part !== '.' && part !== '') parts.push(part);
  }
  return parts.join('/');
}

const elements = (file: string): Components => ({
  h1: ({ children }) => <h2 className="mt-4 mb-1 text-[15px] font-semibold first:mt-0">{children}</h2>,
  h2: ({ children }) => <h3 className="mt-4 mb-1 text-[13.5px] font-semibold first:mt-0">{children}</h3>,
  h3: ({ children }) => <h4 className="mt-3 mb-1 font-semibold">{children}</h4>,
  p: ({ children }) => <p className="my-1.5">{children}</p>,
  ul: ({ children }) => <ul className="my-1.5 list-disc pl-5">{children}</ul>,
  ol: ({ children }) => <ol className="my-1.5 list-decimal pl-5">{children}</ol>,
  blockquote: ({ children }) => <blockquote className="my-2 border-l-2 border-rule pl-3">{children}</blockquote>,
  code: ({ children }) => <code className="rounded bg-well px-1 font-mono text-[11.5px]">{children}</code>,
  pre: ({ children }) => <pre className="my-2 overflow-x-auto rounded-md bg-well p-2">{children}</pre>,
  table: ({ children }) => <table className="my-2 border-collapse">{children}</table>,
  th: ({ children }) => <th className="border-b border-rule px-2 py-1 text-left font-semibold">{children}</th>,
  td: ({ children }) => <td className="border-b border-rule px-2 py-1">{children}</td>,
  hr: () => <hr className="my-4 border-rule" />,
  a: ({ href = '', children }) =>
    isElsewhere(href) ? (
      <a href={href} target="_blank" rel="noreferrer" className="text-accent underline">
        {children}
      </a>
    ) : (
      <span className="underline decoration-dotted" title={href}>
        {children}
      </span>
    ),
  // A picture from elsewhere would tell others who reads this.
  img: ({ src = '', alt = '' }) =>
    typeof src !== 'string' || isElsewhere(src) ? (
      <span className="text-soft">[picture: {alt || String(src)}]</span>
    ) : (
      <img src={service.projectFileUrl(pathFrom(file, src))} alt={alt} className="my-2 max-w-full" />
    ),
});

/** `file` is where the words stand, for the paths in them. */
export const Prose = ({ text, file }: { text: string; file: string }) => (
  <div className="max-w-[72ch] text-[13px] leading-relaxed">
    <Markdown remarkPlugins={[remarkGfm]} components={elements(file)}>
      {text}
    </Markdown>
  </div>
);
