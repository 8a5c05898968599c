/** Our own engine at work for the tests: one browser with a window of a given size. */
import { afterwards } from './afterwards.ts';
import { defaultEnvironment } from '../../src/core/settings/environment.ts';
import { startChromium } from '../../src/engine/chromium/chromium.ts';
import type { Engine, EngineWindow } from '../../src/engine/engine.ts';

let engine: Promise<Engine> | null = null;

/** Opens a window in the browser of this file's tests, which ends with them. */
export async function openWindow(width: number, height: number): Promise<EngineWindow> {
  if (!engine) {
    const own = startChromium();
    engine = own;
    afterwards(async () => {
      engine = null;
      await (await own).close();
    });
  }
  const window = await (await engine).open();
  await window.apply({ ...defaultEnvironment, viewport: [width, height] });
  return window;
}

/** Waits until an expression is true in the page; what it was last is told when that takes too long. */
export async function until(window: EngineWindow, expression: string, limit = 120_000): Promise<void> {
  const end = Date.now() + limit;
  for (;;) {
    const value = await window.evaluate(expression).catch((error: Error) => error.message);
    if (value === true) return;
    if (Date.now() > end)
      throw new Error(
        `This never became true: ${expression}; it was ${JSON.stringify(value)}. ` +
          `The page says: ${await window.evaluate('document.body.innerText.slice(0, 1500)')}`,
      );
    await new Promise((resolve) => setTimeout(resolve, 60));
  }
}
