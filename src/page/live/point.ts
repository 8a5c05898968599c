/** Pointing: what an element on the stage is, and by which targets a look would name it. */
import { show } from '../../core/value/show.ts';
import type { Pointed, PointedTarget } from '../../core/wire/live.ts';
import { roles } from '../../language/roles.ts';
import { inCode, type Query, type Target, targetOf } from '../../language/target.ts';
import { alternativeOf, findAll, isField, isPicture, placeholderOf, titleOf } from '../act/find.ts';
import { stylesOf } from './styles.ts';
import { selectorOf } from '../act/instead.ts';
import { contentOf, descriptionOf, isHiddenFromPeople, nameOf, roleOf } from '../act/names.ts';
import { statesOf } from '../act/states.ts';

/** How long a text may be that somebody would name an element by. */
const longestText = 60;
/** So many targets are worth telling. */
const most = 3;

/** What an element could be asked for by, the way a person would say it first. */
function queriesOf(element: Element, mark: string): Query[] {
  const role = roleOf(element);
  const name = nameOf(element);
  const isRole = role !== null && (roles as readonly string[]).includes(role) && !isHiddenFromPeople(element);
  const text = contentOf(element);
  const marked = element.getAttribute(mark);
  const placeholder = placeholderOf(element);
  const title = titleOf(element);
  return [
    ...(isRole && name ? [{ by: 'role', role, name, state: {} } as Query] : []),
    ...(isField(element) && name ? [{ by: 'field', name } as Query] : []),
    ...(isPicture(element) && alternativeOf(element) ? [{ by: 'picture', name: alternativeOf(element) } as Query] : []),
    ...(isRole && !name ? [{ by: 'role', role, state: {} } as Query] : []),
    ...(text && text.length <= longestText ? [{ by: 'text', name: text } as Query] : []),
    ...(marked ? [{ by: 'marked', mark: marked } as Query] : []),
    ...(placeholder ? [{ by: 'placeholder', name: placeholder } as Query] : []),
    ...(title ? [{ by: 'titled', name: title } as Query] : []),
    { by: 'css', selector: selectorOf(element) },
  ];
}

/** A target, made to mean this element alone where it means several. */
function toldTarget(target: Target, element: Element): PointedTarget | null {
  const found = findAll(target);
  const at = found.indexOf(element);
  if (at < 0) return null;
  return { code: inCode(found.length === 1 ? target : target.nth(at)), matches: found.length };
}

/** The best targets of an element: those that mean nothing else first. */
function targetsOf(element: Element, mark: string): PointedTarget[] {
  const told = queriesOf(element, mark).flatMap((query) => toldTarget(targetOf(query), element) ?? []);
  const single = told.filter(({ matches }) => matches === 1);
  return [...single, ...told.filter(({ matches }) => matches !== 1)].slice(0, most);
}

type Fiber = { type?: unknown; return?: Fiber | null; memoizedProps?: unknown };
type Framework = {
  __vueParentComponent?: { type?: { __name?: string; name?: string; __file?: string }; props?: unknown };
  __svelte_meta?: { loc?: { file: string; line: number; column: number } };
};

const named = (type: unknown): string | null => {
  const { displayName, name } = (type ?? {}) as { displayName?: string; name?: string };
  return typeof type === 'function' ? (displayName ?? name ?? null) : null;
};

/** Components that render nothing of their own. */
const wraps = /(Provider|Context|Consumer|Boundary)$/;

/** Longer props are cut: the first ones say what a component was given. */
const longestProps = 300;

function propsInWords(props: unknown): string {
  const { children: _, ...own } = (props ?? {}) as Record<string, unknown>;
  const words = show(own);
  return words.length > longestProps ? `${words.slice(0, longestProps)}…` : words;
}

/** The component that has rendered an element, where its framework tells. */
function componentOf(element: Element): Pointed['component'] {
  for (let at: Element | null = element; at; at = at.parentElement) {
    const { __vueParentComponent: vue, __svelte_meta: svelte } = at as Element & Framework;
    if (svelte?.loc) {
      const { file, line, column } = svelte.loc;
      return { name: file.replace(/^.*\/|\.svelte$/g, ''), props: '', place: `${file}:${line}:${column + 1}` };
    }
    if (vue?.type) {
      const { __name, name, __file } = vue.type;
      return {
        name: __name ?? name ?? 'a component',
        props: propsInWords(vue.props),
        place: __file ?? null,
      };
    }
    const key = Object.keys(at).find((one) => one.startsWith('__reactFiber$'));
    if (!key) continue;
    for (let fiber = (at as unknown as Record<string, Fiber>)[key]; fiber; fiber = fiber.return ?? undefined) {
      const name = named(fiber.type);
      if (name && !wraps.test(name)) return { name, props: propsInWords(fiber.memoizedProps), place: null };
    }
  }
  return null;
}

/** Everything that there is to say of an element. `mark` is the attribute that tests find elements by. */
export function pointedAt(element: Element, mark: string): Pointed {
  const { left, top, width, height } = element.getBoundingClientRect();
  return {
    element: `<${element.localName}>`,
    targets: targetsOf(element, mark),
    role: roleOf(element),
    name: nameOf(element),
    description: descriptionOf(element),
    states: statesOf(element),
    box: [left, top, width, height].map((one) => Math.round(one * 10) / 10) as Pointed['box'],
    styles: stylesOf(element),
    component: componentOf(element),
  };
}

/** The innermost element at a place of the viewport, in shadow roots, too. */
export function elementAt(x: number, y: number): Element | null {
  let found = document.elementFromPoint(x, y);
  while (found?.shadowRoot) {
    const inner = found.shadowRoot.elementFromPoint(x, y);
    if (!inner || inner === found) break;
    found = inner;
  }
  return found;
}

/** Lets a person choose an element with the pointer; what is pointed at is outlined. Returns how to end that. */
export function letPoint(chosen: (element: Element) => void, cancelled: () => void): () => void {
  const outline = document.createElement('div');
  outline.style.cssText =
    'position: fixed; z-index: 2147483647; pointer-events: none; outline: 2px solid #4a55a8; background: #4a55a833;';
  const under = ({ clientX, clientY }: MouseEvent): Element | null => elementAt(clientX, clientY);
  const move = (event: MouseEvent): void => {
    const { left, top, width, height } = under(event)?.getBoundingClientRect() ?? new DOMRect();
    Object.assign(outline.style, { left: `${left}px`, top: `${top}px`, width: `${width}px`, height: `${height}px` });
    if (!outline.isConnected) document.documentElement.append(outline);
  };
  const stop = (event: Event): void => {
    event.preventDefault();
    event.stopImmediatePropagation();
  };
  const choose = (event: MouseEvent): void => {
    stop(event);
    const element = under(event);
    end();
    if (element) chosen(element);
    else cancelled();
  };
  const press = (event: KeyboardEvent): void => {
    if (event.key !== 'Escape') return;
    stop(event);
    end();
    cancelled();
  };
  const kept = ['pointerdown', 'pointerup', 'mousedown', 'mouseup'] as const;
  const options = { capture: true };
  function end(): void {
    outline.remove();
    removeEventListener('mousemove', move, options);
    removeEventListener('click', choose, options);
    removeEventListener('keydown', press, options);
    for (const type of kept) removeEventListener(type, stop, options);
  }
  addEventListener('mousemove', move, options);
  addEventListener('click', choose, options);
  addEventListener('keydown', press, options);
  for (const type of kept) addEventListener(type, stop, options);
  return end;
}
