/** The console as a person uses it: real keys and clicks in a window of our own engine. */
import type { EngineWindow } from '../../src/engine/engine.ts';
import { openWindow, until } from './browser.ts';

export type Page = {
  window: EngineWindow;
  open(path: string): Promise<void>;
  /** Presses keys one after the other, such as `ArrowRight` or `a`. */
  press(...keys: string[]): Promise<void>;
  /** Clicks the first visible element that has this text, accessible label or test expression. */
  click(text: string): Promise<void>;
  type(text: string): Promise<void>;
  /** What the page shows, as text. */
  text(): Promise<string>;
  /** Waits until the page shows a text, or an expression holds. */
  shows(text: string): Promise<void>;
  hides(text: string): Promise<void>;
  holds(expression: string): Promise<void>;
  path(): Promise<string>;
};

const findable = `((text) => {
  const shown = (element) => element.checkVisibility() && element.getBoundingClientRect().width > 0;
  const all = [...document.querySelectorAll('a, button, input, textarea, [role]')].filter(shown);
  return (
    all.find((element) => element.getAttribute('aria-label') === text) ??
    all.find((element) => element.textContent.trim() === text) ??
    all.findLast(
      (element) =>
        element.textContent.includes(text) &&
        ![...element.querySelectorAll('*')].some((inner) => all.includes(inner) && inner.textContent.includes(text)),
    )
  );
})`;

const places = `(text) => {
  const found = ${findable}(text);
  if (!found) throw new Error('nothing to click: ' + text);
  found.scrollIntoView({ block: 'nearest' });
  const middle = () => {
    const { left, top, width, height } = found.getBoundingClientRect();
    return [left + width / 2, top + height / 2];
  };
  return new Promise((resolve) => {
    // What is still being scrolled or laid out is not there yet.
    const settle = (before, quiet) => {
      const now = middle();
      const same = now.join() === before.join();
      if (same && quiet >= 3) resolve(now);
      else requestAnimationFrame(() => settle(now, same ? quiet + 1 : 0));
    };
    settle(middle(), 0);
  });
}`;

/** Opens the console of a service. */
export async function openConsole(url: string, width = 1280, height = 800): Promise<Page> {
  const window = await openWindow(width, height);
  const page: Page = {
    window,
    open: (path) => window.load(url + path),
    async press(...keys) {
      for (const key of keys) {
        const [name, ...modifiers] = key.split('+').reverse();
        await window.input([
          {
            kind: 'key',
            key: name!,
            modifiers: modifiers.includes('Shift') ? 8 : modifiers.includes('Control') ? 2 : 0,
          },
        ]);
      }
    },
    async click(text) {
      // It may come late on a busy machine.
      await until(window, `${findable}(${JSON.stringify(text)}) !== undefined`);
      const [x, y] = (await window.evaluate(`(${places})(${JSON.stringify(text)})`)) as [number, number];
      await window.input([
        { kind: 'move', x, y, button: 'none', modifiers: 0 },
        { kind: 'down', x, y, button: 'left', clicks: 1, modifiers: 0 },
        { kind: 'up', x, y, button: 'left', clicks: 1, modifiers: 0 },
      ]);
    },
    type: (text) => window.input([...text].map((key) => ({ kind: 'key' as const, key, modifiers: 0 }))),
    text: async () => (await window.evaluate('document.body.innerText')) as string,
    shows: (text) => until(window, `document.body.innerText.includes(${JSON.stringify(text)})`),
    hides: (text) => until(window, `!document.body.innerText.includes(${JSON.stringify(text)})`),
    holds: (expression) => until(window, expression),
    path: async () => (await window.evaluate('location.pathname + location.search')) as string,
  };
  return page;
}
