/** Mounts Svelte components (5). What the look gives as a slot is a snippet. */
import { createRawSnippet, flushSync, mount, unmount } from 'svelte';
import { SvelteMap } from 'svelte/reactivity';
import { type Adapter, type Mountable, usualName } from './adapter.ts';
// Compiled by the project's own Svelte.
import Framed from './Framed.svelte';

type Mounted = { instance: object; show(what: Mountable): void };

/** A text as a snippet: markup, or what is put into an element of its own. */
const snippetOf = (slot: unknown): unknown => {
  if (typeof slot === 'function') return slot;
  const text = String(slot);
  return createRawSnippet(() => ({ render: () => (text.trim().startsWith('<') ? text : `<span>${text}</span>`) }));
};

/** The slot without a name is the snippet `children`. */
const givenTo = ({ props, slots }: Mountable): Record<string, unknown> => ({
  ...Object.fromEntries(
    Object.entries(slots).map(([name, slot]) => [name === 'default' ? 'children' : name, snippetOf(slot)]),
  ),
  ...props,
});

export const adapter: Adapter<Mounted> = {
  frameFile: 'sguardo.frame.svelte',
  frameExample: '<script>let { children } = $props();</script> {@render children()}',
  warm() {
    const into = document.createElement('div');
    const nothing = new SvelteMap<string, unknown>();
    const instance = mount(Framed, {
      target: into,
      props: { shown: shownBy(nothing), Frame: null, onError: () => {} },
    });
    flushSync();
    void unmount(instance);
    into.remove();
  },
  mount(into, what, frame, onError) {
    const state = new SvelteMap<string, unknown>();
    const show = (next: Mountable): void => {
      state.set('component', next.component);
      state.set('given', givenTo(next));
    };
    show(what);
    const props = { shown: shownBy(state), Frame: frame?.default ?? null, onError };
    const instance = mount(Framed, { target: into, props });
    flushSync();
    return { instance, show };
  },
  update({ show }, what) {
    show(what);
    flushSync();
  },
  unmount({ instance }) {
    void unmount(instance);
    flushSync();
  },
  nameOf: usualName,
};

const nobody = (): null => null;

/** What is shown, read anew whenever it is another. */
const shownBy = (state: SvelteMap<string, unknown>): object => ({
  get component() {
    return state.get('component') ?? nobody;
  },
  get given() {
    return state.get('given') ?? {};
  },
});
