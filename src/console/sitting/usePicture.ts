/** What the page of a live look shows, drawn on a canvas as it changes. */
import { type RefObject, useEffect, useState } from 'react';
import { service } from '../data.ts';

/** How long a picture that could not be had is left alone before the next try, in milliseconds. */
const pause = 1000;

/** Draws pictures as they come, until the look is over. True when there is one. */
export function usePicture(id: number, isOver: boolean, canvas: RefObject<HTMLCanvasElement | null>): boolean {
  const [isThere, setThere] = useState(false);
  useEffect(() => {
    if (isOver) return;
    const abort = new AbortController();
    const draw = async (png: Blob): Promise<void> => {
      const bitmap = await createImageBitmap(png);
      const on = canvas.current;
      if (!on) return;
      if (on.width !== bitmap.width || on.height !== bitmap.height)
        Object.assign(on, { width: bitmap.width, height: bitmap.height });
      on.getContext('2d')!.drawImage(bitmap, 0, 0);
      setThere(true);
    };
    const follow = async (): Promise<void> => {
      for (let last = 0; !abort.signal.aborted; ) {
        try {
          const picture = await service.sittingPicture(id, last, abort.signal);
          if (!picture) continue;
          last = picture.number;
          await draw(picture.png);
        } catch {
          await new Promise((resolve) => setTimeout(resolve, pause));
        }
      }
    };
    void follow();
    return () => abort.abort();
  }, [id, isOver, canvas]);
  return isThere;
}
