/** Which environment's picture each tile shows. */
import { useCallback, useState } from 'react';
import { lookKey } from '../../core/look/look.ts';
import type { BoardLook, Variant } from '../../core/run/board.ts';
import { verdicts } from '../../core/run/verdict.ts';

/** The one asked for, or the one where the look stands worst. */
export function useShown() {
  const [asked, setAsked] = useState<Record<string, string>>({});
  const show = useCallback(
    ({ component, look }: BoardLook, environment: string) =>
      setAsked((now) => ({ ...now, [lookKey(component, look)]: environment })),
    [],
  );
  const shownOf = ({ component, look, variants }: BoardLook): Variant => {
    const wanted = variants.find(({ environment }) => environment === asked[lookKey(component, look)]);
    const worst = verdicts.find((verdict) => variants.some((variant) => variant.verdict === verdict));
    return wanted ?? variants.find(({ verdict }) => verdict === worst)!;
  };
  const showNext = (look: BoardLook): void => {
    const at = look.variants.indexOf(shownOf(look));
    show(look, look.variants[(at + 1) % look.variants.length]!.environment);
  };
  return { show, shownOf, showNext };
}
