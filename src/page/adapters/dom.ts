/** Mounts custom elements, and functions that make elements of props. */
import { show } from '../../core/value/show.ts';
import { type Adapter, type Mountable, usualName } from './adapter.ts';

type Props = Record<string, unknown>;

type Mounted = {
  element: Node;
  update(props: Props): void;
  remove(): void;
};

const isListener = (prop: string, value: unknown): boolean => /^on[A-Z]/.test(prop) && typeof value === 'function';

/** `onBerthRelease` hears `berthRelease`, `berth-release` and `berthrelease`. */
function eventsOf(prop: string): Set<string> {
  const camel = prop[2]!.toLowerCase() + prop.slice(3);
  return new Set([camel, camel.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`), camel.toLowerCase()]);
}

/** What an event carries is what a person wants to know of it. */
const carried = (event: Event): unknown => (event instanceof CustomEvent ? (event.detail as unknown) : event);

type Listening = { type: string; listener: (event: Event) => void };

function listen(element: Element, prop: string, value: (detail: unknown) => void): Listening[] {
  const listener = (event: Event): void => value(carried(event));
  return [...eventsOf(prop)].map((type) => {
    element.addEventListener(type, listener);
    return { type, listener };
  });
}

function put(element: Element, prop: string, value: unknown): void {
  if (prop in element) (element as unknown as Props)[prop] = value;
  else if (value === undefined || value === null || value === false) element.removeAttribute(prop);
  else element.setAttribute(prop, value === true ? '' : String(value));
}

function fill(element: Element, slots: Record<string, unknown>): void {
  for (const [name, slot] of Object.entries(slots)) {
    const nodes = slot instanceof Node ? [slot] : partsOf(String(slot));
    for (const node of nodes) {
      if (name !== 'default' && node instanceof Element) node.setAttribute('slot', name);
      element.append(node);
    }
  }
}

function partsOf(markup: string): ChildNode[] {
  const template = document.createElement('template');
  template.innerHTML = markup;
  return [...document.importNode(template.content, true).childNodes];
}

function elementOf(element: Element, { props, slots }: Mountable): Mounted {
  let listening: Listening[] = [];
  let given: string[] = [];
  const update = (next: Props): void => {
    for (const { type, listener } of listening) element.removeEventListener(type, listener);
    listening = [];
    for (const name of given) if (!(name in next)) put(element, name, undefined);
    given = [];
    for (const [prop, value] of Object.entries(next)) {
      if (isListener(prop, value)) listening.push(...listen(element, prop, value as (detail: unknown) => void));
      else {
        put(element, prop, value);
        given.push(prop);
      }
    }
  };
  update(props);
  fill(element, slots);
  return { element, update, remove: () => element.remove() };
}

type Made = Node | string | { element: Node; update?(props: Props): void; remove?(): void };

/** What a function gives; one that only makes elements makes another one of other props. */
function madeBy(make: (props: Props) => Made | null, props: Props): Mounted {
  const made = make(props);
  if (made !== null && typeof made === 'object' && 'element' in made && made.element instanceof Node) {
    const { element, update, remove } = made;
    return {
      element,
      update: (next) => (update ? update.call(made, next) : undefined),
      remove: () => {
        remove?.call(made);
        element.parentNode?.removeChild(element);
      },
    };
  }
  const mounted: Mounted = {
    element: nodeOf(made as Node | string),
    update(next) {
      const other = nodeOf(make(next) as Node | string);
      mounted.element.parentNode?.replaceChild(other, mounted.element);
      mounted.element = other;
    },
    remove: () => mounted.element.parentNode?.removeChild(mounted.element),
  };
  return mounted;
}

function nodeOf(made: Node | string): Node {
  if (typeof made !== 'string' && !(made instanceof Node))
    throw new TypeError(
      `it returned ${show(made)}, which is neither an element nor markup. For components of a framework name that ` +
        'among the dependencies in package.json',
    );
  if (made instanceof Node && !(made instanceof DocumentFragment)) return made;
  const box = document.createElement('div');
  box.style.display = 'contents';
  box.append(...(typeof made === 'string' ? partsOf(made) : [made]));
  return box;
}

const isElementClass = (component: unknown): component is CustomElementConstructor =>
  typeof component === 'function' && component.prototype instanceof Element;

function mountedOf(what: Mountable): Mounted {
  const { component, props } = what;
  if (typeof component === 'string') return elementOf(document.createElement(component), what);
  if (isElementClass(component)) return elementOf(new component(), what);
  return madeBy(component as (props: Props) => Made, props);
}

export const adapter: Adapter<Mounted | null> = {
  frameFile: 'sguardo.frame.ts',
  frameExample: 'export default function frame(content) { return content; }',
  warm() {},
  mount(into, what, frame, onError) {
    try {
      const mounted = mountedOf(what);
      const around = frame?.default as ((content: Node) => Node) | undefined;
      into.append(around ? around(mounted.element) : mounted.element);
      return mounted;
    } catch (error) {
      onError(error);
      return null;
    }
  },
  update: (mounted, { props }) => mounted?.update(props),
  unmount: (mounted) => mounted?.remove(),
  nameOf(component) {
    const tag = isElementClass(component) ? customElements.getName?.(component) : null;
    return tag ? `<${tag}>` : usualName(component);
  },
};
