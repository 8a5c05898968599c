/** Mounts Angular components (21), without zones. A frame module may export `providers` for the whole application. */
import {
  type ApplicationRef,
  type ComponentRef,
  createComponent,
  ErrorHandler,
  provideZonelessChangeDetection,
  reflectComponentType,
  type Type,
} from '@angular/core';
import { createApplication } from '@angular/platform-browser';
import { fail } from '../../core/problem/problem.ts';
import { nearest } from '../../core/text/nearest.ts';
import { type Adapter, type Mountable, type OnError, usualName } from './adapter.ts';

type Mounted = {
  app: ApplicationRef;
  refs: ComponentRef<unknown>[];
  given: Set<string>;
  listening: Map<string, { unsubscribe(): void }>;
};

const outputOf = (prop: string): string => prop.replace(/^on([A-Z])/, (_, letter: string) => letter.toLowerCase());

/** Gives a component its inputs, and lets spies hear its outputs. @throws ProblemError `prop-unknown` */
function give({ refs, given, listening }: Mounted, { component, props }: Mountable): void {
  const ref = refs.at(-1)!;
  const { inputs, outputs } = reflectComponentType(component as Type<unknown>)!;
  const inputNames = inputs.map(({ templateName }) => templateName);
  const outputNames = outputs.map(({ templateName }) => templateName);
  for (const { unsubscribe } of listening.values()) unsubscribe();
  listening.clear();
  for (const name of given) if (!(name in props)) ref.setInput(name, undefined);
  for (const [prop, value] of Object.entries(props)) {
    const output = outputs.find(({ templateName }) => templateName === prop || templateName === outputOf(prop));
    if (inputNames.includes(prop)) {
      ref.setInput(prop, value);
      given.add(prop);
    } else if (output && typeof value === 'function') {
      const emitter = (ref.instance as Record<string, { subscribe(next: unknown): { unsubscribe(): void } }>)[
        output.propName
      ]!;
      const subscription = emitter.subscribe(value);
      listening.set(prop, { unsubscribe: () => subscription.unsubscribe() });
    } else if (value !== undefined) {
      const known = [...inputNames, ...outputNames.map((name) => `on${name[0]!.toUpperCase()}${name.slice(1)}`)];
      fail('prop-unknown', {
        component: usualName(component),
        prop,
        near: nearest(prop, known) ?? '',
        known: known.join(', '),
      });
    }
  }
}

/** Nodes that stand where a component has `<ng-content>`. */
function contentOf(slot: unknown): Node[] {
  if (slot === undefined) return [];
  const template = document.createElement('template');
  template.innerHTML = String(slot);
  return [...template.content.childNodes];
}

/** An element that a component lives in, as its selector has it. */
function hostOf(component: Type<unknown>): Element {
  const selector = reflectComponentType(component)?.selector ?? '';
  const [, tag = 'div', attribute] = /^([\w-]*)(?:\[([\w-]+)\])?/.exec(selector) ?? [];
  const host = document.createElement(tag || 'div');
  if (attribute) host.setAttribute(attribute, '');
  return host;
}

function put(
  app: ApplicationRef,
  component: Type<unknown>,
  host: Element,
  content: Node[],
  parent?: ComponentRef<unknown>,
) {
  const ref = createComponent(component, {
    environmentInjector: app.injector,
    hostElement: host,
    projectableNodes: [content],
    ...(parent && { elementInjector: parent.injector }),
  });
  app.attachView(ref.hostView);
  return ref;
}

async function applicationFor(frame: Record<string, unknown> | null, onError: OnError): Promise<ApplicationRef> {
  const own = Array.isArray(frame?.providers) ? (frame.providers as never[]) : [];
  return createApplication({
    providers: [
      provideZonelessChangeDetection(),
      { provide: ErrorHandler, useValue: { handleError: (error: unknown) => onError(error) } },
      ...own,
    ],
  });
}

export const adapter: Adapter<Mounted> = {
  frameFile: 'sguardo.frame.ts',
  frameExample: 'export const providers = [provideHttpClient()];',
  async warm() {
    (await applicationFor(null, () => {})).destroy();
  },
  async mount(into, what, frame, onError) {
    const app = await applicationFor(frame, onError);
    const mounted: Mounted = { app, refs: [], given: new Set(), listening: new Map() };
    const component = what.component as Type<unknown>;
    try {
      const host = hostOf(component);
      const Frame = frame?.default as Type<unknown> | undefined;
      if (Frame) {
        const frameHost = hostOf(Frame);
        into.append(frameHost);
        mounted.refs.push(put(app, Frame, frameHost, [host]));
      } else into.append(host);
      mounted.refs.push(put(app, component, host, contentOf(what.slots.default), mounted.refs[0]));
      give(mounted, what);
      app.tick();
    } catch (error) {
      if ((error as { problem?: unknown }).problem) throw error;
      onError(error);
    }
    return mounted;
  },
  update(mounted, what) {
    give(mounted, what);
    mounted.app.tick();
  },
  unmount({ app, refs, listening }) {
    for (const { unsubscribe } of listening.values()) unsubscribe();
    for (const ref of refs.toReversed()) ref.destroy();
    app.destroy();
  },
  callbacksOf(component) {
    const { outputs = [] } = reflectComponentType(component as Type<unknown>) ?? {};
    return outputs.map(({ templateName: name }) => `on${name[0]!.toUpperCase()}${name.slice(1)}`);
  },
  nameOf: (component) => usualName(component).replace(/^_/, ''),
};
