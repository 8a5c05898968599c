/** What a window shows, picture by picture, for whoever looks on (DevTools protocol, Page.startScreencast). */
import type { Hears, Send } from './pipe.ts';

export type Showing = {
  /** Who hears of each picture, a PNG, from now on; null for nobody. */
  show(listener: ((picture: Buffer) => void) | null): Promise<void>;
  readonly hears: Hears;
};

export function showingOf(send: Send, post: (method: string, params: object) => void): Showing {
  let shown: ((picture: Buffer) => void) | null = null;
  return {
    async show(listener) {
      const wasShown = shown !== null;
      shown = listener;
      if (listener && !wasShown) await send('Page.startScreencast', { format: 'png', everyNthFrame: 1 });
      if (!listener && wasShown) await send('Page.stopScreencast');
    },
    hears: {
      'Page.screencastFrame': ({ sessionId, data }) => {
        post('Page.screencastFrameAck', { sessionId });
        shown?.(Buffer.from(data, 'base64'));
      },
    },
  };
}
