/** Keyboard shortcuts of a page. */
import { useEffect, useRef } from 'react';

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Calls the handler of a key (its name, as `ArrowLeft` or `a`; `Shift+` before it) unless somebody is typing or a dialog is open. */
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
