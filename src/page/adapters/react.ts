/** Mounts React components (18 and 19). */
import { type ComponentType, createElement, type ReactNode } from 'react';
import { createPortal, flushSync } from 'react-dom';
import { createRoot, type Root } from 'react-dom/client';
import type { Adapter, OnError } from './adapter.ts';

type Props = Record<string, unknown>;
type Mounted = {
  root: Root;
  component: ComponentType<Props>;
  frame: ComponentType<{ children: ReactNode }> | null;
  onError: OnError;
};

function render({ root, component, frame, onError }: Mounted, props: Props): void {
  const element = createElement(component, props);
  try {
    flushSync(() => root.render(frame ? createElement(frame, null, element) : element));
  } catch (error) {
    // Until React 19 this is how one hears of it.
    onError(error);
  }
}

export const react: Adapter<Mounted> = {
  /**
   * React listens on the document when its first root is made, and on the body when a portal first opens there, and
   * never again; those listeners must not count as something that a look left behind.
   */
  warm() {
    const root = createRoot(document.createElement('div'));
    flushSync(() => root.render(createPortal(null, document.body)));
    flushSync(() => root.unmount());
  },
  mount(into, component, props, frame, onError) {
    const root = createRoot(into, { onUncaughtError: onError });
    const mounted = { root, component, frame, onError } as Mounted;
    render(mounted, props);
    return mounted;
  },
  update: render,
  unmount: ({ root }) => flushSync(() => root.unmount()),
  nameOf: (component) =>
    (component as { displayName?: string }).displayName ?? ((component as { name?: string }).name || 'the component'),
};
