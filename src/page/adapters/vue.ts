/** Mounts Vue components (3). A frame module may export `setup(app)` for plugins, such as a router or a store. */
import { type App, createApp, h, shallowRef } from 'vue';
import { type Adapter, type Mountable, usualName } from './adapter.ts';

/** What a component says of itself when it runs. */
type Declared = { props?: Record<string, unknown> | string[]; emits?: Record<string, unknown> | string[] };

/** `update:depth` is heard as `onUpdate:depth`, `berth-release` as `onBerthRelease`. */
const listenerOf = (event: string): string => {
  const camel = event.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase());
  return `on${camel[0]!.toUpperCase()}${camel.slice(1)}`;
};

type Mounted = { app: App; show(what: Mountable): void };

/** A slot that is written as a text is one. */
const slotsOf = (slots: Record<string, unknown>): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(slots).map(([name, slot]) => [name, typeof slot === 'function' ? slot : () => slot]),
  );

export const adapter: Adapter<Mounted> = {
  frameFile: 'sguardo.frame.vue',
  frameExample: '<template><slot /></template>',
  warm() {
    const app = createApp({ render: () => null });
    app.mount(document.createElement('div'));
    app.unmount();
  },
  mount(into, what, frame, onError) {
    const shown = shallowRef(what);
    const content = (): unknown => h(shown.value.component, shown.value.props, slotsOf(shown.value.slots));
    const app = createApp({
      render: () => (frame?.default ? h(frame.default, null, { default: content }) : content()),
    });
    app.config.errorHandler = (error) => onError(error);
    if (typeof frame?.setup === 'function') frame.setup(app);
    app.mount(into);
    return {
      app,
      show(next) {
        shown.value = next;
      },
    };
  },
  update: ({ show }, what) => show(what),
  unmount: ({ app }) => app.unmount(),
  callbacksOf(component) {
    const { props = {}, emits = [] } = (component ?? {}) as Declared;
    const events = Array.isArray(emits) ? emits : Object.keys(emits);
    const types = Array.isArray(props) ? [] : Object.entries(props);
    const isFunction = (type: unknown): boolean =>
      type === Function || (type as { type?: unknown } | null)?.type === Function;
    return [...events.map(listenerOf), ...types.filter(([, type]) => isFunction(type)).map(([name]) => name)];
  },
  nameOf: (component) => usualName(component),
};
