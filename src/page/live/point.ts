/** Pointing: what an element on the stage is, and by which targets a look would name it. */
import { show } from '../../core/value/show.ts';
import type { Pointed, PointedTarget } from '../../core/wire/live.ts';
import { inCode } from '../../language/target.ts';
import { stylesOf } from './styles.ts';
import { targetsFor } from '../act/bestTarget.ts';
import { descriptionOf, nameOf, roleOf } from '../act/names.ts';
import { statesOf } from '../act/states.ts';

/** So many targets are worth telling. */
const most = 3;

/** The best targets of an element, the one that a script would have first; each with how many elements it means. */
const targetsOf = (element: Element): PointedTarget[] =>
  targetsFor(element)
    .slice(0, most)
    .map(({ target, matches }) => ({ code: inCode(target), matches }));

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

/** Everything that there is to say of an element. */
export function pointedAt(element: Element): Pointed {
  const { left, top, width, height } = element.getBoundingClientRect();
  return {
    element: `<${element.localName}>`,
    targets: targetsOf(element),
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
