/** What a person does with their hands beside pointing and typing: dragging things, choosing files, pasting. */
import { setTimeout as delay } from 'node:timers/promises';
import type { LoadedFiles } from '../engine.ts';
import type { Params } from './pipe.ts';

/** The calls that these need of a window: a command, and the next event of a kind. */
export type Hands = {
  send<T = unknown>(method: string, params?: object): Promise<T>;
  /** Resolves with the parameters of the next event; null when none has come after so many milliseconds. */
  next(method: string, limit: number): Promise<Params | null>;
};

/** How long the browser takes at most to say that something is being dragged, or that a chooser has opened. */
const patience = 1000;

const typesOf = { text: 'text/plain', html: 'text/html' } as const;

/** What is carried, as the protocol wants it. */
const dragData = ({ text, html, files }: LoadedFiles): object => ({
  items: Object.entries({ text, html }).flatMap(([kind, data]) =>
    data === null ? [] : [{ mimeType: typesOf[kind as keyof typeof typesOf], data }],
  ),
  files,
  dragOperationsMask: 1,
});

/** What has begun to be dragged, which may be told late; null when nothing has. */
export const dragBegun = ({ next }: Hands): Promise<Params | null> => next('Input.dragIntercepted', patience);

/** Drags to a point, and drops there or not; false when nothing has `begun` to be dragged, and there is no load. */
export async function carry(
  { send }: Hands,
  [x, y]: readonly [number, number],
  load: LoadedFiles | null,
  begun: Params | null,
  { modifiers, drops }: { modifiers: number; drops: boolean },
): Promise<boolean> {
  const data = load ? dragData(load) : begun?.data;
  if (!data) return false;
  const at = (type: string): Promise<unknown> => send('Input.dispatchDragEvent', { type, x, y, data, modifiers });
  if (!begun?.hasEntered) await at('dragEnter');
  if (begun) begun.hasEntered = true;
  await at('dragOver');
  if (!drops) return true;
  // Twice where it is dropped: what opens or makes room while something is over it is dropped upon as it is then.
  await at('dragOver');
  await at('drop');
  return true;
}

/** Chooses files in the chooser that some input opens. */
export async function choose(
  { send, next }: Hands,
  input: () => Promise<void>,
  files: readonly string[],
): Promise<'chosen' | 'none' | 'one'> {
  const opened = next('Page.fileChooserOpened', patience);
  await input();
  const chooser = await opened;
  if (!chooser?.backendNodeId) return 'none';
  if (chooser.mode === 'selectSingle' && files.length > 1) return 'one';
  await send('DOM.setFileInputFiles', { files, backendNodeId: chooser.backendNodeId });
  return 'chosen';
}

/** Puts a load on the clipboard from a world that the page cannot reach. @throws Error when the browser refuses */
async function copy({ send }: Hands, { text, html }: LoadedFiles, pngs: readonly string[]): Promise<void> {
  const { frameTree } = await send<{ frameTree: { frame: { id: string } } }>('Page.getFrameTree');
  const world = { frameId: frameTree.frame.id, worldName: 'sguardo-clipboard' };
  const { executionContextId } = await send<{ executionContextId: number }>('Page.createIsolatedWorld', world);
  const parts = Object.entries({ 'text/plain': text, 'text/html': html }).filter(([, value]) => value !== null);
  const expression = `(async () => {
    const parts = {};
    for (const [type, text] of ${JSON.stringify(parts)}) parts[type] = new Blob([text], { type });
    for (const base64 of ${JSON.stringify(pngs)})
      parts['image/png'] = new Blob([Uint8Array.from(atob(base64), (one) => one.charCodeAt(0))], { type: 'image/png' });
    await navigator.clipboard.write([new ClipboardItem(parts)]);
  })()`;
  const options = { contextId: executionContextId, awaitPromise: true, userGesture: true };
  const { exceptionDetails } = await send<Params>('Runtime.evaluate', { ...options, expression });
  if (exceptionDetails) throw new Error(`nothing could be copied: ${exceptionDetails.exception?.description ?? ''}`);
}

/** One clipboard is shared by all windows of a browser: who pastes has it alone. */
const turns = new WeakMap<object, Promise<void>>();

/** Copies and pastes; `browser` stands for whatever the clipboard is shared with. */
export function paste(hands: Hands, browser: object, load: LoadedFiles, pngs: readonly string[]): Promise<void> {
  const before = turns.get(browser) ?? Promise.resolve();
  const turn = before
    .then(() => copy(hands, load, pngs))
    .then(async () => {
      const key = { key: 'v', code: 'KeyV', windowsVirtualKeyCode: 86, nativeVirtualKeyCode: 86 };
      const control = { key: 'Control', code: 'ControlLeft', windowsVirtualKeyCode: 17, nativeVirtualKeyCode: 17 };
      const press = (type: string, of: object, modifiers: number, commands: string[] = []): Promise<unknown> =>
        hands.send('Input.dispatchKeyEvent', { type, ...of, modifiers, commands });
      await press('rawKeyDown', control, 2);
      await press('rawKeyDown', key, 2, ['paste']);
      await press('keyUp', key, 2);
      await press('keyUp', control, 0);
    });
  turns.set(
    browser,
    turn.catch(() => {}),
  );
  return turn;
}

/** Resolves with null after a while. */
export const nothingAfter = (milliseconds: number): Promise<null> => delay(milliseconds, null, { ref: false });
