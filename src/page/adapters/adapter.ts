/** What a framework has to be able to do for its components to be looked at. One file a framework implements it. */

/**
 * Hears of errors that no part of the component caught. `around` are the components that it came through, the innermost
 * first, a line each with its place, as the engine writes stacks.
 */
export type OnError = (error: unknown, around?: string | null) => void;

/** What is mounted: a component with its props, and what stands in its slots. */
export type Mountable = { component: unknown; props: Record<string, unknown>; slots: Record<string, unknown> };

/** What the project's frame exports: a component around every look as its default, and what else an adapter reads. */
export type FrameModule = { default?: unknown; [name: string]: unknown };

export type Adapter<Instance = unknown> = {
  /** What the project's frame is usually called. */
  frameFile: string;
  /** The shortest one that does anything. */
  frameExample: string;
  /** Does once what the framework does when it is first used, so that no look is taken for having done it. */
  warm(): void | Promise<void>;
  /**
   * Renders a component into an element, inside the frame if there is one; it is on the page when this is done.
   * @throws ProblemError for props that the component cannot have; what else goes wrong is given to `onError`
   */
  mount(into: Element, what: Mountable, frame: FrameModule | null, onError: OnError): Instance | Promise<Instance>;
  /** Gives a mounted component other props and slots; it stays the same one. */
  update(instance: Instance, what: Mountable): void;
  unmount(instance: Instance): void;
  /** Names of props by which a component calls back, as far as it says so itself: those not given get a spy. */
  callbacksOf?(component: unknown): string[];
  /** What a person calls the component. */
  nameOf(component: unknown): string;
};

type Named = { displayName?: unknown; name?: unknown; __name?: unknown };

/** The name that most frameworks leave with a component. */
export function usualName(component: unknown): string {
  if (typeof component === 'string') return `<${component}>`;
  const { displayName, name, __name } = (component ?? {}) as Named;
  return (
    [displayName, name, __name].find((one): one is string => typeof one === 'string' && one !== '') ?? 'the component'
  );
}
