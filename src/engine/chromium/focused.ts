/** Shows elements as if each of them had the focus: all at once, which no page can do by itself. */
import type { Hands } from './hands.ts';

type Handle = { result: { objectId?: string } };
type Properties = { result: { name: string; value?: { objectId?: string } }[] };

/** How an element looks that the keyboard has gone to. */
const forcedPseudoClasses = ['focus', 'focus-visible'];

/** Does something while the elements of a list, which an expression of the page gives, look as if focused. */
export async function asFocused<T>({ send }: Hands, elements: string, doing: () => Promise<T>): Promise<T> {
  const { result } = await send<Handle>('Runtime.evaluate', { expression: elements });
  const { objectId } = result;
  if (!objectId) return doing();
  try {
    await Promise.all([send('DOM.enable'), send('CSS.enable'), send('DOM.getDocument', { depth: 0 })]);
    const list = await send<Properties>('Runtime.getProperties', { objectId, ownProperties: true });
    const each = list.result.flatMap(({ name, value }) => (/^\d+$/.test(name) && value?.objectId) || []);
    await Promise.all(
      each.map(async (element) => {
        const { nodeId } = await send<{ nodeId: number }>('DOM.requestNode', { objectId: element });
        await send('CSS.forcePseudoState', { nodeId, forcedPseudoClasses });
      }),
    );
    return await doing();
  } finally {
    // It takes the forced states back, too.
    await Promise.all([send('CSS.disable'), send('DOM.disable'), send('Runtime.releaseObject', { objectId })]);
  }
}
