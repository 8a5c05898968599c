/** Mounts React components (18 and 19). */
import * as react from 'react';
import { type ComponentType, createElement, type ReactNode } from 'react';
import { createPortal, flushSync } from 'react-dom';
import { createRoot, type Root } from 'react-dom/client';
import { type Adapter, type Mountable, type OnError, usualName } from './adapter.ts';

type Props = Record<string, unknown>;
type Mounted = {
  root: Root;
  frame: ComponentType<{ children: ReactNode }> | null;
  onError: OnError;
};

/** Where the element that has thrown was made, and by whom; null before React 19.1, which does not know. */
const owners = (): string | null => (react as { captureOwnerStack?(): string | null }).captureOwnerStack?.() ?? null;

function render({ root, frame, onError }: Mounted, { component, props, slots }: Mountable): void {
  const element = createElement(component as ComponentType<Props>, { ...props, ...slots });
  try {
    flushSync(() => root.render(frame ? createElement(frame, null, element) : element));
  } catch (error) {
    // Until React 19 this is how one hears of it.
    onError(error);
  }
}

export const adapter: Adapter<Mounted> = {
  frameFile: 'sguardo.frame.tsx',
  frameExample: 'export default function Frame({ children }) { return children; }',
  /**
   * React listens on the document when its first root is made, and on the body when a portal first opens there, and
   * never again; those listeners must not count as something that a look left behind.
   */
  warm() {
    const root = createRoot(document.createElement('div'));
    flushSync(() => root.render(createPortal(null, document.body)));
    flushSync(() => root.unmount());
  },
  mount(into, what, frame, onError) {
    const root = createRoot(into, { onUncaughtError: (error) => onError(error, owners()) });
    const mounted = { root, frame: (frame?.default ?? null) as Mounted['frame'], onError };
    render(mounted, what);
    return mounted;
  },
  update: render,
  unmount: ({ root }) => flushSync(() => root.unmount()),
  nameOf: usualName,
};
