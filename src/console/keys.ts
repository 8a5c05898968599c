/** Keyboard shortcuts of a page. */
import { useEffect, useRef } from 'react';

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** What the browser itself does on Enter or a space, because something that can be pressed has the focus. */
const isPressing = ({ key, target }: KeyboardEvent): boolean =>
  (key === 'Enter' || key === ' ') &&
  target instanceof Element &&
  target.closest('a[href], button, summary, [role=button], [role=option], [role=tab], [role=radio]') !== null;

/**
 * Calls the handler of a key (its name, as `ArrowLeft` or `a`; `Shift+` before it) unless somebody is typing or a
 * dialog is open.
 */
export function useKeys(handlers: Record<string, () => void>): void {
  const latest = useRef(handlers);
  latest.current = handlers;
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        isTyping(event.target) ||
        isPressing(event) ||
        document.querySelector('[role=dialog]')
      )
        return;
      const handler = latest.current[event.shiftKey && event.key.length > 1 ? `Shift+${event.key}` : event.key];
      if (!handler) return;
      event.preventDefault();
      handler();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
