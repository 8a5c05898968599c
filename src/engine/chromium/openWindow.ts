/** Opening windows of a browser. */
import { join } from 'node:path';
import type { Pipe } from './pipe.ts';
import { ChromiumWindow } from './window.ts';

/**
 * Opens a window in a browser context of its own, so that lanes share no storage. It keeps its files in `folder`. One
 * that is seen on the screen is made as large as its viewport.
 */
export async function openWindow(pipe: Pipe, folder: string, isSeen: boolean): Promise<ChromiumWindow> {
  const { browserContextId } = await pipe.send<{ browserContextId: string }>('Target.createBrowserContext', {
    disposeOnDetach: true,
  });
  // A tab behind another one never paints; a window of its own always does.
  const { targetId } = await pipe.send<{ targetId: string }>('Target.createTarget', {
    url: 'about:blank',
    browserContextId,
    newWindow: true,
  });
  const { sessionId } = await pipe.send<{ sessionId: string }>('Target.attachToTarget', { targetId, flatten: true });
  const seenAs = isSeen ? targetId : null;
  const window = new ChromiumWindow(pipe, sessionId, browserContextId, join(folder, `given-${sessionId}`), seenAs);
  await window.prepare();
  return window;
}
