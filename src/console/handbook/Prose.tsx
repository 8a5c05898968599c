/** Words in Markdown, as the project has written them. HTML in them is text; pictures are the project's own. */
import type { MarkedToken, Token, Tokens } from 'marked';
import { Fragment, type ReactNode } from 'react';
import { pathOf, piecesOf } from '../../core/handbook/words.ts';
import { service } from '../data.ts';

/** What somebody who reads may be led to; no address may run anything. */
const isSafe = (address: string): boolean => /^(https?:|mailto:|\/\/)/i.test(address);

/** Text with its character references (`&copy;`) as what they stand for. */
function plain(text: string): string {
  if (!text.includes('&')) return text;
  const area = document.createElement('textarea');
  area.innerHTML = text.replaceAll('<', '&lt;');
  return area.value;
}

const headings = [
  (children: ReactNode) => <h2 className="mt-4 mb-1 text-[15px] font-semibold first:mt-0">{children}</h2>,
  (children: ReactNode) => <h3 className="mt-4 mb-1 text-[13.5px] font-semibold first:mt-0">{children}</h3>,
  (children: ReactNode) => <h4 className="mt-3 mb-1 font-semibold">{children}</h4>,
];

const LinkTo = ({ href, children }: { href: string; children: ReactNode }) =>
  isSafe(href) ? (
    <a href={href} target="_blank" rel="noreferrer" className="text-accent underline">
      {children}
    </a>
  ) : (
    <span className="underline decoration-dotted" title={href}>
      {children}
    </span>
  );

// A picture from elsewhere would tell others who reads this.
function PictureOf({ src, alt, file }: { src: string; alt: string; file: string }) {
  const path = pathOf(src, file);
  if (path === null) return <span className="text-soft">[picture: {alt || src}]</span>;
  return <img src={service.projectFileUrl(path)} alt={alt} className="my-2 max-w-full" />;
}

function ListOf({ list: { ordered, start, items }, file }: { list: Tokens.List; file: string }) {
  const parts = items.map((item, i) => (
    // Of tasks, boxes stand where the points of others do.
    <li key={i} className={item.task ? 'list-none' : ''}>
      {all(item.tokens, file)}
    </li>
  ));
  return ordered ? (
    <ol start={start === '' ? 1 : start} className="my-1.5 list-decimal pl-5">
      {parts}
    </ol>
  ) : (
    <ul className="my-1.5 list-disc pl-5">{parts}</ul>
  );
}

function TableOf({ table: { header, rows }, file }: { table: Tokens.Table; file: string }) {
  const cells = (row: Tokens.TableCell[], Cell: 'th' | 'td'): ReactNode =>
    row.map(({ tokens, align }, i) => (
      <Cell
        key={i}
        style={{ textAlign: align ?? 'left' }}
        className={`border-b border-rule px-2 py-1 ${Cell === 'th' ? 'font-semibold' : ''}`}
      >
        {all(tokens, file)}
      </Cell>
    ));
  return (
    <table className="my-2 border-collapse">
      <thead>
        <tr>{cells(header, 'th')}</tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <tr key={i}>{cells(row, 'td')}</tr>
        ))}
      </tbody>
    </table>
  );
}

/** One piece of Markdown and what it holds. */
function one(token: Token, file: string): ReactNode {
  const inner = (): ReactNode => all(('tokens' in token && token.tokens) || [], file);
  const known = token as MarkedToken;
  switch (known.type) {
    case 'heading':
      return (headings[known.depth - 1] ?? headings[2]!)(inner());
    case 'paragraph':
      return <p className="my-1.5">{inner()}</p>;
    case 'blockquote':
      return <blockquote className="my-2 border-l-2 border-rule pl-3">{inner()}</blockquote>;
    case 'list':
      return <ListOf list={known} file={file} />;
    case 'table':
      return <TableOf table={known} file={file} />;
    case 'code':
      return (
        <pre className="my-2 overflow-x-auto rounded-md bg-well p-2">
          <code className="font-mono text-[11.5px]">{known.text}</code>
        </pre>
      );
    case 'codespan':
      return <code className="rounded bg-well px-1 font-mono text-[11.5px]">{known.text}</code>;
    case 'hr':
      return <hr className="my-4 border-rule" />;
    case 'br':
      return <br />;
    case 'strong':
      return <strong>{inner()}</strong>;
    case 'em':
      return <em>{inner()}</em>;
    case 'del':
      return <del>{inner()}</del>;
    case 'link':
      return <LinkTo href={known.href}>{inner()}</LinkTo>;
    case 'image':
      return <PictureOf src={known.href} alt={plain(known.text)} file={file} />;
    case 'checkbox':
      return (
        <input
          type="checkbox"
          checked={known.checked}
          disabled
          aria-label={known.checked ? 'Done' : 'To do'}
          className="-ml-5 mr-[7px] align-[-2px]"
        />
      );
    case 'text':
      return known.tokens ? inner() : plain(known.text);
    case 'escape':
    case 'html':
      return known.text;
    default:
      return null;
  }
}

const all = (tokens: readonly Token[], file: string): ReactNode =>
  tokens.map((token, i) => <Fragment key={i}>{one(token, file)}</Fragment>);

/** `file` is where the words stand, for the paths in them. */
export const Prose = ({ text, file }: { text: string; file: string }) => (
  <div className="max-w-[72ch] text-[13px] leading-relaxed">{all(piecesOf(text), file)}</div>
);
