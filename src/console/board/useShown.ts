/** Which environment's picture each tile shows. */
import { useCallback, useState } from 'react';
import { lookKey } from '../../core/look/look.ts';
import type { BoardLook, Variant } from '../../core/run/board.ts';
import { verdicts } from '../../core/run/verdict.ts';

/** A look's environments as the configuration has them. */
export const inOrder = (variants: readonly Variant[], order: readonly string[]): Variant[] =>
  [...variants].sort((a, b) => order.indexOf(a.environment) - order.indexOf(b.environment));

/** The one asked for, or the one where the look stands worst. */
export function useShown(order: readonly string[]) {
  const [asked, setAsked] = useState<Record<string, string>>({});
  const show = useCallback(
    ({ component, look }: BoardLook, environment: string) =>
      setAsked((now) => ({ ...now, [lookKey(component, look)]: environment })),
    [],
  );
  const shownOf = ({ component, look, variants }: BoardLook): Variant => {
    const wanted = variants.find(({ environment }) => environment === asked[lookKey(component, look)]);
    const worst = verdicts.find((verdict) => variants.some((variant) => variant.verdict === verdict));
    return wanted ?? inOrder(variants, order).find(({ verdict }) => verdict === worst)!;
  };
  const showNext = (look: BoardLook): void => {
    const all = inOrder(look.variants, order);
    const at = all.indexOf(shownOf(look));
    show(look, all[(at + 1) % all.length]!.environment);
  };
  return { show, shownOf, showNext };
}
