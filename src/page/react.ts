/** Mounts React components. */
import { type ComponentType, createElement, type ReactNode } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { createPortal, flushSync } from 'react-dom';
import type { AnyComponent } from './looks.ts';

/** A project's wrapper around every look. */
export type Frame = ComponentType<{ children: ReactNode }>;

/** A component on the page. */
export type Mounted = {
  /** Gives it other props. */
  update(props: Record<string, unknown>): void;
  unmount(): void;
};

/**
 * Renders a component into an element; it and its layout effects are done when this returns.
 * `onError` hears of errors that no error boundary of the component caught.
 */
export function mountReact(
  into: Element,
  component: AnyComponent,
  props: Record<string, unknown>,
  frame: Frame | null,
  onError: (error: unknown) => void,
): Mounted {
  const root: Root = createRoot(into, { onUncaughtError: onError });
  const update = (given: Record<string, unknown>): void => {
    const element = createElement(component as ComponentType<Record<string, unknown>>, given);
    try {
      flushSync(() => root.render(frame ? createElement(frame, null, element) : element));
    } catch (error) {
      // Until React 19 this is how one hears of it.
      onError(error);
    }
  };
  update(props);
  return { update, unmount: () => flushSync(() => root.unmount()) };
}

/**
 * React listens on the document when its first root is made, and on the body when a portal first opens there, and
 * never again; those listeners must not count as something that a look left behind.
 */
export function warmReact(): void {
  const root = createRoot(document.createElement('div'));
  flushSync(() => root.render(createPortal(null, document.body)));
  flushSync(() => root.unmount());
}
