/** The tokens of the project: colours with their contrasts, lengths, type, and what is left. */
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Token, TokenKind, TokenPair, TokenValue } from '../../core/handbook/tokens.ts';
import { counted } from '../../core/text/counted.ts';
import { service } from '../data.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { usePortion } from '../parts/usePortion.tsx';
import { Section } from './Section.tsx';

const titles: Record<TokenKind, string> = { colour: 'Colours', length: 'Lengths', type: 'Type', other: 'Others' };
const kinds: readonly TokenKind[] = ['colour', 'length', 'type', 'other'];

/** Where a value counts, as people say it. */
function placeText(where: string): string {
  const scheme = /prefers-color-scheme:\s*(dark|light)/.exec(where)?.[1];
  if (scheme) return scheme;
  return /^(:root|html|:host)$/.test(where) ? 'everywhere' : where;
}

export function Tokens() {
  const page = useQuery({ queryKey: ['handbook', 'tokens'], queryFn: () => service.tokens() });
  if (page.isPending) return <Waiting what="Reading the style sheets…" />;
  if (page.isError) return <Trouble error={page.error} />;
  const { tokens, pairs } = page.data;
  if (tokens.length === 0)
    return (
      <Blank title="There are no tokens">
        Custom properties (<code className="font-mono">--name</code>) of the style sheets that looks show stand here.
        None of them declares any, or no look was run yet.
      </Blank>
    );
  return (
    <article className="min-h-0 overflow-y-auto px-8 py-5">
      <h2 className="text-[20px] font-semibold tracking-tight">Tokens</h2>
      <p className="text-soft">{counted(tokens.length, 'custom property', 'custom properties')} of the style sheets.</p>
      {kinds.map((kind) => (
        <Kind key={kind} kind={kind} tokens={tokens.filter((token) => token.kind === kind)} />
      ))}
      <Pairs pairs={pairs} tokens={tokens} />
    </article>
  );
}

function Kind({ kind, tokens }: { kind: TokenKind; tokens: readonly Token[] }) {
  if (tokens.length === 0) return null;
  return (
    <Section title={titles[kind]}>
      <table className="border-collapse">
        <tbody>
          {tokens.map((token) => (
            <tr key={token.name} className="border-b border-rule">
              <th scope="row" className="py-1.5 pr-6 text-left align-top font-mono text-[11.5px] font-semibold">
                {token.name}
              </th>
              <td className="py-1.5 pr-6">
                <ul className="flex flex-wrap gap-x-6 gap-y-1">
                  {token.values.map((value) => (
                    <Value key={`${value.where} ${value.value}`} kind={kind} value={value} />
                  ))}
                </ul>
              </td>
              <td className="py-1.5 align-top text-soft tabular-nums">
                {token.used === 0 ? 'not used' : `used ${counted(token.used, 'time')}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function Value({ kind, value: { where, value, resolved } }: { kind: TokenKind; value: TokenValue }) {
  return (
    <li className="flex items-center gap-2">
      {kind === 'colour' && (
        <span className="checks block size-5 overflow-hidden rounded border border-rule" aria-hidden="true">
          <span className="block size-full" style={{ background: resolved ?? undefined }} />
        </span>
      )}
      {kind === 'length' && resolved && (
        <span className="block h-2 max-w-40 rounded-sm bg-accent" style={{ width: resolved }} aria-hidden="true" />
      )}
      <code className="font-mono text-[11.5px]">{value}</code>
      {resolved !== null && resolved !== value && <code className="font-mono text-[11px] text-soft">= {resolved}</code>}
      <span className="text-[11px] text-soft">{placeText(where)}</span>
    </li>
  );
}

/** What WCAG 2.2 says of a contrast (1.4.3, 1.4.6, 1.4.11). */
function gradeOf(ratio: number): { text: string; isEnough: boolean } {
  if (ratio >= 7) return { text: 'AAA', isEnough: true };
  if (ratio >= 4.5) return { text: 'AA', isEnough: true };
  return ratio >= 3 ? { text: 'large text only', isEnough: false } : { text: 'too little', isEnough: false };
}

function Pairs({ pairs, tokens }: { pairs: readonly TokenPair[]; tokens: readonly Token[] }) {
  if (pairs.length === 0) return null;
  const places = [...new Set(pairs.map(({ where }) => where))];
  return (
    <Section title="Contrast of text on grounds">
      <p className="mb-2 max-w-[72ch] text-soft">
        Every colour that rules give to text, on every colour that they give to a background. Not each pair need be in
        use: what looks really show is measured on their pictures, under Accessibility.
      </p>
      {places.map((where) => (
        <PairsIn key={where} pairs={pairs.filter((pair) => pair.where === where)} where={where} tokens={tokens} />
      ))}
    </Section>
  );
}

type PairsProps = { pairs: readonly TokenPair[]; where: string; tokens: readonly Token[] };

/** The pairs of one place. */
function PairsIn({ pairs, where, tokens }: PairsProps) {
  const { shown, more } = usePortion(pairs);
  const byName = useMemo(() => new Map(tokens.map((token) => [token.name, token.values])), [tokens]);
  const colourOf = (name: string): string | undefined => {
    const values = byName.get(name) ?? [];
    return (values.find((one) => one.where === where) ?? values[0])?.resolved ?? undefined;
  };
  return (
    <div className="mb-4">
      <h4 className="mb-1 text-soft">{placeText(where)}</h4>
      <ul className="flex flex-wrap gap-2">
        {shown.map(({ text, ground, ratio }) => {
          const { text: grade, isEnough } = gradeOf(ratio);
          return (
            <li key={`${text} ${ground}`} className="w-44 overflow-hidden rounded-md border border-rule bg-sheet">
              <span
                className="flex h-10 items-center justify-center text-[15px] font-semibold"
                style={{ color: colourOf(text), background: colourOf(ground) }}
                aria-hidden="true"
              >
                Aa 123
              </span>
              <span className="block truncate px-2 pt-1 font-mono text-[11px]">{text}</span>
              <span className="block truncate px-2 font-mono text-[11px] text-soft">on {ground}</span>
              <span className={`block px-2 pb-1 tabular-nums ${isEnough ? '' : 'text-failed'}`}>
                {isEnough ? '✓' : '✗'} {ratio.toFixed(1)} : 1, {grade}
              </span>
            </li>
          );
        })}
      </ul>
      {more}
    </div>
  );
}
